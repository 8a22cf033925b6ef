import { expect, type Locator, type Page } from '@playwright/test'
import { card, expectAccessible, middle, newStudy, openCopy, openDemo, state } from './sheet'
import { test } from './test'

const hull = (page: Page, name: string): Locator => page.locator('.vue-flow__node').filter({ has: page.getByText(name, { exact: true }) })
const cause = (page: Page): Locator => page.getByRole('textbox', { name: 'Cause' })
const mark = (page: Page, said: string): Locator => page.getByRole('img', { name: said, exact: true })
const marks = (page: Page): Locator => page.locator('.map-link')

/** Clicks a link at its mark, as one does who sees it. */
async function press(page: Page, said: string): Promise<void> {
    const at = await middle(mark(page, said).locator('.swell').first())
    await page.mouse.click(at.x, at.y)
}

async function openMap(page: Page): Promise<void> {
    await newStudy(page)
    await page.getByRole('link', { name: 'Map' }).click()
    await expect(state(page)).toContainText('empty map')
    await expect(cause(page)).toBeFocused()
}

async function say(page: Page, from: string, to: string): Promise<void> {
    await page.keyboard.type(from)
    await page.keyboard.press('Enter')
    await page.keyboard.type(to)
    await page.keyboard.press('Enter')
}

test('a link with two new factors takes one line and no mouse, and each act is undone', async ({ page }) => {
    await openMap(page)
    await say(page, 'silt settling', '- depth at the quay')
    await expect(mark(page, 'silt settling acts turned over on depth at the quay')).toBeVisible()
    await expect(cause(page)).toBeFocused()
    // What is there is offered; the sign is a word, too, and what is late is said.
    await page.keyboard.type('dep')
    await page.keyboard.press('Tab')
    await expect(cause(page)).toHaveValue('depth at the quay')
    await page.keyboard.type('~more ships')
    await expect(page.getByText('With more depth at the quay, after a while, more ships than there otherwise would be.')).toBeVisible()
    await page.keyboard.press('Enter')
    await expect(mark(page, 'depth at the quay acts the same way on ships, late')).toBeVisible()
    // A chain goes on from where it ended.
    await page.keyboard.press('ArrowUp')
    await expect(cause(page)).toHaveValue('ships')
    await page.keyboard.type('- silt')
    await page.keyboard.press('Tab')
    await expect(page.getByText('It would close 1 more loop.')).toBeVisible()
    await page.keyboard.press('Enter')
    await expect(card(page).getByRole('button', { name: /^Walk R1/ })).toBeVisible()
    const was = await hull(page, 'ships').boundingBox()

    // The link from ships acts through something.
    await press(page, 'ships acts turned over on silt settling')
    await card(page).getByLabel('Does it act directly').fill('dredging')
    await page.keyboard.press('Enter')
    await expect(mark(page, 'ships acts turned over on dredging')).toBeVisible()
    await expect(mark(page, 'dredging acts the same way on silt settling')).toBeVisible()
    await page.getByRole('button', { name: 'Undo', exact: true }).first().click()
    await expect(hull(page, 'dredging')).toHaveCount(0)
    expect(await hull(page, 'ships').boundingBox()).toEqual(was)

    // Turned round, and its sign flipped.
    await press(page, 'silt settling acts turned over on depth at the quay')
    await card(page).getByRole('button', { name: 'Turn it round' }).click()
    await expect(mark(page, 'depth at the quay acts turned over on silt settling')).toBeVisible()
    await card(page).getByRole('button', { name: 'same way' }).click()
    await expect(mark(page, 'depth at the quay acts the same way on silt settling')).toBeVisible()
    await page.keyboard.press('Control+z')
    await page.keyboard.press('Control+z')
    await expect(mark(page, 'silt settling acts turned over on depth at the quay')).toBeVisible()
    await expectAccessible(page)
})

test('forty factors typed as fast as the keyboard allows lose nothing', async ({ page }) => {
    await openMap(page)
    for (let i = 1; i < 40; i++) {
        await page.keyboard.type(`factor ${i}`)
        await page.keyboard.press('Enter')
        await page.keyboard.type(`factor ${i + 1}`)
        await page.keyboard.press('Enter')
    }
    await expect(page.locator('.vue-flow__node')).toHaveCount(40, { timeout: 30_000 })
    await expect(marks(page)).toHaveCount(39)
    await page.reload()
    await expect(page.locator('.vue-flow__node')).toHaveCount(40)
    await expect(marks(page)).toHaveCount(39)
})

