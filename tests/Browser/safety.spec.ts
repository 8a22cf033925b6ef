import { spawn, type ChildProcess } from 'node:child_process'
import { once } from 'node:events'
import { expect, type Page } from '@playwright/test'
import { card, nameAndSay, newStudy, openCopy, outlined, sheet, state, thing, track, writeFormula } from './sheet'
import { test } from './test'

/** This one is killed and held up, so it is nobody else's. */
const PORT = 8799
const ADDRESS = `http://127.0.0.1:${PORT}`

function start(keep: boolean, workers = false): ChildProcess {
    return spawn('tests/Browser/serve.sh', [String(PORT), ...(keep ? ['keep'] : [])], {
        stdio: 'ignore',
        detached: true,
        env: { ...process.env, MERRY_ORBIT_QUEUE: workers ? 'yes' : 'no' },
    })
}

/** Another program that holds the database for writing, for some seconds. */
async function hold(seconds: number) {
    const [where, lock] = process.env.OWN_PART
        ? [
              (process.env.DB_URL ?? '').replace(/^.*host=/, 'pgsql:dbname=merry_orbit;user=merry_orbit;host='),
              `begin; lock table port_${PORT}.models, port_${PORT}.edits in exclusive mode`,
          ]
        : [`sqlite:storage/testing-${PORT}/browser.sqlite`, 'begin immediate']
    const script = `$p = new PDO("${where}"); $p->exec("${lock}"); echo "held"; sleep(${seconds}); $p->exec("rollback");`
    const holder = spawn('php', ['-r', script], { stdio: ['ignore', 'pipe', 'ignore'] })
    await once(holder.stdout as NodeJS.ReadableStream, 'data')
    return once(holder, 'exit')
}

async function up(page: Page) {
    await expect
        .poll(async () => (await page.request.get(`${ADDRESS}/api/health`).catch(() => null))?.status() ?? 0, { timeout: 30_000 })
        .toBe(200)
}

async function kill(server: ChildProcess) {
    const gone = new Promise((resolve) => server.once('exit', resolve))
    // The whole group at once, as a crash would.
    process.kill(-(server.pid as number), 'SIGKILL')
    await gone
}

/** A study of one stock, saved. */
async function harbourFund(page: Page) {
    await up(page)
    await newStudy(page)
    await sheet(page).focus()
    await page.keyboard.type('s')
    await nameAndSay(page, 'harbour fund', '500')
    await expect(state(page)).toContainText('up to date')
}

test('a killed server and a closed tab lose nothing; edits made meanwhile are sent later', async ({ browser }) => {
    let server = start(false)
    const context = await browser.newContext({ baseURL: ADDRESS, viewport: { width: 1280, height: 800 } })
    let page = await context.newPage()
    try {
        await harbourFund(page)
        const address = page.url()

        await kill(server)
        await expect(state(page)).toContainText('no connection')
        await thing(page, 'harbour fund').click()
        await card(page).getByLabel('Unit').fill('crown')
        await card(page).getByLabel('Unit').press('Enter')
        await expect(state(page)).toContainText('1 edit waits here')
        await page.close()

        server = start(true)
        page = await context.newPage()
        await up(page)
        await page.goto(address)
        await expect(thing(page, 'harbour fund')).toBeVisible()
        await expect(thing(page, 'harbour fund')).toContainText('500 crown')
        await expect(track(page, 'harbour fund')).toContainText('crown')
        await page.reload()
        await expect(thing(page, 'harbour fund')).toContainText('500 crown')
    } finally {
        await kill(server).catch(() => {})
        await context.close()
    }
})

test('two windows on one model: nothing is lost, the other is told, and a clash shows both versions', async ({ page, context }) => {
    await openCopy(page)
    const other = await context.newPage()
    await other.goto(page.url())
    await expect(state(other)).toContainText('up to date')

    await outlined(page, 'boat load').click()
    await card(page).getByLabel('Unit').fill('litre')
    await card(page).getByLabel('Unit').press('Enter')
    await expect(other.getByText('In another window: Unit of boat load: litre')).toBeVisible()

    // Both write the same formula while one of them hears nothing of the other.
    await other.route('**/news*', (route) => route.abort())
    await outlined(other, 'saving').click()
    await outlined(page, 'saving').click()
    await writeFormula(page, '20%')
    await card(page).locator('.cm-content').press('Enter')
    await expect(page.locator('.state')).toContainText('up to date')
    await writeFormula(other, '30%')
    await card(other).locator('.cm-content').press('Enter')
    const dialog = other.getByRole('dialog')
    await expect(dialog).toContainText('was changed in another window')
    await expect(dialog).toContainText('30%')
    await expect(dialog).toContainText('20%')
    await other.unroute('**/news*')
    await dialog.getByRole('button', { name: 'Keep mine' }).click()
    await expect(card(page).locator('.cm-content')).toHaveText('30%')
})

