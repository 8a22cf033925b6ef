import { expect, type Page } from '@playwright/test'
import { card, expectAccessible, middle, newStudy, openCopy, openDemo, outlined, sheet, state, thing, track, writeFormula } from './sheet'
import { test } from './test'

async function drag(page: Page, from: { x: number; y: number }, by: { x: number; y: number }) {
    await page.mouse.move(from.x, from.y)
    await page.mouse.down()
    await page.mouse.move(from.x + by.x / 2, from.y + by.y / 2, { steps: 4 })
    await page.mouse.move(from.x + by.x, from.y + by.y, { steps: 4 })
    await page.mouse.up()
}

test('a dragged stock takes its flows along, and all stay where they were put', async ({ page }) => {
    await openCopy(page)
    const places = async () => ({
        stock: await middle(thing(page, 'fresh water')),
        gate: await middle(thing(page, 'wells')),
        aside: await middle(thing(page, 'islanders')),
    })
    const before = await places()
    await drag(page, { x: before.stock.x, y: before.stock.y + 15 }, { x: 30, y: 24 })
    await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeEnabled()
    const after = await places()
    expect(Math.abs(after.stock.x - before.stock.x - 30)).toBeLessThan(4)
    expect(Math.abs(after.gate.x - before.gate.x - 30)).toBeLessThan(4)
    expect(after.aside).toEqual(before.aside)
    await page.getByRole('button', { name: 'Undo', exact: true }).click()
    await expect.poll(async () => Math.abs((await places()).stock.x - before.stock.x)).toBeLessThan(2)
    await page.getByRole('button', { name: 'Redo', exact: true }).click()
    await expect.poll(async () => Math.abs((await places()).gate.x - after.gate.x)).toBeLessThan(2)
    // By keyboard too.
    await thing(page, 'islanders').click()
    await page.keyboard.press('Control+ArrowDown')
    await expect.poll(async () => (await places()).aside.y).toBeGreaterThan(before.aside.y + 5)
})

test('notes are Markdown with links to things, and never bring foreign code', async ({ page }) => {
    await openCopy(page)
    await outlined(page, 'boat load').click()
    await card(page).getByRole('button', { name: 'Write a note' }).click()
    await card(page)
        .getByLabel('Note of boat load')
        .fill(
            'Feeds **the** [[fresh water]].\n\n<img src=x onerror="document.title=\'owned\'"><script>document.title="owned"</script>[a](javascript:document.title=1)',
        )
    await card(page).getByLabel('Note of boat load').press('Control+Enter')
    await expect(card(page).locator('.text strong')).toHaveText('the')
    await expect(card(page).locator('.text script')).toHaveCount(0)
    await expect(card(page).locator('.text [onerror]')).toHaveCount(0)
    expect(await page.title()).toContain('Merry Orbit')
    await card(page).getByRole('link', { name: 'fresh water' }).click()
    await expect(card(page).locator('textarea[aria-label=Name]')).toHaveValue('fresh water')
})

test('tracks come and go, and the playhead moves the whole window', async ({ page }) => {
    await openCopy(page)
    await outlined(page, 'rain seeping in').click()
    await card(page).getByRole('button', { name: 'Show track' }).click()
    await expect(track(page, 'rain seeping in')).toBeVisible()
    await track(page, 'salt in the wells').hover()
    await page.getByRole('button', { name: 'Take the track of salt in the wells away' }).click()
    await expect(track(page, 'salt in the wells')).toHaveCount(0)
    await page.reload()
    await expect(track(page, 'rain seeping in')).toBeVisible()
    await expect(track(page, 'salt in the wells')).toHaveCount(0)

    const playhead = page.getByRole('slider', { name: 'Playhead' })
    await playhead.focus()
    await page.keyboard.press('Home')
    await expect(thing(page, 'fresh water')).toContainText('480 k m³')
    await page.keyboard.press('End')
    await expect(playhead).toHaveAttribute('aria-valuenow', '520')
    await expect(thing(page, 'fresh water')).not.toContainText('480 k m³')
    await page.keyboard.press('ArrowLeft')
    await expect(playhead).toHaveAttribute('aria-valuenow', '519')
    await page.keyboard.press('Home')
    await page.getByRole('button', { name: 'Play', exact: true }).click()
    await expect(playhead).not.toHaveAttribute('aria-valuenow', '0')
    await page.getByRole('button', { name: 'Pause', exact: true }).click()
})

