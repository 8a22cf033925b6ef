import { expect, type Page } from '@playwright/test'
import { readFile } from 'node:fs/promises'
import writeExcelFile from 'write-excel-file/node'
import { expectAccessible, openCopy, pick, track } from './sheet'
import { test } from './test'

const table = (page: Page) => page.getByRole('region', { name: /^The table of/ })
const fits = (page: Page) => page.getByRole('region', { name: 'How well the run fits' })
const sources = (page: Page) => page.getByRole('complementary', { name: 'Sources' })

async function openData(page: Page): Promise<void> {
    await page.getByRole('link', { name: 'Data' }).click()
    await expect(page.getByRole('heading', { name: 'What was measured' })).toBeVisible()
    // The demo has its own counts.
    for (const name of ['dive counts.csv', 'otter counts.csv']) {
        await page.getByRole('button', { name: `Remove ${name}` }).click()
        await expect(page.getByRole('button', { name: `Remove ${name}` })).toHaveCount(0)
    }
    await expect(fits(page)).toContainText('Once a series is kept')
}

async function drop(page: Page, name: string, text: string): Promise<void> {
    const chooser = page.waitForEvent('filechooser')
    await page.getByRole('button', { name: 'Add a file' }).click()
    await (await chooser).setFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(text) })
    await expect(page.getByRole('heading', { name })).toBeVisible()
}

test('a messy table is read as it is, kept as evidence, lies over the plots, and the fit goes along with the model', async ({ page }) => {
    await openCopy(page, 'Kelp and urchins')
    await openData(page)
    await expectAccessible(page)
    const file = await readFile('demo/files/dive counts.csv', 'utf8')
    await drop(page, 'dive counts.csv', file)
    await expect(page.getByText('nothing is kept yet')).toBeVisible()
    // What was understood is drawn onto the table.
    await expect(table(page).getByRole('row', { name: /^left out 1 Reef dives/ })).toBeVisible()
    await expect(table(page).getByRole('row', { name: /^names 3 Year Kelp \[t\]/ })).toBeVisible()
    await expect(page.getByRole('combobox', { name: 'The decimal sign' })).toContainText('decimal comma')
    await expect(page.getByText('21 times from 0 to 40')).toBeVisible()
    await page.getByText('1 cell cannot be read').click()
    await expect(page.getByText('2O has a letter in place of a digit: is it 20?')).toBeVisible()
    await expect(page.getByRole('combobox', { name: 'What Urchins is' })).toContainText('urchins')
    await expect(page.getByText('÷ 10, in thousand')).toBeVisible()
    await expectAccessible(page)
    // One guess is changed, and changed back.
    await pick(page.getByRole('combobox', { name: 'The decimal sign' }), 'decimal point')
    await expect(page.getByText('holds numbers with another decimal sign and is left out.')).toBeVisible()
    await expect(page.getByRole('button', { name: 'Keep 1 series' })).toBeEnabled()
    await pick(page.getByRole('combobox', { name: 'The decimal sign' }), 'decimal comma')
    await expect(page.getByText('1 cell cannot be read')).toBeVisible()

    await page.getByRole('button', { name: 'Keep 2 series' }).click()
    await expect(sources(page)).toContainText('2 series kept')
    await expect(fits(page)).toContainText('20 points')
    await expect(fits(page)).toContainText('R²')
    await expect(track(page, 'kelp')).toContainText('measured')
    const before = await fits(page).getByRole('img').first().getAttribute('aria-label')
    await expectAccessible(page)

    // The fit follows the model.
    await page.getByRole('link', { name: 'Model' }).click()
    await page.locator('header').getByRole('button', { name: 'Undo' }).click()
    await page.getByRole('link', { name: 'Data' }).click()
    await expect(fits(page)).toContainText('Once a series is kept')
    await page.locator('header').getByRole('button', { name: 'Redo' }).click()
    await expect(fits(page)).toContainText('20 points')
    await expect(fits(page).getByRole('img').first()).toHaveAttribute('aria-label', before ?? '')
})

