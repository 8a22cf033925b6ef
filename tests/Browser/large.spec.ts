import { execFileSync } from 'node:child_process'
import { expect, type Page } from '@playwright/test'
import { card, expectAccessible, outlined, sheet, state, thing, writeFormula } from './sheet'
import { test } from './test'

const SIZE = 600

/** The middle of a thing that is only painted. */
async function spot(page: Page, name: string): Promise<{ x: number; y: number }> {
    const box = await page
        .locator('.vue-flow__node')
        .filter({ has: page.locator(`[title="${name}"]`) })
        .first()
        .boundingBox()
    if (!box) {
        throw new Error(`${name} is not on the stage`)
    }
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 }
}

/** How much ink the picture holds at a place on the page: the darkest of the pixels around it, 0 black to 255. */
const darkest = (page: Page, at: { x: number; y: number }) =>
    page.locator('canvas.far-picture').evaluate((canvas: HTMLCanvasElement, p) => {
        const box = canvas.getBoundingClientRect()
        const scale = canvas.width / box.width
        const { data } = (canvas.getContext('2d') as CanvasRenderingContext2D).getImageData(
            (p.x - box.left) * scale - 8,
            (p.y - box.top) * scale - 4,
            16,
            8,
        )
        let low = 255
        for (let i = 0; i < data.length; i += 4) {
            if ((data[i + 3] as number) > 200) {
                low = Math.min(low, data[i] as number)
            }
        }
        return low
    }, at)

test('a large sheet is one picture from afar, in which things are pointed at, moved and come close', async ({ page }) => {
    await page.goto('/')
    await page
        .getByLabel('Model file')
        .setInputFiles({ name: 'reefs.json', mimeType: 'application/json', buffer: execFileSync('bin/orbit', ['generate', String(SIZE)]) })
    await expect(state(page)).toContainText('up to date')
    const picture = page.locator('canvas.far-picture')
    await expect(picture).toBeVisible()
    await expect(page.locator('.stage .stock')).toHaveCount(0)
    await expectAccessible(page)

    // What is painted lies where it can be pointed at, also after the sheet was moved.
    const kelp = await spot(page, 'kelp 4')
    await expect.poll(() => darkest(page, kelp)).toBeLessThan(90)
    const pane = await page.locator('.vue-flow__pane').boundingBox()
    const paper = { x: (pane?.x ?? 0) + 14, y: (pane?.y ?? 0) + (pane?.height ?? 0) - 80 }
    await page.mouse.move(paper.x, paper.y)
    await page.mouse.down()
    await page.mouse.move(paper.x + 60, paper.y - 30, { steps: 5 })
    const under = await spot(page, 'kelp 4')
    expect(under.x - kelp.x).toBeCloseTo(60, 0)
    expect(await darkest(page, under)).toBeLessThan(90)
    await page.mouse.up()
    // A click in the same breath as the end of a drag belongs to it.
    await expect(page.locator('.vue-flow__pane')).not.toHaveClass(/dragging/)

    // The drag takes a click that comes before its own end has been worked off, as it may on a busy machine.
    await expect(async () => {
        await page.mouse.click(under.x, under.y)
        await expect(card(page).getByRole('textbox', { name: 'Name' })).toHaveValue('kelp 4', { timeout: 3_000 })
    }).toPass({ timeout: 20_000 })
    await page.keyboard.press('Escape')
    await page.mouse.move(under.x, under.y)
    await page.mouse.down()
    await page.mouse.move(under.x + 25, under.y + 10, { steps: 5 })
    await page.mouse.up()
    await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeEnabled()
    await expect.poll(async () => Math.round((await spot(page, 'kelp 4')).x - under.x)).toBeGreaterThan(15)

    // Close by it is drawn thing by thing, and from afar a picture again.
    await sheet(page).focus()
    await page.keyboard.press('9')
    await expect(page.locator('.stage .stock').first()).toBeVisible()
    await expect(picture).toHaveCount(0)
    await page.keyboard.press('0')
    await expect(picture).toBeVisible()
})

