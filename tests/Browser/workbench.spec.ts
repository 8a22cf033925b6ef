import { readFileSync } from 'node:fs'
import { expect, type Page } from '@playwright/test'
import {
    card,
    expectAccessible,
    links,
    middle,
    nameAndSay,
    newStudy,
    openCopy,
    openDemo,
    outlined,
    pull,
    say,
    sheet,
    state,
    thing,
} from './sheet'
import { test } from './test'

interface Line {
    kind: string
    name: string
    formula?: string
    unit?: string
    from?: string
    to?: string
    neverNegative?: boolean
    oneWay?: boolean
    priority?: number
    points?: [number, number][]
    between?: string
    inputUnit?: string
}

const values = (page: Page) =>
    page
        .locator('.outline .thing')
        .evaluateAll((rows) =>
            Object.fromEntries(
                rows.map((r) => [r.querySelector('.name')?.textContent ?? '', r.querySelector('.value')?.textContent ?? '']),
            ),
        )

const modelOf = (page: Page) =>
    page.evaluate(async () => {
        const study = location.pathname.split('/')[2]
        const { data } = (await (await fetch(`/api/studies/${study}`)).json()) as { data: { model: string } }
        const { model, revision } = (await (await fetch(`/api/models/${data.model}`)).json()) as { model: unknown; revision: number }
        return { text: JSON.stringify(model), revision, id: data.model }
    })

test('Ferry season is built from an empty sheet and computes what the finished study does', async ({ page }) => {
    test.setTimeout(240_000)
    const { elements, time } = JSON.parse(readFileSync('demo/ferry-season.json', 'utf8')) as {
        elements: Line[]
        time: Record<string, string | number>
    }
    await newStudy(page)
    await card(page).getByLabel('Unit', { exact: true }).fill(String(time.unit))
    for (const [label, key] of [
        ['Ends at', 'end'],
        ['Time step', 'step'],
        ['Save every', 'saveEvery'],
    ] as const) {
        await card(page).getByLabel(label).fill(String(time[key]))
        await card(page).getByLabel(label).press('Tab')
    }
    const rest = async () => {
        await sheet(page).focus()
        await page.keyboard.press('Escape')
        await page.keyboard.press('Escape')
    }
    const named = async (line: Line) => {
        await expect(page.locator('.naming input')).toBeFocused()
        await page.keyboard.insertText(line.name)
        await page.keyboard.press('Enter')
        await expect(outlined(page, line.name)).toBeVisible()
    }
    // Parameters and curves first, then stocks, flows out of their rings, and what is computed from all of them.
    for (const line of elements.filter((e) => e.kind === 'parameter')) {
        await rest()
        await page.keyboard.type('p')
        await named(line)
        await say(page, line.formula ?? '', 'at once')
    }
    for (const line of elements.filter((e) => e.kind === 'curve')) {
        await rest()
        await page.keyboard.type('c')
        await named(line)
        await card(page)
            .getByRole('textbox', { name: 'Points' })
            .fill((line.points ?? []).map((p) => p.join(' ')).join('\n'))
        await card(page).getByRole('textbox', { name: 'Points' }).blur()
        await expect(card(page).getByRole('group', { name: new RegExp(`${line.points?.length} points`) })).toBeVisible()
        if (line.between && line.between !== 'straight') {
            await card(page).getByRole('combobox', { name: 'Between' }).click()
            await page.getByRole('option', { name: line.between, exact: false }).click()
        }
    }
    for (const line of elements.filter((e) => e.kind === 'stock')) {
        await rest()
        await page.keyboard.type('s')
        await named(line)
        await say(page, line.formula ?? '', 'at once')
        if (line.neverNegative) {
            await card(page).getByLabel('Never below zero').check()
        }
    }
    for (const line of elements.filter((e) => e.kind === 'flow')) {
        await rest()
        await outlined(page, line.to ?? line.from ?? '').click()
        await page.getByRole('button', { name: line.to ? 'Pull an inflow' : 'Pull an outflow' }).press('Enter')
        await named(line)
        await say(page, line.formula ?? '', 'at once')
        if (line.oneWay) {
            await card(page).getByLabel('One-way').check()
        }
    }
    const ranked = elements.filter((e) => e.kind === 'flow' && e.priority !== undefined)
    expect(ranked).toHaveLength(2)
    for (const line of ranked) {
        await outlined(page, line.name).click()
        await card(page).getByLabel('Priority').fill(String(line.priority))
        await card(page).getByLabel('Priority').press('Tab')
    }
    for (const line of elements.filter((e) => e.kind === 'auxiliary')) {
        await rest()
        await page.keyboard.type('a')
        await named(line)
        await say(page, line.formula ?? '', 'at once')
    }
    await rest()
    await expect(state(page)).toContainText('up to date')
    await page.getByRole('slider', { name: 'Playhead' }).press('End')
    const built = await values(page)
    await openDemo(page, 'Ferry season')
    await page.getByRole('slider', { name: 'Playhead' }).press('End')
    expect(built).toEqual(await values(page))
})

