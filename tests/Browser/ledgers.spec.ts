import { readFileSync } from 'node:fs'
import { expect, type Page } from '@playwright/test'
import { expectAccessible, newStudy, openCopy, pick } from './sheet'
import { test } from './test'

const stage = (page: Page) => page.getByRole('region', { name: 'Ledgers', exact: true })
const side = (page: Page) => page.getByRole('complementary', { name: 'Who owes whom' })
const book = (page: Page, party: string) => page.getByRole('region', { name: `Ledger of ${party}` })
const cell = (page: Page, party: string, row: string, account: string) =>
    book(page, party).getByRole('button', { name: new RegExp(`^${row}, ${account}:`) })
async function write(page: Page, label: string, text: string) {
    const field = stage(page).getByRole('textbox', { name: label, exact: true })
    await field.fill(text)
    await field.press('Enter')
}
/** How much: a formula is written where it stands, in an editor that opens on it. */
async function amount(page: Page, row: string, text: string) {
    await stage(page)
        .getByRole('button', { name: new RegExp(`^How much: ${row}:`) })
        .click()
    const field = stage(page).getByRole('textbox', { name: `How much: ${row}`, exact: true })
    await expect(field).toBeFocused()
    await page.keyboard.type(text)
}
async function call(page: Page, was: string, name: string) {
    await stage(page).getByRole('button', { name: was, exact: true }).click()
    await write(page, `Name of ${was}`, name)
    await expect(stage(page).getByRole('button', { name, exact: true })).toBeVisible()
}

