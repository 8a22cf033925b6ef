import type { MemberRow, Muster } from '@/api/types'
import { niceStep } from '@/ui/numbers'

/** One member's course as pairs of a time and a value. */
export function courseOf(muster: Muster, number: number): [number, number][] {
    const life = muster.lives.find((l) => l.number === number)
    return life ? life.values.map((v, i): [number, number] => [muster.times[life.first + i] ?? NaN, v]) : []
}

/** The least and the largest of all that is drawn. */
export function reach(muster: Muster): [number, number] {
    let [low, high] = [Infinity, -Infinity]
    for (const life of muster.lives) {
        for (const v of life.values) {
            low = v < low ? v : low
            high = v > high ? v : high
        }
    }
    return [low, high]
}

export interface Bin {
    from: number
    to: number
    numbers: number[]
}

/** Members by the size of something, in classes with round edges. */
export function binsOf(rows: MemberRow[], key: string, wished = 10): Bin[] {
    const known = rows.flatMap((r) => {
        const value = r.values[key]
        return typeof value === 'number' ? [{ number: r.number, value }] : []
    })
    if (!known.length) {
        return []
    }
    const values = known.map((k) => k.value)
    const [low, high] = [Math.min(...values), Math.max(...values)]
    // What differs only by rounding is alike.
    const apart = high - low > 1e-6 * Math.max(Math.abs(low), Math.abs(high)) ? high - low : 0
    const step = niceStep((apart || Math.abs(low) || 1) / wished)
    const first = Math.floor(low / step + 1e-9) * step
    const count = Math.max(1, Math.floor((high - first) / step + 1e-9) + 1)
    return Array.from({ length: count }, (_, i) => ({
        from: first + i * step,
        to: first + (i + 1) * step,
        numbers: known.filter((k) => Math.min(count - 1, Math.floor((k.value - first) / step + 1e-9)) === i).map((k) => k.number),
    }))
}

/** Rows in the order of one of their columns; what has no value comes last. */
export function sorted(rows: MemberRow[], by: string, down: boolean): MemberRow[] {
    const value = (r: MemberRow): string | number | null => (by === 'name' ? r.name : (r.values[by] ?? r.belongs[by] ?? null))
    return [...rows].sort((a, b) => {
        const [x, y] = [value(a), value(b)]
        if (x === null || y === null) {
            return x === y ? a.number - b.number : x === null ? 1 : -1
        }
        const order =
            typeof x === 'number' && typeof y === 'number' ? x - y : String(x).localeCompare(String(y), undefined, { numeric: true })
        return (down ? -order : order) || a.number - b.number
    })
}

/** Whether what is drawn only holds or does not hold. */
export const isCondition = (muster: Muster) =>
    muster.lives.length > 0 && muster.lives.every((l) => l.values.every((v) => v === 0 || v === 1))

export interface Spans {
    number: number
    spans: [number, number][]
}

/** From when until when something holds of each member; those come first for whom it holds first, and last those of whom it never does. */
export function spansOf(muster: Muster): Spans[] {
    const rows = muster.lives.map((life): Spans => {
        const spans: [number, number][] = []
        life.values.forEach((v, i) => {
            const [from, to] = [muster.times[life.first + i] ?? NaN, muster.times[life.first + i + 1]]
            const last = spans.at(-1)
            if (v !== 0 && last && last[1] === from) {
                last[1] = to ?? from
            } else if (v !== 0) {
                spans.push([from, to ?? from])
            }
        })
        return { number: life.number, spans }
    })
    return rows.sort((a, b) => (a.spans[0]?.[0] ?? Infinity) - (b.spans[0]?.[0] ?? Infinity) || a.number - b.number)
}
