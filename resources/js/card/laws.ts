import type { Distribution } from '@/api/types'
import { literal } from '@/ui/numbers'

/** One number of a distribution. */
interface LawNumber {
    words: string
    /** Where it lies among the values, and the number for a place there; none for what is no place. */
    place?: { at: (numbers: number[]) => number; from: (x: number, numbers: number[]) => number }
}

const plain = (i: number): LawNumber['place'] => ({ at: (n) => n[i] as number, from: (x) => x })
/** A spread, drawn beside the middle. */
const beside = (middle: number, i: number): LawNumber['place'] => ({
    at: (n) => (n[middle] as number) + (n[i] as number),
    from: (x, n) => Math.max(1e-9 * Math.abs(x), x - (n[middle] as number)),
})

/** The families as people choose them, with what their numbers are. */
export const FAMILIES: { name: string; words: string; numbers: LawNumber[] }[] = [
    {
        name: 'normal',
        words: 'normal: about a middle',
        numbers: [
            { words: 'mean', place: plain(0) },
            { words: 'standard deviation', place: beside(0, 1) },
        ],
    },
    {
        name: 'triangular',
        words: 'triangular: low, likely, high',
        numbers: [
            { words: 'low', place: plain(0) },
            { words: 'likely', place: plain(1) },
            { words: 'high', place: plain(2) },
        ],
    },
    {
        name: 'uniform',
        words: 'uniform: anything between',
        numbers: [
            { words: 'low', place: plain(0) },
            { words: 'high', place: plain(1) },
        ],
    },
    {
        name: 'lognormal',
        words: 'lognormal: above 0, far up seldom',
        numbers: [
            { words: 'mean', place: plain(0) },
            { words: 'standard deviation', place: beside(0, 1) },
        ],
    },
    {
        name: 'beta',
        words: 'beta: between two ends',
        numbers: [{ words: 'shape a' }, { words: 'shape b' }, { words: 'low', place: plain(2) }, { words: 'high', place: plain(3) }],
    },
    { name: 'gamma', words: 'gamma', numbers: [{ words: 'shape' }, { words: 'scale' }] },
    { name: 'weibull', words: 'Weibull', numbers: [{ words: 'shape' }, { words: 'scale', place: plain(1) }] },
    { name: 'exponential', words: 'exponential', numbers: [{ words: 'mean', place: plain(0) }] },
    { name: 'discrete', words: 'discrete: single values, weighted', numbers: [] },
    { name: 'empirical', words: 'empirical: from data that was seen', numbers: [] },
]

/** Of these the numbers are typed as one list. */
export const isListed = (family: string) => family === 'discrete' || family === 'empirical'

/** A distribution as it is written. */
export function written(family: string, numbers: number[], low: number | null, high: number | null): string {
    const words = numbers.map(literal)
    const list =
        family === 'discrete' ? words.flatMap((w, i) => (i % 2 === 0 ? [`${w}: ${words[i + 1] ?? '1'}`] : [])).join(', ') : words.join(', ')
    const limits = low === null && high === null ? '' : ` within ${low === null ? '' : literal(low)}..${high === null ? '' : literal(high)}`
    return `${family}(${list})${limits}`
}

/** A place along the values, to about as many digits as one pixel tells. */
export function settled(x: number, span: number): number {
    const step = 10 ** Math.floor(Math.log10(span / 100))
    return Number((Math.round(x / step) * step).toPrecision(12))
}

/** The part of the values that its picture shows: nearly all, and a little beside. */
export function spanOf(law: Distribution): [number, number] {
    const xs = law.density.map(([x]) => x as number)
    const [low, high] = [Math.min(...xs), Math.max(...xs)]
    const room = high > low ? 0.12 * (high - low) : Math.abs(low) || 1
    return [low - room, high + room]
}

/** The outline of a density in a box, its highest point touching the top. */
export function outline(law: Distribution, [from, to]: readonly [number, number], width: number, height: number): string {
    const most = Math.max(...law.density.map(([, y]) => y as number), 1e-300)
    const x = (v: number) => (((v - from) / (to - from)) * width).toFixed(1)
    const y = (d: number) => (height - (d / most) * height).toFixed(1)
    if (law.family === 'discrete') {
        return law.density.map(([v, d]) => `M${x(v as number)} ${height}V${y(d as number)}`).join('')
    }
    const points = law.density.map(([v, d]) => `L${x(v as number)} ${y(d as number)}`)
    const [first, last] = [law.density[0]?.[0] as number, law.density.at(-1)?.[0] as number]
    return `M${x(first)} ${height}${points.join('')}L${x(last)} ${height}Z`
}
