import type { PlotOptions } from '@/api/types'
import { NOISE, niceStep } from '@/ui/numbers'
import type { Line } from './lines'

/** An axis of values; its round numbers are `step` apart. */
export interface Scale {
    low: number
    high: number
    log: boolean
    step: number
}

/** On a logarithmic axis nothing smaller than this part of the largest is shown by itself: below lies rounding. */
const LOG_FLOOR = 1e-6

/** Round numbers that an axis of plots has, about. */
const MARKS = 4

export interface Limits {
    low?: number
    high?: number
    /** Whether zero is in sight though nothing comes near it. */ zero: boolean
    log?: boolean
}

/** The limits of the axis of values; of a phase plot the one that runs up. */
export const limitsOf = (options: PlotOptions, zero = true): Limits => ({
    low: options.low,
    high: options.high,
    zero: zero ? options.fit !== true : options.zero === true,
    log: options.log,
})
export const limitsAcross = (options: PlotOptions): Limits => ({
    low: options['across-low'],
    high: options['across-high'],
    zero: options.zero === true,
})

export function extent(line: Line): [number, number] {
    let low = Infinity
    let high = -Infinity
    for (const v of line.lows ?? line.values) {
        if (v < low) low = v
    }
    for (const v of line.highs ?? line.values) {
        if (v > high) high = v
    }
    return [low, high]
}

/** The least and the largest of several lines, and of numbers that are to be in sight too. */
export function extentOf(lines: Line[], beside: number[] = []): [number, number] {
    return [...lines.map(extent), ...beside.map((v): [number, number] => [v, v])].reduce(
        ([a, b], [c, d]) => [Math.min(a, c), Math.max(b, d)],
        [Infinity, -Infinity],
    )
}

/** What an axis runs over: its ends are round numbers unless they are given. */
export function scaleFor([least, most]: [number, number], limits: Limits, marks = MARKS): Scale {
    if (!Number.isFinite(least) || !Number.isFinite(most)) {
        return { low: limits.low ?? 0, high: limits.high ?? Math.max(1, (limits.low ?? 0) + 1), log: false, step: 0.25 }
    }
    const size = Math.max(Math.abs(least), Math.abs(most))
    // What is only rounding beside the rest does not open a part of the axis of its own.
    let low = Math.abs(least) < NOISE * size ? 0 : least
    let high = Math.abs(most) < NOISE * size ? 0 : most
    if (limits.zero) {
        low = Math.min(0, low)
        high = Math.max(0, high)
    }
    low = limits.low ?? low
    high = limits.high ?? high
    if (high - low <= NOISE * Math.max(Math.abs(low), Math.abs(high))) {
        // Something that stays the same lies in the middle, or above zero.
        const room = Math.abs(low) || 1
        low = limits.low ?? (limits.zero && low >= 0 ? 0 : low - room / 2)
        high = limits.high ?? (limits.zero && high <= 0 && low < 0 ? 0 : low + 1.5 * room)
        high = high > low ? high : low + room
    }
    const step = niceStep((high - low) / marks)
    return {
        low: limits.low ?? Math.floor(low / step + 1e-9) * step,
        high: limits.high ?? Math.ceil(high / step - 1e-9) * step,
        log: false,
        step,
    }
}

/** The axis of values for some lines. */
export function scaleOf(lines: Line[], limits: Limits, beside: number[] = [], marks = MARKS): Scale {
    const [least, most] = extentOf(lines, beside)
    if (!limits.log || !(most > 0)) {
        return scaleFor([least, most], limits, marks)
    }
    const floor = LOG_FLOOR * most
    let positive = most
    for (const line of lines) {
        for (const v of line.lows ?? line.values) {
            if (v >= floor && v < positive) positive = v
        }
    }
    const low = limits.low !== undefined && limits.low > 0 ? limits.low : 10 ** Math.floor(Math.log10(positive) + 1e-9)
    const high = limits.high !== undefined && limits.high > low ? limits.high : 10 ** Math.ceil(Math.log10(most) - 1e-9)
    return { low, high: high > low ? high : low * 10, log: true, step: 1 }
}

/** The round numbers on an axis. */
export function ticksOf({ low, high, log, step }: Scale): number[] {
    if (log) {
        const first = Math.ceil(Math.log10(low) - 1e-9)
        const last = Math.floor(Math.log10(high) + 1e-9)
        const stride = Math.max(1, Math.ceil((last - first) / 6))
        return Array.from({ length: Math.max(0, Math.floor((last - first) / stride) + 1) }, (_, i) => 10 ** (first + i * stride))
    }
    const first = Math.ceil(low / step - 1e-9)
    const count = Math.min(200, Math.floor(high / step + 1e-9) - first + 1)
    return Array.from({ length: Math.max(0, count) }, (_, i) => (first + i) * step)
}

/** Where a value stands, 0 at the foot and 1 at the top. */
export function share(scale: Scale, value: number): number {
    return scale.log
        ? value > 0
            ? Math.log(value / scale.low) / Math.log(scale.high / scale.low)
            : NaN
        : (value - scale.low) / (scale.high - scale.low)
}

/** How many saved values of lines a logarithmic axis cannot show: at or below zero, and below its foot. */
export function unseen(lines: Line[], scale: Scale): { notPositive: number; below: number } {
    const found = { notPositive: 0, below: 0 }
    for (const v of scale.log ? lines.flatMap((l) => [...l.values]) : []) {
        if (v <= 0) {
            found.notPositive++
        } else if (v < scale.low) {
            found.below++
        }
    }
    return found
}
