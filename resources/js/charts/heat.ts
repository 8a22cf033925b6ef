import type { Plot, Thing } from '@/api/types'
import type { Run } from '@/api/client'
import { indexAt } from '@/ui/times'
import { inShort } from './words'

/** More rows than this are thinner than a line. */
export const MOST_ROWS = 300

/** One row of a heat map: one element of a thing along its dimensions, or a single number. */
export interface HeatRow {
    key: string
    element: string
    name: string
    unit: string
    times: Float64Array
    values: Float64Array
    low: number
    high: number
}

/** How values become colours: over all rows, or over each row’s own range. */
export interface HeatScale {
    low: number
    high: number
    own: boolean
}

/** Rows of a plot’s things, in order, as far as the run has their columns. */
export function heatRows(
    plot: Plot,
    run: Run | null,
    elements: Record<string, Thing>,
    parts: (thing: Thing) => { key: string; name: string }[],
): HeatRow[] {
    if (!run) {
        return []
    }
    const things = plot.of.map((id) => elements[id]).filter((t): t is Thing => t !== undefined && t.kind !== 'curve')
    return things.flatMap((thing) =>
        (thing.along ? parts(thing) : [{ key: thing.id, name: '' }]).flatMap(({ key, name }) => {
            const column = run.values.get(key)
            const steady = run.steady[key]
            const values = column ?? (steady === undefined ? undefined : new Float64Array(run.times.length).fill(steady))
            if (!values) {
                return []
            }
            let [low, high] = [Infinity, -Infinity]
            for (const v of values) {
                if (v < low) low = v
                if (v > high) high = v
            }
            const words = things.length > 1 || !name ? [inShort(thing), name || thing.along?.looked].filter(Boolean).join(', ') : name
            return [{ key, element: thing.id, name: words, unit: thing.unit, times: run.times, values, low, high }]
        }),
    )
}

/** Rows of several units are each told over their own range: their numbers cannot be compared. */
export function heatScale(rows: HeatRow[], plot: Plot): HeatScale {
    const own = plot.options?.measure === 'normalised' || new Set(rows.map((r) => r.unit)).size > 1
    const [low, high] = [Math.min(...rows.map((r) => r.low)), Math.max(...rows.map((r) => r.high))]
    return {
        low: own ? 0 : (plot.options?.low ?? Math.min(low, low > 0 && low < high / 2 ? 0 : low)),
        high: own ? 1 : (plot.options?.high ?? high),
        own,
    }
}

/** Where a value lies on the scale, from 0 to 1; with values on both sides of zero from −1 to 1. */
export function heatShare(value: number, row: HeatRow, scale: HeatScale): number {
    if (!Number.isFinite(value)) {
        return NaN
    }
    if (scale.own) {
        return row.high > row.low ? (value - row.low) / (row.high - row.low) : 0
    }
    if (scale.low < 0 && scale.high > 0) {
        return value / Math.max(-scale.low, scale.high)
    }
    return scale.high > scale.low ? Math.min(1, Math.max(0, (value - scale.low) / (scale.high - scale.low))) : 0
}

const parts = (colour: string): [number, number, number] => {
    const hex = colour.trim().replace('#', '')
    const full = hex.length === 3 ? [...hex].map((c) => c + c).join('') : hex
    return [0, 2, 4].map((i) => parseInt(full.slice(i, i + 2), 16) || 0) as [number, number, number]
}

/** From the ground to one colour, and below zero to another. */
function ramp(ground: string, most: string, least: string): (share: number) => string {
    const [from, up, down] = [parts(ground), parts(most), parts(least)]
    return (share) => {
        if (Number.isNaN(share)) {
            return 'transparent'
        }
        const end = share < 0 ? down : up
        const s = Math.min(1, Math.abs(share)) * 0.94 + 0.06
        return `rgb(${from.map((g, i) => Math.round(g + s * ((end[i] ?? g) - g))).join(' ')})`
    }
}

/** Colours from nothing to the most, and below zero another way. */
export const heatColours = (colour: (token: string) => string) => ramp(colour('--card'), colour('--basin'), colour('--brick'))

/** The same from pale to dark, for what lies on top of other colours. */
export const inkColours = (colour: (token: string) => string) => ramp(colour('--card'), colour('--ink'), colour('--brick'))

/** Paints rows onto a canvas of `width` by `height` pixels, one beneath the other, times from left to right. */
export function paintHeat(
    context: CanvasRenderingContext2D,
    { width, height, from, to }: { width: number; height: number; from: number; to: number },
    rows: HeatRow[],
    scale: HeatScale,
    colourOf: (share: number) => string,
) {
    context.clearRect(0, 0, width, height)
    const tall = height / rows.length
    const gap = tall > 7 ? 1 : 0
    for (const [i, row] of rows.entries()) {
        const top = i * tall
        const first = indexAt(row.times, from)
        for (let k = first; k < row.times.length; k++) {
            const start = Math.max(from, row.times[k] as number)
            const end = Math.min(to, row.times[k + 1] ?? (row.times[k] as number))
            if (start > to || end <= start) {
                continue
            }
            const x = ((start - from) / (to - from)) * width
            context.fillStyle = colourOf(heatShare(row.values[k] as number, row, scale))
            context.fillRect(x, top, ((end - start) / (to - from)) * width + 0.6, tall - gap)
        }
    }
}
