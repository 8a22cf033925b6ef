import { readFileSync } from 'node:fs'
import { expect, type Locator, type Page } from '@playwright/test'
import { card, expectAccessible, openCopy, outlined, pick, state, thing, track } from './sheet'
import { test } from './test'

const toTry = async (page: Page) => {
    await page.getByRole('link', { name: 'Try' }).click()
    await expect(page.getByRole('navigation', { name: 'What is tried' })).toBeVisible()
}
const reset = (page: Page) => page.getByRole('button', { name: 'Reset to the model’s values' }).first().click()
const tab = (page: Page, name: string) => page.getByRole('tab', { name }).click()

async function dial(page: Page, name: string, value: string): Promise<void> {
    const field = page.getByRole('textbox', { name: new RegExp(`^Value of ${name}( in|$)`) })
    await field.fill(value)
    await field.press('Enter')
    await expect(page.getByRole('button', { name: new RegExp(`^${name} back to`) })).toBeVisible()
}

async function keep(page: Page, what: 'run' | 'scenario', name: string): Promise<void> {
    await page.getByRole('button', { name: what === 'run' ? 'Keep this run' : 'Keep as scenario' }).click()
    await page.getByRole('textbox', { name: `Name of the ${what}` }).fill(name)
    await page.getByRole('button', { name: 'Keep', exact: true }).click()
    await expect(page.locator('.try .row', { hasText: name })).toBeVisible()
}

async function playheadAt(page: Page, time: number): Promise<void> {
    const ruler = page.getByRole('slider', { name: 'Playhead' })
    const [low, high] = [Number(await ruler.getAttribute('aria-valuemin')), Number(await ruler.getAttribute('aria-valuemax'))]
    const box = await ruler.boundingBox()
    if (box) {
        await page.mouse.click(box.x + Math.min(box.width - 1, (box.width * (time - low)) / (high - low)), box.y + box.height / 2)
    }
    await expect.poll(async () => Math.abs(Number(await ruler.getAttribute('aria-valuenow')) - time)).toBeLessThan((high - low) / 200)
}

const levelOf = async (page: Page) =>
    parseFloat(((await track(page, 'fresh water').locator('strong').getAttribute('title')) ?? '').replaceAll(',', ''))

/** The numbers of a column of the table, by what its heading holds. */
async function column(page: Page, ...holds: string[]): Promise<number[]> {
    const heads = await page.locator('.table thead th').allTextContents()
    const at = heads.findIndex((h) => holds.every((part) => h.includes(part)))
    expect(at, `${holds.join()} among ${heads.join('|')}`).toBeGreaterThan(0)
    return (
        await page
            .locator(`.table tbody tr td:nth-child(${at + 1}) [title]`)
            .evaluateAll((cells) => cells.map((c) => (c as HTMLElement).title))
    ).map((t) => parseFloat(t.replaceAll(',', '')))
}

