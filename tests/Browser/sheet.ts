import AxeBuilder from '@axe-core/playwright'
import { expect, type Locator, type Page } from '@playwright/test'

export async function newStudy(page: Page): Promise<void> {
    await page.goto('/')
    await page.getByRole('button', { name: 'New study', exact: true }).click()
    await page.waitForURL(/\/studies\/.+\/model/)
    await expect(page.getByText('to add a first stock')).toBeVisible()
}

export async function openDemo(page: Page, name = 'Fresh water'): Promise<void> {
    await page.goto('/')
    await page.getByRole('link', { name: `Open ${name}`, exact: true }).click()
    await expect(state(page)).toContainText('up to date')
}

/** A copy of a demo study, so that a test may change it. */
export async function openCopy(page: Page, name = 'Fresh water'): Promise<void> {
    await page.goto('/')
    await expect(page.getByRole('link', { name: `Open ${name}`, exact: true })).toBeVisible()
    await expect(page.locator('.studies')).toHaveAttribute('aria-busy', 'false')
    const before = await page.getByRole('article').count()
    await page.getByRole('button', { name: `More about ${name}`, exact: true }).click()
    await page.getByRole('menuitem', { name: 'Duplicate' }).click()
    await expect(page.getByRole('article')).toHaveCount(before + 1)
    await page
        .getByRole('link', { name: new RegExp(`^Open ${name} \\d+$`) })
        .first()
        .click()
    await expect(state(page)).toContainText('up to date')
}

export const sheet = (page: Page): Locator => page.getByRole('application')
export const state = (page: Page): Locator => page.locator('header .state')
export const thing = (page: Page, name: string): Locator =>
    page.locator('.vue-flow__node').filter({ has: page.locator('.thing-name', { hasText: new RegExp(`^${name}$`) }) })
export const card = (page: Page): Locator => page.getByRole('complementary', { name: 'Card' })
export const outlined = (page: Page, name: string): Locator =>
    page.locator('.outline .thing').filter({ has: page.getByText(name, { exact: true }) })
export const track = (page: Page, name: string): Locator => page.getByRole('region', { name: `Track of ${name}`, exact: true })
export const links = (page: Page, kind = 'now'): Locator => page.locator(`.link.${kind}`)

/** Takes one of a list of choices by its words. */
export async function pick(list: Locator, words: string): Promise<void> {
    await list.click()
    // Another list may still be on its way out.
    const id = (await list.getAttribute('aria-controls')) ?? ''
    await list.page().locator(`[id="${id}"]`).getByRole('option', { name: words, exact: true }).click()
}

/** Types the name of what was just added, and its formula. */
export async function nameAndSay(page: Page, name: string, formula: string): Promise<void> {
    await expect(page.locator('.naming input')).toBeFocused()
    await page.keyboard.type(name)
    await page.keyboard.press('Enter')
    await say(page, formula)
}

/** Types into the formula that is open on the sheet and takes it over. */
export async function say(page: Page, formula: string, how: 'typed' | 'at once' = 'typed'): Promise<void> {
    await expect(page.locator('.saying .cm-content')).toBeFocused()
    await (how === 'typed' ? page.keyboard.type(formula) : page.keyboard.insertText(formula))
    await page.keyboard.press('Enter')
    await expect(page.locator('.saying')).toBeHidden()
}

/** Writes a formula on the card in the place of what stands there; the editor has its own selection, which a plain fill() may miss. */
export async function writeFormula(page: Page, formula: string): Promise<void> {
    await card(page).locator('.cm-content').click()
    await page.keyboard.press('Control+a')
    await page.keyboard.insertText(formula)
}

/** Drags from a button of the ring to a place. */
export async function pull(page: Page, action: string, to: { x: number; y: number }): Promise<void> {
    const box = await page.getByRole('button', { name: action }).boundingBox()
    if (!box) {
        throw new Error(`There is no ring button ${action}`)
    }
    await page.mouse.move(box.x + 15, box.y + 15)
    await page.mouse.down()
    await page.mouse.move((box.x + to.x) / 2, (box.y + to.y) / 2, { steps: 4 })
    await page.mouse.move(to.x, to.y, { steps: 4 })
    await page.mouse.up()
}

export async function middle(locator: Locator): Promise<{ x: number; y: number }> {
    const box = await locator.boundingBox()
    if (!box) {
        throw new Error('It is not on the screen')
    }
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 }
}

export async function expectAccessible(page: Page, what: 'all' | 'colours' = 'all'): Promise<void> {
    // Only what is violated is worked out to the end, in the page itself: a third of the time, and the same rules.
    const axe = new AxeBuilder({ page }).setLegacyMode().options({
        runOnly:
            what === 'all'
                ? { type: 'tag', values: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] }
                : { type: 'rule', values: ['color-contrast'] },
        resultTypes: ['violations'],
        selectors: false,
        elementRef: false,
    })
    if (await page.locator('iframe[sandbox]').count()) {
        // No script runs within: what stands there is looked at by itself.
        axe.exclude('iframe[sandbox]')
    }
    const { violations } = await axe.analyze()
    expect(
        violations
            .filter((v) => v.impact === 'serious' || v.impact === 'critical')
            .map(
                (v) =>
                    `${v.id}: ${v.nodes
                        .map((n) => n.html)
                        .slice(0, 3)
                        .join(' | ')}`,
            ),
    ).toEqual([])
}
