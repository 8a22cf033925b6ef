import type { LedgerRow } from '@/api/types'
import { short } from '@/ui/numbers'

export type Side = 'owns' | 'owes' | 'worth'

/** The sign of an entry of a row in an account or in what a party is worth; 0 where it has none. */
export function signOf(row: LedgerRow, what: { claim: string } | { worth: string }): 1 | -1 | 0 {
    const entry = row.entries.find((e) => ('claim' in what ? e.claim === what.claim : e.worth === what.worth))
    return entry ? (entry.sign === '+' ? 1 : -1) : 0
}

/** An amount as it stands in a ledger: with its sign, or as debit and credit of that side. */
export function written(amount: number | undefined, side: Side, way: 'signs' | 'debit', unit = ''): string {
    if (amount === undefined || !Number.isFinite(amount)) {
        return '–'
    }
    const size = short(Math.abs(amount), { unit })
    if (way === 'debit') {
        return size === '0' ? '0' : `${amount > 0 === (side === 'owns') ? 'Dr' : 'Cr'} ${size}`
    }
    return size === '0' ? '0' : `${amount > 0 ? '+' : '−'}${size}`
}