test('an edit of a large model brings its run, and what changed follows', async ({ page }) => {
    await page.goto('/')
    await page
        .getByLabel('Model file')
        .setInputFiles({ name: 'reefs.json', mimeType: 'application/json', buffer: execFileSync('bin/orbit', ['generate', String(SIZE)]) })
    await expect(state(page)).toContainText('up to date')
    await page.keyboard.press('/')
    await page.getByLabel('What to find').fill('growth rate 1')
    await page.keyboard.press('Enter')
    const number = page.locator('.track strong').first()
    const before = await number.getAttribute('title')
    const asked: string[] = []
    page.on('request', (r) => {
        if (/\/(edits|runs)$/.test(r.url())) asked.push(r.url().split('/').at(-1) ?? '')
    })
    await writeFormula(page, '0.2')
    await page.locator('.card .cm-content').press('Enter')
    await expect(number).not.toHaveAttribute('title', before ?? '')
    // What was not sent at first may still have been asked for before.
    expect(asked.slice(asked.indexOf('edits'))).toEqual(['edits'])
    await expect(page.locator('.outline .thing', { hasText: 'growth rate 1' }).first()).toContainText('0.2')
    // What cannot be computed is written, and said.
    await writeFormula(page, '0.2 * nothing')
    await page.locator('.card .cm-content').press('Enter')
    await expect(state(page)).toContainText('1 thing')
    await page.getByRole('button', { name: 'Undo', exact: true }).click()
    await expect(state(page)).toContainText('up to date')
})

test('on one huge sheet things are found by their place, and drawn when one comes close', async ({ page }) => {
    const model = JSON.parse(execFileSync('bin/orbit', ['generate', '900'], { maxBuffer: 1e9 }).toString()) as {
        name: string
        echoes: unknown[]
        sheets: { id: string }[]
        layout: { element: string; sheet: string; at: number[]; source?: number[]; target?: number[] }[]
    }
    const sheets = model.sheets.map((s) => s.id)
    for (const place of model.layout) {
        const shift = 2700 * sheets.indexOf(place.sheet)
        for (const point of [place.at, place.source, place.target]) {
            if (point) {
                point[0] = (point[0] as number) + shift
            }
        }
        place.sheet = sheets[0] as string
    }
    model.echoes = []
    model.sheets = model.sheets.slice(0, 1)
    await page.goto('/')
    await page
        .getByLabel('Model file')
        .setInputFiles({ name: 'one-sheet.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(model)) })
    await expect(state(page)).toContainText('up to date')
    await expect(page.locator('canvas.far-picture')).toBeVisible()

    const at = model.layout.find((p) => p.element === 'urchins 30')?.at as [number, number]
    const place = async () => {
        const stage = await page.locator('.stage').boundingBox()
        const [zoom, , , , x, y] = (await page.locator('.vue-flow__transformationpane').evaluate((pane) => {
            const m = new DOMMatrix(getComputedStyle(pane).transform)
            return [m.a, m.b, m.c, m.d, m.e, m.f]
        })) as [number, number, number, number, number, number]
        return { x: (stage?.x ?? 0) + x + zoom * at[0], y: (stage?.y ?? 0) + y + zoom * at[1] }
    }
    const spotted = await place()
    await page.mouse.click(spotted.x, spotted.y)
    await expect(card(page).getByRole('textbox', { name: 'Name' })).toHaveValue('urchins 30')
    await page.keyboard.press('9')
    const close = thing(page, 'urchins 30')
    await expect(close).toBeVisible()
    const box = await close.boundingBox()
    const now = await place()
    expect(Math.abs((box?.x ?? 0) + (box?.width ?? 0) / 2 - now.x)).toBeLessThan(3)
    // What is far away is not in the page; the outline leads there all the same.
    await expect(thing(page, 'kelp 1')).toHaveCount(0)
    await page.getByLabel('Filter by name').fill('kelp 1')
    await outlined(page, 'kelp 1').first().click()
    await expect(thing(page, 'kelp 1')).toBeVisible()
})
