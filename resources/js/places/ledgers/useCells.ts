import { computed, ref } from 'vue'
import type { LedgerEntry, LedgerRow } from '@/api/types'
import { useLedgers } from '@/stores/ledgers'
import { signOf } from './written'

type Sign = '+' | '-' | ''
type What = { claim: string } | { worth: string }
export interface CellRow {
    row: LedgerRow
    remedy: { entries: LedgerEntry[] } | null
}
const KEYS: Record<string, Sign> = { '+': '+', '-': '-', '−': '-', Delete: '', Backspace: '' }
const ARROWS: Record<string, [number, number]> = { ArrowLeft: [0, -1], ArrowRight: [0, 1], ArrowUp: [-1, 0], ArrowDown: [1, 0] }

/** What cells out of a spreadsheet say as entries; undefined where they are none, as names and sentences are. */
export function signsIn(text: string): (Sign | undefined)[][] | undefined {
    const lines = text
        .replace(/\r\n?/g, '\n')
        .replace(/\n$/, '')
        .split('\n')
        .map((line) => line.split('\t').map((cell) => cell.trim().replace(/−/g, '-')))
    const isEntry = (cell: string) => /^(?:[+-]?|[+-]?\s*\d[\d.,\s']*(?:e[+-]?\d+)?)$/i.test(cell)
    if (!lines.every((line) => line.every(isEntry))) {
        return undefined
    }
    return lines.map((line) =>
        line.map((cell) => (cell === '' ? undefined : /[1-9]/.test(cell) || !/\d/.test(cell) ? (cell.startsWith('-') ? '-' : '+') : '')),
    )
}

/** The cells of a ledger by keyboard, as in a spreadsheet: arrows, ranges with Shift, signs in all of a range, copy and paste. */
export function useCells(
    rows: () => readonly CellRow[],
    columns: () => readonly { what: What }[],
    focus: (row: number, column: number) => void,
    amountOf: (row: LedgerRow, column: number) => number | undefined,
) {
    const ledgers = useLedgers()
    const here = ref<[number, number]>([0, 0])
    const anchor = ref<[number, number] | null>(null)
    let isExtending = false
    const range = computed(() => {
        const from = anchor.value ?? here.value
        const [top, bottom] = [Math.min(from[0], here.value[0]), Math.max(from[0], here.value[0])]
        const [left, right] = [Math.min(from[1], here.value[1]), Math.max(from[1], here.value[1])]
        return { top, bottom, left, right }
    })
    const inRange = (r: number, c: number) => {
        const { top, bottom, left, right } = range.value
        return anchor.value !== null && r >= top && r <= bottom && c >= left && c <= right
    }
    function entered(r: number, c: number) {
        here.value = [r, c]
        if (!isExtending) {
            anchor.value = null
        }
    }
    function put(signs: (r: number, c: number) => Sign | undefined) {
        const { top, bottom, left, right } = range.value
        const changes = []
        for (let r = top; r <= bottom; r++) {
            for (let c = left; c <= right; c++) {
                const [row, what, sign] = [rows()[r]?.row.id, columns()[c]?.what, signs(r - top, c - left)]
                if (row && what && sign !== undefined) {
                    changes.push({ row, what, sign })
                }
            }
        }
        void ledgers.enterAll(changes)
    }
    function typed(r: number, c: number, event: KeyboardEvent) {
        const sign = event.ctrlKey || event.metaKey || event.altKey ? undefined : KEYS[event.key]
        const step = ARROWS[event.key]
        if (sign !== undefined) {
            event.preventDefault()
            put(() => sign)
        } else if (event.key === 'Enter') {
            event.preventDefault()
            const remedy = rows()[r]?.remedy
            if (remedy) {
                void ledgers.mend(rows()[r]?.row.id ?? '', remedy.entries)
            } else {
                focus(r + 1, c)
            }
        } else if (event.key === 'Escape' && anchor.value) {
            event.preventDefault()
            event.stopPropagation()
            anchor.value = null
        } else if (step) {
            event.preventDefault()
            const to: [number, number] = [
                Math.min(rows().length - 1, Math.max(0, r + step[0])),
                Math.min(columns().length - 1, Math.max(0, c + step[1])),
            ]
            isExtending = event.shiftKey
            anchor.value = event.shiftKey ? (anchor.value ?? [r, c]) : null
            focus(...to)
            isExtending = false
        }
    }
    /** Amounts with their signs, as a spreadsheet takes them. */
    function copied(event: ClipboardEvent) {
        const { top, bottom, left, right } = range.value
        const lines = []
        for (let r = top; r <= bottom; r++) {
            const cells = []
            for (let c = left; c <= right; c++) {
                const [row, what] = [rows()[r]?.row, columns()[c]?.what]
                const value = row && what && signOf(row, what) ? amountOf(row, c) : undefined
                cells.push(value === undefined || !Number.isFinite(value) ? '' : String(value))
            }
            lines.push(cells.join('\t'))
        }
        event.clipboardData?.setData('text/plain', lines.join('\n'))
        event.preventDefault()
    }
    /** Signs, or numbers with theirs, go into the cells from here on; anything else is left to whoever takes whole tables. */
    function pasted(event: ClipboardEvent) {
        const signs = signsIn(event.clipboardData?.getData('text/plain') ?? '')
        if (!signs?.flat().some((s) => s !== undefined)) {
            return
        }
        event.preventDefault()
        event.stopPropagation()
        const { top, left } = range.value
        const wide = Math.max(...signs.map((l) => l.length))
        anchor.value = [top, left]
        here.value = [Math.min(rows().length - 1, top + signs.length - 1), Math.min(columns().length - 1, left + wide - 1)]
        put((r, c) => signs[r]?.[c])
    }
    return { inRange, entered, typed, copied, pasted }
}
