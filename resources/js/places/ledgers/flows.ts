import type { Books } from '@/api/types'
import { signOf } from './written'

/** What goes from one party to another by a row; `from` or `to` is empty where a real thing comes up or goes away. */
export interface Payment {
    row: string
    name: string
    from: string
    to: string
    amount: number
}

/**
 * Who pays whom, by the rows that change what somebody is worth: each payer with a payee, in the order of parties. What is less than
 * nothing goes the other way.
 */
export function paymentsOf(books: Books, amount: (flow: string) => number | undefined): Payment[] {
    return books.rows.flatMap((row) => {
        const value = row.sound ? (amount(row.flow) ?? 0) : 0
        if (!value) {
            return []
        }
        const way = (sign: number) => books.pages.filter((p) => signOf(row, { worth: p.id }) === sign).map((p) => p.id)
        const [payers, payees] = [way(-Math.sign(value)), way(Math.sign(value))]
        return Array.from({ length: Math.max(payers.length, payees.length) }, (_, i) => ({
            row: row.id,
            name: row.name,
            from: payers[i] ?? '',
            to: payees[i] ?? '',
            amount: Math.abs(value),
        }))
    })
}

/** By how much a claim changes, for each unit of time. */
export const rateOf = (books: Books, claim: string, amount: (flow: string) => number | undefined): number =>
    books.rows.reduce((sum, row) => sum + (row.sound ? signOf(row, { claim }) * (amount(row.flow) ?? NaN) || 0 : 0), 0)
