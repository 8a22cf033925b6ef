import { expect, type Page } from '@playwright/test'
import { card, expectAccessible, openCopy, openDemo, outlined, pick, state, thing, track } from './sheet'
import { test } from './test'

const WARMTH = {
    format: 'merry-orbit model',
    version: 2,
    name: 'Warmth of the bath house',
    time: { start: 0, end: 10, step: 0.5, unit: 'day', method: 'rk4' },
    elements: [
        { kind: 'parameter', id: 'volume', name: 'volume', formula: '80', unit: 'm^3' },
        { kind: 'parameter', id: 'sea', name: 'sea temperature', formula: '12', unit: 'degC' },
        { kind: 'auxiliary', id: 'need', name: 'need', formula: 'volume * (28 - sea temperature) * 0.5', unit: 'm^3*degC' },
        { kind: 'auxiliary', id: 'wood', name: 'wood burnt', formula: 'need / 4 * (1 + window(0.5, 4, 6))', unit: 'm^3*degC' },
    ],
    tracks: ['need', 'wood burnt'],
}

const study = (page: Page) => /studies\/([^/]+)/.exec(page.url())?.[1] ?? ''
const file = async (page: Page) => (await page.request.get(`/api/studies/${study(page)}/file`)).text()
const saved = (page: Page) => expect(state(page)).toContainText('up to date')
const look = (page: Page, dimension: string) => page.getByLabel(`Look along ${dimension}`)
const inGrid = (page: Page, name: string) => card(page).getByRole('textbox', { name, exact: true })

async function newDimension(page: Page, name: string) {
    await page.getByRole('button', { name: 'Add a thing' }).click()
    await page.getByRole('menuitem', { name: 'New dimension' }).click()
    await page.getByLabel('Name of the dimension').fill(name)
    await page.getByLabel('Name of the dimension').press('Enter')
    await expect(page.getByRole('region', { name: `Card of the dimension ${name}` })).toBeVisible()
}
async function extend(page: Page, of: string, dimension: string) {
    await outlined(page, of).click()
    await page.getByRole('button', { name: `Let ${of} extend over a dimension` }).click()
    await page.getByRole('menuitem', { name: dimension, exact: true }).click()
}
async function write(page: Page, cell: string, value: string) {
    await inGrid(page, cell).fill(value)
    await inGrid(page, cell).press('Tab')
}

test('a finished model of single numbers gets dimensions late, and loses them again', async ({ page }) => {
    // A whole task with some thirty edits.
    await page.goto('/')
    await page.getByLabel('Model file', { exact: true }).setInputFiles({
        name: 'warmth.json',
        mimeType: 'application/json',
        buffer: Buffer.from(JSON.stringify(WARMTH)),
    })
    await page.waitForURL(/\/studies\/.+\/model/)
    await saved(page)
    const before = await file(page)

    await newDimension(page, 'pool')
    const element = (i: number) => card(page).getByRole('textbox', { name: `Element ${i}` })
    await element(1).fill('children')
    await element(1).press('Enter')
    await element(2).fill('swimmers')
    await element(2).press('Enter')
    await card(page).getByRole('textbox', { name: 'Add an element' }).fill('hot')
    await card(page).getByRole('textbox', { name: 'Add an element' }).press('Enter')
    await expect(element(3)).toHaveValue('hot')

    await extend(page, 'volume', 'pool')
    await write(page, 'volume of children', '40')
    await write(page, 'volume of hot', '12')
    // Three lines at once, and no formula was touched.
    for (const name of ['need', 'wood burnt']) {
        await expect(track(page, name)).toContainText('3 lines')
        await expect(track(page, name)).toContainText('swimmers')
    }
    await outlined(page, 'need').click()
    await expect(card(page).locator('.cm-content')).toHaveText('volume * (28 - sea temperature) * 0.5')
    await expect(card(page).getByRole('row', { name: 'children' })).toContainText('320')
    await expect(card(page).getByRole('row', { name: 'sum' })).toContainText('1.06 k')
    await expect(thing(page, 'need')).toContainText('96 to 640')

    await newDimension(page, 'month')
    await page.getByRole('button', { name: 'Counted' }).click()
    await page.getByLabel('to', { exact: true }).fill('12')
    await page.getByLabel('to', { exact: true }).press('Tab')
    await expect(card(page)).toContainText('12 elements')
    await extend(page, 'sea temperature', 'month')
    await write(page, 'sea temperature of 1', '8')
    await outlined(page, 'need').click()
    await expect(card(page)).toContainText('36 values')
    await pick(look(page, 'pool'), 'children')
    await pick(look(page, 'month'), '1')
    await expect(thing(page, 'need')).toContainText('400')
    await expect(page).toHaveURL(/look=pool:children,month:1/)

    // And away again: the file is what it was, to the letter.
    for (const name of ['month', 'pool']) {
        await page
            .locator('.outline')
            .getByRole('button', { name: new RegExp(`^${name}`) })
            .click()
        await page.getByRole('button', { name: 'Take it away' }).click()
        await saved(page)
    }
    await expect(thing(page, 'need')).toContainText('640')
    await expect.poll(() => file(page)).toBe(before)
})