test('a spreadsheet of two sheets, with a title, units in brackets, gaps and a total, becomes evidence', async ({ page }) => {
    const rows = (...list: (string | number | null)[][]) => list.map((row) => row.map((value) => (value === null ? null : { value })))
    const book = await writeExcelFile([
        { sheet: 'About', data: rows(['Dives of the reef club'], ['made up for a test']) },
        {
            sheet: 'Reef',
            data: rows(
                ['Reef dives, Quillhaven'],
                [null],
                ['Year', 'Urchin [hundred]', 'Mass of kelp [kg]', 'Remarks'],
                [0, 300, 50_000, 'calm'],
                [2, null, 45_000, null],
                [4, 250, 'n. d.', 'swell'],
                [6, '12O', 60_000, null],
                ['Total', 562, 155_000, null],
            ),
        },
    ]).toBuffer()
    await openCopy(page, 'Kelp and urchins')
    await openData(page)
    const chooser = page.waitForEvent('filechooser')
    await page.getByRole('button', { name: 'Add a file' }).click()
    await (await chooser).setFiles({ name: 'dives.xlsx', mimeType: 'application/octet-stream', buffer: book })
    await expect(page.getByRole('heading', { name: 'dives.xlsx' })).toBeVisible()
    await pick(page.getByRole('combobox', { name: 'Which sheet' }), 'sheet Reef')
    await expect(table(page).getByRole('row', { name: /^names 3 Year/ })).toBeVisible()
    await expect(page.getByText('4 times from 0 to 6')).toBeVisible()
    await page.getByText(/cells? cannot be read/).click()
    await expect(page.getByText('12O has a letter in place of a digit: is it 120?')).toBeVisible()
    await expect(page.getByText('Total is a row of totals and is left out.')).toBeVisible()
    // What was meant is taken over by a click on the cell.
    await table(page).getByRole('button', { name: '12O → 120?' }).click()
    await expect(page.getByRole('region', { name: 'From file to series' })).toContainText('120 of Urchin at 6, in place of a gap')
    // One name is alike, the other is said by hand; its unit is converted.
    await expect(page.getByRole('combobox', { name: 'What Urchin is' })).toContainText('urchins')
    await pick(page.getByRole('combobox', { name: 'What Mass of kelp is' }), 'kelp (t)')
    await expect(page.getByText('÷ 1000, in t')).toBeVisible()
    await page.getByRole('button', { name: 'Keep 2 series' }).click()
    await expect(fits(page).getByText('3 points').first()).toBeVisible()
    await page.getByText('not said how exact').first().click()
    await page.getByRole('textbox', { name: 'standard deviation of a point' }).first().fill('4')
    await page.keyboard.press('Enter')
    await expect(fits(page)).toContainText('± 4')
    await expectAccessible(page)
})

test('a newer version of a file is read the same way, and what is new, changed and gone is told before it is kept', async ({ page }) => {
    await openCopy(page, 'Kelp and urchins')
    await openData(page)
    await drop(page, 'counts.csv', 'year,counted,noted\n0,50,7\n2,48,7\n4,45,7\n')
    await pick(page.getByRole('combobox', { name: 'What counted is' }), 'kelp (t)')
    await page.getByRole('button', { name: 'Keep 1 series' }).click()
    await expect(fits(page)).toContainText('3 points')

    await drop(page, 'counts.csv', 'year,counted,noted\n0,50,7\n2,49,7\n6,44,7\n8,60,7\n')
    await expect(page.getByText('changed since it was kept')).toBeVisible()
    await expect(page.getByText('2 new, 1 changed, 1 gone')).toBeVisible()
    await page.getByText('which', { exact: true }).click()
    await expect(page.getByText(/48 is 49 now/)).toBeVisible()
    await page.getByRole('button', { name: 'Keep 1 series' }).click()
    await expect(fits(page)).toContainText('4 points')
    await expect(sources(page).getByRole('button', { name: /^Remove / })).toHaveCount(1)
    // It is found again after a reload, and removed with what was kept of it.
    await page.reload()
    await sources(page)
        .getByRole('button', { name: /^counts.csv/ })
        .click()
    await expect(table(page)).toContainText('49')
    await page.getByRole('button', { name: 'Remove counts.csv' }).click()
    await expect(fits(page)).toContainText('Once a series is kept')
    await page.locator('header').getByRole('button', { name: 'Undo' }).click()
    await expect(fits(page)).toContainText('4 points')
})