test('the policy that keeps the ferry season from overshooting is found, explained and kept', async ({ page }) => {
    await openCopy(page, 'Ferry season')
    await toTry(page)
    for (const [name, parameter, value] of [
        ['Two boats', 'boats', '2'],
        ['Dear tickets', 'ticket price', '60'],
        ['A lid', 'cap on visitors', '1500'],
    ] as const) {
        await dial(page, parameter, value)
        await keep(page, 'scenario', name)
        await reset(page)
    }
    await tab(page, 'Scenarios')
    await expect(page.getByRole('textbox', { name: 'boats in Two boats' })).toHaveValue('2')
    await expect(page.getByRole('textbox', { name: 'boats in A lid' })).toHaveAttribute('placeholder', '1')
    await page.getByRole('button', { name: 'Run all' }).click()
    await expect(page.locator('.bar [role="status"]')).toContainText('done')
    await expect(page.locator('.ends thead')).toContainText('A lid')

    // As difference from the baseline, in the plot and in numbers.
    await tab(page, 'Plots')
    await pick(page.getByRole('combobox', { name: 'Which plot' }), 'visitors')
    await pick(page.getByRole('combobox', { name: 'Kind of plot' }), 'Lines over time')
    await page.getByRole('button', { name: 'The table behind it' }).click()
    await page.getByRole('textbox', { name: 'Times, separated by commas' }).fill(Array.from({ length: 25 }, (_, i) => i * 5).join(', '))
    await page.getByRole('textbox', { name: 'Times, separated by commas' }).press('Tab')
    await expect(page.locator('.table tbody tr')).toHaveCount(25)
    const falls = (values: number[]) => Math.max(...values.map((v, i) => Math.max(...values.slice(0, i + 1)) - v)) / Math.max(...values)
    const overshoot: Record<string, number> = {}
    for (const name of ['baseline', 'Two boats', 'Dear tickets', 'A lid']) {
        overshoot[name] = falls(await column(page, 'visitors', name))
    }
    expect(overshoot.baseline).toBeGreaterThan(0.05)
    expect(overshoot['Two boats']).toBeGreaterThan(0.02)
    expect(overshoot['A lid']).toBe(0)
    await page.getByRole('button', { name: 'The table behind it' }).click()
    await page.getByRole('button', { name: 'How it is shown', exact: true }).click()
    await pick(page.getByRole('combobox', { name: 'Show' }), 'Difference from the baseline')
    await page.keyboard.press('Escape')
    await expect(page.getByRole('img', { name: /A lid .* at the end/ })).toBeVisible()

    // The reason, followed back from where the two runs part.
    await playheadAt(page, 25)
    await tab(page, 'Trail')
    const asked = page.getByRole('combobox', { name: 'Ask about another variable' })
    await asked.fill('reputation')
    await asked.press('Enter')
    await pick(page.getByRole('combobox', { name: 'In which run' }), 'A lid')
    await pick(page.getByRole('combobox', { name: 'Change or difference' }), 'differ from baseline')
    const tree = page.locator('.tree')
    await expect(tree).toContainText('shared out among its causes')
    await tree.getByRole('button', { name: 'Open talk' }).click()
    await tree.getByRole('button', { name: 'Open experience' }).click()
    await tree.getByRole('button', { name: 'Open crowding' }).click()
    await expect(tree.getByRole('button', { name: 'visitors', exact: true })).toBeVisible()
    await page.getByRole('button', { name: 'Save as finding' }).click()
    await page.getByRole('textbox', { name: 'Title' }).fill('A lid keeps the quay pleasant')
    await page.getByRole('textbox', { name: 'What it shows' }).fill('Fewer crowds, so **no** fall in reputation.')
    await page.getByRole('button', { name: 'Save the finding' }).click()
    await tab(page, 'Findings')
    const article = page.getByRole('article', { name: 'A lid keeps the quay pleasant' })
    await expect(article).toContainText('crowding')
    await expect(article.locator('strong', { hasText: 'no' })).toBeVisible()
    await page.reload()
    await page.getByRole('button', { name: 'Go to where A lid keeps' }).click()
    await expect(page.locator('.bar .root')).toHaveText('reputation')
    await expect(page.getByRole('combobox', { name: 'In which run' })).toHaveText('A lid, as it was saved')
    await expect(tree.getByRole('button', { name: 'visitors', exact: true })).toBeVisible()
})

/** With ten thousand urchins kelp rests where 0.9 (1 − k/100) = 0.018 · 10: at 80. */
test('urchins held by hand let the kelp come to rest where it should', async ({ page }) => {
    await openCopy(page, 'Kelp and urchins')
    const kelp = track(page, 'kelp').locator('strong')
    await outlined(page, 'urchins').click()
    await card(page).getByRole('button', { name: 'Take by hand' }).click()
    const held = card(page).getByRole('region', { name: 'urchins taken by hand' })
    await held.getByRole('textbox', { name: 'value', exact: true }).fill('10')
    await held.getByRole('textbox', { name: 'value', exact: true }).press('Enter')
    await held.getByLabel('holds from').fill('10')
    await held.getByLabel('holds from').press('Enter')
    await expect(thing(page, 'urchins').locator('.plum-rail')).toBeVisible()
    await playheadAt(page, 30)
    await expect(track(page, 'urchins').locator('strong')).toHaveText('10')
    await expect(track(page, 'urchins').getByText('present')).toBeVisible()
    await playheadAt(page, 60)
    await expect(kelp).toHaveText('80')
    // A reload forgets nothing, off holds nothing, released it is gone.
    await page.reload()
    await expect(state(page)).toContainText('up to date')
    await playheadAt(page, 60)
    await expect(kelp).toHaveText('80')
    await outlined(page, 'urchins').click()
    await held.getByRole('button', { name: 'Switch it off' }).click()
    await expect(kelp).not.toHaveText('80')
    await held.getByRole('button', { name: 'Release' }).click()
    await expect(card(page).getByRole('button', { name: 'Take by hand' })).toBeVisible()
    await expect(track(page, 'kelp').getByText('present')).toBeHidden()
})

