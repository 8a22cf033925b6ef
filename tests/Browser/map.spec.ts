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
    await expect(page.getByRole('status').filter({ hasText: '38 links' })).toContainText('23 factors · 38 links · 27 agreed')
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