test('a measuring station is listened to, kept, and its dates go to the weeks of the study', async ({ page }) => {
    await openCopy(page, 'Fresh water')
    await page.getByRole('link', { name: 'Data' }).click()
    await page.getByRole('button', { name: 'Listen to the measuring station “old well”' }).click()
    await expect(page.getByRole('heading', { name: 'old well.json' })).toBeVisible()
    await expect(page.getByRole('combobox', { name: 'What lens thickness is' })).toContainText('lens thickness')
    await expect(page.getByText('÷ 100, in m')).toBeVisible()
    await page.getByRole('button', { name: 'Keep 1 series' }).click()
    await expect(sources(page)).toContainText('old well.json')
    await expect(fits(page).getByRole('heading', { name: 'lens thickness' })).toHaveCount(2)
    await expect(page.getByRole('button', { name: /^Listen to/ })).toHaveCount(0)
    await expectAccessible(page)
})

test('a column takes the place of a parameter during the run, and is let go in one act', async ({ page }) => {
    await openCopy(page, 'Kelp and urchins')
    await openData(page)
    await drop(page, 'storms.csv', 'year,growth rate\n0,0.9\n20,0.9\n40,0\n')
    await pick(page.getByRole('combobox', { name: 'What growth rate does' }), 'drives it; held before and after')
    await page.getByRole('button', { name: 'Keep 1 series' }).click()
    await page.getByRole('link', { name: 'Try' }).click()
    const release = page.getByRole('button', { name: 'Release growth rate' })
    await expect(release).toBeVisible()
    await expect(track(page, 'kelp')).toContainText('baseline')
    await release.click()
    await expect(release).toHaveCount(0)
})

test('a pasted block becomes a series of the model, and what is no table is refused with a sentence', async ({ page }) => {
    await openCopy(page, 'Kelp and urchins')
    await openData(page)
    await page.evaluate(() => {
        const data = new DataTransfer()
        data.setData('text/plain', 'year\tstorms\n0\t1\n10\t4\n20\t2\n')
        window.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true }))
    })
    await expect(page.getByRole('heading', { name: 'pasted table' })).toBeVisible()
    await pick(page.getByRole('combobox', { name: 'What storms is' }), 'a series of the model')
    await page.getByRole('button', { name: 'Keep 1 series' }).click()
    await page.getByRole('link', { name: 'Model' }).click()
    await expect(page.getByRole('complementary', { name: 'Outline' })).toContainText('storms, pasted table')
    await page.getByRole('link', { name: 'Data' }).click()
    const chooser = page.waitForEvent('filechooser')
    await page.getByRole('button', { name: 'Add a file' }).click()
    await (await chooser).setFiles({ name: 'picture.csv', mimeType: 'text/csv', buffer: Buffer.from([0x89, 0x50, 0x4e, 0x47, 0, 0, 0]) })
    await expect(page.getByRole('alert')).toContainText('This is no table')
})

const steps = (page: Page) => page.getByRole('region', { name: 'From file to series' })
async function addStep(page: Page, words: string): Promise<void> {
    await expect(page.getByText('Reading it anew')).toHaveCount(0)
    // A list that is scrolled closes what hangs from it.
    await steps(page).getByRole('button', { name: 'Add a step' }).hover()
    await steps(page).getByRole('button', { name: 'Add a step' }).click()
    await page.getByRole('menuitem', { name: words }).click()
}
const ask = (page: Page, words: string) => steps(page).getByRole('combobox', { name: words, exact: true })