test('Fresh water gets a second outflow that competes with the first', async ({ page }) => {
    await openCopy(page)
    const ofWells = outlined(page, 'wells').locator('.value')
    await page.getByRole('slider', { name: 'Playhead' }).press('End')
    const before = await ofWells.textContent()
    await outlined(page, 'fresh water').click()
    await card(page).getByLabel('Never below zero').check()
    await page.getByRole('button', { name: 'Pull an outflow' }).press('Enter')
    await nameAndSay(page, 'brewery', 'islanders * 10')
    await expect(state(page)).toContainText('up to date')
    // Where a stock may have too little for all, the order in which they take is asked for.
    await card(page).getByLabel('Priority').fill('-1')
    await card(page).getByLabel('Priority').press('Tab')
    // The formula made a link by itself, and the engine its sign.
    await expect(links(page).filter({ hasText: '+' }).first()).toBeVisible()
    await expect(ofWells).not.toHaveText(before ?? '')
    await sheet(page).focus()
    await page.keyboard.press('Escape')
    await expect(card(page)).toContainText('was cut to what was there')
    // The sentence leads to its place.
    await card(page)
        .getByRole('button', { name: /was cut to what was there/ })
        .first()
        .click()
    await expect(card(page).getByLabel('Name', { exact: true })).toHaveValue(/brewery|wells|shore drain/)
})

test('half of a model moves to a new sheet and leaves echoes where links need them', async ({ page }) => {
    await openCopy(page)
    await expect.poll(async () => Object.keys(await values(page)).length).toBeGreaterThan(20)
    const numbers = await values(page)
    const known = ['lens thickness', 'lens area', 'pore space']
    await outlined(page, 'lens thickness').click()
    for (const name of known.slice(1)) {
        await outlined(page, name).click({ modifiers: ['Control'] })
    }
    await expect(card(page)).toContainText(`${known.length} selected`)
    await card(page).getByLabel('Move to a sheet').fill('Weather')
    await card(page).getByRole('button', { name: 'Move', exact: true }).click()
    await expect(page.locator('header .where .now')).toHaveText('Weather')
    await expect(thing(page, 'lens thickness')).toBeVisible()
    await expect(page.locator('.stage .echo').first()).toBeVisible()
    await expect.poll(() => values(page)).toEqual(numbers)
    await expect(state(page)).toContainText('up to date')
    await page.getByRole('button', { name: 'Back to where you were' }).click()
    await expect(page.locator('header .where .now')).not.toHaveText('Weather')
    await expect(page.locator('.stage .echo').first()).toBeVisible()
    // An echo leads to where its thing is defined.
    await page.locator('.stage .echo').first().click()
    await card(page).getByRole('button', { name: 'defined on Weather' }).click()
    await expect(page.locator('header .where .now')).toHaveText('Weather')
    // One step takes it all back.
    await page.locator('header').getByRole('button', { name: 'Undo', exact: true }).click()
    await expect(page.locator('.stage .echo')).toHaveCount(0)
    await expect(page.locator('header .where .now')).not.toHaveText('Weather')
})