test('a lender’s books are begun from nothing: accounts, a row, its second entry by one key, its amount, and live balances', async ({
    page,
}) => {
    page.setDefaultTimeout(8_000)
    await newStudy(page)
    await expect(page.getByRole('link', { name: 'Ledgers' })).toHaveCount(0)
    await page.keyboard.press('Control+k')
    await page.getByRole('dialog').getByRole('combobox').fill('ledger')
    await page.getByRole('option', { name: /Add a ledger/ }).click()
    await expect(page.getByRole('link', { name: 'Ledgers' })).toBeVisible()
    await write(page, 'Name of this party', 'lender')
    await expect(book(page, 'lender')).toBeVisible()
    await stage(page).getByRole('button', { name: 'Add what lender owns' }).click()
    await call(page, 'asset', 'loans')
    await write(page, 'What loans is at the start', '100')
    await stage(page).getByRole('button', { name: 'Add what lender owes' }).click()
    await call(page, 'debt', 'accounts')
    await write(page, 'What accounts is at the start', '60')

    // A row is named, entered on one side, and mended by the key that stands there.
    await write(page, 'Name of the next row', 'interest')
    await expect(stage(page).getByText('Enters nothing yet: press + or − in a cell.')).toBeVisible()
    await amount(page, 'interest', '0.1 * loans')
    await page.keyboard.press('Enter')
    await cell(page, 'lender', 'interest', 'accounts').focus()
    await page.keyboard.press('-')
    await expect(stage(page).getByText(/^Does not balance here by 10/)).toBeVisible()
    await expect(page.getByRole('link', { name: /Ledgers/ })).toContainText('3')
    await cell(page, 'lender', 'interest', 'accounts').focus()
    await page.keyboard.press('ArrowRight')
    await expect(cell(page, 'lender', 'interest', 'net worth')).toBeFocused()
    await page.keyboard.press('Enter')
    await expect(cell(page, 'lender', 'interest', 'net worth')).toHaveAccessibleName('interest, net worth: more, +10')
    await expect(stage(page).getByText(/Does not balance/)).toHaveCount(0)
    await expect(book(page, 'lender').getByRole('row', { name: /^Changes now by/ })).toContainText('−10')

    // Several cells at once, by Shift and arrows; what is copied goes in again elsewhere, and one undo takes it out.
    await cell(page, 'lender', 'interest', 'loans').focus()
    await page.keyboard.press('Shift+ArrowRight')
    await page.keyboard.press('+')
    await expect(cell(page, 'lender', 'interest', 'loans')).toHaveAccessibleName('interest, loans: more, +10')
    await expect(cell(page, 'lender', 'interest', 'accounts')).toHaveAccessibleName('interest, accounts: more, +10')
    await page.getByRole('button', { name: 'Undo', exact: true }).click()
    await expect(cell(page, 'lender', 'interest', 'loans')).toHaveAccessibleName('interest, loans: nothing')
    await expect(cell(page, 'lender', 'interest', 'accounts')).toHaveAccessibleName('interest, accounts: less, −10')

    // The same in debit and credit; and undone to what it was.
    await stage(page).getByRole('radio', { name: 'Debit and credit' }).or(stage(page).getByText('Debit and credit')).first().click()
    await expect(cell(page, 'lender', 'interest', 'net worth')).toHaveAccessibleName('interest, net worth: more, Cr 10')
    await expect(cell(page, 'lender', 'interest', 'accounts')).toHaveAccessibleName('interest, accounts: less, Dr 10')
    await stage(page).getByText('Signs').click()
    await page.getByRole('button', { name: 'Undo', exact: true }).click()
    await expect(stage(page).getByText(/^Does not balance here by 10/)).toBeVisible()
    await page.getByRole('button', { name: 'Redo', exact: true }).click()
    await expect(stage(page).getByText(/Does not balance/)).toHaveCount(0)

    // Whoever holds it has it in a ledger of his own, with the rows that enter it, open until they balance there too.
    await stage(page).getByRole('button', { name: 'Add a ledger' }).click()
    await expect(book(page, 'party')).toBeVisible()
    await write(page, 'Name of this party', 'savers')
    await pick(side(page).getByRole('combobox', { name: 'Who holds accounts' }), 'savers')
    await stage(page)
        .getByRole('tab', { name: /^savers/ })
        .click()
    await expect(stage(page).getByText(/^Does not balance here by 10/)).toBeVisible()
    await stage(page)
        .getByRole('button', { name: /net worth of savers takes −/ })
        .click()
    await expect(stage(page).getByText(/Does not balance/)).toHaveCount(0)
    await expect(side(page).getByRole('listitem').filter({ hasText: 'loans has nobody who owes it yet' })).toBeVisible()
    await expectAccessible(page)

    // What nobody owes is a real thing. A name that is missing becomes a parameter, whose value is asked for beside the books.
    await stage(page)
        .getByRole('tab', { name: /^lender/ })
        .click()
    await stage(page).getByRole('button', { name: 'loans', exact: true }).click()
    await page.keyboard.press('Escape')
    await pick(side(page).getByRole('combobox', { name: 'Who owes loans' }), 'nobody: a real thing')
    await expect(side(page).getByText('has nobody who owes it yet')).toHaveCount(0)
    await amount(page, 'interest', 'rent * loa')
    await expect(stage(page).getByRole('option', { name: /loans/ })).toBeVisible()
    await page.keyboard.press('Tab')
    await page.keyboard.press('Enter')
    await stage(page).getByRole('button', { name: 'Add rent as a parameter' }).click()
    await side(page).getByRole('textbox', { name: 'rent' }).fill('0.2')
    await page.keyboard.press('Enter')
    await expect(cell(page, 'lender', 'interest', 'net worth')).toHaveAccessibleName('interest, net worth: more, +20')
})