test('a map is played without numbers, told in order, and let go', async ({ page }) => {
    await openDemo(page, 'Why the harbour silts up')
    await hull(page, 'sheep on the hills').click()
    await page.getByRole('toolbar').getByRole('button', { name: 'Push it up' }).click()
    const happens = page.getByRole('region', { name: 'What happens' })
    await expect(happens.getByRole('listitem').first()).toContainText(
        'There are more bare slopes than usual, because of sheep on the hills.',
    )
    await expect(happens).toContainText('No height is a measurement')
    const depth = page.getByRole('img', { name: /^Course of silt settling: more than usual/ })
    await expect(depth).toBeVisible({ timeout: 15_000 })
    await page.getByRole('slider', { name: 'Beat' }).focus()
    await page.keyboard.press('Home')
    await expect(page.getByRole('img', { name: 'Course of sheep on the hills: as usual, rising' })).toBeVisible()
    await page.keyboard.press('End')
    await happens.getByRole('button', { name: /^7 More/ }).click()
    await expect(page.getByRole('slider', { name: 'Beat' })).toHaveAttribute('aria-valuenow', '7')
    await expectAccessible(page)
    await page.getByRole('button', { name: 'Let all go' }).click()
    await expect(happens).toBeHidden()
    await expect(page.getByText('All is as usual.')).toBeVisible()
})

test('a loop is walked on the map, step by step, beside its story', async ({ page }) => {
    await openDemo(page, 'Why the harbour silts up')
    await card(page)
        .getByRole('button', { name: /^Walk B6/ })
        .click()
    const walked = page.getByRole('region', { name: 'The loop that is walked' })
    await expect(walked).toContainText('Let us say that the quay is deeper.')
    await expect(walked).toContainText('5 links, one turns over')
    await expect(page.locator('.map-link.lit')).toHaveCount(5)
    await walked.getByRole('button', { name: 'One step on' }).click()
    await walked.getByRole('button', { name: 'One step on' }).click()
    await expect(walked.getByRole('status')).toHaveText('3 of 5')
    await expect(page.locator('.map-link.now')).toHaveAttribute('aria-label', 'trade acts turned over on money for dredging')
    await expect(walked).toContainText('the loop is balancing')
    await walked.getByRole('button', { name: 'R3', exact: true }).first().click()
    await expect(walked.getByRole('heading')).toContainText('R3')
    await walked.getByRole('button', { name: 'Leave this loop' }).click()
    await expect(page.locator('.map-link.lit')).toHaveCount(0)
    await expect(card(page)).toContainText('8 left open by')
})

test('the map is read and corrected as a list of sentences, by keyboard', async ({ page }) => {
    await openCopy(page, 'Why the harbour silts up')
    await page.getByRole('tab', { name: 'Sentences' }).click()
    await expect(page.getByRole('status').filter({ hasText: '38 links' })).toContainText('27 factors · 38 links · 27 agreed')
    const row = page.getByRole('button', { name: /^When there is more ferry wash/ })
    await expect(row).toContainText('there is less seagrass than there otherwise would be')
    await expect(row).toContainText('disputed')
    await row.focus()
    await page.keyboard.press('Enter')
    await page.getByRole('group', { name: 'Where people stand on it' }).getByRole('button', { name: 'agreed' }).press('Enter')
    await expect(row).toContainText('agreed')
    await page.getByLabel('Why: the mechanism').fill('The propeller digs up the roots.')
    await page.getByLabel('Grounds').focus()
    await expect(row).toContainText('Why: The propeller digs up the roots.')
    await page.getByRole('group', { name: 'How it acts' }).getByRole('button', { name: 'open' }).click()
    await expect(page.getByText('More or less ferry wash changes seagrass; which way is open.')).toBeVisible()
    await expectAccessible(page)
    await page.getByRole('textbox', { name: 'Only sentences with' }).fill('propeller')
    await expect(page.getByRole('region')).toContainText(['ferry wash'])
})

