import { spawn, type ChildProcess } from 'node:child_process'
import { expect, test, type Page } from '@playwright/test'
import { card, nameAndSay, newStudy, openCopy, outlined, sheet, state, thing, track } from './sheet'

const PORT = 8793
const ADDRESS = `http://127.0.0.1:${PORT}`

function start(keep: boolean): ChildProcess {
    return spawn('tests/Browser/serve.sh', [String(PORT), ...keep ? ['keep'] : []], { stdio: 'ignore', detached: true })
}

async function up(page: Page) {
    await expect.poll(async () => (await page.request.get(`${ADDRESS}/api/health`).catch(() => null))?.status() ?? 0, { timeout: 30_000 }).toBe(200)
}

async function kill(server: ChildProcess) {
    const gone = new Promise((resolve) => server.once('exit', resolve))
    // The whole group at once, as a crash would.
    process.kill(-(server.pid as number), 'SIGKILL')
    await gone
}

test('a killed server and a closed tab lose nothing; edits made meanwhile are sent later', async ({ browser }) => {
    let server = start(false)
    const context = await browser.newContext({ baseURL: ADDRESS, viewport: { width: 1280, height: 800 } })
    let page = await context.newPage()
    try {
        await up(page)
        await newStudy(page)
        await sheet(page).focus()
        await page.keyboard.type('s')
        await nameAndSay(page, 'harbour fund', '500')
        await expect(state(page)).toContainText('up to date')
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
    await card(page).locator('.cm-content').fill('20%')
    await card(page).locator('.cm-content').press('Enter')
    await expect(page.locator('.state')).toContainText('up to date')
    await card(other).locator('.cm-content').fill('30%')
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
    await page.route('**/edits', (route) => full ? route.fulfill({ status: 500, contentType: 'application/json', body: '{"code": "trouble", "detail": "The disk is full."}' }) : route.continue())
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