test('sums, means and extremes without new variables, in plots and in a table that turns', async ({ page }) => {
    await openDemo(page, 'Oyster terraces')
    await pick(look(page, 'terrace'), 'all terraces')
    await expect(track(page, 'catch')).toContainText('all terraces')
    await pick(look(page, 'terrace'), 'mean')
    await expect(track(page, 'catch')).toContainText('mean over terrace')
    await pick(look(page, 'age'), 'least')
    // What cannot be told has a dash, and the card says why.
    await expect(thing(page, 'oysters')).toContainText('–')
    await outlined(page, 'oysters').click()
    await expect(card(page)).toContainText('another number in another order')
    await pick(look(page, 'age'), 'each age')
    await pick(look(page, 'terrace'), 'each terrace')

    await outlined(page, 'harvest').click()
    await page
        .getByRole('button', { name: 'Try' })
        .or(page.getByRole('link', { name: 'Try' }))
        .first()
        .click()
    await pick(page.getByLabel('Which plot'), 'New plot')
    await page.getByLabel('Add a variable').first().fill('harvest')
    await page
        .getByRole('option', { name: /harvest/ })
        .first()
        .click()
    await pick(page.getByLabel('Kind of plot'), 'Table')
    const table = page.getByLabel('Plots').locator('table')
    await expect(table.getByRole('row', { name: 'middle' })).toBeVisible()
    await expect(table.getByRole('columnheader', { name: 'grown' })).toBeVisible()
    await page.getByLabel('totals').check()
    await expect(table.getByRole('rowheader', { name: 'sum' })).toBeVisible()
    // By keys a field goes from zone to zone: age becomes one of each, with a chooser of its own.
    await page.getByRole('button', { name: 'age, in Columns' }).press('ArrowRight')
    await pick(page.getByLabel('Which age'), 'all ages')
    await expect(table.getByRole('columnheader', { name: 'grown' })).toBeHidden()
    await page.getByRole('button', { name: 'Rows become columns' }).click()
    await expect(table.getByRole('columnheader', { name: 'middle' })).toBeVisible()
    await pick(page.getByLabel('Kind of plot'), 'Heat map')
    await expect(page.getByRole('img', { name: /harvest: a heat map/ })).toBeVisible()
    await expectAccessible(page)
    // Why the oysters of one terrace and age change: by flows of the same terrace and age.
    await pick(look(page, 'terrace'), 'lee')
    await pick(look(page, 'age'), 'half')
    await page.getByRole('tab', { name: 'Trail' }).click()
    await page.getByRole('combobox', { name: 'Ask about another variable' }).fill('oysters')
    await page.getByRole('combobox', { name: 'Ask about another variable' }).press('Enter')
    await expect(page.getByRole('button', { name: 'losses, lee, half', exact: true })).toBeVisible()
})

test('a limited dimension is as if there were no others, and nothing is lost', async ({ page }) => {
    await openCopy(page, 'Oyster terraces')
    const surplus = outlined(page, 'surplus')
    await expect(surplus.locator('.value')).not.toHaveText('')
    const whole = await surplus.locator('.value').textContent()
    await page
        .locator('.outline')
        .getByRole('button', { name: /^terrace/ })
        .click()
    await page.getByLabel('Limit it for a while').check()
    await page.getByLabel('north is there').uncheck()
    await page.getByLabel('south is there').uncheck()
    await expect(card(page)).toContainText('as if there were only 2')
    await expect(track(page, 'catch')).toContainText('2 lines')
    await expect(surplus.locator('.value')).not.toHaveText(whole ?? '')
    await expectAccessible(page)
    await outlined(page, 'seed laid').click()
    await expect(inGrid(page, 'seed laid of north')).toBeHidden()
    await page
        .locator('.outline')
        .getByRole('button', { name: /^terrace/ })
        .click()
    await page.getByLabel('Limit it for a while').uncheck()
    await expect(track(page, 'catch')).toContainText('4 lines')
    await expect(surplus.locator('.value')).toHaveText(whole ?? '')
    await outlined(page, 'seed laid').click()
    await expect(inGrid(page, 'seed laid of north')).toHaveValue('240')
})

