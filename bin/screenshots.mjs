// Takes the pictures in docs/screenshots from the fresh demo studies of a running application: node bin/screenshots.mjs [ADDRESS [NAME …]]
import { chromium } from '@playwright/test'

const address = process.argv[2] ?? 'http://127.0.0.1:8000'
const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
})

const chosen = process.argv.slice(3)

async function shoot(name, scheme, act) {
    if (chosen.length && !chosen.includes(name)) {
        return
    }
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

async function openMap(page) {
    await open(page, 'Why the harbour silts up')
    await page.getByRole('button', { name: /^Walk R1/ }).waitFor()
}

async function pick(list, words) {
    await list.click()
    await list.page().getByRole('option', { name: words, exact: true }).last().click()
}

await shoot('home', 'light', (page) => page.getByRole('article').first().locator('path').first().waitFor())
await shoot('model', 'light', async (page) => {
    await open(page, 'Fresh water')
    await page.locator('.vue-flow__node[data-id=fresh-water]').click()
})
await shoot('terraces', 'light', async (page) => {
    await open(page, 'Oyster terraces')
    await pick(page.getByLabel('Look along terrace'), 'all terraces')
    await page.locator('.vue-flow__node[data-id=arriving]').click()
})
await shoot('dark', 'dark', async (page) => {
    await open(page, 'Kelp and urchins')
    await page.locator('.vue-flow__node[data-id=grazing]').click()
})
async function policies(page) {
    await open(page, 'Ferry season')
    await page.getByRole('link', { name: 'Try' }).click()
    await page.getByRole('tab', { name: 'Scenarios' }).click()
    await page.getByRole('button', { name: 'Run all' }).click()
    await page.locator('.bar [role="status"]', { hasText: 'done' }).waitFor()
}
await shoot('people', 'light', async (page) => {
    await open(page, 'Ferry season')
    await page.getByRole('link', { name: 'Tell' }).click()
    for (const [address, may] of [
        ['ilse@quillhaven.example', 'change it'],
        ['tomas@quillhaven.example', 'read it and comment'],
    ]) {
        await page.getByLabel('Their address').fill(address)
        await pick(page.getByLabel('What they may do', { exact: true }), may)
        await page.getByRole('button', { name: 'Share it' }).click()
        await page.getByText(`${address} can open it`).waitFor()
    }
})
await shoot('page', 'light', async (page) => {
    await open(page, 'Ferry season')
    await page.getByRole('link', { name: 'Tell' }).click()
    await page.getByRole('tab', { name: 'Page for readers' }).click()
    await page.getByRole('button', { name: 'Links', exact: true }).click()
    await page.getByRole('button', { name: 'Make a link' }).click()
    await page.goto(await page.locator('.address').innerText())
    await page.getByRole('button', { name: 'A second boat, and then?', exact: true }).click()
    await page.getByRole('switch', { name: 'A second boat' }).click()
    await page.getByText('the author’s 4,800').waitFor()
})
await shoot('report', 'light', async (page) => {
    await open(page, 'Why the harbour silts up')
    await page.getByRole('link', { name: 'Tell' }).click()
    await page.getByRole('tab', { name: 'Report' }).click()
    await page.frameLocator('iframe').locator('figure').nth(1).scrollIntoViewIfNeeded()
})
await shoot('data', 'light', async (page) => {
    await open(page, 'Kelp and urchins')
    await page.getByRole('link', { name: 'Data' }).click()
    await page.getByRole('button', { name: /^dive counts.csv/ }).click()
    await page.getByText('1 cell cannot be read').click()
})
await shoot('areas', 'light', async (page) => {
    await open(page, 'Oyster terraces')
    await page.getByRole('link', { name: 'Data' }).click()
    await page.getByRole('button', { name: /^coves.geojson/ }).click()
    await pick(page.getByRole('combobox', { name: 'Coloured by' }), 'landed (thousand/year)')
    await pick(page.getByRole('combobox', { name: 'Beside which run' }), 'measured')
    await page.getByRole('button', { name: /^Gull Cove, outer bay/ }).first().click()
})
await shoot('try', 'light', async (page) => {
    await policies(page)
    await page.getByRole('tab', { name: 'Plots' }).click()
    await pick(page.getByRole('combobox', { name: 'Which plot' }), 'visitors')
    await page.getByRole('button', { name: 'How it is shown', exact: true }).click()
    await pick(page.getByRole('combobox', { name: 'Show', exact: true }), 'Difference from the baseline')
    await page.keyboard.press('Escape')
})
await shoot('ask', 'light', async (page) => {
    await openMap(page)
    await page.getByRole('link', { name: 'Ask' }).click()
})
await shoot('map', 'light', async (page) => {
    await openMap(page)
    await page.keyboard.type('seagrass')
    await page.keyboard.press('Enter')
    await page.keyboard.type('less dep')
    await page.getByText('When there is more seagrass').waitFor()
})
await shoot('played', 'dark', async (page) => {
    await openMap(page)
    await page.locator('.vue-flow__node[data-id=sheep-on-the-hills]').click()
    await page.getByRole('toolbar').getByRole('button', { name: 'Push it up' }).click()
    await page.waitForTimeout(4000)
})
await shoot('room', 'light', async (page) => {
    await page.setViewportSize({ width: 1920, height: 1080 })
    await openMap(page)
    await page.getByRole('tab', { name: 'Room' }).click()
    await page.getByRole('button', { name: 'Links', exact: true }).click()
    for (let i = 0; i < 10; i++) {
        await page.keyboard.press('Enter')
    }
})
await shoot('members', 'light', async (page) => {
    await open(page, 'New boats for old')
    await page.getByRole('link', { name: 'Members' }).click()
    await page.getByRole('img', { name: /of each boat/ }).waitFor()
    await page.getByRole('complementary').getByRole('row').nth(9).getByRole('button').click()
})
await shoot('spread', 'light', async (page) => {
    await open(page, 'Kelp and urchins')
    await page.getByRole('link', { name: 'Try' }).click()
    await page.getByRole('tab', { name: 'Spread' }).click()
    await page.getByRole('button', { name: /^Run 1,000/ }).click()
    await page.getByText('1,000 of 1,000 runs').waitFor({ timeout: 60000 })
    await page.getByRole('textbox', { name: 'How many runs have more than' }).fill('60')
    await page.keyboard.press('Enter')
    await page.waitForTimeout(1200)
    await page.locator('h2').first().click()
})
await shoot('expectations', 'light', async (page) => {
    await open(page, 'Kelp and urchins')
    await page.getByRole('link', { name: 'Try' }).click()
    await page.getByRole('tab', { name: 'Expectations' }).click()
    await page.getByText('4 hold').waitFor()
    await page.getByRole('button', { name: 'New expectation' }).click()
    const form = page.getByRole('form', { name: 'New expectation' })
    await form.getByRole('textbox', { name: 'Of what' }).fill('urchins')
    await form.getByRole('combobox', { name: 'Add a condition' }).fill('hunting skill')
    await page.keyboard.press('Enter')
    await pick(form.getByRole('combobox', { name: 'Shape' }), 'is never less than without the condition')
    await form.locator('.live b').waitFor()
    await page.waitForTimeout(700)
})
await shoot('ledgers', 'light', async (page) => {
    await open(page, 'The harbour books')
    await page.getByRole('link', { name: 'Ledgers' }).click()
    await page.getByRole('tab', { name: 'credit union' }).click()
    await page.waitForTimeout(1500)
})
await shoot('fit', 'light', async (page) => {
    await open(page, 'Kelp and urchins')
    await page.getByRole('link', { name: 'Fit', exact: true }).click()
    await page.getByRole('button', { name: 'Start', exact: true }).click()
    await page.getByText('runs made; off by').waitFor({ timeout: 60000 })
    await page.waitForTimeout(800)
})
await browser.close()