test('the outline finds, adds and deletes', async ({ page }) => {
    await openCopy(page)
    await page.getByLabel('Filter by name').fill('drought')
    await expect(page.locator('.outline .thing')).toHaveCount(3)
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: 'Add a thing' }).click()
    await page.getByRole('menuitem', { name: 'New auxiliary' }).click()
    await expect(page.locator('.naming input')).toBeFocused()
    await page.keyboard.type('harbour depth')
    await page.keyboard.press('Enter')
    await page.keyboard.press('Escape')
    await expect(outlined(page, 'harbour depth')).toBeVisible()
    await outlined(page, 'harbour depth').press('Delete')
    await expect(outlined(page, 'harbour depth')).toHaveCount(0)
    await expect(state(page)).toContainText('up to date')
})

test('the same name is refused at the spot, and what was typed stays', async ({ page }) => {
    await newStudy(page)
    for (const name of ['lens', 'lens']) {
        await sheet(page).focus()
        await page.keyboard.type('p')
        await expect(page.locator('.naming input')).toBeFocused()
        await page.keyboard.type(name)
        await page.keyboard.press('Enter')
        await page.keyboard.press('Escape')
        await expect(page.locator('.naming')).toHaveCount(0)
    }
    await sheet(page).focus()
    await page.keyboard.press('F2')
    await page.locator('.naming input').fill('LENS')
    await page.locator('.naming input').press('Enter')
    await expect(page.locator('.naming [role=alert]')).toContainText('Names are unique')
    await expect(page.locator('.naming input')).toHaveValue('LENS')
    await page.keyboard.press('Escape')
    await expect(page.locator('.naming')).toHaveCount(0)
})

test('a parameter that is computed is turned into an auxiliary with one click', async ({ page }) => {
    await openCopy(page)
    await outlined(page, 'boat load').click()
    await writeFormula(page, 'islanders * 2')
    await card(page).locator('.cm-content').press('Enter')
    await expect(card(page)).toContainText('a plain number, but mentions islanders')
    await card(page).getByRole('button', { name: 'Make it an auxiliary' }).click()
    await expect(state(page)).toContainText('up to date')
    await expect(card(page).locator('.now strong')).toContainText('8.4 k')
})

test('the page is usable at 1024 pixels, remembers its theme, and has a list of keys', async ({ page }) => {
    await page.setViewportSize({ width: 1024, height: 700 })
    await openDemo(page)
    await expect(thing(page, 'fresh water')).toBeVisible()
    // The columns are drawers that begin closed.
    await expect(card(page)).toHaveCount(0)
    await page.getByRole('button', { name: 'Show the outline' }).click()
    await outlined(page, 'wells').click()
    await page.getByRole('button', { name: 'Card', exact: true }).click()
    await expect(card(page).locator('textarea[aria-label=Name]')).toHaveValue('wells')
    await page.getByRole('button', { name: 'Dark theme' }).click()
    await page.getByRole('button', { name: 'Keys and help' }).click()
    await expect(page.getByRole('dialog')).toContainText('add a stock')
    await expectAccessible(page)
    // A key is changed, and acts at once and after a reload; the one that had it takes the other.
    await page.getByRole('button', { name: 'Change the key for: add a stock. Now S' }).click()
    await page.keyboard.press('p')
    await expect(page.getByRole('dialog')).toContainText('P: add a stock. “add a parameter” takes S.')
    await page.keyboard.press('Escape')
    await expect(page.getByRole('dialog')).toHaveCount(0)
    await page.reload()
    await expect(page.locator('html')).toHaveAttribute('data-theme', 'dark')
    await sheet(page).dblclick({ position: { x: 40, y: 40 } })
    await expect(page.getByRole('menuitem', { name: 'Stock' }).locator('kbd')).toHaveText('P')
    await page.keyboard.press('Escape')
    await page.keyboard.press('Shift+?')
    await page.getByRole('button', { name: 'As usual' }).click()
    await expect(page.getByRole('button', { name: 'Change the key for: add a stock. Now S' })).toBeVisible()
    await page.goto('/studies/nothing/model')
    await expect(page.getByText('There is nothing at this address')).toBeVisible()
    await expect(page).toHaveURL('/')
})