test('from plots to districts: coves become bays, months years, gaps are filled where both were counted', async ({ page }) => {
    test.setTimeout(240_000)
    await openCopy(page, 'Oyster terraces')
    await page.getByRole('link', { name: 'Data' }).click()
    for (const name of ['landings by cove.csv', 'harbour landings.csv', 'coves and bays.csv']) {
        await page.getByRole('button', { name: `Remove ${name}` }).click()
    }
    const file = (name: string) => readFile(`demo/files/${name}`, 'utf8')
    // A table of words alone is kept, for others to go by.
    await drop(page, 'coves and bays.csv', await file('coves and bays.csv'))
    await pick(page.getByRole('combobox', { name: 'What share is' }), 'nothing: leave it out')
    await page.getByRole('button', { name: 'Keep the file alone' }).click()
    await expect(sources(page)).toContainText('nothing kept')

    await drop(page, 'harbour landings.csv', await file('harbour landings.csv'))
    await expect(page.getByText('96 times from 2019-01-01 to 2026-12-01')).toBeVisible()
    await addStep(page, 'Columns become one series')
    await steps(page).getByRole('textbox', { name: 'the numbers are' }).fill('Landed')
    await steps(page).getByRole('textbox', { name: 'columns tell apart' }).fill('harbour')
    await page.keyboard.press('Tab')
    await expect(steps(page)).toContainText('3 columns become Landed, told apart by harbour')
    await addStep(page, 'Go by a table')
    await pick(ask(page, 'the table'), 'coves and bays.csv')
    await pick(ask(page, 'from'), 'harbour')
    await pick(ask(page, 'there called'), 'place')
    await pick(ask(page, 'to'), 'bay')
    await pick(ask(page, 'shares'), 'share')
    await expect(steps(page)).toContainText('3 series become 2, added up')
    await addStep(page, 'Longer or shorter periods')
    await expect(page.getByText('8 times from 2019-01-01 to 2026-01-01')).toBeVisible()
    await expect(table(page).getByRole('row', { name: /^2020-01-01/ })).toBeVisible()
    await expectAccessible(page)
    // Switched off, the months are back; and on again.
    await steps(page).getByRole('switch', { name: 'Step 3: To years' }).click()
    await expect(page.getByText('96 times from')).toBeVisible()
    await steps(page).getByRole('switch', { name: 'Step 3: To years' }).click()
    for (const bay of ['harbour bay', 'outer bay']) {
        await pick(page.getByRole('combobox', { name: `What Landed[${bay}] is` }), 'nothing: leave it out')
    }
    await page.getByRole('button', { name: 'Keep the file alone' }).click()
    await expect(page.getByText('kept', { exact: true })).toBeVisible()

    await drop(page, 'landings by cove.csv', await file('landings by cove.csv'))
    await addStep(page, 'Go by a table')
    await pick(ask(page, 'the table'), 'coves and bays.csv')
    await pick(ask(page, 'from'), 'Cove')
    await pick(ask(page, 'there called'), 'place')
    await pick(ask(page, 'to'), 'bay')
    await pick(ask(page, 'shares'), 'share')
    await addStep(page, 'Fill gaps from another series')
    await pick(ask(page, 'from the file'), 'harbour landings.csv')
    await pick(ask(page, 'series'), 'Landed')
    await expect(steps(page)).toContainText(/6 gaps filled from Landed × 1\.1/)
    // Amounts do not lead to a rate: the page says so, and mends it in one act.
    await page.getByRole('button', { name: 'They are amounts: make rates per year' }).first().click()
    await expect(page.getByRole('combobox', { name: 'What Landed[outer bay] is' })).toContainText('landed: outer bay')
    await expect(page.getByText('same unit')).toHaveCount(2)
    await page.getByRole('button', { name: 'Keep 2 series' }).click()
    await expect(fits(page)).toContainText('25 points')
    await expect(fits(page)).toContainText('landed, outer bay')
    await expectAccessible(page)
    // Out again: what is shown, and the whole with its notes.
    for (const [words, file] of [
        ['A row for each value, and where it stands (CSV)', /\.csv$/],
        ['A workbook with notes (XLSX)', /\.xlsx$/],
    ] as const) {
        const saved = page.waitForEvent('download')
        await page.getByRole('button', { name: 'Export', exact: true }).click()
        await page.getByRole('menuitem', { name: words }).click()
        const download = await saved
        expect(download.suggestedFilename()).toMatch(file)
        const bytes = await readFile(await download.path())
        expect(bytes.subarray(0, 2).toString()).toBe(file.test('x.xlsx') ? 'PK' : 'Ye')
    }
    // The same file again: the steps run by themselves.
    await drop(page, 'landings by cove.csv', (await file('landings by cove.csv')).replace('2024,Mill Cove,', '2024,Mill Cove,1'))
    await expect(steps(page)).toContainText('6 gaps filled')
    // One number, and the two that were filled by what it is part of.
    await expect(page.getByText('0 new, 3 changed, 0 gone')).toBeVisible()
})

