import { expect, type Page } from '@playwright/test'
import { readFile } from 'node:fs/promises'
import { expectAccessible, newStudy, openCopy, pick } from './sheet'
import { test } from './test'

const stage = (page: Page) => page.getByRole('region', { name: 'Members', exact: true })
const left = (page: Page) => page.getByRole('navigation', { name: 'Rosters' })
const table = (page: Page) => page.getByRole('complementary', { name: 'Members at the playhead' })
const look = (page: Page, words: string) =>
    page
        .getByRole('radio', { name: words })
        .or(page.getByRole('button', { name: words }))
        .click()
const picture = (page: Page) => stage(page).getByRole('img')

test('boats: how many there are, one boat’s life, who left and why, sorted and of one harbour', async ({ page }) => {
    await openCopy(page, 'New boats for old')
    await page.getByRole('link', { name: 'Members' }).click()
    await expect(picture(page)).toHaveAttribute('aria-label', /^soundness of each boat: \d+ lines; .*\d+ bought, \d+ sold, \d+ sunk/)
    const head = table(page).getByRole('heading', { level: 2 })
    await expect(head).toContainText(/\d+ boats at year 2020/)
    const all = Number.parseInt(await head.innerText())
    expect(all).toBeGreaterThan(30)
    await expect(left(page)).toContainText(`${all} boats at year 2020`)

    // Sorted by a column, the other way by a second press.
    const first = table(page).getByRole('row').nth(1)
    const least = await first.innerText()
    await table(page).getByRole('button', { name: 'soundness', exact: true }).click()
    await expect(table(page).getByRole('columnheader', { name: 'soundness' })).toHaveAttribute('aria-sort', 'descending')
    await expect(first).not.toHaveText(least)
    // Of one harbour alone.
    await table(page).getByRole('combobox', { name: 'Which of them' }).click()
    await page.getByRole('option', { name: 'Lee' }).click()
    await expect(table(page).getByRole('cell', { name: 'Quay' })).toHaveCount(0)
    await expect(table(page).getByRole('cell', { name: 'Lee' }).first()).toBeVisible()

    // One of them: its line, what it has, and the next one by the arrow.
    const name = await first.getByRole('button').innerText()
    await first.getByRole('button').click()
    await expect(table(page).getByRole('region', { name, exact: true })).toContainText(/bought year|there from the beginning/)
    await expect(picture(page)).toContainText(name)
    await page.keyboard.press('ArrowDown')
    await expect(table(page).getByRole('region', { name, exact: true })).toHaveCount(0)
    await expect(table(page).getByRole('row', { selected: true }).getByRole('button')).toBeFocused()

    // This one alone is held by hand; it is told in Try by its name, and let go again.
    const chosen = await table(page).getByRole('row', { selected: true }).getByRole('button').innerText()
    const hand = table(page).getByRole('button', { name: `Hold soundness of ${chosen} by hand` })
    await hand.click()
    await expect(hand).toHaveAttribute('aria-pressed', 'true')
    await expect(page.getByText('1 taken by hand')).toBeVisible()
    await expect(stage(page)).toContainText('what is tried now')
    await hand.click()
    await expect(page.getByText('1 taken by hand')).toHaveCount(0)

    // Another of their numbers, and at another time.
    await stage(page).getByRole('combobox', { name: 'What is drawn of each' }).click()
    await page.getByRole('option', { name: /^profit/ }).click()
    await expect(picture(page)).toHaveAttribute('aria-label', /^profit of each boat/)
    await expectAccessible(page)
    await page.emulateMedia({ colorScheme: 'dark' })
    await expectAccessible(page)
})

