import { expect } from '@playwright/test'
import { card, openDemo, outlined, sheet, thing } from './sheet'
import { test } from './test'

test('back, forward, reload and an address that is passed on lead to what was looked at', async ({ page, context }) => {
    await openDemo(page, 'Kelp and urchins')
    await expect(page).toHaveURL(/\/model\/sheet\?sheet=.+&at=\d+$/)
    await expect(page.getByRole('button', { name: 'Back to where you were' })).toBeDisabled()
    await outlined(page, 'kelp').click()
    await expect(page).toHaveURL(/thing=/)
    await page.getByRole('link', { name: 'Try' }).click()
    await expect(page).toHaveURL(/\/try\/plot\?.*thing=.+&plot=/)
    await page.getByRole('tab', { name: 'Trail' }).click()
    await expect(page.getByRole('region', { name: 'Trail' })).toContainText('kelp')

    // The moment, where the playhead rests.
    const playhead = page.getByRole('slider', { name: 'Playhead' })
    await playhead.focus()
    await page.keyboard.press('Home')
    await page.keyboard.press('ArrowRight')
    const moment = await playhead.getAttribute('aria-valuenow')
    await expect(page).toHaveURL(new RegExp(`at=${moment}$`))

    // Passed on, the address shows the same in another window.
    const trail = page.url()
    const other = await context.newPage()
    await other.goto(trail)
    await expect(other.getByRole('tab', { name: 'Trail' })).toHaveAttribute('aria-selected', 'true')
    await expect(other.getByRole('slider', { name: 'Playhead' })).toHaveAttribute('aria-valuenow', moment ?? '')
    await expect(card(other).getByRole('region', { name: 'Card of kelp', exact: true })).toBeVisible()
    await other.close()

    // The browser's way back is the page's.
    await page.goBack()
    await expect(page.getByRole('tab', { name: 'Plots' })).toHaveAttribute('aria-selected', 'true')
    await page.getByRole('button', { name: 'Back to where you were' }).click()
    await expect(sheet(page)).toBeVisible()
    await expect(card(page).getByRole('region', { name: 'Card of kelp', exact: true })).toBeVisible()
    await expect(page.getByRole('button', { name: 'Back to where you were' })).toBeDisabled()
    await page.goForward()
    await page.getByRole('button', { name: 'Forward again' }).click()
    await expect(page).toHaveURL(trail)
    await page.reload()
    await expect(page.getByRole('tab', { name: 'Trail' })).toHaveAttribute('aria-selected', 'true')
    await expect(page.getByRole('button', { name: 'Back to where you were' })).toBeEnabled()

    // History and atlas have addresses, too; a place alone is as it was left.
    await page.getByTitle('History: what was done, old versions').click()
    await expect(page).toHaveURL(/\/model\/history/)
    await page.getByTitle('History: what was done, old versions').click()
    await expect(page).toHaveURL(trail)
    await page.goto(trail.replace(/\/try\/.*/, '/nowhere'))
    await expect(thing(page, 'kelp')).toBeVisible()
    await expect(page).toHaveURL(/\/model\/sheet/)
    await page.goBack()
    await page.getByRole('link', { name: 'All studies' }).click()
    await expect(page).toHaveURL(/\/$/)
})
