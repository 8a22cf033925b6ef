import { describe, expect, it } from 'vitest'
import type { Books, LedgerRow } from '@/api/types'
import { paymentsOf, rateOf } from '@/places/ledgers/flows'
import { bookSheets } from '@/places/ledgers/bookSheets'
import { signsIn } from '@/places/ledgers/useCells'
import { stacked } from '@/places/ledgers/stacked'
import { signOf, written } from '@/places/ledgers/written'

const row = {
    entries: [
        { claim: 'loans', sign: '+' },
        { worth: 'union', sign: '-' },
    ],
} as LedgerRow

describe('entries of a ledger', () => {
    it('are found by the account or the net worth that they are in', () => {
        expect(signOf(row, { claim: 'loans' })).toBe(1)
        expect(signOf(row, { worth: 'union' })).toBe(-1)
        expect(signOf(row, { claim: 'union' })).toBe(0)
    })
    it('are written with signs, or as debit and credit of the side they stand on', () => {
        expect(written(10.25, 'owns', 'signs')).toBe('+10.3')
        expect(written(-10, 'owes', 'signs')).toBe('−10')
        expect([written(10, 'owns', 'debit'), written(10, 'owes', 'debit'), written(10, 'worth', 'debit')]).toEqual([
            'Dr 10',
            'Cr 10',
            'Cr 10',
        ])
        expect([written(-10, 'owns', 'debit'), written(-10, 'owes', 'debit')]).toEqual(['Cr 10', 'Dr 10'])
        expect([written(0, 'owes', 'debit'), written(0, 'owns', 'signs'), written(undefined, 'owns', 'signs')]).toEqual(['0', '0', '–'])
    })
})

describe('what all are worth, on each other', () => {
    it('stands above and below nothing, and adds up', () => {
        const { bands, highs, lows, sum } = stacked([
            [3, -1],
            [-2, 4],
            [5, 2],
        ])
        expect(bands[0]).toEqual({ low: [0, -1], high: [3, 0] })
        expect(bands[1]).toEqual({ low: [-2, 0], high: [0, 4] })
        expect(bands[2]).toEqual({ low: [3, 4], high: [8, 6] })
        expect([highs, lows, sum]).toEqual([
            [8, 6],
            [-2, -1],
            [6, 5],
        ])
        expect(stacked([]).sum).toEqual([])
    })
})

describe('books that go out', () => {
    it('are a register and a page for each party: balances at times, and the amounts of rows with their signs', () => {
        const books = {
            claims: [
                {
                    id: 'loans',
                    name: 'loans',
                    debtor: 'b',
                    holder: 'a',
                    unit: 'crown',
                    stock: 'claim-loans',
                    balance: 'claim-loans',
                    real: false,
                },
            ],
            pages: [{ id: 'a', name: 'lender', worth: 'worth-a', owns: ['loans'], owes: [], rows: [{ row: 'r', gap: 0, remedy: null }] }],
            rows: [{ id: 'r', name: 'repaid', formula: 'loans / 4', flow: 'row-r', entries: [{ claim: 'loans', sign: '-' }] }],
        } as unknown as Books
        const at = (column: string, time: number) => ({ 'claim-loans': 100 - time, 'worth-a': 100, 'row-r': 25 })[column]
        const [register, page] = bookSheets(books, [0, 8], 8, 'month', at)
        expect(register?.rows).toEqual([
            ['claim', 'owed by', 'held by', 'unit', 'month 0', 'month 8'],
            ['loans', '', 'lender', 'crown', 100, 92],
        ])
        expect(page).toEqual({
            name: 'lender',
            rows: [
                ['lender', 'crown', 'owns', 'is worth'],
                ['', '', 'loans', 'net worth'],
                ['Stands at month 0', '', 100, 100],
                ['Stands at month 8', '', 92, 100],
                ['Rows at month 8, in crown/month', 'formula', '', ''],
                ['repaid (left out of the run)', 'loans / 4', -25, ''],
            ],
        })
    })
})

describe('who pays whom', () => {
    const entry = (worth: string, sign: '+' | '-') => ({ worth, sign })
    const books = {
        pages: [{ id: 'a' }, { id: 'b' }, { id: 'c' }],
        rows: [
            { id: 'w', name: 'wages', flow: 'row-w', sound: true, entries: [entry('a', '-'), entry('b', '+'), { claim: 'x', sign: '-' }] },
            { id: 'n', name: 'found', flow: 'row-n', sound: true, entries: [entry('c', '+'), { claim: 'x', sign: '+' }] },
            { id: 'o', name: 'open', flow: 'row-o', sound: false, entries: [entry('a', '-'), { claim: 'x', sign: '+' }] },
            { id: 'l', name: 'lent', flow: 'row-l', sound: true, entries: [{ claim: 'x', sign: '+' }] },
        ],
    } as unknown as Books
    const amounts: Record<string, number> = { 'row-w': 3, 'row-n': 2, 'row-o': 50, 'row-l': 7 }
    it('goes from who is worth less to who is worth more; what is less than nothing goes back', () => {
        expect(paymentsOf(books, (f) => amounts[f])).toEqual([
            { row: 'w', name: 'wages', from: 'a', to: 'b', amount: 3 },
            { row: 'n', name: 'found', from: '', to: 'c', amount: 2 },
        ])
        expect(paymentsOf(books, (f) => -(amounts[f] ?? 0))[0]).toEqual({ row: 'w', name: 'wages', from: 'b', to: 'a', amount: 3 })
        expect(paymentsOf(books, () => undefined)).toEqual([])
    })
    it('changes a claim by all sound rows that enter it', () => {
        expect(rateOf(books, 'x', (f) => amounts[f])).toBe(-3 + 2 + 7)
        expect(rateOf(books, 'nothing', (f) => amounts[f])).toBe(0)
    })
})

describe('cells out of a spreadsheet', () => {
    it('are signs, or numbers with theirs; blank ones leave what is there, and nothing takes it out', () => {
        expect(signsIn('+\t−\t\n-3.5\t0\t1,200\r\n')).toEqual([
            ['+', '-', undefined],
            ['-', '', '+'],
        ])
        expect(signsIn('0.05')).toEqual([['+']])
    })
    it('are no entries where they have names', () => {
        expect(signsIn('wages\t5')).toBeUndefined()
        expect(signsIn('5 t')).toBeUndefined()
    })
})
