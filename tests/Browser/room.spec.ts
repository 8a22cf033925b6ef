import { expect, type Page } from '@playwright/test'
import { expectAccessible, newStudy, openDemo } from './sheet'
import { test } from './test'

const field = (page: Page, name: string) => page.getByRole('textbox', { name })

test('a workshop is led by keyboard alone, from the question to the record', async ({ page }) => {
    await newStudy(page)
    await page.getByRole('link', { name: 'Map' }).click()
    await page.getByRole('tab', { name: 'Room' }).click()
    const room = page.getByRole('region', { name: 'Workshop view' })
    await expect(field(page, 'What do we want to understand?')).toBeFocused()
    await page.keyboard.type('Why does the beach go?')
    await page.keyboard.press('Enter')
    await expect(room.getByRole('heading', { level: 1 })).toHaveText('Why does the beach go?')

    // Factors on slips: added, grouped, merged.
    await expect(field(page, 'A factor')).toBeFocused()
    for (const name of ['waves', 'sand', 'sandy ground', 'at sea: waves, wind', 'sandy ground = sand']) {
        await page.keyboard.type(name)
        await page.keyboard.press('Enter')
    }
    await expect(page.getByRole('region', { name: 'at sea' }).getByRole('listitem')).toHaveText([/waves/, /wind/])
    await expect(page.getByText('“sandy ground” is the same as “sand” now.')).toBeVisible()
    await expect(room).toContainText('3 factors')
    await expectAccessible(page)

    // Pairs, voted on by counts.
    await page.keyboard.press('PageDown')
    await expect(field(page, 'Two that are connected')).toBeFocused()
    await page.keyboard.type('wind, waves 4')
    await page.keyboard.press('Enter')
    await page.keyboard.type('waves, sand')
    await page.keyboard.press('Enter')
    const pairs = page.getByRole('list', { name: 'Pairs by votes' }).getByRole('listitem')
    await expect(pairs).toHaveCount(2)
    await page.keyboard.press('ArrowDown')
    await page.keyboard.press('ArrowDown')
    for (let i = 0; i < 5; i++) {
        await page.keyboard.press('+')
    }
    await expect(pairs.first()).toContainText('waves, sand')
    await expect(page.getByRole('img', { name: '6 votes' })).toBeVisible()
    // The first becomes a link, and the room says where it stands.
    await page.keyboard.press('Enter')
    await expect(field(page, 'Effect')).toBeFocused()
    await expect(field(page, 'Cause')).toHaveValue('waves')
    await page.keyboard.type('- sand')
    await page.keyboard.press('Enter')
    await expect(page.getByText('With more waves, less sand than there otherwise would be.')).toBeVisible()
    await page.keyboard.type('sand')
    await page.keyboard.press('Enter')
    await page.keyboard.type('- waves')
    await page.keyboard.press('Enter')
    await expect(room).toContainText('2 links · 1 loop: 1 reinforcing')
    await expect(page.getByText('link 2 of 2')).toBeVisible()
    await page.getByRole('group', { name: 'Links, one at a time' }).focus()
    await page.keyboard.press('d')
    await expect(page.getByRole('button', { name: 'disputed' })).toHaveAttribute('aria-pressed', 'true')
    await page.keyboard.press('ArrowUp')
    await page.keyboard.press('a')
    await expect(page.getByRole('button', { name: 'agreed' })).toHaveAttribute('aria-pressed', 'true')
    await expectAccessible(page)

    // Loops, ideas, what is put aside, and the record of it all.
    await page.keyboard.press('PageDown')
    await expect(page.getByRole('heading', { name: 'R1 · reinforcing' })).toBeVisible()
    await page.keyboard.press('PageDown')
    await expect(field(page, 'An action idea')).toBeFocused()
    await page.keyboard.type('a groyne @ sand')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('button', { name: 'a groyne' })).toBeVisible()
    await page.keyboard.press('ArrowDown')
    await page.keyboard.press('3')
    await expect(page.getByRole('button', { name: 'Effect: great' })).toBeVisible()
    await page.keyboard.press('PageDown')
    await page.keyboard.type('Who owns the beach?')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('checkbox')).toHaveCount(1)
    await page.keyboard.press('PageDown')
    const record = page.getByLabel('Record of the workshop')
    for (const line of [
        'Why does the beach go?',
        'waves, sand 6',
        'less sand than there otherwise would be. With less',
        'agreed',
        'sand → waves: disputed, said to act turned over',
        'R1',
        'Who owns the beach?',
        'a groyne sand great middle',
    ]) {
        await expect(record).toContainText(line)
    }
    await page.emulateMedia({ media: 'print' })
    await expect(page.locator('.printed-sheet')).toContainText('a groyne sand great middle')
    await expect(record).toBeHidden()
    await page.emulateMedia({ media: null })
    const saved = page.waitForEvent('download')
    await page.getByRole('button', { name: 'Save as Markdown' }).press('Enter')
    expect((await saved).suggestedFilename()).toMatch(/\.md$/)
    await page.getByRole('button', { name: 'For later' }).click()
    await page.keyboard.type('half a thought')
    await page.keyboard.press('Escape')
    await expect(page.getByRole('textbox', { name: 'For later' })).toHaveValue('half a thought')
    await page.keyboard.press('Escape')
    await expect(page.getByRole('img', { name: 'waves acts turned over on sand' })).toBeVisible()
})

test('everything in the workshop view is at least 24 pixels large', async ({ page }) => {
    await page.setViewportSize({ width: 1920, height: 1080 })
    await openDemo(page, 'Why the harbour silts up')
    await page.getByRole('tab', { name: 'Room' }).click()
    for (const step of ['Factors', 'Pairs and votes', 'Links', 'Loops', 'Action ideas', 'For later', 'Record']) {
        await page.getByRole('button', { name: step, exact: true }).click()
        await expect(page.getByRole('region', { name: 'Workshop view' })).toBeVisible()
        await page.waitForTimeout(300)
        const small = await page.evaluate(() => {
            const found: string[] = []
            const walker = document.createTreeWalker(document.querySelector('.room') as Node, NodeFilter.SHOW_TEXT)
            while (walker.nextNode()) {
                const element = walker.currentNode.parentElement as HTMLElement
                const text = walker.currentNode.textContent?.trim() ?? ''
                const box = element.getBoundingClientRect()
                if (
                    text &&
                    box.width > 2 &&
                    !element.closest('.visually-hidden, svg') &&
                    parseFloat(getComputedStyle(element).fontSize) < 24
                ) {
                    found.push(`${text.slice(0, 30)} ${getComputedStyle(element).fontSize}`)
                }
            }
            return found
        })
        expect(small).toEqual([])
    }
})
