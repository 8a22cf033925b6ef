import { expect, type Locator, type Page } from '@playwright/test'
import { card, links, middle, nameAndSay, newStudy, openCopy, openDemo, outlined, pick, sheet, state, thing, track } from './sheet'
import { test } from './test'

interface Box {
    x: number
    y: number
    width: number
    height: number
}
const boxOf = async (locator: Locator): Promise<Box> => (await locator.boundingBox()) ?? { x: 0, y: 0, width: 0, height: 0 }
const meet = (a: Box, b: Box) => a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height

/** Every two things of a sheet that lie on each other. */
async function overlaps(page: Page): Promise<string[]> {
    const nodes = page.locator('.vue-flow__node')
    const boxes = await Promise.all((await nodes.all()).map(async (n) => ({ name: await n.innerText(), box: await boxOf(n) })))
    return boxes.flatMap((a, i) =>
        boxes
            .slice(i + 1)
            .filter((b) => meet(a.box, b.box))
            .map((b) => `${a.name} / ${b.name}`),
    )
}

test('a new study has the keyboard, and what is typed quicker than fields come up arrives', async ({ page }) => {
    await newStudy(page)
    await expect(sheet(page)).toBeFocused()
    await page.keyboard.press('s')
    await page.keyboard.type('oysters')
    await page.keyboard.press('Enter')
    await page.keyboard.type('100 * share')
    await page.keyboard.press('Enter')
    // What is missing is added beside its user, and asks for its value at once.
    await card(page).getByRole('button', { name: 'Add share as a parameter', exact: true }).click()
    await page.keyboard.type('25%')
    await page.keyboard.press('Enter')
    await expect(state(page)).toContainText('up to date')
    await expect(thing(page, 'share')).toContainText('0.25')
    await expect(thing(page, 'oysters')).toContainText('25')
    expect(await overlaps(page)).toEqual([])
    const [stock, parameter] = [await middle(thing(page, 'oysters')), await middle(thing(page, 'share'))]
    expect(Math.hypot(stock.x - parameter.x, stock.y - parameter.y)).toBeLessThan(260)
    await expect(sheet(page)).toBeFocused()
})

test('new things find free space in sight', async ({ page }) => {
    await newStudy(page)
    for (const name of ['one', 'two', 'three', 'four', 'five', 'six']) {
        await page.keyboard.press('p')
        await nameAndSay(page, name, '1')
    }
    expect(await overlaps(page)).toEqual([])
    const stage = await boxOf(sheet(page))
    for (const node of await page.locator('.vue-flow__node').all()) {
        const box = await boxOf(node)
        expect(
            box.x > stage.x && box.y > stage.y && box.x + box.width < stage.x + stage.width && box.y + box.height < stage.y + stage.height,
            await node.innerText(),
        ).toBe(true)
    }
})

test('Shift and a click add to the selection, and a quick pair of double-clicks makes one thing', async ({ page }) => {
    await openCopy(page)
    await thing(page, 'fresh water').click()
    await thing(page, 'rainfall').click({ modifiers: ['Shift'] })
    await expect(card(page)).toContainText('2 selected')
    await thing(page, 'rainfall').click({ modifiers: ['Shift'] })
    await expect(card(page).getByRole('textbox', { name: 'Name', exact: true })).toHaveValue('fresh water')

    await page.goto('/')
    await expect(page.getByRole('link', { name: 'Open Fresh water', exact: true })).toBeVisible()
    await expect(page.locator('.studies')).toHaveAttribute('aria-busy', 'false')
    const studies = await page.getByRole('article').count()
    await page.getByRole('button', { name: 'New study', exact: true }).dblclick()
    await page.waitForURL(/\/studies\/.+\/model/)
    await expect(page.getByText('to add a first stock')).toBeVisible()
    const stage = await boxOf(sheet(page))
    await page.mouse.dblclick(stage.x + 300, stage.y + 200)
    await page.getByRole('menuitem', { name: 'Stock' }).dblclick()
    await nameAndSay(page, 'oysters', '5')
    await expect(page.locator('.outline .thing')).toHaveCount(1)
    await page.goto('/')
    await expect(page.getByRole('article')).toHaveCount(studies + 1)
})

test('a track is added to those that came by themselves, also after a choice in the outline', async ({ page }) => {
    await newStudy(page)
    for (const [key, name] of [
        ['s', 'oysters'],
        ['s', 'market'],
        ['a', 'effort'],
    ] as const) {
        await page.keyboard.press(key)
        await nameAndSay(page, name, '5')
    }
    await expect(track(page, 'oysters')).toBeVisible()
    await outlined(page, 'effort').click()
    await page.keyboard.press('t')
    await expect(track(page, 'effort')).toBeVisible()
    await expect(track(page, 'oysters')).toBeVisible()
    await expect(track(page, 'market')).toBeVisible()
    await page.keyboard.press('t')
    await expect(track(page, 'effort')).toHaveCount(0)
    await expect(track(page, 'market')).toBeVisible()
})