test('factors are merged, split, put into words, and become part of the model', async ({ page }) => {
    await openMap(page)
    await say(page, 'silt', '- depth')
    await say(page, 'mud', '- clear water')
    await expect(marks(page)).toHaveCount(2)
    await hull(page, 'silt').click()
    await card(page).getByText('The same as another?').click()
    await card(page).getByLabel('Which factor means the same').click()
    await page.getByRole('option', { name: 'mud' }).click()
    await card(page).getByRole('button', { name: 'Merge it into silt' }).click()
    await expect(mark(page, 'silt acts turned over on clear water')).toBeVisible()
    await expect(hull(page, 'mud')).toHaveCount(0)
    await card(page).getByText('More than one thing?').click()
    await card(page).getByLabel('What stands beside it').fill('dust')
    await card(page).getByText('silt → clear water goes over').click()
    await card(page).getByRole('button', { name: 'Split it' }).click()
    await expect(mark(page, 'dust acts turned over on clear water')).toBeVisible()
    await hull(page, 'depth').click()
    await card(page).getByText('How people speak of it').click()
    await card(page).getByLabel('There is less').fill('the quay is less deep')
    await page.keyboard.press('Tab')
    await press(page, 'silt acts turned over on depth')
    await expect(card(page)).toContainText('With more silt, the quay is less deep than otherwise.')
})

test('a map becomes stocks and flows one by one, is kept, and is compared with the formulas', async ({ page }) => {
    await openMap(page)
    await say(page, 'silt settling', '- depth')
    await say(page, 'dredging', 'depth')
    await say(page, 'depth', 'ships')
    await say(page, 'ships', 'dredging')
    await expect(marks(page)).toHaveCount(4)
    await card(page).getByRole('button', { name: 'Into stocks and flows' }).click()
    const forms = page.getByRole('region', { name: 'Into stocks and flows' })
    await expect(forms).toContainText('depth: a stock, which builds up and drains?')
    await expect(forms).toContainText('dredging fills or drains it: it builds up over time.')
    await forms.getByRole('button', { name: 'depth: a stock' }).click()
    await expect(forms).toContainText('1 of 4')
    await forms.getByRole('button', { name: 'dredging: a flow' }).click()
    // A proposal is refused: settling is told as a flow although nothing acts on it.
    await hull(page, 'silt settling').click()
    await expect(card(page)).toContainText('Nothing on the map acts on it: it is a given number.')
    await card(page).getByRole('button', { name: 'flow', exact: true }).click()
    await expect(forms).toContainText('3 of 4')
    await hull(page, 'ships').click()
    await card(page).getByRole('button', { name: 'auxiliary', exact: true }).click()
    await expect(forms).toContainText('All of the map is part of the model.')
    await expect(marks(page)).toHaveCount(4)
    // What is not computed yet plays all the same.
    await page.getByRole('toolbar').getByRole('button', { name: 'Push it up' }).click()
    await expect(page.getByRole('region', { name: 'What happens' })).toContainText('More dredging than usual, because of ships.')

    // The model starts with the ends and the signs of the map, and knows its way back.
    await card(page).getByRole('button', { name: 'Show it on its sheet' }).click()
    await expect(card(page).locator('.cm-content').first()).toHaveText('depth')
    await expect(card(page)).toContainText('On the map')
    await expect(card(page)).toContainText('depth → ships')
    await card(page).locator('.cm-content').first().click()
    await page.keyboard.press('Control+a')
    await page.keyboard.insertText('20 - depth')
    await page.keyboard.press('Enter')
    await page.keyboard.press('Escape')
    await page.keyboard.press('Escape')
    await page.getByRole('application').press('Escape')
    await expect(card(page)).toContainText('The map says that more depth makes more ships; the formula of ships makes it less.')
    await card(page).getByRole('button', { name: 'Change the map' }).click()
    await expect(card(page)).not.toContainText('The map says that more')
    await page.getByRole('link', { name: 'Map' }).click()
    await expect(mark(page, 'depth acts turned over on ships')).toBeVisible()
})