test('a roster is made of a pasted table, gets a way to come and one to go, and one undo takes each back', async ({ page }) => {
    await newStudy(page)
    await expect(page.getByRole('link', { name: 'Members' })).toHaveCount(0)
    await page.keyboard.press('Control+k')
    await page.getByRole('dialog').getByRole('combobox').fill('roster')
    await page.getByRole('option', { name: /Make a roster of a table/ }).click()
    await stage(page).getByRole('button', { name: 'Make a roster of a table' }).click()
    const dialog = page.getByRole('dialog', { name: 'A roster of a table' })
    await dialog
        .getByRole('textbox', { name: /A line for each/ })
        .fill('name,risk,home harbour\nTern,0.4,Lee\nKelpie,0.2,Quay\nIvy,0.9,Lee\n')
    await expect(dialog).toContainText('Say what one of them is called.')
    await dialog.getByRole('textbox', { name: 'One of them is a' }).fill('boat')
    await expect(dialog).toContainText('3 members')
    await expect(dialog).toContainText('home harbour')
    await expectAccessible(page)
    await dialog.getByRole('button', { name: 'Make the roster' }).click()
    await expect(dialog).toHaveCount(0)
    await expect(table(page).getByRole('heading', { level: 2 })).toContainText('3 boats')
    await expect(table(page)).toContainText('Kelpie')
    await expect(left(page)).toContainText('Nobody goes while a run goes on.')

    // Who is related to whom, as pairs; then one more boat on another list: the relation of who stays is kept.
    await left(page).getByRole('button', { name: 'A relation of pairs' }).click()
    const pairs = page.getByRole('dialog', { name: 'A relation of pairs' })
    await pairs.getByRole('textbox', { name: /A line for each pair/ }).fill('Tern, Kelpie\nIvy, Kelpie\nNobody, Ivy\n')
    await pairs.getByRole('textbox', { name: 'It is called', exact: true }).fill('follows')
    await expect(pairs).toContainText('2 pairs')
    await expect(pairs).toContainText('1 line is left out')
    await pairs.getByRole('button', { name: 'Keep the relation' }).click()
    await expect(left(page)).toContainText('follows, 2 pairs')
    await left(page).getByRole('button', { name: 'Another list' }).click()
    const list = page.getByRole('dialog', { name: 'Another list for boat' })
    await list.getByRole('textbox', { name: /A line for each/ }).fill('name,risk\nTern,0.4\nKelpie,0.2\nNew Leaf,0.1\n')
    await expect(list).toContainText('3 members')
    await list.getByRole('button', { name: 'Take this list' }).click()
    await expect(table(page)).toContainText('New Leaf')
    await expect(left(page)).toContainText('follows, 1 pair')

    await left(page).getByRole('button', { name: 'A way to go' }).click()
    await left(page).getByRole('textbox', { name: 'How they go, in a word' }).fill('sunk')
    await left(page)
        .getByRole('radio', { name: 'by chance' })
        .or(left(page).getByRole('button', { name: 'by chance' }))
        .click()
    await left(page).getByRole('combobox', { name: 'How likely in a time unit' }).fill('risk')
    await page.getByRole('option', { name: /risk/ }).first().click()
    await expect(left(page)).toContainText('sunk, by chance, as likely as risk')
    await expect(picture(page)).toHaveAttribute('aria-label', /\d sunk/)
    await page.keyboard.press('Control+z')
    await expect(left(page)).toContainText('Nobody goes while a run goes on.')
    await page.keyboard.press('Control+z')
    await expect(table(page)).toContainText('Ivy')
    await page.keyboard.press('Control+z')
    await page.keyboard.press('Control+z')
    await expect(page.getByRole('link', { name: 'Members' })).toBeVisible()
    await expect(stage(page)).toContainText('Here single things live')
})