test('functions are found by other words, signs are written over, and brackets close', async ({ page }) => {
    await openCopy(page)
    await page.keyboard.press('Control+k')
    await page
        .getByRole('combobox', { name: 'Command' })
        .or(page.getByRole('textbox', { name: 'Command' }))
        .fill('sum over time')
    await expect(page.getByRole('option', { name: /^Function total/ }).first()).toBeVisible()
    await page.keyboard.press('Escape')

    await sheet(page).focus()
    await page.keyboard.press('Escape')
    await page.keyboard.press('a')
    await expect(page.locator('.naming input')).toBeFocused()
    await page.keyboard.type('gathered')
    await page.keyboard.press('Enter')
    const editor = page.locator('.saying .cm-content')
    await expect(editor).toBeFocused()
    await page.keyboard.type('cumul')
    await expect(page.getByRole('option', { name: /^total/ })).toBeVisible()
    await page.keyboard.press('Control+a')
    await page.keyboard.insertText('2 × (3 − 1) ÷ 4')
    await expect(editor).toHaveText('2 * (3 - 1) / 4')
    await page.keyboard.press('Control+a')
    await page.keyboard.type('max(')
    await expect(editor).toHaveText('max()')
    await page.keyboard.type('3, 7')
    await page.keyboard.press('Enter')
    await expect(thing(page, 'gathered')).toContainText('7')
})

test('the ring keeps clear of its thing and tells each of its buttons in words', async ({ page }) => {
    await openDemo(page)
    await thing(page, 'wells').locator('svg').first().click()
    const ring = page.getByRole('toolbar', { name: 'Actions of wells' })
    const name = await boxOf(thing(page, 'wells').locator('.thing-name'))
    for (const button of await ring.getByRole('button').all()) {
        expect(meet(await boxOf(button), name), (await button.getAttribute('aria-label')) ?? '').toBe(false)
    }
    for (const words of ['Move its start', 'Move its end', 'Why does it change? Follow the causes']) {
        await ring.getByRole('button', { name: words }).hover()
        await expect(ring.getByRole('tooltip')).toHaveText(words)
    }
    const twins = ['Move its start', 'Move its end'].map((words) => ring.getByRole('button', { name: words }).locator('svg').innerHTML())
    expect(new Set(await Promise.all(twins)).size).toBe(2)
    await expect(page.locator('.link').first()).toHaveAttribute('aria-label', /^Link from .+ to .+/)
    expect(await links(page).count()).toBeGreaterThan(0)
})

test('a symbol is typed as in mathematics, shown typeset, and refused with a sentence', async ({ page }) => {
    await openCopy(page)
    await outlined(page, 'fresh water').click()
    const field = card(page).getByRole('textbox', { name: 'Symbol' })
    await field.fill('\\lens_w')
    await field.press('Enter')
    await expect(card(page).getByRole('alert')).toContainText('\\lens is not known here')
    await expect(field).toHaveValue('\\lens_w')
    await field.fill('\\lambda_w')
    await field.press('Enter')
    await expect(card(page).locator('.symbol .katex')).toBeVisible()
    await card(page)
        .getByRole('button', { name: /As an equation/ })
        .click()
    await expect(card(page).locator('.math .katex')).toContainText('λ')
})

test('drafts of plots stay until they are thrown away, and pinned plots leave the structure in sight', async ({ page }) => {
    await openCopy(page)
    await page
        .getByRole('link', { name: 'Try' })
        .or(page.getByRole('button', { name: 'Try' }))
        .first()
        .click()
    const which = page.getByRole('combobox', { name: 'Which plot' })
    await pick(which, 'New plot')
    const add = page.getByRole('combobox', { name: 'Add a variable' })
    await add.fill('nothing of that name')
    await add.press('Enter')
    await expect(page.getByText(/Nothing|No variable/).first()).toBeVisible()
    await add.fill('rainf')
    await add.press('Enter')
    await expect(page.locator('.chips .chip', { hasText: 'rainfall' })).toBeVisible()
    await pick(which, 'New plot')
    await expect(page.locator('.chips .chip')).toHaveCount(0)
    await pick(which, 'rainfall')
    await expect(page.locator('.chips .chip', { hasText: 'rainfall' })).toBeVisible()

    for (const name of ['first', 'second']) {
        await page.getByRole('button', { name: 'Save this plot' }).click()
        await page.getByRole('textbox', { name: 'Name of the plot' }).fill(name)
        await page.keyboard.press('Enter')
        await page.getByRole('button', { name: 'Pin it on the sheet' }).click()
        if (name === 'first') {
            await pick(which, 'New plot')
            await add.fill('fresh water')
            await add.press('Enter')
        }
    }
    await page
        .getByRole('link', { name: 'Model', exact: true })
        .or(page.getByRole('button', { name: 'Model', exact: true }))
        .first()
        .click()
    const [first, second] = [
        await boxOf(page.getByRole('region', { name: 'Plot first' })),
        await boxOf(page.getByRole('region', { name: 'Plot second' })),
    ]
    expect(first.width).toBeGreaterThan(50)
    expect(meet(first, second)).toBe(false)
    for (const node of await page.locator('.vue-flow__node').all()) {
        const box = await boxOf(node)
        expect(meet(box, first) || meet(box, second), await node.innerText()).toBe(false)
    }
})