test('a drought is drawn freehand on the fresh water', async ({ page }) => {
    await openCopy(page)
    await outlined(page, 'rainfall').click()
    await card(page).getByRole('button', { name: 'Take by hand' }).click()
    const held = card(page).getByRole('region', { name: 'rainfall taken by hand' })
    await pick(held.getByRole('combobox', { name: 'Signal' }), 'Drawn by hand')
    const paper = await held.locator('.plot svg').boundingBox()
    if (!paper) {
        throw new Error('There is nothing to draw on.')
    }
    await playheadAt(page, 260)
    const wet = await levelOf(page)
    await page.mouse.move(paper.x + paper.width * 0.2, paper.y + paper.height - 2)
    await page.mouse.down()
    for (let share = 0.2; share <= 0.6; share += 0.02) {
        await page.mouse.move(paper.x + paper.width * share, paper.y + paper.height - 1)
    }
    await page.mouse.up()
    await expect.poll(() => levelOf(page)).toBeLessThan(0.7 * wet)
    await expect(card(page).locator('.now strong')).toHaveText(/^[−-]?(0|0\.000\d*|≈ 0) m\/week$/)
    await toTry(page)
    await expect(page.locator('.try')).toContainText('rainfall drawn')
    await keep(page, 'scenario', 'Drawn drought')
    await reset(page)
    await tab(page, 'Scenarios')
    await expect(page.locator('div.settings')).toContainText('drawn')
})

test('which parameter differs between two runs is told, and a kept run is reached again after twenty edits', async ({ page }) => {
    await openCopy(page)
    await toTry(page)
    await keep(page, 'run', 'How it was')
    await dial(page, 'saving', '0.2')
    await keep(page, 'run', 'Thrifty')
    await reset(page)
    await tab(page, 'Logbook')
    const changes = page.getByRole('region', { name: 'What did I change?' })
    await pick(changes.getByRole('combobox', { name: 'One run' }), 'How it was')
    await pick(changes.getByRole('combobox', { name: 'The other run' }), 'Thrifty')
    await expect(changes.locator('tbody tr')).toHaveCount(1)
    await expect(changes.locator('tbody tr')).toContainText('saving')
    await expect(changes.locator('tbody tr')).toContainText('0.2')

    // Twenty edits from elsewhere arrive by themselves.
    await page.evaluate(async () => {
        const token = decodeURIComponent(
            document.cookie
                .split('; ')
                .find((c) => c.startsWith('XSRF-TOKEN='))
                ?.slice('XSRF-TOKEN='.length) ?? '',
        )
        const study = location.pathname.split('/')[2]
        const { data } = (await (await fetch(`/api/studies/${study}`)).json()) as { data: { model: string } }
        const { model } = (await (await fetch(`/api/models/${data.model}`)).json()) as {
            model: { elements: Record<string, { id: string; name: string }> }
        }
        const id = Object.values(model.elements).find((e) => e.name === 'islanders')?.id
        for (let i = 1; i <= 20; i++) {
            await fetch(`/api/models/${data.model}/edits`, {
                method: 'POST',
                headers: { 'Content-Type': 'application/json', 'X-XSRF-TOKEN': token },
                body: JSON.stringify({
                    base: i - 1,
                    window: 'elsewhere',
                    edits: [{ id: crypto.randomUUID(), edit: { kind: 'formula', id, text: String(4200 + 50 * i) } }],
                }),
            })
        }
    })
    const row = page.locator('.try .row', { hasText: 'How it was' })
    await expect(row.getByRole('button', { name: 'older model' })).toBeVisible()
    await row.getByRole('button', { name: 'older model' }).click()
    await expect(changes).toContainText('islanders')
    await expect(changes).toContainText('4200')
    await expect(changes).toContainText('5200')
    await expect(track(page, 'fresh water').getByText('How it was')).toBeVisible()

    // Removed by mistake, it comes back; hidden, it leaves the plots.
    await row.getByRole('button', { name: 'Remove How it was' }).click()
    await expect(row).toBeHidden()
    await page.getByRole('button', { name: 'Undo', exact: true }).last().click()
    await expect(row).toBeVisible()
    await row.getByRole('button', { name: 'Hide How it was' }).click()
    await expect(track(page, 'fresh water').getByText('How it was')).toBeHidden()

    // The logbook goes back to a setting.
    const logged = page.locator('li', { hasText: 'saving: 0% → 0.2' }).first()
    await logged.getByRole('button', { name: /^Star/ }).click()
    await expect(logged.getByRole('button', { name: /^Star/ })).toHaveAttribute('aria-pressed', 'true')
    await logged.getByRole('button', { name: 'Go back to it' }).click()
    await expect(page.getByRole('textbox', { name: /^Value of saving/ })).toHaveValue('0.2')
})