test('the harbour books: pages, matrices that add up, and a claim in other hands, foreseen, done and undone', async ({ page }) => {
    page.setDefaultTimeout(8_000)
    await openCopy(page, 'The harbour books')
    await page.getByRole('link', { name: 'Ledgers' }).click()
    await stage(page).getByRole('tab', { name: 'credit union' }).click()
    await expect(cell(page, 'credit union', 'new loans', 'loans to fishers')).toHaveAccessibleName(/more, \+16/)
    await expect(side(page).getByText('together 330')).toBeVisible()
    await expectAccessible(page)
    await page.getByRole('button', { name: 'Dark theme' }).click()
    await expectAccessible(page, 'colours')
    await page.getByRole('button', { name: 'Light theme' }).click()

    await stage(page).getByText('Matrices').click()
    const whole = stage(page).getByRole('table', { name: /^Who owns and owes/ })
    await expect(
        whole
            .getByRole('row', { name: /^loans to fishers/ })
            .getByRole('cell')
            .nth(6),
    ).toHaveText('0')
    await expect(
        whole
            .getByRole('row', { name: /^net worth/ })
            .getByRole('cell')
            .nth(6),
    ).toHaveText('330')
    const moves = stage(page).getByRole('table', { name: /^What moves/ })
    await expect(
        moves
            .getByRole('row', { name: /^taxes/ })
            .getByRole('cell')
            .last(),
    ).toHaveText('0')
    await expect(moves.getByRole('row', { name: /^adds up to/ }).getByRole('cell')).toHaveText(['0', '0', '0', '0', '0', '0', '0'])
    await stage(page).getByText('Per cent of a total').click()
    await expect(whole.getByRole('row', { name: /^loans to fishers/ })).toContainText('%')
    await stage(page).getByText('Who pays whom').click()
    await expect(stage(page).getByRole('img', { name: /catch delivered: [\d.]+, from cooperative to fishers/ })).toBeVisible()
    await expectAccessible(page)

    // Lending by savers: what changes is told before, and one act takes it back.
    await pick(side(page).getByRole('combobox', { name: 'Which claim goes to another holder' }), 'loans to fishers')
    await pick(side(page).getByRole('combobox', { name: 'To whom' }), 'islanders')
    await expect(side(page).getByText(/new loans goes by account of the islanders, which becomes less/)).toBeVisible()
    await expect(side(page).getByText(/interest on loans follows from it, but does not enter it/)).toBeVisible()
    await side(page).getByRole('button', { name: 'Give it to islanders' }).click()
    await expect(page.getByText('loans to fishers: islanders holds it now.')).toBeVisible()
    // The former world stays as a version, and lies beside that of today.
    await expect(side(page).getByText(/kept as the version “loans to fishers held by credit union”/)).toBeVisible()
    await expect(
        side(page)
            .getByText(/^there −/)
            .first(),
    ).toBeVisible()
    await expect(page.getByText('loans to fishers held by credit union').last()).toBeVisible()
    await stage(page).getByRole('tab', { name: 'islanders' }).click()
    await expect(cell(page, 'islanders', 'new loans', 'account of the islanders')).toHaveAccessibleName(/less, −/)
    await page.getByRole('button', { name: 'Undo', exact: true }).first().click()
    await stage(page).getByRole('tab', { name: 'credit union' }).click()
    await expect(cell(page, 'credit union', 'new loans', 'loans to fishers')).toHaveAccessibleName(/more, \+16/)
    await stage(page).getByText('Net worths', { exact: true }).click()
    await expect(page.getByRole('img', { name: /^What all are worth over time, .*together 330$/ })).toBeVisible()
    const times = stage(page).getByRole('textbox', { name: 'At what times balances go out' })
    await times.fill('12, soon')
    await stage(page).getByRole('button', { name: 'Save the ledgers as CSV' }).click()
    await expect(page.getByText(/“soon” is no time of the run, which goes from 0 to 480/)).toBeVisible()
    await times.fill('12, 36')
    const table = page.waitForEvent('download')
    await stage(page).getByRole('button', { name: 'Save the ledgers as CSV' }).click()
    expect(readFileSync(await (await table).path(), 'utf8')).toMatch(/^claim,owed by,held by,unit,month 12,month 36\r?\n/)
    await times.fill('')
    const saved = page.waitForEvent('download')
    await stage(page).getByRole('button', { name: 'Save the ledgers as a workbook' }).click()
    expect((await saved).suggestedFilename()).toMatch(/ledgers\.xlsx$/)
    await stage(page).getByText('Beside each other').click()
    await expect(book(page, 'fishers')).toBeVisible()
    await page.getByRole('group', { name: 'Ledger of note office, out of sight' }).scrollIntoViewIfNeeded()
    await expect(book(page, 'note office')).toBeVisible()
})