test('three planted mistakes are found in the health list and mended there', async ({ page }) => {
    await newStudy(page)
    await sheet(page).focus()
    await page.keyboard.type('s')
    await nameAndSay(page, 'oysters', '100')
    await page.getByRole('button', { name: 'Pull an outflow' }).press('Enter')
    await nameAndSay(page, 'harvest', 'oystres * 10%')
    await sheet(page).focus()
    await page.keyboard.press('Escape')
    await page.keyboard.type('p')
    await nameAndSay(page, 'spare hands', '3')
    await sheet(page).focus()
    await page.keyboard.press('Escape')
    await page.keyboard.type('s')
    await nameAndSay(page, 'empty shells', '7')
    await sheet(page).focus()
    await page.keyboard.press('Escape')
    await expect(card(page)).toContainText('1 thing missing')
    await expect(card(page)).toContainText('Worth a look')
    await card(page).getByRole('button', { name: 'Write oysters instead', exact: true }).click()
    await expect(state(page)).toContainText('up to date')
    await card(page).getByRole('button', { name: 'Make it a parameter', exact: true }).click()
    await expect(outlined(page, 'empty shells')).toBeVisible()
    await expect(card(page).locator('.what', { hasText: 'Nothing uses' })).not.toHaveCount(0)
    for (;;) {
        const unused = card(page).locator('.what', { hasText: 'Nothing uses' })
        if (!(await unused.count())) {
            break
        }
        const before = await page.locator('.outline .thing').count()
        await unused.first().click()
        await sheet(page).focus()
        await page.keyboard.press('Delete')
        await expect(page.locator('.outline .thing')).toHaveCount(before - 1)
        await page.keyboard.press('Escape')
    }
    await expect(card(page)).toContainText('Nothing is missing, and there is nothing to remark')
    await expectAccessible(page)
})

test('forty edits are undone and made again, after a reload, to the byte', async ({ page }) => {
    await openCopy(page)
    const start = await modelOf(page)
    await outlined(page, 'fresh water').click()
    await sheet(page).focus()
    for (let i = 0; i < 34; i++) {
        await page.keyboard.press(`Control+${['ArrowRight', 'ArrowDown', 'ArrowLeft', 'ArrowRight'][i % 4]}`)
    }
    await page.keyboard.press('e')
    await outlined(page, 'boat load').click()
    for (const unit of ['m^3', 'litre', 'm^3/boat']) {
        await card(page).getByLabel('Unit').fill(unit)
        await card(page).getByLabel('Unit').press('Enter')
    }
    await sheet(page).focus()
    await page.keyboard.press('Delete')
    for (const name of ['dry season', 'wet season']) {
        await sheet(page).focus()
        await page.keyboard.press('Escape')
        await page.keyboard.type('a')
        await expect(page.locator('.naming input')).toBeFocused()
        await page.keyboard.type(name)
        await page.keyboard.press('Enter')
        await expect(outlined(page, name)).toBeVisible()
        await page.keyboard.press('Escape')
    }
    await expect.poll(async () => (await modelOf(page)).revision).toBeGreaterThanOrEqual(start.revision + 40)
    const done = await modelOf(page)
    const steps = done.revision - start.revision
    await page.reload()
    await expect(page.locator('.stage')).toBeVisible()
    await sheet(page).focus()
    for (let i = 0; i < steps; i++) {
        await page.keyboard.press('Control+z')
    }
    await expect.poll(async () => (await modelOf(page)).revision).toBe(done.revision + steps)
    expect((await modelOf(page)).text).toBe(start.text)
    for (let i = 0; i < steps; i++) {
        await page.keyboard.press('Control+Shift+z')
    }
    await expect.poll(async () => (await modelOf(page)).revision).toBe(done.revision + 2 * steps)
    expect((await modelOf(page)).text).toBe(done.text)
})

