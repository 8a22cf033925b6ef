import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { expect, type Page } from '@playwright/test'
import { strFromU8, unzipSync } from 'fflate'
import { openCopy, pick, state } from './sheet'
import { test } from './test'

const KELP = 'demo/kelp-and-urchins.json'

/** Columns of a run by the command line: the second way to the same numbers. */
function commanded(only: string[], ...set: string[]): number[][] {
    const csv = execFileSync('bin/orbit', [
        'run',
        KELP,
        ...only.map((name) => `--only=${name}`),
        ...set.map((s) => `--set=${s}`),
    ]).toString()
    return csv
        .trim()
        .split('\n')
        .slice(1)
        .map((row) => row.split(',').map(Number))
}

/** What the page exports in a format. */
async function exported(page: Page, words: string): Promise<Buffer> {
    await page.getByRole('button', { name: 'Export this plot' }).click()
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: words }).click()])
    return readFileSync(await download.path())
}

/** Fields of a CSV without quotes inside of quotes. */
const fields = (csv: Buffer) =>
    csv
        .toString()
        .trim()
        .split('\r\n')
        .map((row) => [...row.matchAll(/(?:^|,)(?:"([^"]*)"|([^,]*))/g)].map((m) => m[1] ?? m[2] ?? ''))

/** Cells of the first sheet of a workbook, as a spreadsheet reads them. */
function cells(workbook: Buffer): (string | number)[][] {
    const files = unzipSync(new Uint8Array(workbook))
    const text = (name: string) => {
        const file = files[name]
        return file ? strFromU8(file) : ''
    }
    const unescaped = (s: string) =>
        s.replaceAll('&lt;', '<').replaceAll('&gt;', '>').replaceAll('&quot;', '"').replaceAll('&apos;', "'").replaceAll('&amp;', '&')
    const shared = [...text('xl/sharedStrings.xml').matchAll(/<si>(.*?)<\/si>/gs)].map((m) =>
        unescaped([...(m[1] ?? '').matchAll(/<t[^>]*>(.*?)<\/t>/gs)].map((t) => t[1]).join('')),
    )
    return [...text('xl/worksheets/sheet1.xml').matchAll(/<row[^>]*>(.*?)<\/row>/gs)].map((row) =>
        [...(row[1] ?? '').matchAll(/<c ([^>]*?)(?:\/>|>(.*?)<\/c>)/gs)].map(([, attributes = '', inside = '']) => {
            const value = /<v>(.*?)<\/v>/s.exec(inside)?.[1] ?? /<t[^>]*>(.*?)<\/t>/s.exec(inside)?.[1] ?? ''
            return attributes.includes('t="s"')
                ? (shared[Number(value)] ?? '')
                : attributes.includes('t="inlineStr"') || attributes.includes('t="str"')
                  ? unescaped(value)
                  : Number(value)
        }),
    )
}

function expectSame(found: number[], wanted: number[], what: string) {
    expect(found.length, what).toBe(wanted.length)
    const worst = Math.max(...found.map((v, i) => Math.abs(v - (wanted[i] as number)) / Math.max(1e-6, Math.abs(wanted[i] as number))))
    expect(worst, what).toBeLessThan(1e-9)
}

test('every export of a plot says what it shows, and its numbers are those of the run', async ({ page }) => {
    await openCopy(page, 'Kelp and urchins')
    await page.getByRole('link', { name: 'Try' }).click()
    const dial = page.getByRole('textbox', { name: /^Value of growth rate( in|$)/ })
    const own = Number((await dial.inputValue()).replaceAll(',', ''))
    await dial.fill(String(own * 2))
    await dial.press('Enter')
    await expect(page.getByRole('button', { name: /^growth rate back to/ })).toBeVisible()
    await expect(state(page)).toContainText('up to date')
    await pick(page.getByRole('combobox', { name: 'Which plot' }), 'New plot')
    const add = page.getByRole('combobox', { name: 'Add a variable' })
    for (const name of ['kelp', 'urchins']) {
        await add.fill(name)
        await add.press('Enter')
    }
    const base = commanded(['kelp', 'urchins'])
    const present = commanded(['kelp', 'urchins'], `growth rate=${own * 2}`)
    const column = (rows: number[][], i: number) => rows.map((r) => r[i] as number)

    // Values over time, in text and in a workbook.
    const csv = fields(await exported(page, 'Values (CSV)'))
    expect(csv[0]).toEqual([
        'year',
        'kelp (t), present',
        'kelp (t), baseline',
        'urchins (thousand), present',
        'urchins (thousand), baseline',
        'kelp (t), measured',
        'urchins (thousand), measured',
    ])
    // What was measured stands at its own times alone.
    expect(csv.slice(1).filter((row) => row[5] !== '')).toHaveLength(20)
    expect(csv[1]?.slice(5).map(Number)).toEqual([52.1, 19.7])
    const numbers = csv.slice(1).map((row) => row.slice(0, 5).map(Number))
    expectSame(column(numbers, 0), column(base, 0), 'times')
    expectSame(column(numbers, 1), column(present, 1), 'kelp')
    expectSame(column(numbers, 2), column(base, 1), 'kelp of the baseline')
    expectSame(column(numbers, 4), column(base, 2), 'urchins of the baseline')
    const book = cells(await exported(page, 'Values (XLSX)'))
    expect(String(book[0]?.[0])).toContain('kelp, urchins')
    expect(book[1]).toEqual(csv[0])
    expect(book.slice(2).map((row) => row.slice(0, 5))).toEqual(numbers)

    // A difference is one, in its unit, against what it says.
    await page.getByRole('button', { name: 'How it is shown', exact: true }).click()
    await pick(page.getByRole('combobox', { name: 'Show', exact: true }), 'Difference from the baseline')
    await page.keyboard.press('Escape')
    const apart = fields(await exported(page, 'Values (CSV)'))
    expect(apart[0]?.[1]).toBe('kelp (t), difference from the baseline, present')
    const differences = apart.slice(1).map((row) => row.map(Number))
    expectSame(
        column(differences, 1),
        column(present, 1).map((v, i) => v - (base[i]?.[1] as number)),
        'difference of kelp',
    )
    const drawing = (await exported(page, 'Drawing (SVG)')).toString()
    expect(drawing).toContain('difference from the baseline')
    expect(drawing).toContain('present')
    expect((await exported(page, 'Picture (PNG)')).subarray(1, 4).toString()).toBe('PNG')
    await page.getByRole('button', { name: 'How it is shown', exact: true }).click()
    await pick(page.getByRole('combobox', { name: 'Show', exact: true }), 'Values')
    await page.keyboard.press('Escape')

    // One against another: its pairs.
    await pick(page.getByRole('combobox', { name: 'Kind of plot' }), 'One against another')
    const pairs = fields(await exported(page, 'Values (CSV)'))
    expect(pairs[0]).toEqual(['run', 'year', 'kelp (t)', 'urchins (thousand)'])
    const ours = pairs.filter((row) => row[0] === 'baseline').map((row) => row.slice(1).map(Number))
    const byTime = new Map(base.map((row) => [Number((row[0] as number).toFixed(6)), row]))
    expect(ours.length).toBeGreaterThan(20)
    expectSame(
        column(ours, 1),
        ours.map((row) => byTime.get(row[0] as number)?.[1] as number),
        'kelp across',
    )
    expectSame(
        column(ours, 2),
        ours.map((row) => byTime.get(row[0] as number)?.[2] as number),
        'urchins up',
    )

    // A histogram: its bins, whose shares come to all of the time.
    await pick(page.getByRole('combobox', { name: 'Kind of plot' }), 'Histogram')
    const bins = fields(await exported(page, 'Values (CSV)'))
    expect(bins[0]?.slice(0, 2)).toEqual(['from (t)', 'to (t)'])
    expect(bins[0]?.[2]).toContain('% of the time')
    for (const i of [2, 3]) {
        expect(Math.abs(bins.slice(1).reduce((sum, row) => sum + Number(row[i]), 0) - 100)).toBeLessThan(0.01)
    }
})

test('a stiff run ends soon and offers the method that fits', async ({ page }) => {
    await page.goto('/')
    await page.getByLabel('Model file', { exact: true }).setInputFiles({
        name: 'stiff.json',
        mimeType: 'application/json',
        buffer: Buffer.from(
            JSON.stringify({
                format: 'merry-orbit model',
                version: 2,
                name: 'Stiff',
                time: { start: 0, end: 1000, step: 1, unit: 'year', method: 'dopri5' },
                elements: [
                    { kind: 'stock', name: 'quick', formula: '1' },
                    { kind: 'flow', name: 'change', formula: '-1000000 * (quick - cos(time))', to: 'quick' },
                ],
            }),
        ),
    })
    await page.waitForURL(/\/studies\/.+\/model/)
    await expect(state(page)).toContainText('stopped at', { timeout: 20_000 })
    await state(page).click()
    await page
        .getByRole('alert')
        .getByRole('button', { name: /Rosenbrock/ })
        .or(page.getByRole('complementary', { name: 'Card' }).getByRole('button', { name: /Rosenbrock/ }))
        .first()
        .click()
    await expect(state(page)).toContainText('up to date', { timeout: 20_000 })
})

test('what an import could not carry over is graded, ticked off, and found again', async ({ page }) => {
    await page.goto('/')
    const text =
        '<?xml version="1.0"?><xmile version="1.0" xmlns="http://docs.oasis-open.org/xmile/ns/XMILE/v1.0"><header><name>Reef</name></header><model><variables><stock name="oysters"><eqn>4</eqn><inflow>seeding</inflow></stock></variables></model></xmile>'
    await page
        .getByLabel('Model file', { exact: true })
        .setInputFiles({ name: 'reef.xml', mimeType: 'text/xml', buffer: Buffer.from(text) })
    const dialog = page.getByRole('dialog')
    await expect(dialog).toContainText('changes numbers')
    await dialog.getByRole('button', { name: 'Open the study' }).click()
    const log = page.locator('.import-log')
    await expect(log).toContainText('Changes numbers')
    const first = log.getByRole('checkbox').first()
    await first.check()
    await page.reload()
    await expect(page.locator('.import-log').getByRole('checkbox').first()).toBeChecked()
})
