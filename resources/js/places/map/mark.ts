import type { Point } from '@/api/types'
import type { CausalLinkRecord } from '@/api/parts'
import { isIn, type Hull } from './hull'

export interface Afloat {
    at: Point
    hull: Hull
    level: number
}

export interface Mark {
    /** The line with its wave and its tail; it leaves out where the mark stands. */
    line: string
    head: string
    /** What swells once, or is twisted: each full or open. */
    swells: { path: string; open: boolean }[]
    /** The middle of the mark. */
    middle: Point
    /** Where the line begins, for the number of a step. */
    begin: Point
    /** The whole way, to be hit and lit. */
    way: string
}

const STEPS = 60
/** Lengths along the line, in pixels. */
const [SWELL, TWIST, WAVE, FORK] = [34, 50, 46, 26]

const f = (n: number) => n.toFixed(1)

/** A link that leads from a thing to itself goes out above it and comes back. */
function course(from: Afloat, to: Afloat, bow: number): Point[] {
    const points: Point[] = []
    if (from.at.x === to.at.x && from.at.y === to.at.y) {
        for (let i = 0; i <= STEPS; i++) {
            const angle = Math.PI * (0.82 + (1.36 * i) / STEPS)
            points.push({ x: from.at.x + 46 * Math.cos(angle), y: from.at.y - from.hull.height * 0.9 + 40 * Math.sin(angle) - 6 })
        }
        return points
    }
    const [dx, dy] = [to.at.x - from.at.x, to.at.y - from.at.y]
    const control = { x: (from.at.x + to.at.x) / 2 - dy * bow, y: (from.at.y + to.at.y) / 2 + dx * bow }
    for (let i = 0; i <= STEPS * 2; i++) {
        const t = i / (STEPS * 2)
        const point = {
            x: (1 - t) ** 2 * from.at.x + 2 * (1 - t) * t * control.x + t * t * to.at.x,
            y: (1 - t) ** 2 * from.at.y + 2 * (1 - t) * t * control.y + t * t * to.at.y,
        }
        if (!isIn(point, from.at, from.hull, from.level) && !isIn(point, to.at, to.hull, to.level)) {
            points.push(point)
        }
    }
    return points.length > 1 ? points : [from.at, to.at]
}

/** Points along a way by their distance from its beginning, with the direction there. */
function measured(points: Point[]) {
    const far = [0]
    for (let i = 1; i < points.length; i++) {
        const [a, b] = [points[i - 1] as Point, points[i] as Point]
        far.push((far[i - 1] as number) + Math.hypot(b.x - a.x, b.y - a.y))
    }
    const length = far[far.length - 1] as number
    /** The number of the first point that is at least so far along, and not the first of all. */
    function after(s: number): number {
        let [low, high] = [1, far.length - 1]
        while (low < high) {
            const middle = (low + high) >> 1
            if ((far[middle] as number) < s) {
                low = middle + 1
            } else {
                high = middle
            }
        }
        return low
    }
    function at(s: number, aside = 0): Point {
        const i = after(s)
        const [a, b, from, to] = [points[i - 1] as Point, points[i] as Point, far[i - 1] as number, far[i] as number]
        const u = (s - from) / (to - from || 1)
        const size = Math.hypot(b.x - a.x, b.y - a.y) || 1
        return {
            x: a.x + u * (b.x - a.x) - ((b.y - a.y) / size) * aside,
            y: a.y + u * (b.y - a.y) + ((b.x - a.x) / size) * aside,
        }
    }
    /** The way itself from one distance to another: as few points as a bend is seen with. */
    function between(from: number, to: number): Point[] {
        const apart = Math.max(3, Math.ceil(points.length / 24))
        const own = points.slice(after(from), after(to)).filter((_, i) => i % apart === apart - 1)
        return [at(from), ...own, at(to)]
    }
    return { at, between, length }
}

type Way = ReturnType<typeof measured>

const joined = (points: Point[]) => points.map((p, i) => `${i ? 'L' : 'M'}${f(p.x)} ${f(p.y)}`).join('')

function stretch(way: Way, from: number, to: number, aside?: (s: number) => number): string {
    if (to <= from || !aside) {
        return to > from ? joined(way.between(from, to)) : ''
    }
    const points: Point[] = []
    for (let s = from; s < to; s += 1.6) {
        points.push(way.at(s, aside(s)))
    }
    return joined([...points, way.at(to, aside(to))])
}

function leaf(way: Way, from: number, to: number, half: number): string {
    const side = (sign: number) =>
        Array.from({ length: 13 }, (_, i) => way.at(from + ((to - from) * i) / 12, sign * half * Math.sin((Math.PI * i) / 12)))
    return `${joined([...side(1), ...side(-1).reverse()])}Z`
}

/** What of a link its mark shows. */
export type Marked = Pick<CausalLinkRecord, 'sign' | 'late' | 'standing' | 'strength'>

/** How a link is drawn: see the key of the map. */
export function markOf(from: Afloat, to: Afloat, bow: number, link: Marked): Mark {
    const way = measured(course(from, to, bow))
    const { length } = way
    const sign = link.sign ?? '?'
    const size = Math.min(sign === '-' ? TWIST : SWELL, length * 0.46)
    const middle = length * (link.late ? 0.66 : 0.54)
    const [m0, m1] = [middle - size / 2, middle + size / 2]
    const half = Math.min(6.2, size * 0.18)
    const fork = link.standing === 'disputed' ? Math.min(FORK, m0 * 0.5) : 0
    const wave = link.late ? Math.min(WAVE, Math.max(0, m0 - fork - 10)) : 0
    const w0 = m0 - 5 - wave
    const waves = Math.max(2, Math.round(wave / 13))
    const aside = (s: number) => 4.6 * Math.sin((2 * Math.PI * waves * (s - w0)) / wave) * Math.min(1, (s - w0) / 6, (w0 + wave - s) / 6)
    /** From a distance on to the mark, with the wave before it. */
    const onward = (from: number) =>
        wave
            ? stretch(way, from, w0) + stretch(way, Math.max(from, w0), w0 + wave, aside) + stretch(way, w0 + wave, m0)
            : stretch(way, from, m0)
    const parts: string[] = []
    if (fork) {
        parts.push(
            stretch(way, 0, fork, (s) => 5.5 * (1 - s / fork)),
            stretch(way, 0, fork, (s) => -5.5 * (1 - s / fork)),
        )
        parts.push(onward(fork))
    } else if ((link.standing ?? 'open') === 'open' && m0 > 26) {
        parts.push(stretch(way, 0, 5), stretch(way, 9.5, 14.5), onward(19))
    } else {
        parts.push(onward(0))
    }
    const tip = length - 1
    parts.push(stretch(way, m1, tip))
    const [left, right, end] = [way.at(tip - 9, 5.2), way.at(tip - 9, -5.2), way.at(tip)]
    const swells =
        sign === '-'
            ? [
                  { path: leaf(way, m0, middle, half), open: false },
                  { path: leaf(way, middle, m1, half), open: true },
              ]
            : [{ path: leaf(way, m0, m1, sign === '?' ? half + 2.4 : half), open: sign === '?' }]
    return {
        line: parts.join(''),
        head: joined([left, end, right]),
        swells,
        middle: way.at(middle),
        begin: way.at(Math.min(12, length * 0.2)),
        way: stretch(way, 0, tip),
    }
}
