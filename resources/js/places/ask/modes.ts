import { valueAt } from '@/charts/lines'
import { literal } from '@/ui/numbers'

export const KINDS = [
    { value: 'hoped', words: 'hoped' },
    { value: 'feared', words: 'feared' },
    { value: 'expected', words: 'expected' },
    { value: 'seen', words: 'seen' },
] as const

export type Points = readonly (readonly number[])[]

/** What is drawn anew replaces what was there over its own span. */
export function merged(was: Points, now: readonly [number, number][]): [number, number][] {
    const [first, last] = [now[0]?.[0] ?? Infinity, now[now.length - 1]?.[0] ?? -Infinity]
    const kept = was.map(([t = 0, v = 0]) => [t, v] as [number, number]).filter(([t]) => t < first || t > last)
    return [...kept, ...now].sort((a, b) => a[0] - b[0])
}

/** What a drawn course says at a time, in words; it says nothing before its first point and behind its last. */
export function valueOf(points: Points, time: number): string {
    const value = valueAt({ times: Float64Array.from(points, (p) => p[0] ?? 0), values: Float64Array.from(points, (p) => p[1] ?? 0) }, time)
    return value === undefined ? 'none' : literal(Number(value.toPrecision(3)))
}
