import { expect } from '@playwright/test'
import {
    card,
    expectAccessible,
    links,
    middle,
    nameAndSay,
    newStudy,
    outlined,
    pull,
    say,
    sheet,
    state,
    thing,
    track,
    writeFormula,
} from './sheet'
import { test } from './test'

test('a model is built with the pointer, from an empty sheet to plots that appear by themselves', async ({ page }) => {
    await newStudy(page)
    await expect(state(page)).toContainText('empty sheet')
    await expectAccessible(page)
    const box = await sheet(page).boundingBox()
    const spot = (x: number, y: number) => ({ x: (box?.x ?? 0) + x, y: (box?.y ?? 0) + y })

    await page.mouse.dblclick(spot(330, 260).x, spot(330, 260).y)
    await page.getByRole('menuitem', { name: 'Stock' }).click()
    await nameAndSay(page, 'oysters', '100')
    await expect(state(page)).toContainText('up to date')

    // An inflow from outside, dragged out of the ring.
    await thing(page, 'oysters').click()
    await pull(page, 'Pull an inflow', spot(90, 260))
    await expect(state(page)).toContainText('1 thing missing')
    await nameAndSay(page, 'seeding', 'oysters * seed rate')
    await expect(card(page)).toContainText('Nothing is called seed rate')
    await expect(thing(page, 'oysters')).toContainText('waits for seeding')

    // An outflow to another stock, by click and click.
    await page.mouse.dblclick(spot(580, 420).x, spot(580, 420).y)
    await page.getByRole('menuitem', { name: 'Stock' }).click()
    await nameAndSay(page, 'market', '0')
    await thing(page, 'oysters').click()
    await page.getByRole('button', { name: 'Pull an outflow' }).click()
    await expect(page.getByText('Click a stock to connect it')).toBeVisible()
    const market = await middle(thing(page, 'market'))
    await page.mouse.click(market.x, market.y)
    await nameAndSay(page, 'harvest', 'oysters / 5')
    await expect(card(page)).toContainText('oysters → market')

    // The parameter a formula already mentions: the link appears with it.
    await expect(links(page)).toHaveCount(2)
    await page.mouse.dblclick(spot(140, 130).x, spot(140, 130).y)
    await page.getByRole('menuitem', { name: 'Parameter' }).click()
    await expect(state(page)).toContainText('2 things missing')
    await nameAndSay(page, 'seed rate', '30%')
    await expect(links(page)).toHaveCount(3)
    await expect(state(page)).toContainText('up to date')
    await expect(track(page, 'oysters').locator('canvas')).toBeVisible()
    await expect(track(page, 'market')).toContainText('baseline')

    // A link drawn first waits, is said to, and goes over into the formula.
    await page.mouse.dblclick(spot(560, 130).x, spot(560, 130).y)
    await page.getByRole('menuitem', { name: 'Parameter' }).click()
    await nameAndSay(page, 'ferry space', '4')
    await thing(page, 'ferry space').click()
    await pull(page, 'Pull a link', await middle(thing(page, 'harvest').locator('svg').first()))
    await expect(page.locator('.link.unused')).toContainText('not used yet')
    await expect(state(page)).toContainText('1 remark')
    await thing(page, 'harvest').locator('svg').first().click()
    await page.getByRole('button', { name: /Give this flow’s formula/ }).click()
    await page.keyboard.press('Control+a')
    await say(page, 'min(oysters / 5, ferry space)')
    await expect(page.locator('.link.unused')).toHaveCount(0)
    await expect(state(page)).not.toContainText('remark')
    await expectAccessible(page)
})