test('the same question at three levels: where they part is said, and a level is kept as a scenario by one press', async ({ page }) => {
    await openCopy(page, 'New boats for old')
    await page.getByRole('link', { name: 'Members' }).click()
    await look(page, 'At three levels')
    const levels = page.getByRole('region', { name: 'Three levels' })
    await expect(levels.getByRole('img')).toHaveAttribute(
        'aria-label',
        /^boats by single members, classes, one aggregate\. .*The aggregate parts from single members at year/,
    )
    await expect(levels.getByRole('row', { name: /classes of 3 years/ })).toContainText(/\d/)
    await expect(levels).toContainText('A threshold is crossed by all of a class together')
    await expectAccessible(page)

    // Other classes, another answer; undone by one undo.
    await levels.getByRole('textbox', { name: 'How wide a class is' }).fill('6')
    await levels.getByRole('button', { name: 'Take them together so' }).click()
    await expect(levels.getByRole('row', { name: /classes of 6 years/ })).toBeVisible()
    await page.keyboard.press('Control+z')
    await expect(levels.getByRole('row', { name: /classes of 3 years/ })).toBeVisible()

    await levels
        .getByRole('row', { name: /one aggregate/ })
        .getByRole('button', { name: 'Keep as scenario' })
        .click()
    await page.getByRole('link', { name: 'Try' }).click()
    await page.getByRole('tab', { name: 'Scenarios' }).click()
    await expect(page.getByText('boat: one aggregate').first()).toBeVisible()
})

test('works from a list: who keeps others waiting at the playhead, the chain that decides, and what was through later', async ({
    page,
}) => {
    await openCopy(page, 'The mending of the pier')
    await page.getByRole('link', { name: 'Members' }).click()
    await pick(stage(page).getByRole('combobox', { name: 'What is drawn of each' }), 'under way')
    await expect(picture(page)).toHaveAttribute('aria-label', /^When under way holds of each work: 40 lines; Survey/)
    await expect(stage(page)).toContainText('the chain by “waits for” that decides when all is through')
    await expect(stage(page)).toContainText(/\d+ of 40 were through later, by up to [\d.]+ weeks/)
    // At the start nothing can begin before the survey is done; it waits for nobody.
    await page.getByRole('slider', { name: 'Playhead' }).press('Home')
    await expect(stage(page).getByRole('status')).toContainText('Survey keeps 39 waiting')
    await stage(page).getByRole('status').getByRole('button', { name: 'Survey' }).click()
    await expect(table(page).getByRole('region', { name: 'Survey', exact: true })).toBeVisible()
    await page.getByRole('slider', { name: 'Playhead' }).press('End')
    await expect(stage(page).getByRole('status')).toContainText('nobody keeps another waiting')
    await expectAccessible(page)
    // Another undertaking: two tables alone.
    await left(page).getByRole('button', { name: 'Another list' }).click()
    const list = page.getByRole('dialog', { name: 'Another list for work' })
    await list.getByRole('textbox', { name: /A line for each/ }).fill('work,effort,planned end\nDig,4,2\nWall,8,4\nRoof,2,5\n')
    await list.getByRole('button', { name: 'Take this list' }).click()
    await left(page).getByRole('button', { name: 'Other pairs for “waits for”' }).click()
    const pairs = page.getByRole('dialog', { name: 'Other pairs for “waits for”' })
    await pairs.getByRole('textbox', { name: /A line for each pair/ }).fill('first,then\nDig,Wall\nWall,Roof\n')
    await expect(pairs).toContainText('2 pairs')
    await pairs.getByRole('button', { name: 'Keep the relation' }).click()
    await expect(picture(page)).toHaveAttribute('aria-label', /3 lines; Dig, Wall, Roof first/)
})