test('an area map is coloured at the playhead, two runs stand beside each other, and a click tells the course of an area', async ({
    page,
}) => {
    await openCopy(page, 'Oyster terraces')
    await page.getByRole('link', { name: 'Data' }).click()
    await page.getByRole('button', { name: 'Remove coves.geojson' }).click()
    const chooser = page.waitForEvent('filechooser')
    await page.getByRole('button', { name: 'Add a file' }).click()
    await (await chooser).setFiles('demo/files/coves.geojson')
    await expect(page.getByRole('heading', { name: 'coves.geojson' })).toBeVisible()
    await pick(page.getByRole('combobox', { name: 'Coloured by' }), 'landed (thousand/year)')
    const island = page.getByRole('group', { name: 'Areas' })
    const mill = island.getByRole('button', { name: /^Mill Cove, harbour bay: / })
    await expect(mill).toHaveCount(1)
    const before = await mill.getAttribute('aria-label')
    await expect(island.getByRole('button', { name: 'Quillhaven: nothing of the model' })).toHaveCount(1)
    // The playhead moves, and the colours with it.
    await page
        .getByRole('slider', { name: /playhead|time/i })
        .first()
        .focus()
    await page.keyboard.press('Home')
    await expect(island.getByRole('button', { name: 'Mill Cove, harbour bay: 0 thousand/year' })).toHaveCount(1)
    await page.getByRole('combobox', { name: 'Beside which run' }).click()
    await page.getByRole('option', { name: 'measured' }).click()
    await expect(mill).toHaveCount(2)
    await expect(island.getByRole('button', { name: 'Mill Cove, harbour bay: no data' })).toHaveCount(1)
    await page.getByRole('button', { name: 'Play', exact: true }).click()
    await expect.poll(async () => island.getByRole('button', { name: 'Mill Cove, harbour bay: no data' }).count()).toBe(0)
    expect(before).not.toContain(': 0 ')
    await island
        .getByRole('button', { name: /^Gull Cove/ })
        .first()
        .click()
    await expect(page.getByRole('heading', { name: 'landed, outer bay thousand/year' })).toBeVisible()
    await expect(page.getByRole('img', { name: /^landed, outer bay, thousand\/year: baseline from 0/ })).toBeVisible()
    await expectAccessible(page)
    // By the keys, too.
    await page.keyboard.press('ArrowRight')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('img', { name: /^landed, / })).toBeVisible()
    await page.getByText('Table of 8 areas').click()
    await expect(page.getByRole('row', { name: /^Thrift Cove/ })).toBeVisible()
    await page.getByText('Which area is which bay').click()
    await expect(page.getByText('Every one has found its own.')).toBeVisible()
    await pick(page.getByRole('combobox', { name: 'By the property' }), 'name')
    await expect(page.getByText('Nothing of this map is an element of a dimension')).toHaveCount(0)
    await page.locator('header').getByRole('button', { name: 'Undo' }).click()
    for (const [words, file] of [
        ['Drawing (SVG)', /\.svg$/],
        ['Picture (PNG)', /\.png$/],
        ['Areas with values at eleven times (GeoJSON)', /\.geojson$/],
    ] as const) {
        const saved = page.waitForEvent('download')
        await page.getByRole('button', { name: 'Export', exact: true }).click()
        await page.getByRole('menuitem', { name: words }).click()
        expect((await saved).suggestedFilename()).toMatch(file)
    }
})
