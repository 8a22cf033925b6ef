import type { Point } from '@/api/types'

export interface Hull {
    width: number
    /** From the highest point above the waterline to the lowest below it: the same however it rides. */
    height: number
    lines: string[]
}

/** Names longer than this stand in two lines. */
const LONG = 19
const LETTER = 8.3

/** The lines in which a name stands, of about the same length. */
export function linesOf(name: string): string[] {
    const words = name.split(' ')
    if (name.length <= LONG || words.length < 2) {
        return [name]
    }
    let best: [string, string] = [name, '']
    for (let i = 1; i < words.length; i++) {
        const split: [string, string] = [words.slice(0, i).join(' '), words.slice(i).join(' ')]
        if (Math.max(split[0].length, split[1].length) < Math.max(best[0].length, best[1].length)) {
            best = split
        }
    }
    return best
}

export function hullOf(name: string): Hull {
    const lines = linesOf(name)
    const width = Math.max(92, Math.max(...lines.map((l) => l.length)) * LETTER + (lines.length > 1 ? 58 : 46))
    return { width: Math.round(width), height: lines.length > 1 ? 68 : 48, lines }
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
