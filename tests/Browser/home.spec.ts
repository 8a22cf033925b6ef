import { readFileSync } from 'node:fs'
import { expect } from '@playwright/test'
import { expectAccessible, outlined, state } from './sheet'
import { test } from './test'

test('the home page lists the demo studies, each with a live plot', async ({ page }) => {
    await page.goto('/')
    const water = page.getByRole('article').filter({ has: page.getByRole('heading', { name: 'Fresh water', exact: true }) })
    // Small plots are asked for as they come into view.
    await water.scrollIntoViewIfNeeded()
    await expect(water.locator('a > svg path')).toHaveCount(2)
    await expect(water).toContainText('27 things · 0–520 week')
    await expect(page.getByRole('link', { name: 'Open Kelp and urchins', exact: true })).toBeVisible()
    await expectAccessible(page)
    await page.getByRole('button', { name: 'Dark theme' }).click()
    await expectAccessible(page)
})

test('a study is duplicated, deleted, and brought back with one click', async ({ page }) => {
    await page.goto('/')
    await page.getByRole('button', { name: 'More about Kelp and urchins', exact: true }).click()
    await page.getByRole('menuitem', { name: 'Duplicate' }).click()
    const copy = page.getByRole('heading', { name: 'Kelp and urchins 2' })
    await expect(copy).toBeVisible()
    // The first menu fades out before the second one opens.
    await expect(page.getByRole('menu')).toHaveCount(0)
    await page.getByRole('button', { name: 'More about Kelp and urchins 2' }).click()
    await page.getByRole('menuitem', { name: 'Delete' }).click()
    await expect(copy).toBeHidden()
    await page.getByRole('button', { name: 'Undo' }).click()
    await expect(copy).toBeVisible()
})

test('a change without the page’s own token is not followed', async ({ page }) => {
    await page.goto('/')
    expect((await page.request.post('/api/studies', { data: { name: 'Forged' } })).status()).toBe(419)
    expect((await page.request.get('/api/studies', { headers: { Host: 'evil.example' } })).status()).toBe(421)
})

test('a study leaves as a file and comes back from it; what is no model gets a sentence', async ({ page }) => {
    await page.goto('/')
    await page.getByRole('button', { name: 'More about Fresh water', exact: true }).click()
    const [download] = await Promise.all([
        page.waitForEvent('download'),
        page.getByRole('menuitem', { name: 'Export as a model file' }).click(),
    ])
    expect(download.suggestedFilename()).toBe('fresh-water.json')
    const file = await download.path()
    expect(readFileSync(file, 'utf8')).toBe(readFileSync('demo/fresh-water.json', 'utf8'))

    await page
        .getByLabel('Model file', { exact: true })
        .setInputFiles({ name: 'notes.txt', mimeType: 'text/plain', buffer: Buffer.from('hello') })
    await expect(page.getByText('This is not a Merry Orbit model')).toBeVisible()

    await page.getByLabel('Model file', { exact: true }).setInputFiles({
        name: 'tide.json',
        mimeType: 'application/json',
        buffer: Buffer.from(
            '{"format":"merry-orbit model","version":1,"name":"Tide","colour":"blue","elements":[{"kind":"stock","name":"basin","formula":"3"}]}',
        ),
    })
    await expect(page.getByText('Everything came over but for this')).toBeVisible()
    await expect(page.getByText('"colour" means nothing in this format')).toBeVisible()
    await page.getByRole('button', { name: 'Open the study' }).click()
    await expect(outlined(page, 'basin')).toBeVisible()
    await expect(state(page)).toContainText('up to date')
})

test('of many studies the first are drawn as they come into view, and one is found by its name', async ({ page }) => {
    const { data } = (await (await page.request.get('/api/studies')).json()) as { data: { id: string; name: string }[] }
    const many = Array.from({ length: 90 }, (_, i) => ({
        ...data[i % data.length],
        id: `${data[i % data.length]?.id}`,
        name: `Season ${i}`,
    }))
    // Cards have keys of their own.
    many.forEach((study, i) => (study.id = i < data.length ? study.id : `none${i}`))
    await page.route('**/api/studies', (route) => route.fulfill({ json: { data: many } }))
    let asked = 0
    page.on('request', (request) => (asked += request.url().includes('/thumbnail') ? 1 : 0))
    await page.goto('/')
    await expect(page.getByRole('link', { name: 'Open Season 0', exact: true })).toBeVisible()
    await expect(page.locator('article.study')).toHaveCount(90)
    expect(asked).toBeLessThan(30)
    await page.getByLabel('Find a study by its name').fill('season 8')
    await expect(page.locator('article.study')).toHaveCount(18)
    await page.getByLabel('Find a study by its name').fill('autumn')
    await expect(page.getByText('No study is called like “autumn”.')).toBeVisible()
})

test('whoever comes through a proxy is told that nobody is signed in there', async ({ browser, baseURL }) => {
    const context = await browser.newContext({ baseURL, extraHTTPHeaders: { 'X-Forwarded-For': '192.0.2.7' } })
    const page = await context.newPage()
    await page.goto('/')
    await expect(page.getByRole('alert')).toContainText('You are not signed in.')
    await expect(page.getByRole('button', { name: 'New study' })).toHaveCount(0)
    await context.close()
})