test('a common structure is put on the map under other names, and recognised there', async ({ page }) => {
    await openMap(page)
    await say(page, 'visitors', 'crowding at the ferry')
    await expect(marks(page)).toHaveCount(1)
    await page.getByRole('tab', { name: 'Structures' }).click()
    await page.getByRole('button', { name: 'Growth that meets a limit' }).click()
    const told = page.getByRole('article', { name: 'Growth that meets a limit' })
    await expect(told).toContainText('Now more of the same brings less and less.')
    await expect(told.getByRole('img', { name: /^Course of/ })).toHaveCount(3)
    await told.getByRole('combobox', { name: 'size' }).fill('visitors')
    await told.getByRole('combobox', { name: 'growth' }).fill('visitors')
    await expect(told.getByRole('alert')).toContainText('Two parts are called “visitors”.')
    await told.getByRole('combobox', { name: 'growth' }).fill('word of mouth')
    await told.getByRole('combobox', { name: 'crowding' }).fill('crowding at the ferry')
    await expectAccessible(page)
    await told.getByRole('button', { name: 'Put it on the map' }).click()
    await expect(marks(page)).toHaveCount(4)
    await expect(mark(page, 'crowding at the ferry acts turned over on word of mouth')).toBeVisible()
    await expect(card(page)).toContainText('3 selected')
    await page.getByRole('tab', { name: 'Structures' }).click()
    await expect(page.getByRole('button', { name: /^Growth that meets a limit/ })).toContainText('looks like this map in 1 place')
    await page.getByRole('button', { name: /^Growth that meets a limit/ }).click()
    await page.getByRole('button', { name: 'visitors, word of mouth, crowding at the ferry' }).click()
    await expect(card(page)).toContainText('3 selected')
    await page.keyboard.press('Control+z')
    await expect(marks(page)).toHaveCount(1)
})

test('a map leaves as a table, a graph and a drawing, and a table comes in as a map', async ({ page }) => {
    await page.goto('/')
    await page.getByLabel('Model file', { exact: true }).setInputFiles({
        name: 'beach.csv',
        mimeType: 'text/csv',
        buffer: Buffer.from('from,to,sign,late,mechanism\nwaves,sand,-,,They carry it off.\nsand,waves,-,yes,\n'),
    })
    await expect(mark(page, 'sand acts turned over on waves, late')).toBeVisible()
    await expect(card(page).getByRole('button', { name: /^Walk R1/ })).toBeVisible()
    for (const [item, ending] of [
        ['The map as a table (CSV)', 'csv'],
        ['The map as a graph (GraphML)', 'graphml'],
        ['The record in words (Markdown)', 'md'],
    ] as const) {
        const saved = page.waitForEvent('download')
        await page.getByRole('button', { name: 'Export the study' }).click()
        await page.getByRole('menuitem', { name: item }).click()
        expect((await saved).suggestedFilename()).toMatch(new RegExp(`\\.${ending}$`))
    }
    for (const [command, ending] of [
        ['Save the map as a drawing (SVG)', 'svg'],
        ['Save the map as a picture (PNG)', 'png'],
    ] as const) {
        const saved = page.waitForEvent('download')
        await expect(page.getByRole('menu')).toBeHidden()
        await page.locator('.map-stage').focus()
        await page.keyboard.press('Control+k')
        await page.getByRole('dialog').getByRole('combobox').fill(command)
        await page.keyboard.press('Enter')
        expect((await saved).suggestedFilename()).toMatch(new RegExp(`\\.${ending}$`))
    }
})

test('two windows on one map lose nothing, and what both say is there once', async ({ page, context }) => {
    await openMap(page)
    await say(page, 'rain', 'mud')
    await expect(marks(page)).toHaveCount(1)
    const other = await context.newPage()
    await other.goto(page.url())
    await expect(marks(other)).toHaveCount(1)
    // Both type at once, partly the same.
    await page.locator('.map-stage').focus()
    await other.locator('.map-stage').focus()
    await Promise.all([say(page, 'mud', '- fish'), say(other, 'mud', '- fish')])
    await Promise.all([say(page, 'fish', 'gulls'), say(other, 'gulls', '- fish')])
    for (const window of [page, other]) {
        await expect(marks(window)).toHaveCount(4, { timeout: 15_000 })
        await expect(window.locator('.vue-flow__node')).toHaveCount(4)
        await expect(card(window).getByRole('button', { name: /^Walk B1/ })).toBeVisible()
    }
})