test('a table out of a spreadsheet becomes a ledger: what does not balance comes along, marked', async ({ page }) => {
    page.setDefaultTimeout(8_000)
    await newStudy(page)
    await page.keyboard.press('Control+k')
    await page.getByRole('dialog').getByRole('combobox').fill('add a ledger')
    await page.keyboard.press('Enter')
    await expect(book(page, 'party')).toBeVisible()
    await stage(page).getByRole('button', { name: 'Paste a table' }).click()
    const dialog = page.getByRole('dialog', { name: 'A ledger from a table' })
    await expect(dialog.getByRole('textbox').first()).toBeFocused()
    await dialog.getByRole('textbox').first().fill('\tcash\tdebt\nat the start\t20\t8\nlent\t4\t4\nfees\t2\t\n')
    await expect(dialog.getByText('Say of each account whether it is owned or owed')).toBeVisible()
    await expect(dialog.getByRole('button', { name: /^Make the ledger/ })).toBeDisabled()
    await pick(dialog.getByRole('combobox', { name: 'Whether cash is owned or owed' }), 'owns')
    await pick(dialog.getByRole('combobox', { name: 'Whether debt is owned or owed' }), 'owes')
    await dialog.getByRole('textbox', { name: 'Ledger of' }).fill('ice house')
    await expect(dialog.getByText('It does not balance, by 2.')).toBeVisible()
    await expectAccessible(page)
    await dialog.getByRole('button', { name: 'Make the ledger of ice house' }).click()
    await expect(book(page, 'ice house')).toContainText('Does not balance here by 2')
    await expect(cell(page, 'ice house', 'lent', 'debt')).toHaveAccessibleName(/more, \+4/)
    await page.getByRole('button', { name: 'Undo', exact: true }).first().click()
    await expect(book(page, 'ice house')).toHaveCount(0)
})

test('what ledgers make is looked at as all else: from a cell to its causes on the sheet, as a track, and as an echo', async ({ page }) => {
    page.setDefaultTimeout(8_000)
    await openCopy(page, 'The harbour books')
    await page.getByRole('link', { name: 'Ledgers' }).click()
    await cell(page, 'fishers', 'wages of the crews', 'net worth').focus()
    const card = side(page).getByRole('region', { name: 'Card of wages of the crews' })
    await expect(card).toContainText('row of the ledgers')
    await card.getByRole('button', { name: 'Show track' }).click()
    await expect(page.getByRole('region', { name: 'Tracks' })).toContainText('wages of the crews')
    await card.getByRole('button', { name: 'Why' }).click()
    await expect(page.getByText('its causes add up to that')).toBeVisible()
    await expect(page.locator('main').getByText('hands hired').first()).toBeVisible()
    await page.goBack()

    // A claim stands on a sheet as an echo, from which a formula is fed.
    await stage(page).getByRole('button', { name: 'loans to fishers', exact: true }).click()
    await page.keyboard.press('Escape')
    await side(page).getByRole('button', { name: 'Echo on Boats' }).click()
    await expect(page.locator('.vue-flow__node', { hasText: 'loans to fishers' })).toBeVisible()
    await expect(page.getByRole('region', { name: 'Card of loans to fishers' })).toContainText('owed by fishers, held by credit union')
    await page.getByRole('button', { name: 'Open in Ledgers' }).click()
    await expect(book(page, 'fishers')).toBeVisible()
})
