import { expect } from '@playwright/test'
import { card, expectAccessible, openCopy, openDemo, outlined, sheet, state, thing } from './sheet'
import { test } from './test'

test('the feedback loops are found, told step by step, and shown on the sheet', async ({ page }) => {
    await openDemo(page, 'Kelp and urchins')
    const toggle = card(page).getByRole('button', { name: 'Feedback loops' })
    await toggle.click()
    const loops = card(page).getByRole('list', { name: 'Feedback loops' })
    await expect(loops.getByRole('button')).toHaveCount(9)
    await loops.getByRole('button', { name: 'B3 balancing' }).click()
    await expect(
        loops
            .getByRole('listitem')
            .filter({ hasText: /^Begin with more/ })
            .first(),
    ).toBeVisible()
    await expect(loops).toContainText('This works against what began it: the loop is balancing.')
    await expectAccessible(page)
    await card(page).getByLabel('Only those that make up all others').check()
    await expect(loops.getByRole('button', { name: /^[RBU]\d/ })).not.toHaveCount(0)
    await card(page).getByLabel('Only those that make up all others').uncheck()
    await expect(loops.getByRole('button', { name: /^[RBU]\d/ })).toHaveCount(9)
    await loops.getByRole('button', { name: 'Select it on the sheet' }).click()
    await expect(card(page)).toContainText('2 selected')
    await expect(thing(page, 'urchins')).toBeInViewport()
    await expect(thing(page, 'old age')).toBeInViewport()
})

test('the list of loops follows the model', async ({ page }) => {
    await openCopy(page, 'Fresh water')
    await card(page).getByRole('button', { name: 'Feedback loops' }).click()
    const loops = card(page).getByRole('list', { name: 'Feedback loops' })
    await expect(loops.getByRole('button')).toHaveCount(2)
    // A well that pumps the same whatever there is closes no loop.
    await outlined(page, 'wells').click()
    await card(page).locator('.cm-content').first().click()
    await page.keyboard.press('Control+A')
    await page.keyboard.type('40')
    await page.keyboard.press('Enter')
    await expect(state(page)).toContainText('up to date')
    await page.keyboard.press('Escape')
    await page.keyboard.press('Escape')
    await sheet(page).press('Escape')
    await expect(loops.getByRole('button')).toHaveCount(1)
    await page.keyboard.press('Control+z')
    await expect(loops.getByRole('button')).toHaveCount(2)
})
