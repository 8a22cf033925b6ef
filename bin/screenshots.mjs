// Takes the pictures in docs/screenshots from the demo studies of a running application: node bin/screenshots.mjs [ADDRESS]
import { chromium } from '@playwright/test'

const address = process.argv[2] ?? 'http://127.0.0.1:8000'
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'] })

async function shoot(name, scheme, act) {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, colorScheme: scheme, baseURL: address })
    await page.goto('/')
    await act(page)
    await page.waitForTimeout(800)
    await page.screenshot({ path: `docs/screenshots/${name}.png` })
    await page.close()
}

async function open(page, study) {
    await page.getByRole('link', { name: `Open ${study}`, exact: true }).click()
    await page.locator('header .state', { hasText: 'up to date' }).waitFor()
}

await shoot('home', 'light', (page) => page.getByRole('article').first().locator('path').first().waitFor())
await shoot('model', 'light', async (page) => {
    await open(page, 'Fresh water')
    await page.locator('.vue-flow__node[data-id=fresh-water]').click()
})
await shoot('dial', 'light', async (page) => {
    await open(page, 'Kelp and urchins')
    await page.locator('.vue-flow__node[data-id=bite]').click()
    const box = await page.locator('.p-slider-handle').boundingBox()
    await page.mouse.move(box.x + 9, box.y + 9)
    await page.mouse.down()
    await page.mouse.move(box.x + 90, box.y + 9, { steps: 8 })
})
await shoot('dark', 'dark', async (page) => {
    await open(page, 'Kelp and urchins')
    await page.locator('.vue-flow__node[data-id=grazing]').click()
})
await shoot('check', 'light', async (page) => {
    await open(page, 'Fresh water')
    await page.getByRole('button', { name: 'Check the step' }).click()
    await page.getByRole('status').filter({ hasText: 'step' }).scrollIntoViewIfNeeded()
})
await shoot('missing', 'light', async (page) => {
    await open(page, 'Fresh water')
    await page.locator('.vue-flow__node[data-id=rainfall]').click()
    await page.keyboard.press('Delete')
    await page.getByText('1 thing missing').first().waitFor()
    await page.getByRole('button', { name: 'Dismiss' }).click()
    await page.locator('.outline .thing', { hasText: 'rain seeping in' }).click()
})
await browser.close()
