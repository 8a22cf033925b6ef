import type { Point } from '@/api/types'

export interface Seen {
    left: number
    top: number
    right: number
    bottom: number
}

/** What stands on a sheet, with the height of the words under it. */
export interface Taken {
    x: number
    y: number
    width: number
    height: number
    words: number
}

/** Room that a new thing takes around its middle. */
const HALF = { x: 85, y: 44 }

const ACROSS = 40
const DOWN = 30
const RINGS = 24

/** How much of what stands there a box would hide, in square pixels of the sheet. */
export function hidden(box: Seen, taken: Taken[]): number {
    return taken.reduce(
        (sum, t) =>
            sum +
            Math.max(0, Math.min(box.right, t.x + t.width) - Math.max(box.left, t.x)) *
                Math.max(0, Math.min(box.bottom, t.y + t.height + t.words) - Math.max(box.top, t.y)),
        0,
    )
}

/** The free spot nearest to a point: in sight if there is one, and clear of everything that stands there. */
export function spotNear(start: Point, seen: Seen, taken: Taken[], beside: boolean): Point {
    const free = (p: Point) =>
        taken.every(
            (t) => p.x + HALF.x <= t.x || p.x - HALF.x >= t.x + t.width || p.y + HALF.y <= t.y || p.y - HALF.y >= t.y + t.height + t.words,
        )
    const inSight = (p: Point) => p.x >= seen.left && p.x <= seen.right && p.y >= seen.top && p.y <= seen.bottom
    const spots: { at: Point; far: number }[] = []
    for (let i = -RINGS; i <= RINGS; i++) {
        for (let k = -RINGS; k <= RINGS; k++) {
            const at = { x: start.x + i * ACROSS, y: start.y + k * DOWN }
            // Below what it is for rather than above, and above rather than aside.
            spots.push({ at, far: Math.hypot(i * ACROSS * (beside ? 1.3 : 1), k * DOWN) + (beside && k < 0 ? 25 : 0) })
        }
    }
    spots.sort((a, b) => a.far - b.far)
    return (
        spots.find((s) => inSight(s.at) && free(s.at)) ??
        spots.find((s) => free(s.at)) ?? { at: { x: start.x, y: start.y + RINGS * DOWN } }
    ).at
}
