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

/** Between its points a course runs straight; before the first and behind the last there is none. */
export function valueAt(points: Points, time: number): number | undefined {
    const after = points.findIndex(([t = 0]) => t >= time)
    const [b, a] = [points[after], points[after - 1]]
    if (!b || (!a && b[0] !== time)) {
        return undefined
    }
    const [t0, v0] = [a?.[0] ?? 0, a?.[1] ?? 0]
    const [t1, v1] = [b[0] ?? 0, b[1] ?? 0]
    return a && t1 > t0 ? v0 + ((v1 - v0) * (time - t0)) / (t1 - t0) : v1
}

export function valueOf(points: Points, time: number): string {
    const value = valueAt(points, time)
    return value === undefined ? 'none' : literal(Number(value.toPrecision(3)))
}