test('a model is built with the keyboard alone', async ({ page }) => {
    await page.goto('/')
    await page.getByRole('button', { name: 'New study', exact: true }).focus()
    await page.keyboard.press('Enter')
    await expect(page.getByText('to add a first stock')).toBeVisible()
    for (let i = 0; i < 30 && !(await sheet(page).evaluate((e) => e === document.activeElement)); i++) {
        await page.keyboard.press('Tab')
    }
    await expect(sheet(page)).toBeFocused()
    await page.keyboard.type('s')
    await nameAndSay(page, 'islanders', '4200')
    await page.keyboard.type('p')
    await nameAndSay(page, 'birth rate', '2%')
    await expect(sheet(page)).toBeFocused()
    // Back to the stock, into its ring, and an inflow from outside.
    await page.keyboard.press('ArrowUp')
    await expect(outlined(page, 'islanders')).toHaveAttribute('aria-pressed', 'true')
    await expect(page.locator('#spoken')).toContainText('stock islanders')
    for (let i = 0; i < 60 && !(await page.evaluate(() => document.activeElement?.getAttribute('aria-label') === 'Pull an inflow')); i++) {
        await page.keyboard.press('Tab')
    }
    await page.keyboard.press('Enter')
    await nameAndSay(page, 'births', 'islanders * birth rate')
    await expect(state(page)).toContainText('up to date')
    await expect(links(page)).toHaveCount(2)
    await expect(track(page, 'islanders')).toContainText('baseline')
    // Rename in place; the formula follows.
    await page.keyboard.press('ArrowRight')
    await page.keyboard.press('F2')
    await page.keyboard.type('people of Quillhaven')
    await page.keyboard.press('Enter')
    await expect(thing(page, 'people of Quillhaven')).toBeVisible()
    await outlined(page, 'births').focus()
    await page.keyboard.press('Enter')
    await expect(card(page).locator('.cm-content')).toHaveText('people of Quillhaven * birth rate')
    // Each thing was added, named and given a formula, and one renamed: ten edits back, and ten forward again.
    for (let i = 0; i < 10; i++) {
        await page.keyboard.press('Control+z')
    }
    await expect(state(page)).toContainText('empty sheet')
    for (let i = 0; i < 10; i++) {
        await page.keyboard.press('Control+Shift+z')
    }
    await expect(thing(page, 'people of Quillhaven')).toBeVisible()
    await expect(state(page)).toContainText('up to date')
})

test('formulas complete names and functions, and say what is wrong while they are typed', async ({ page }) => {
    await newStudy(page)
    await sheet(page).focus()
    await page.keyboard.type('p')
    await nameAndSay(page, 'R&D share', '10%')
    await page.keyboard.type('a')
    await expect(page.locator('.naming input')).toBeFocused()
    await page.keyboard.type('effort')
    await page.keyboard.press('Enter')
    const editor = page.locator('.saying .cm-content')
    await expect(editor).toBeFocused()
    await page.keyboard.type('2 * R')
    await page.getByRole('option', { name: /R&D share/ }).click()
    await expect(editor).toHaveText('2 * "R&D share"')
    await page.keyboard.type(' + ma')
    await expect(page.getByRole('option', { name: /^max/ })).toBeVisible()
    await page.keyboard.press('Tab')
    await expect(editor).toHaveText('2 * "R&D share" + max()')
    await expect(page.locator('.saying .cm-lintRange-error')).toHaveCount(1)
    // Typed text survives leaving and a reload, as a draft.
    await page.keyboard.press('Escape')
    await page.reload()
    await outlined(page, 'effort').click()
    await expect(card(page).locator('.cm-content')).toHaveText('2 * "R&D share" + max()')
    await card(page).locator('.cm-content').click()
    await page.keyboard.press('Control+End')
    await page.keyboard.press('ArrowLeft')
    await page.keyboard.type('1, 2')
    await page.keyboard.press('Enter')
    await expect(state(page)).toContainText('up to date')
    await expect(card(page).locator('.now strong')).toHaveText('2.2')
})

test('hostile and unfinished formulas are sentences, never code', async ({ page }) => {
    await newStudy(page)
    await sheet(page).focus()
    await page.keyboard.type('a')
    await nameAndSay(page, 'target', 'system(1)')
    await expect(card(page)).toContainText('There is no function or curve called system')
    for (const [text, words] of [
        ['`id`', 'has no meaning in a formula'],
        ['$', 'has no meaning in a formula'],
        ['('.repeat(300), 'deep within each other'],
    ] as const) {
        await writeFormula(page, text)
        await expect(card(page).locator('.formula .sentence')).toContainText(words)
    }
    await outlined(page, 'target').click()
    await card(page).locator('textarea[aria-label=Name]').fill('  ')
    await card(page).locator('textarea[aria-label=Name]').press('Enter')
    await expect(card(page).getByRole('alert')).toContainText('at least one letter')
})