test('work goes on through a dropped connection', async ({ page, context }) => {
    await openCopy(page)
    await outlined(page, 'wells').click()
    const before = await middle(thing(page, 'wells').locator('svg').first())
    await context.setOffline(true)
    await sheet(page).focus()
    await page.keyboard.press('Control+ArrowDown')
    await page.keyboard.press('Control+ArrowDown')
    await card(page).getByLabel('Unit').fill('m^3/day')
    await card(page).getByLabel('Unit').press('Enter')
    await expect(state(page)).toContainText('3 edits wait here')
    // What is moved is moved at once.
    expect((await middle(thing(page, 'wells').locator('svg').first())).y).toBeGreaterThan(before.y + 5)
    // A new thing is there at once too, and can be named.
    await sheet(page).focus()
    await page.keyboard.press('Escape')
    await page.keyboard.type('p')
    await expect(page.locator('.naming input')).toBeFocused()
    await page.keyboard.type('reserve')
    await page.keyboard.press('Enter')
    await expect(outlined(page, 'reserve')).toBeVisible()
    await page.keyboard.press('Escape')
    await context.setOffline(false)
    await expect(state(page)).not.toContainText('wait')
    await page.reload()
    await expect(outlined(page, 'reserve')).toBeVisible()
    await outlined(page, 'wells').click()
    await expect(card(page).getByLabel('Unit')).toHaveValue('m^3/day')
})

test('an old version is compared with the present one, and one thing is brought back', async ({ page }) => {
    await openCopy(page)
    await outlined(page, 'boat load').click()
    await sheet(page).focus()
    await page.keyboard.press('Delete')
    await expect(outlined(page, 'boat load')).toHaveCount(0)
    await page.getByRole('button', { name: 'History', description: /what was done/ }).click()
    await page.getByRole('button', { name: 'Name the version after: The beginning' }).click()
    await page.getByLabel('Name of the milestone').fill('As it came')
    await page.keyboard.press('Enter')
    await expect(page.locator('.milestone')).toHaveText('As it came')
    await page.getByRole('button', { name: 'The beginning', exact: true }).click()
    await expect(page.getByRole('heading', { name: 'As it came compared with now' })).toBeVisible()
    const row = page
        .getByRole('list', { name: 'Differences' })
        .getByRole('listitem')
        .filter({ hasText: 'boat load' })
        .filter({ hasText: 'removed' })
    await expect(row).toBeVisible()
    await expectAccessible(page)
    await row.getByRole('button', { name: 'Bring back' }).click()
    await expect(page.getByText('Brought back.')).toBeVisible()
    await expect(page.getByText('The two versions say the same.')).toBeVisible()
    await page.getByRole('button', { name: 'History', description: /what was done/ }).click()
    await expect(outlined(page, 'boat load')).toBeVisible()
})

test('anything is found, any command runs, and the atlas leads to its things', async ({ page }) => {
    await openDemo(page, 'Kelp and urchins')
    await sheet(page).focus()
    await page.keyboard.press('/')
    await page.getByLabel('What to find').fill('lifespan')
    await expect(page.getByRole('option')).toHaveCount(4)
    await expectAccessible(page)
    await page.keyboard.press('ArrowDown')
    await page.keyboard.press('Enter')
    await expect(card(page)).toContainText('defined on')
    await page.keyboard.press('Control+k')
    await page.getByLabel('Command', { exact: true }).fill('open atlas')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('group', { name: /Atlas, 21 things|Atlas, \d+ things/ })).toBeVisible()
    await expectAccessible(page)
    await page.getByRole('button', { name: 'By sheets' }).click()
    await page.getByRole('button', { name: 'stock otters: go to it' }).click()
    await expect(page.locator('header .where .now')).toHaveText('Otters')
    await expect(card(page).getByLabel('Name', { exact: true })).toHaveValue('otters')
    await card(page).getByRole('button', { name: 'on Reef' }).click()
    await expect(page.locator('header .where .now')).toHaveText('Reef')
    await card(page).getByRole('button', { name: 'As an equation' }).click()
    await expect(card(page)).toContainText('pups adds to it')
    await expect(card(page).locator('.katex').first()).toBeVisible()
})

