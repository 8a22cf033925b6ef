import type { Books } from '@/api/types'
import type { Cell } from '@/ui/download'
import { signOf } from './written'

/** The value of a column of the run at a time; undefined where there is none. */
export type ValueAt = (column: string, time: number) => number | undefined

const cell = (v: number | undefined): Cell => (v === undefined || !Number.isFinite(v) ? '' : v)

/** Books as sheets of a workbook: a page for each party with its balances at some times and the amounts of its rows, and who owes whom. */
export function bookSheets(books: Books, times: readonly number[], now: number, timeUnit: string, at: ValueAt) {
    const claims = Object.fromEntries(books.claims.map((c) => [c.id, c]))
    const unit = books.claims.find((c) => c.unit)?.unit ?? ''
    const perTime = unit && timeUnit ? `${unit}/${timeUnit}` : ''
    const moment = (t: number) => `${timeUnit} ${t}`.trim()
    const pages = books.pages.map((page) => {
        const accounts = [
            ...page.owns.map((id) => ({ side: 'owns', name: claims[id]?.name ?? '', what: { claim: id }, of: claims[id]?.balance ?? '' })),
            ...page.owes.map((id) => ({ side: 'owes', name: claims[id]?.name ?? '', what: { claim: id }, of: claims[id]?.balance ?? '' })),
            { side: 'is worth', name: 'net worth', what: { worth: page.id }, of: page.worth },
        ]
        const rows: Cell[][] = [
            [page.name, unit, ...accounts.map((a) => a.side)],
            ['', '', ...accounts.map((a) => a.name)],
            ...times.map((t) => [`Stands at ${moment(t)}`, '', ...accounts.map((a) => cell(at(a.of, t)))]),
            [`Rows at ${moment(now)}${perTime ? `, in ${perTime}` : ''}`, 'formula', ...accounts.map(() => '')],
            ...page.rows.flatMap((r) => {
                const row = books.rows.find((b) => b.id === r.row)
                const amounts = (row ? accounts : []).map((a) => {
                    const sign = row ? signOf(row, a.what) : 0
                    const value = row && sign ? at(row.flow, now) : undefined
                    return cell(value === undefined ? undefined : sign * value)
                })
                return row ? [[row.sound ? row.name : `${row.name} (left out of the run)`, row.formula, ...amounts] as Cell[]] : []
            }),
        ]
        return { name: page.name, rows }
    })
    const register: Cell[][] = [
        ['claim', 'owed by', 'held by', 'unit', ...times.map((t) => moment(t))],
        ...books.claims.map((c): Cell[] => [
            c.name,
            c.real ? 'a real thing' : (books.pages.find((p) => p.id === c.debtor)?.name ?? ''),
            books.pages.find((p) => p.id === c.holder)?.name ?? '',
            c.unit,
            ...times.map((t) => cell(at(c.balance, t))),
        ]),
    ]
    return [{ name: 'Who owes whom', rows: register }, ...pages]
}
