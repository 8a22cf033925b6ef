import { expect, type Browser, type Page } from '@playwright/test'
import { expectAccessible, openCopy, pick } from './sheet'
import { portOf, test } from './test'

async function phone(browser: Browser, address: string, worker: number): Promise<Page> {
    const context = await browser.newContext({ viewport: { width: 390, height: 844 }, baseURL: `http://127.0.0.1:${portOf(worker)}` })
    const page = await context.newPage()
    await page.goto(address)
    return page
}

test('people in the room name factors, vote and judge by their phones, as long as it is open', async ({ page, browser }, info) => {
    await openCopy(page, 'Why the harbour silts up')
    await page.getByRole('link', { name: 'Map' }).click()
    await page.getByRole('tab', { name: 'Room' }).click()
    await page.getByRole('button', { name: 'Factors', exact: true }).click()
    await page.getByRole('button', { name: 'Let phones in' }).click()
    await expect(page.getByAltText(/^A code that phones read/)).toBeVisible()
    await expectAccessible(page)
    const address = await page.locator('.poster .address').innerText()
    const [first, second] = await Promise.all([1, 2].map(() => phone(browser, `http://${address}`, info.parallelIndex)))
    if (!first || !second) {
        throw new Error('There are two phones.')
    }
    await expect(page.getByText('2 phones in the room')).toBeVisible()
    await page.getByRole('button', { name: 'Hide this' }).click()

    await first.getByLabel('A factor').fill('sand banks')
    await first.getByRole('button', { name: 'Put it on the wall' }).click()
    await expect(first.getByRole('list', { name: 'What you named' })).toContainText('sand banks')
    await expect(page.locator('.slips').getByText('sand banks')).toBeVisible({ timeout: 2000 })
    await second.getByLabel('A factor').fill('Sand banks')
    await second.getByRole('button', { name: 'Put it on the wall' }).click()
    await expect(second.getByText('“Sand banks” is there already.')).toBeVisible()
    await expectAccessible(first)

    await page.getByRole('button', { name: 'Pairs and votes', exact: true }).click()
    await pick(first.getByLabel('One', { exact: true }), 'sand banks')
    await pick(first.getByLabel('The other', { exact: true }), 'wells')
    await first.getByRole('button', { name: 'Vote for it' }).click()
    await expect(first.getByText('You voted for 1.')).toBeVisible()
    await second.getByRole('button', { name: 'sand banks – wells' }).click()
    await expect(second.getByRole('button', { name: 'sand banks – wells' })).toHaveAttribute('aria-pressed', 'true')
    await expect(page.locator('.step-body')).toContainText('sand banks')
    await expectAccessible(second)

    await page.getByRole('button', { name: 'Links', exact: true }).click()
    await first.getByRole('button', { name: 'I agree' }).click()
    await second.getByRole('button', { name: 'I do not agree' }).click()
    await expect(page.getByText('From the phones: 1 agree, 1 disagree')).toBeVisible()
    await second.getByRole('button', { name: 'I agree' }).click()
    await expect(page.getByText('From the phones: 2 agree, 0 disagree')).toBeVisible()
    await expectAccessible(first)

    await page.getByRole('button', { name: 'Phones: 2' }).click()
    await page.getByRole('button', { name: 'Let nobody in any more' }).click()
    await expect(first.getByRole('alert')).toContainText('No workshop is open')
    // What was said stays.
    await page.getByRole('button', { name: 'Factors', exact: true }).click()
    await expect(page.locator('.slips').getByText('sand banks')).toBeVisible()
})