const saved = async (page: Page, action: () => Promise<void>) => {
    const [download] = await Promise.all([page.waitForEvent('download'), action()])
    return readFileSync(await download.path())
}

test('tracks hold several lines, are zoomed and set, and plots leave as files', async ({ page }) => {
    await openCopy(page, 'Kelp and urchins')
    const kelp = track(page, 'kelp')
    // Dragged out of the outline into a track.
    await outlined(page, 'urchins').dragTo(kelp.locator('.plot'))
    const both = track(page, 'kelp, urchins')
    await expect(both).toBeVisible()
    await both.hover()
    await both.getByRole('button', { name: 'How the track of kelp is shown' }).click()
    await page.getByRole('checkbox', { name: 'each its own axis' }).check()
    await pick(page.getByRole('combobox', { name: 'Show' }), 'Per cent of the start')
    await page.keyboard.press('Escape')
    // A press while it goes would only close it.
    await expect(page.getByRole('combobox', { name: 'Show', exact: true })).toBeHidden()
    await expect(both.getByRole('img')).toHaveAttribute('aria-label', /At year 30: kelp \S+ %, urchins \S+ %/)
    // A drag over the plot zooms; the button goes back.
    const plot = await both.locator('.plot').boundingBox()
    if (plot) {
        await page.mouse.move(plot.x + plot.width * 0.25, plot.y + 40)
        await page.mouse.down()
        await page.mouse.move(plot.x + plot.width * 0.5, plot.y + 40, { steps: 5 })
        await page.mouse.up()
    }
    await expect(page.getByRole('button', { name: 'Whole time' })).toBeVisible()
    await expect(page.locator('.mark.long').first()).toContainText('1')
    await page.getByRole('button', { name: 'Whole time' }).click()
    await expect(page.getByRole('button', { name: 'Whole time' })).toBeHidden()
    await both.hover()
    await both.getByRole('button', { name: 'Enlarge the track of kelp' }).click()
    await expect(page).toHaveURL(/\/try\/plot\?/)

    // One against the other, kept under a name, pinned beside the structure, and out as files.
    await pick(page.getByRole('combobox', { name: 'Kind of plot' }), 'One against another')
    await page.getByRole('button', { name: 'Save this plot' }).click()
    await page.getByRole('textbox', { name: 'Name of the plot' }).fill('Eaten and eating')
    await page.getByRole('button', { name: 'Save', exact: true }).click()
    await expect(page.getByRole('combobox', { name: 'Which plot' })).toHaveText('Eaten and eating')
    const out = page.getByRole('button', { name: 'Export this plot' })
    const take = (words: string) =>
        saved(page, async () => {
            await out.click()
            await page.getByRole('button', { name: words }).click()
        })
    const svg = (await take('Drawing (SVG)')).toString()
    expect(svg).toContain('<svg')
    expect(svg).toContain('Eaten and eating')
    expect(svg).toContain('urchins')
    expect((await take('Picture (PNG)')).subarray(1, 4).toString()).toBe('PNG')
    const rows = (await take('Values (CSV)')).toString().trim().split('\r\n')
    // The measure that was chosen for the lines holds for the pairs, too.
    expect(rows[0]).toBe('run,year,kelp (% of the start),urchins (% of the start)')
    expect(rows[1]).toBe('baseline,0,100,100')
    expect((await take('Values (XLSX)')).subarray(0, 2).toString()).toBe('PK')
    await page.getByRole('button', { name: 'Pin it on the sheet' }).click()
    await page.getByRole('link', { name: 'Model' }).click()
    await expect(page.getByRole('region', { name: 'Plot Eaten and eating' })).toBeVisible()
    await page.getByRole('region', { name: 'Plot Eaten and eating' }).getByRole('button', { name: 'Take Eaten and eating off' }).click()
    await expect(page.getByRole('region', { name: 'Plot Eaten and eating' })).toBeHidden()
})

