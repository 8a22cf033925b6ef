import { readFileSync } from 'node:fs'
import { expect } from '@playwright/test'
import { expectAccessible, openCopy, state } from './sheet'
import { test } from './test'

test('a report is made in one act, cut to what is wanted, and made anew when the model has changed', async ({ page }) => {
    await openCopy(page, 'Kelp and urchins')
    await page.getByRole('link', { name: 'Tell' }).click()
    await page.getByRole('tab', { name: 'Report' }).click()
    const report = page.frameLocator('iframe')
    await expect(report.getByRole('heading', { name: 'What was tested' })).toBeVisible()
    await expect(report.getByRole('figure').first()).toBeVisible()
    await expect(report.getByRole('heading', { name: 'hunting skill', exact: true })).toBeVisible()
    await expectAccessible(page)
    // Sections off, own words, another order.
    await page.getByRole('checkbox', { name: /^All variables/ }).click()
    await expect(report.getByRole('heading', { name: 'hunting skill', exact: true })).toHaveCount(0)
    await page.getByLabel('Own words before: What happens').fill('The reef **swings**.')
    await page.getByLabel('Own words before: What happens').blur()
    await expect(report.getByText('The reef swings.')).toBeVisible()
    await page.getByRole('button', { name: 'What happens: earlier' }).click()
    await expect(report.locator('nav li').nth(1)).toHaveText('What happens')
    await page.getByRole('button', { name: 'Letter' }).click()
    await expect(report.getByRole('heading', { name: 'What happens' })).toBeVisible()
    // Nothing is cut where a page ends, and what is printed is as wide as the paper.
    await page.emulateMedia({ media: 'print' })
    await expect(report.locator('figure').first()).toHaveCSS('break-inside', 'avoid')
    await page.emulateMedia({ media: 'screen' })

    const [html] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'HTML' }).click()])
    expect(html.suggestedFilename()).toMatch(/^Kelp and urchins.*\.html$/)
    const alone = await page.context().newPage()
    await alone.setContent(readFileSync(await html.path(), 'utf8'))
    await expectAccessible(alone)
    // Nothing is wider than the paper: the browser would make all of it smaller.
    expect(await alone.evaluate(() => document.documentElement.scrollWidth <= document.documentElement.clientWidth)).toBe(true)
    await alone.close()
    const [zip] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Markdown' }).click()])
    expect(zip.suggestedFilename()).toMatch(/\.zip$/)

    await page.getByRole('link', { name: 'Model' }).click()
    await page.locator('.vue-flow__node').first().waitFor()
    await page.keyboard.press('Control+z')
    await expect(state(page)).toHaveText(/up to date/)
    await page.getByRole('link', { name: 'Tell' }).click()
    await page.getByRole('tab', { name: 'Report' }).click()
    await expect(report.getByRole('heading', { name: 'What was tested' })).toBeVisible()
})