test('things are copied to another study, lined up, and replaced in many at once', async ({ page }) => {
    await openDemo(page, 'Kelp and urchins')
    await outlined(page, 'kelp').click()
    await outlined(page, 'growth rate').click({ modifiers: ['Control'] })
    await outlined(page, 'growth').click({ modifiers: ['Control'] })
    await sheet(page).focus()
    await page.keyboard.press('Control+c')
    await expect(page.getByText('Copied 3 things')).toBeVisible()
    await newStudy(page)
    await sheet(page).focus()
    await page.keyboard.press('Control+v')
    await expect(outlined(page, 'growth rate')).toBeVisible()
    await page.keyboard.press('Control+v')
    await expect(outlined(page, 'growth rate 2')).toBeVisible()
    await page.keyboard.press('Control+a')
    await expect(card(page)).toContainText('6 selected')
    await card(page).getByRole('button', { name: 'Align left edges' }).click()
    const lefts = async () =>
        Promise.all(
            ['kelp', 'kelp 2', 'growth rate', 'growth rate 2'].map(async (n) => Math.round((await thing(page, n).boundingBox())?.x ?? 0)),
        )
    await expect.poll(async () => new Set(await lefts()).size).toBe(1)
    await card(page).getByRole('combobox', { name: 'Group' }).fill('Pasted')
    await card(page).getByRole('combobox', { name: 'Group' }).press('Enter')
    await card(page).getByRole('button', { name: 'Tidy up' }).click()
    await expect(page.getByText('Tidied up.')).toBeVisible()
    await expect.poll(async () => new Set(await lefts()).size).toBeGreaterThan(1)
    await page.keyboard.press('Control+k')
    await page.getByLabel('Command', { exact: true }).fill('replace')
    await page.keyboard.press('Enter')
    await page.getByLabel('What to replace').fill('kelp')
    await page.getByLabel('Replace by').fill('eelgrass')
    await page.getByRole('button', { name: 'Replace in 2' }).click()
    await expect(outlined(page, 'eelgrass 2')).toBeVisible()
    await outlined(page, 'growth').click()
    await expect(card(page).locator('.cm-content')).toContainText('eelgrass')
    await page.locator('header').getByRole('button', { name: 'Undo', exact: true }).click()
    await expect(outlined(page, 'kelp 2')).toBeVisible()
})

test('the end of a flow moves to another stock, a link is bent, and a curve is shaped by hand', async ({ page }) => {
    await newStudy(page)
    const box = await sheet(page).boundingBox()
    const spot = (x: number, y: number) => ({ x: (box?.x ?? 0) + x, y: (box?.y ?? 0) + y })
    await page.mouse.dblclick(spot(330, 160).x, spot(330, 160).y)
    await page.getByRole('menuitem', { name: 'Stock' }).click()
    await nameAndSay(page, 'lagoon', '100')
    await thing(page, 'lagoon').click()
    await pull(page, 'Pull an outflow', spot(560, 160))
    await nameAndSay(page, 'leak', 'lagoon / 10')
    await page.mouse.dblclick(spot(500, 400).x, spot(500, 400).y)
    await page.getByRole('menuitem', { name: 'Stock' }).click()
    await nameAndSay(page, 'marsh', '0')
    await thing(page, 'leak').locator('svg').first().click()
    await pull(page, 'Move its end', await middle(thing(page, 'marsh')))
    await expect(card(page)).toContainText('lagoon → marsh')
    await page.locator('header').getByRole('button', { name: 'Undo', exact: true }).click()
    await expect(card(page)).toContainText('lagoon → outside')

    await sheet(page).focus()
    await page.keyboard.press('l')
    await expect(card(page)).toContainText('More lagoon makes more leak')
    const path = page.locator('.link.picked .line')
    const before = await path.getAttribute('d')
    await page.keyboard.press('ArrowUp')
    await page.keyboard.press('ArrowUp')
    await expect(path).not.toHaveAttribute('d', before ?? '')
    await card(page).getByRole('button', { name: 'Straighten' }).click()
    await expect(path).toHaveAttribute('d', before ?? '')

    await page.keyboard.press('Escape')
    await sheet(page).focus()
    await page.keyboard.type('c')
    await expect(page.locator('.naming input')).toBeFocused()
    await page.keyboard.type('shade')
    await page.keyboard.press('Enter')
    const points = card(page).getByRole('textbox', { name: 'Points' })
    await points.fill('0 0\n10 1\n20 4')
    await points.blur()
    await card(page).getByRole('button', { name: 'Reverse' }).click()
    await expect(points).toHaveValue(/^0\t4/)
    await card(page).getByRole('button', { name: 'Normalise' }).click()
    await expect(points).toHaveValue(/^0\t1\n10\t0\.25\n20\t0$/)
    await card(page).getByRole('slider', { name: 'Point 2' }).press('ArrowUp')
    await expect(points).not.toHaveValue(/10\t0\.25/)
})
