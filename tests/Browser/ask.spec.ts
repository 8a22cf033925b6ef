import { expect, type Page } from '@playwright/test'
import { card, expectAccessible, newStudy, openDemo, state, track } from './sheet'
import { test } from './test'

const column = (page: Page, name: string) => page.getByRole('list', { name, exact: true })

async function openAsk(page: Page): Promise<void> {
    await page.getByRole('link', { name: 'Ask' }).click()
    await expect(page.getByRole('region', { name: 'Boundary' })).toBeVisible()
}

async function change(page: Page, label: string, to: string): Promise<void> {
    await page.getByLabel(label, { exact: true }).fill(to)
    await page.keyboard.press('Enter')
}

test('a study asks its question, draws its boundary, and lays what is feared over the run', async ({ page }) => {
    await newStudy(page)
    await openAsk(page)
    await expect(state(page)).toContainText('no question yet')
    await change(page, 'The question', 'Why does the pond dry out?')
    await expect(state(page)).toContainText('up to date')
    await change(page, 'What is followed', 'pond')
    await change(page, 'Unit', 'm^3')
    await change(page, 'To', '20')
    await change(page, 'Unit of time', 'week')

    // What is inside, given, left out; things cross the arcs by keyboard.
    await page.getByLabel('Add to “Inside”').fill('pond')
    await page.keyboard.press('Enter')
    await page.getByLabel('Add to “Inside”').fill('rain')
    await page.keyboard.press('Enter')
    await expect(column(page, 'Inside').getByRole('textbox', { name: 'Name' })).toHaveCount(2)
    await page.getByRole('button', { name: 'rain: to “Given from outside”' }).focus()
    await page.keyboard.press('Enter')
    await expect(column(page, 'Given from outside').getByRole('textbox', { name: 'Name' })).toHaveValue('rain')
    await page.getByRole('button', { name: 'rain: to “Left out”' }).press('Enter')
    await page.getByLabel('Why rain stands there').fill('it never rains')
    await page.keyboard.press('Tab')
    await expect(column(page, 'Left out').getByRole('textbox', { name: 'Name' })).toHaveValue('rain')
    await expectAccessible(page)

    // A course is drawn by hand, and another typed.
    const plot = page.getByRole('img', { name: /^Plot of the reference mode/ })
    const box = await plot.boundingBox()
    expect(box).not.toBeNull()
    const at = (x: number, y: number) => ({ x: (box?.x ?? 0) + (box?.width ?? 0) * x, y: (box?.y ?? 0) + (box?.height ?? 0) * y })
    await page.getByRole('button', { name: 'feared', exact: true }).click()
    await page.mouse.move(at(0.01, 0.2).x, at(0.01, 0.2).y)
    await page.mouse.down()
    for (const [x, y] of [
        [0.3, 0.3],
        [0.6, 0.7],
        [0.88, 0.9],
    ] as const) {
        await page.mouse.move(at(x, y).x, at(x, y).y, { steps: 5 })
    }
    await page.mouse.up()
    await expect(page.getByText('Runs are laid over these in Model and Try.')).toBeVisible()
    await page.getByLabel('In words').fill('only mud is left')
    await page.keyboard.press('Tab')
    await page.getByRole('button', { name: 'seen', exact: true }).click()
    await page.getByRole('button', { name: 'type points' }).click()
    await page.getByLabel('Times and values').fill('0 8\nfive 6')
    await page.getByRole('button', { name: 'Put them in' }).click()
    await expect(page.getByText('“five 6” is no time and value')).toBeVisible()
    await page.getByLabel('Times and values').fill('0 8\n5 6')
    await page.getByRole('button', { name: 'Put them in' }).click()
    await expect(page.locator('.drawing .seen')).toHaveCount(2)

    // What is followed becomes a stock; its run lies under what is feared.
    await page.getByRole('button', { name: 'Show pond on the map' }).click({ force: true })
    await card(page).getByRole('button', { name: 'stock', exact: true }).click()
    await card(page).getByRole('button', { name: 'Show it on its sheet' }).click()
    await card(page).locator('.cm-content').first().click()
    await page.keyboard.type('9')
    await page.keyboard.press('Enter')
    await expect(state(page)).toContainText('up to date')
    await expect(track(page, 'pond')).toContainText('feared')
    await expect(track(page, 'pond')).toContainText('seen')
    await page.reload()
    await openAsk(page)
    await expect(page.getByLabel('The question')).toHaveValue('Why does the pond dry out?')
    await expect(page.getByText('only mud is left')).toBeVisible()
})

test('the demo asks its question, and each part of the boundary leads to its thing', async ({ page }) => {
    await openDemo(page, 'Why the harbour silts up')
    await openAsk(page)
    await expect(page.getByLabel('The question')).toHaveValue('Why does the harbour silt up faster than we dredge it?')
    await expect(page.getByText('17 more in the map or model.')).toBeVisible()
    await expectAccessible(page)
    await page.getByRole('button', { name: 'Show seagrass on the map' }).click({ force: true })
    await expect(card(page).getByRole('heading', { name: 'seagrass' })).toBeVisible()
})
