import type { PlotOptions } from '@/api/types'
import { niceStep } from '@/ui/numbers'
import type { Line } from './lines'
import { extentOf } from './scale'

/** Classes of values with their edges, `step` apart, and how much of the time each line was in each. */
export interface Bins {
    edges: number[]
    step: number
    /** By line, parts of 1. */ shares: number[][]
}

const USUAL = 20

/** Classes with round edges: about as many as are wished, and never fewer than two. */
export function binsOf(lines: Line[], options: PlotOptions): Bins {
    const [least, most] = extentOf(lines)
    const wished = options.bins ?? USUAL
    const [low, high] = [options['across-low'] ?? least, options['across-high'] ?? most]
    if (!Number.isFinite(low) || !Number.isFinite(high)) {
        return { edges: [], step: 1, shares: lines.map(() => []) }
    }
    const span = high > low ? high - low : Math.abs(low) || 1
    // A chosen number of classes is kept; otherwise their edges are round.
    const step = options.bins ? span / wished : niceStep(span / wished)
    const first = options.bins ? low : Math.floor(low / step + 1e-9) * step
    const count = options.bins ? wished : Math.max(2, Math.ceil((high - first) / step - 1e-9) + (high > low ? 0 : 1))
    const edges = Array.from({ length: count + 1 }, (_, i) => first + i * step)
    return { edges, step: niceStep(((edges[count] as number) - first) / 6), shares: lines.map((l) => sharesOf(l, edges)) }
}

/** How much of the saved time a line lies between each two edges; what lies outside all of them is left out. */
export function sharesOf(line: Line, edges: number[]): number[] {
    const counts = new Array<number>(Math.max(0, edges.length - 1)).fill(0)
    const [first, last] = [edges[0] ?? 0, edges[edges.length - 1] ?? 0]
    for (const v of line.values) {
        if (Number.isFinite(v) && v >= first - 1e-9 * Math.abs(first) && v <= last + 1e-9 * Math.abs(last)) {
            const bin = Math.min(counts.length - 1, Math.max(0, Math.floor(((v - first) / (last - first)) * counts.length + 1e-9)))
            counts[bin] = (counts[bin] ?? 0) + 1
        }
    }
    return counts.map((c) => c / Math.max(1, line.values.length))
}
