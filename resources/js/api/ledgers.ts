import { json } from './client'
import type { Books, PastedLedger, Rewired } from './types'

/** The ledgers of a study, as pages of a book. */
export const ledgers = {
    books: (id: string) => json<Books>('GET', `models/${id}/books`),
    paste: (id: string, table: { text: string; id: string; party?: string; sides?: (string | null)[] }) =>
        json<PastedLedger>('POST', `models/${id}/books/paste`, table),
    rewire: (id: string, claim: string, holder: string) => json<Rewired>('POST', `models/${id}/books/rewire`, { claim, holder }),
}
