import type { PlotOptions, Thing } from '@/api/types'
import type { Course } from '@/stores/courses'
import { literal, shownValue } from '@/ui/numbers'
import { linesOf } from './lines'

/** A line across a plot, or a band where there are two ends. */
export interface Band {
    at: number
    to?: number
    name: string
}

/** A line that lies at a variable’s values. */
export interface Moving {
    key: string
    name: string
    data: [number, number][]
}

/** Only plain values can be laid beside a line at a number. */
const isPlain = (options: PlotOptions) => !options.measure || options.measure === 'value'

/** The numbers that lines across lie at, so that they are in sight. */
export const numbersOf = (options: PlotOptions): number[] =>
    isPlain(options) ? (options.marks ?? []).flatMap((m) => [m.at, m.to]).filter((v): v is number => typeof v === 'number') : []

/** Variables that lines across lie at. */
export const markedThings = (options: PlotOptions): string[] =>
    (options.marks ?? []).flatMap((m) => [m.at, m.to]).filter((v): v is string => typeof v === 'string')

/** What lies across a plot: at numbers, and at the values that variables have in the run of the day. */
export function bandsOf(options: PlotOptions, courses: Course[], elements: Record<string, Thing>): { bands: Band[]; courses: Moving[] } {
    const bands: Band[] = []
    const moving: Moving[] = []
    const main = courses.filter((c) => c.main)
    for (const [i, mark] of isPlain(options) ? (options.marks ?? []).entries() : []) {
        const ends = [mark.at, mark.to].filter((v) => v !== undefined)
        const numbers = ends.filter((v): v is number => typeof v === 'number')
        if (numbers.length === ends.length) {
            bands.push({ at: numbers[0] as number, ...(numbers.length > 1 ? { to: numbers[1] } : {}), name: mark.name ?? '' })
            continue
        }
        for (const end of ends) {
            if (typeof end === 'number') {
                bands.push({ at: end, name: '' })
                continue
            }
            for (const line of linesOf({ id: 'mark', of: [end] }, main, elements)) {
                moving.push({
                    key: `${i} ${end}`,
                    name: mark.name ?? elements[end]?.name ?? '',
                    data: Array.from(line.times, (t, k): [number, number] => [t, line.values[k] as number]),
                })
            }
        }
    }
    return { bands, courses: moving }
}

/** A line or band in words: "harmful, at 45". */
export function markWords(mark: NonNullable<PlotOptions['marks']>[number], elements: Record<string, Thing>, unit: string): string {
    const end = (v: number | string | undefined) =>
        typeof v === 'number' ? literal(shownValue(v, unit)) : v === undefined ? '' : (elements[v]?.name ?? 'something that is gone')
    return `${mark.name ? `${mark.name}, ` : ''}${mark.to === undefined ? `at ${end(mark.at)}` : `from ${end(mark.at)} to ${end(mark.to)}`}`
}
