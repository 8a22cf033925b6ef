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

/**
 * By number, when each was through for the first time: when it first ceased to hold, or, of what holds of most in the end, when it first
 * began to. What comes back later, as faults do, is through no later for that.
 */
export function throughOf(rows: readonly Spans[], end: number): Map<number, number> {
    const known = rows.filter((r) => r.spans.length)
    const isKept = known.filter((r) => (r.spans.at(-1)?.[1] ?? -Infinity) >= end).length * 2 > known.length
    return new Map(
        known.flatMap(({ number, spans }): [number, number][] => {
            const [from, to] = spans[0] ?? [NaN, NaN]
            return isKept ? [[number, from]] : to < end ? [[number, to]] : []
        }),
    )
}

/** Who comes before whom, by numbers. */
export type Before = ReadonlyMap<number, readonly number[]>

/** From the last that was through back to the first: each with the one of those before it that was through last. Nothing can be sooner. */
export function chainOf(through: ReadonlyMap<number, number>, before: Before): number[] {
    const later = (a: number, b: number) => ((through.get(b) ?? -Infinity) > (through.get(a) ?? -Infinity) ? b : a)
    const chain: number[] = []
    let at: number | undefined = [...through.keys()].reduce<number | undefined>((a, b) => (a === undefined ? b : later(a, b)), undefined)
    while (at !== undefined && !chain.includes(at)) {
        chain.unshift(at)
        at = (before.get(at) ?? [])
            .filter((b) => through.has(b))
            .reduce<number | undefined>((a, b) => (a === undefined ? b : later(a, b)), undefined)
    }
    return chain
}

/** Who could be through at a time as far as others go, and is not; and how many wait for it, directly or not. Most waited for first. */
export function holdingUp(
    all: readonly number[],
    through: ReadonlyMap<number, number>,
    before: Before,
    time: number,
): { number: number; waiting: number }[] {
    const isThrough = (n: number) => (through.get(n) ?? Infinity) <= time
    const after = new Map<number, number[]>()
    for (const [n, list] of before) {
        for (const b of list) {
            after.set(b, [...(after.get(b) ?? []), n])
        }
    }
    const waitingFor = (n: number) => {
        const seen = new Set<number>()
        const open = [n]
        for (let at = open.pop(); at !== undefined; at = open.pop()) {
            for (const next of after.get(at) ?? []) {
                if (!seen.has(next) && !isThrough(next)) {
                    seen.add(next)
                    open.push(next)
                }
            }
        }
        seen.delete(n)
        return seen.size
    }
    return all
        .filter((n) => !isThrough(n) && (before.get(n) ?? []).every(isThrough))
        .map((n) => ({ number: n, waiting: waitingFor(n) }))
        .filter((h) => h.waiting > 0)
        .sort((a, b) => b.waiting - a.waiting || a.number - b.number)
}
