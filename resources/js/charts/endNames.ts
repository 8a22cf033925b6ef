import { valueAt, type Line } from './lines'
import { share, type Scale } from './scale'

/** A name at the ends of lines: of one, or of several that lie on each other. */
export interface EndName {
    lines: Line[]
    words: string
    /** All names, for the asking. */ full: string
    y: number
}

interface Room {
    height: number
    /** Between two names. */ gap: number
    /** Names that fit. */ most: number
    /** The part of time that is shown. */ from: number
    to: number
    /** Kept free at the foot. */ foot?: number
}

/** Moments at which lines are compared. */
const LOOKS = 60

/** Lines nearer to each other than this part of the height, all the way, are one to the eye. */
const SAME = 0.004

/** Heights for names at the ends of lines, pushed apart so that none covers another. */
export function apart(wanted: number[], gap: number, height: number): number[] {
    const order = wanted.map((_, i) => i).sort((a, b) => (wanted[a] as number) - (wanted[b] as number))
    const placed: number[] = []
    let floor = -Infinity
    for (const i of order) {
        floor = Math.max(wanted[i] as number, floor + gap)
        placed[i] = floor
    }
    // What was pushed below the foot comes back up, and pushes those above it.
    let ceiling = height
    for (const i of [...order].reverse()) {
        placed[i] = Math.min(placed[i] as number, ceiling)
        ceiling = (placed[i] as number) - gap
    }
    return placed
}

/** Where a line stands at some moments, as parts of the height. */
function course(line: Line, scale: Scale, from: number, to: number): number[] {
    return Array.from({ length: LOOKS + 1 }, (_, i) => {
        const value = valueAt(line, from + ((to - from) * i) / LOOKS)
        return value === undefined ? NaN : share(scale, value)
    })
}

const alike = (a: number[], b: number[]) =>
    a.every((v, i) => (Number.isNaN(v) && Number.isNaN(b[i] as number)) || Math.abs(v - (b[i] as number)) < SAME)

/** Names for the ends of lines, in places of their own; lines that lie on each other share one: "baseline = A price". */
export function endNames(
    lines: Line[],
    scales: Scale[],
    { height, gap, most, from, to, foot = 0 }: Room,
): { names: EndName[]; rest: Line[] } {
    const groups: { lines: Line[]; course: number[]; y: number }[] = []
    for (const [i, line] of lines.entries()) {
        const scale = scales[i] as Scale
        const now = course(line, scale, from, to)
        const known = groups.find((g) => alike(g.course, now))
        if (known) {
            known.lines.push(line)
            continue
        }
        const end = Math.min(to, line.times[line.times.length - 1] ?? to)
        const at = share(scale, valueAt(line, end) ?? NaN)
        groups.push({ lines: [line], course: now, y: Number.isFinite(at) ? (1 - at) * height : height })
    }
    const ordered = [...groups].sort((a, b) => Number(b.lines.some((l) => l.main)) - Number(a.lines.some((l) => l.main)))
    const shown = ordered.slice(0, groups.length > most ? Math.max(1, most - 1) : most)
    const places = apart(
        shown.map((g) => Math.min(height - foot, Math.max(0, g.y))),
        gap,
        height - foot,
    )
    return {
        names: shown.map((g, i) => {
            const names = g.lines.map((l) => l.brief)
            return {
                lines: g.lines,
                words: names.length > 3 ? `${names.slice(0, 2).join(' = ')} = ${names.length - 2} more` : names.join(' = '),
                full: g.lines.map((l) => l.name).join(' = '),
                y: places[i] as number,
            }
        }),
        rest: ordered.slice(shown.length).flatMap((g) => g.lines),
    }
}