test('parameters with named values become switches, and values stand side by side', async ({ page }) => {
    await openCopy(page, 'Ferry season')
    await toTry(page)
    const boats = page.locator('.present-dial', { has: page.getByRole('button', { name: 'boats', exact: true }) })
    await boats.hover()
    await boats.getByRole('button', { name: 'Range of boats' }).click()
    await boats.getByRole('button', { name: 'Give values names' }).click()
    for (const [i, name, value] of [
        [1, 'one boat', '1'],
        [2, 'two boats', '2'],
    ] as const) {
        await boats.getByLabel(`Value of choice ${i}`).fill(value)
        await boats.getByLabel(`Name of choice ${i}`).fill(name)
        await boats.getByLabel(`Name of choice ${i}`).press('Tab')
    }
    await boats.getByRole('radio', { name: 'two boats' }).click()
    await expect(boats.getByRole('radio', { name: 'two boats' })).toHaveAttribute('aria-checked', 'true')
    await tab(page, 'Values')
    await page.getByRole('combobox', { name: 'Add a variable' }).fill('ferry seats')
    await page.getByRole('combobox', { name: 'Add a variable' }).press('Enter')
    await expect(page.getByRole('article', { name: 'ferry seats' })).toContainText('4.8 k')
    await expect(page.getByRole('article', { name: 'ferry seats' })).toContainText('at rest since month 0')
})

test('a long run tells how far it is and stops when it is told to', async ({ page }) => {
    await openCopy(page)
    await card(page).getByLabel('Save every').fill('0.01')
    await card(page).getByLabel('Time step').fill('0.001')
    await card(page).getByLabel('Time step').press('Enter')
    await card(page).getByLabel('Save every').fill('1')
    await card(page).getByLabel('Save every').press('Enter')
    await expect(page.locator('header .state:not(.busy)')).toContainText(/up to date · \d{3,} ms/, { timeout: 30_000 })
    // One change and one run of it, which is then stopped.
    await card(page).getByLabel('Time step').fill('0.0002')
    await card(page).getByLabel('Time step').press('Enter')
    await expect(state(page)).toContainText('running', { timeout: 20_000 })
    await page.getByRole('button', { name: 'Stop', exact: true }).click()
    await expect(state(page)).toContainText('stopped by hand', { timeout: 20_000 })
    await expect(track(page, 'fresh water').getByRole('img')).toBeVisible()
})

test('every way to look is accessible in both themes', async ({ page }) => {
    await openCopy(page, 'Kelp and urchins')
    await toTry(page)
    await dial(page, 'bite', '0.02')
    await keep(page, 'run', 'Hungrier')
    await keep(page, 'scenario', 'Hungry')
    const visit = async (name: string, ready: Locator, what: 'all' | 'colours') => {
        await tab(page, name)
        await expect(ready).toBeVisible()
        await expectAccessible(page, what)
    }
    const all = async (what: 'all' | 'colours') => {
        await visit('Plots', page.getByRole('img').first(), what)
        await visit('Scenarios', page.locator('.ends'), what)
        await visit('Trail', page.locator('.tree'), what)
        await visit('Values', page.getByRole('article', { name: 'kelp' }), what)
        await visit('Logbook', page.locator('li', { hasText: 'bite' }).first(), what)
    }
    await all('all')
    // The other theme has other colours and nothing else.
    await page.getByRole('button', { name: 'Dark theme' }).click()
    await all('colours')
})
