import { json } from './client'
import type { Books, Rewired } from './types'

/** The ledgers of a study, as pages of a book. */
export const ledgers = {
    books: (id: string) => json<Books>('GET', `models/${id}/books`),
    rewire: (id: string, claim: string, holder: string) => json<Rewired>('POST', `models/${id}/books/rewire`, { claim, holder }),
}