test('edits that the server cannot take wait, through a reload, and are saved by themselves', async ({ page }) => {
    await openCopy(page)
    let full = true
    await page.route('**/edits', (route) =>
        full
            ? route.fulfill({ status: 500, contentType: 'application/json', body: '{"code": "trouble", "detail": "The disk is full."}' })
            : route.continue(),
    )
    await outlined(page, 'boat load').click()
    await card(page).getByLabel('Unit', { exact: true }).fill('m^3/boat')
    await card(page).getByLabel('Unit', { exact: true }).press('Enter')
    await expect(state(page)).toContainText('not saved yet · 1 edit waits here')
    await page.reload()
    await expect(state(page)).toContainText('not saved yet', { timeout: 15_000 })
    await state(page).click()
    await expect(card(page).getByRole('alert')).toContainText('The disk is full.')
    full = false
    await expect(state(page)).toContainText('up to date', { timeout: 40_000 })
    await page.reload()
    await outlined(page, 'boat load').click()
    await expect(card(page).getByLabel('Unit', { exact: true })).toHaveValue('m^3/boat')
})

/** Nothing of these can be run to its end; the oscillation would take weeks. */
const HOSTILE = [
    ['1e160 * s * s', 'dopri5'],
    ['s * s', 'rosenbrock'],
    ['sin(time * 1e9) * 1e3', 'dopri5'],
    ['sin(time * 1e6)', 'rosenbrock'],
    ['1 / (2 - s)', 'rk4'],
]

test('a long lock, a worker in the middle of it, and five hostile runs at once: all recovers, and dials stay quick', async ({
    browser,
}) => {
    const server = start(false, true)
    const context = await browser.newContext({ baseURL: ADDRESS, viewport: { width: 1280, height: 800 } })
    const page = await context.newPage()
    try {
        await harbourFund(page)
        const model = ((await (await page.request.get('/api/studies')).json()) as { data: { model: string }[] }).data[0]?.model ?? ''
        const token = async () => decodeURIComponent((await context.cookies()).find((c) => c.name === 'XSRF-TOKEN')?.value ?? '')
        const post = async (path: string, data: object) =>
            page.request.post(`/api/${path}`, { data, headers: { 'X-XSRF-TOKEN': await token() }, timeout: 60_000 })

        // Runs wait in the queue while the database is held, and an edit waits in the page.
        const batch = (await (
            await post(`models/${model}/batches`, {
                runs: Array.from({ length: 40 }, () => ({ setting: { time: { step: 0.0005, saveEvery: 1 } } })),
            })
        ).json()) as { id: string; finished: boolean }
        expect(batch.finished).toBe(false)
        const held = hold(8)
        await thing(page, 'harbour fund').click()
        await card(page).getByLabel('Unit').fill('crown')
        await card(page).getByLabel('Unit').press('Enter')
        await expect(state(page)).toContainText('1 edit waits here')
        await held
        await expect(state(page)).toContainText('up to date', { timeout: 20_000 })
        await page.reload()
        await expect(thing(page, 'harbour fund')).toContainText('500 crown')
        const finished = async () =>
            (await (await page.request.get(`/api/models/${model}/batches/${batch.id}`)).json()) as {
                finished: boolean
                runs: { state: string }[]
            }
        await expect.poll(async () => (await finished()).finished, { timeout: 60_000 }).toBe(true)
        expect((await finished()).runs.map((r) => r.state)).toEqual(Array.from({ length: 40 }, () => 'done'))
        expect((await page.request.get('/api/health')).status()).toBe(200)

        const studies = await Promise.all(
            HOSTILE.map(async ([formula, method]) => {
                const file = {
                    format: 'merry-orbit model',
                    version: 1,
                    name: formula,
                    time: { start: 0, end: 100, step: 0.5, unit: 'day', method },
                    elements: [
                        { kind: 'stock', name: 's', formula: '1' },
                        { kind: 'flow', name: 'f', formula, to: 's' },
                    ],
                }
                const made = await page.request.post('/api/studies/import', {
                    data: JSON.stringify(file),
                    headers: { 'X-XSRF-TOKEN': await token(), 'Content-Type': 'text/plain' },
                })
                expect(made.status(), await made.text()).toBe(201)
                return ((await made.json()) as { data: { model: string } }).data.model
            }),
        )
        const dial = async () => {
            const asked = Date.now()
            expect((await post(`models/${model}/runs`, {})).status()).toBe(200)
            return Date.now() - asked
        }
        const calm = Math.max(await dial(), await dial(), await dial())
        const began = Date.now()
        const hostile = studies.map((id) => post(`models/${id}/runs`, {}))
        const dials: number[] = []
        for (let i = 0; i < 6; i++) {
            dials.push(await dial())
        }
        // A second on a machine that answers in forty milliseconds when it is calm.
        const limit = Math.max(1000, 25 * calm)
        expect(Math.max(...dials), `dials took ${dials.join(', ')} ms, when calm ${calm}`).toBeLessThan(limit)
        expect((await Promise.all(hostile)).map((a) => a.status()).every((status) => status === 200 || status === 202)).toBe(true)
        expect(Date.now() - began).toBeLessThan(4 * limit)

        // In the page such a run ends with a sentence, and is not asked for for ever.
        await page.goto('/')
        await page
            .getByRole('link', { name: /sin\(time \* 1e9\)/ })
            .first()
            .click()
        await expect(state(page)).toContainText('stopped at day', { timeout: 15_000 })
    } finally {
        await kill(server).catch(() => {})
        await context.close()
    }
})