test('a table out of a spreadsheet is matched by name, and new names become elements', async ({ page }) => {
    await openCopy(page, 'Oyster terraces')
    await extend(page, 'exposure', 'age')
    await expect(card(page).getByRole('region', { name: 'Values of exposure by element' })).toContainText('age')
    await page.getByRole('button', { name: 'Paste a table' }).click()
    const dialog = page.getByRole('dialog', { name: 'Values of exposure from a table' })
    await dialog.getByRole('textbox').fill('\tSeed\tOld\nNorth\t1,5\t0.9\nCove\t2\t3\nlee\tx\t0.4')
    await expect(dialog).toContainText('Rows are terrace, columns are age. 5 values go into exposure; no number in B4')
    await expect(dialog).toContainText('Cove is no element of terrace')
    await expectAccessible(page)
    await dialog.getByRole('button', { name: 'Keep 5 values' }).click()
    await saved(page)
    await expect(inGrid(page, 'exposure of seed, north')).toHaveValue('1.5')
    await expect(inGrid(page, 'exposure of old, Cove')).toHaveValue('3')
    await expect(inGrid(page, 'exposure of old, lee')).toHaveValue('0.4')
    await expect(track(page, 'catch')).toContainText('5 lines')
    // One undo takes all of it back.
    await page.getByRole('button', { name: 'Undo' }).click()
    await expect(track(page, 'catch')).toContainText('4 lines')
})

test('a formula has exceptions in a short list beneath it, and says what is wrong with them', async ({ page }) => {
    await openCopy(page, 'Oyster terraces')
    await outlined(page, 'harvest').click()
    await page.getByRole('button', { name: 'An exception for some elements' }).click()
    const formula = page.getByLabel('Formula of exception 1')
    await pick(card(page).getByLabel('Which terrace'), 'lee')
    await formula.fill('oysters * nothing')
    await formula.press('Enter')
    await expect(card(page).getByRole('alert')).toContainText('Nothing is called nothing')
    await formula.fill('0')
    await formula.press('Enter')
    await saved(page)
    const cell = card(page)
        .getByRole('region', { name: 'Values of harvest by element' })
        .getByRole('row', { name: 'old' })
        .getByRole('cell')
    await expect(cell.nth(3)).toHaveText('0')
    await page.getByRole('button', { name: 'Remove exception 1' }).click()
    await expect(formula).toBeHidden()
})

const LINE = [
    [0, 1],
    [4, 5],
]

test('each element has a course, a hand and a small plot of its own', async ({ page }) => {
    await page.goto('/')
    await page.getByLabel('Model file', { exact: true }).setInputFiles({
        name: 'rain.json',
        mimeType: 'application/json',
        buffer: Buffer.from(
            JSON.stringify({
                format: WARMTH.format,
                version: WARMTH.version,
                name: 'Rain',
                dimensions: [{ name: 'bay', elements: ['north', 'south', 'lee'] }],
                elements: [
                    { kind: 'series', name: 'rain', unit: 'mm/year', points: LINE, dimensions: ['bay'] },
                    { kind: 'stock', name: 'water', formula: '10', unit: 'mm', dimensions: ['bay'] },
                    { kind: 'flow', name: 'in', formula: 'rain', unit: 'mm/year', to: 'water' },
                ],
                tracks: ['rain', 'water'],
                time: { start: 0, end: 4, step: 0.5, unit: 'year', method: 'euler' },
            }),
        ),
    })
    await page.waitForURL(/\/studies\/.+\/model/)
    await outlined(page, 'rain').click()
    await expect(card(page)).toContainText('All 3 follow the points above.')
    await card(page).getByRole('button', { name: 'Paste courses' }).click()
    await page.getByRole('textbox', { name: 'Times and courses' }).fill('year\tNorth\teast\n0\t3\t1\n4\t2\t1')
    await expect(page.getByRole('dialog')).toContainText('2 points for 1 of 3: north.')
    await expect(page.getByRole('dialog')).toContainText('no element is called so: east')
    await expectAccessible(page)
    await page.getByRole('button', { name: 'Keep them' }).click()
    await expect(card(page)).toContainText('1 of 3 have a course of their own')
    await expect(card(page).getByRole('row', { name: 'north' })).toContainText('2.5')

    // One element is taken by hand where the window looks at it.
    await pick(look(page, 'bay'), 'lee')
    await outlined(page, 'in').click()
    await card(page).getByRole('button', { name: 'Take by hand' }).click()
    await expect(card(page)).toContainText('Held: in, lee')
    await card(page).getByRole('textbox', { name: 'value' }).fill('20')
    await card(page).getByRole('textbox', { name: 'value' }).press('Enter')
    await pick(look(page, 'bay'), 'each bay')
    await expect(card(page).getByRole('row', { name: 'lee' })).toContainText('20')
    await expect(card(page).getByRole('row', { name: 'south' })).toContainText('3')

    await page.getByRole('link', { name: 'Try' }).click()
    await page.getByRole('combobox', { name: 'Kind of plot' }).click()
    await page.getByRole('option', { name: 'One plot for each element' }).click()
    await expect(page.getByRole('region', { name: 'Plots' })).toContainText('one plot each')
})
