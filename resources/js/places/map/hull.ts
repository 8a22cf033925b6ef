import type { Point } from '@/api/types'

export interface Hull {
    width: number
    /** From the highest point above the waterline to the lowest below it: the same however it rides. */
    height: number
    lines: string[]
}

/** A line of a name is about so long, and there are at most so many; the rest of a very long name is left to its title. */
const [LONG, MOST] = [19, 4]
const LETTER = 8.3
const LINE = 18

/** The lines in which a name stands, of about the same length. */
export function linesOf(name: string): string[] {
    const wanted = Math.min(MOST, Math.ceil(name.length / LONG))
    const long = Math.max(LONG, Math.ceil(name.length / wanted))
    const lines: string[] = ['']
    for (const word of name.split(' ')) {
        const now = lines[lines.length - 1] ?? ''
        const joined = now ? `${now} ${word}` : word
        // A line may be a little longer rather than leave a short one behind.
        if (!now || joined.length <= long * 0.72 || (joined.length <= long * 1.15 && lines.length === wanted)) {
            lines[lines.length - 1] = joined
        } else {
            lines.push(word)
        }
    }
    const shown = lines.slice(0, MOST).map((l) => (l.length > LONG * 1.5 ? `${l.slice(0, LONG * 1.4)}…` : l))
    return lines.length > MOST ? [...shown.slice(0, -1), `${shown[MOST - 1] ?? ''}…`] : shown
}

export function hullOf(name: string): Hull {
    const lines = linesOf(name)
    const width = Math.max(92, Math.max(...lines.map((l) => l.length)) * LETTER + (lines.length > 1 ? 58 : 46))
    return { width: Math.round(width), height: 30 + LINE * lines.length + 2 * (lines.length - 1), lines }
}

/** How far it reaches above its waterline, and below it. */
export function reachOf(height: number, level: number): { up: number; down: number } {
    const up = height * (0.47 + 0.36 * Math.max(-1, Math.min(1, level)))
    return { up, down: height - up }
}

/** The part above the waterline, the part below it, and both around; the middle of the waterline is the origin. */
export function hullPaths({ width, height }: Hull, level: number): { deck: string; bowl: string; whole: string } {
    const { up, down } = reachOf(height, level)
    const a = width / 2
    const deck = `C${-a * 0.86} ${-up / 0.75} ${a * 0.86} ${-up / 0.75} ${a} 0`
    const bowl = `C${a * 0.86} ${down / 0.75} ${-a * 0.86} ${down / 0.75} ${-a} 0`
    return { deck: `M${-a} 0${deck}Z`, bowl: `M${a} 0${bowl}Z`, whole: `M${-a} 0${deck}${bowl}Z` }
}

/** Whether a point lies in a hull at a spot, or within a little of it. */
export function isIn(point: Point, at: Point, { width, height }: Hull, level: number, gap = 5): boolean {
    const { up, down } = reachOf(height, level)
    const x = (point.x - at.x) / (width / 2 + gap + 5)
    const y = (point.y - at.y) / ((point.y < at.y ? up : down) + gap)
    return x * x + y * y < 1
}
