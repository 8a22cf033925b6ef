import { expect, type Page } from '@playwright/test'
import { expectAccessible, openCopy } from './sheet'
import { test } from './test'

const order = (page: Page) => page.locator('.preview [data-block]').evaluateAll((all) => all.map((e) => (e as HTMLElement).dataset.block))

async function openPage(page: Page, study: string) {
    await openCopy(page, study)
    await page.getByRole('link', { name: 'Tell' }).click()
    await page.getByRole('tab', { name: 'Page for readers' }).click()
}

test('blocks of a page are dragged where they stand, made narrower, and moved by keys', async ({ page }) => {
    await openPage(page, 'The harbour books')
    await expect(page.getByRole('heading', { name: 'Nobody pushes' })).toBeVisible()
    await expect.poll(() => order(page)).toEqual(['says', 'boats', 'wage'])
    await page.locator('[data-block=boats]').hover()
    const grip = await page.getByRole('button', { name: 'Move block 2' }).boundingBox()
    const wage = await page.locator('[data-block=wage]').boundingBox()
    if (!grip || !wage) {
        throw new Error('Both are there.')
    }
    await page.mouse.move(grip.x + 8, grip.y + 8)
    await page.mouse.down()
    await page.mouse.move(grip.x + 80, grip.y + 40, { steps: 6 })
    await page.mouse.move(wage.x + wage.width * 0.85, wage.y + 60, { steps: 12 })
    await page.mouse.up()
    await expect.poll(() => order(page)).toEqual(['says', 'wage', 'boats'])
    await page.getByRole('button', { name: 'Move block 3' }).press('ArrowUp')
    await expect.poll(() => order(page)).toEqual(['says', 'boats', 'wage'])
    // Its edge is pulled: half of twelve columns become three.
    const block = page.locator('[data-block=boats]')
    await block.hover()
    const box = await block.boundingBox()
    if (!box) {
        throw new Error('It is there.')
    }
    await page.mouse.move(box.x + box.width + 8, box.y + 60)
    await page.mouse.down()
    await page.mouse.move(box.x + box.width * 0.4, box.y + 60, { steps: 8 })
    await page.mouse.up()
    await expect.poll(() => block.evaluate((e) => e.style.getPropertyValue('--width'))).toBe('3')
    await expectAccessible(page)
})

test('a page shows the causal map and its loops, and readers look at how likely a value is', async ({ page }) => {
    await openPage(page, 'Why the harbour silts up')
    await page.getByRole('button', { name: 'Make a page' }).click()
    await page.getByRole('button', { name: 'Blocks', exact: true }).click()
    await page.getByRole('button', { name: 'The causal map' }).click()
    await expect(page.getByAltText(/^A causal map with 38 links/)).toBeVisible()
    await page.getByRole('button', { name: 'Loops' }).click()
    await expect(
        page
            .locator('.standing')
            .getByText(/^a loop that/)
            .first(),
    ).toBeVisible()
    await expectAccessible(page)

    await page.goto('/')
    await openPage(page, 'Ferry season')
    await page.getByRole('button', { name: '3: What the water allows' }).click()
    await page.getByRole('button', { name: 'How likely is it?' }).click()
    await expect(page.getByText('As likely above 2.9 as below')).toBeVisible()
    await expectAccessible(page)
})