test('a chain of any shape: another table alone is another chain', async ({ page }) => {
    await openCopy(page, 'Oysters on order')
    await page.getByRole('link', { name: 'Members' }).click()
    await pick(stage(page).getByRole('combobox', { name: 'What is drawn of each' }), 'orders that come in, crate/week')
    await expect(picture(page)).toHaveAttribute('aria-label', /^orders that come in of each house: 4 lines/)
    await left(page).getByRole('button', { name: 'Other pairs for “suppliers”' }).click()
    const dialog = page.getByRole('dialog', { name: 'Other pairs for “suppliers”' })
    await expect(dialog.getByLabel('From the other side it is called')).toHaveValue('customers')
    await dialog.getByRole('textbox', { name: /A line for each pair/ }).fill(await readFile('demo/files/oysters branching.csv', 'utf8'))
    await dialog.getByRole('checkbox', { name: /Those it names are all/ }).check()
    await expect(dialog).toContainText('7 pairs between 8 houses')
    await expectAccessible(page)
    await dialog.getByRole('button', { name: 'Keep the relation' }).click()
    await expect(table(page).getByRole('heading', { level: 2 })).toContainText('8 houses')
    await page.getByRole('slider', { name: 'Playhead' }).press('End')
    await expect(table(page).getByRole('row', { name: /^Packing house 110/ })).toBeVisible()
    await expect(table(page).getByRole('row', { name: /^School 27\.5/ })).toBeVisible()
    await page.keyboard.press('Control+z')
    await expect(table(page).getByRole('heading', { level: 2 })).toContainText('4 houses')
})

test('where they are: boats move with the playhead over the herring, coloured by their catch', async ({ page }) => {
    await openCopy(page, 'Where the boats fish')
    await page.getByRole('link', { name: 'Members' }).click()
    await look(page, 'Where they are')
    const plane = page.getByRole('region', { name: 'Where they are' })
    const drawing = plane.getByRole('img')
    await expect(drawing).toHaveAttribute(
        'aria-label',
        /^Where 60 boats are at day 60, by east, km and north, km, coloured by catch, tonne\/day, over herring/,
    )
    await expect(plane).toContainText('beneath: herring, tonne')
    // What is painted changes with the playhead.
    const painted = () => plane.locator('canvas').evaluate((c: HTMLCanvasElement) => c.toDataURL())
    const before = await painted()
    await page.getByRole('slider', { name: 'Playhead' }).press('Home')
    await expect(plane).toContainText('60 boats at day 0')
    await expect.poll(painted).not.toBe(before)
    // One that is chosen in the table is named there; another size, and nothing beneath, are kept.
    const first = table(page).getByRole('row').nth(1).getByRole('button')
    const name = await first.innerText()
    await first.click()
    await expect(drawing).toContainText(name)
    await pick(plane.getByRole('combobox', { name: 'What sizes them' }), 'fish in sight')
    await pick(plane.getByRole('combobox', { name: 'What lies beneath them' }), '–')
    await expect(plane).toContainText('the larger, the more fish in sight')
    await expect(drawing).not.toHaveAttribute('aria-label', /over herring/)
    await expectAccessible(page)
    await page.reload()
    await expect(plane).toContainText('the larger, the more fish in sight')
    await page.emulateMedia({ colorScheme: 'dark' })
    await expectAccessible(page)
})

test('the atlas by parts leads to a roster, cut to it and what it is joined to', async ({ page }) => {
    await openCopy(page, 'New boats for old')
    await page.keyboard.press('Control+k')
    await page.getByLabel('Command', { exact: true }).fill('open atlas')
    await page.keyboard.press('Enter')
    await look(page, 'By parts')
    const atlas = page.getByRole('group', { name: /^Atlas, 3 parts/ })
    await expect(atlas.getByRole('button', { name: 'boat, roster, 60 boats on the list: go there' })).toBeVisible()
    await expect(atlas).toContainText('creates members')
    await expect(atlas).toContainText('sunk')
    await expectAccessible(page)
    await pick(page.getByRole('combobox', { name: 'Which part' }), 'One boat and its surroundings')
    await expect(page.getByRole('group', { name: /^Atlas, 2 parts/ })).toBeVisible()
    await page.getByRole('button', { name: /^boat, roster/ }).press('Enter')
    await expect(table(page).getByRole('heading', { level: 2 })).toContainText('boats at year 2020')
})
