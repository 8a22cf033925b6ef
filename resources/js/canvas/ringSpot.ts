import type { Point } from '@/api/types'
import { hidden, type Seen, type Taken } from './freeSpot'

/** Between the middles of two buttons of a ring, half a button, and between the nearest button and the thing; in pixels of the window. */
export const STEP = 35
export const HALF = 15
const CLEAR = 27
/** How much the row bends around the thing. */
const BEND = 0.0016
/** Room for the words of a button, beyond the row. */
const WORDS = 34

/** Where the row of buttons stands: on which side, and how far it is moved along and away. */
export interface RingSpot {
    below: boolean
    aside: number
    away: number
}

/** Where a button stands from the middle of its thing; `reach` is from there to the end of what must stay in sight. */
export function buttonAt(i: number, count: number, reach: number, { below, aside, away }: RingSpot): Point {
    const wide = ((count - 1) / 2) * STEP
    const x = i * STEP - wide
    const y = reach + CLEAR + away + BEND * (wide * wide - x * x)
    return { x: x + aside, y: below ? y : -y }
}

/** What the row covers, around the middle of its thing. */
export function rowBox(count: number, at: Point, reach: number, spot: RingSpot): Seen {
    const end = buttonAt(0, count, reach, spot)
    const peak = buttonAt((count - 1) / 2, count, reach, spot)
    const wide = ((count - 1) / 2) * STEP + HALF
    return {
        left: at.x + spot.aside - wide,
        right: at.x + spot.aside + wide,
        top: at.y + Math.min(end.y, peak.y) - HALF,
        bottom: at.y + Math.max(end.y, peak.y) + HALF,
    }
}

/** The spot that hides least of what stands around, near the thing rather than far, and inside the window. */
export function ringSpot(
    count: number,
    at: Point,
    reaches: { above: number; below: number },
    window: { width: number; height: number },
    around: Taken[],
): RingSpot {
    let best: { spot: RingSpot; cost: number } = { spot: { below: at.y < window.height / 2, aside: 0, away: 0 }, cost: Infinity }
    for (const below of [false, true]) {
        for (const aside of [0, -50, 50, -100, 100]) {
            for (const away of [0, 24]) {
                const spot = { below, aside, away }
                const box = rowBox(count, at, below ? reaches.below : reaches.above, spot)
                const inside =
                    box.left > 4 &&
                    box.right < window.width - 4 &&
                    box.top > (below ? 4 : WORDS) &&
                    box.bottom < window.height - (below ? WORDS : 4)
                const cost = hidden(box, around) + 6 * Math.abs(aside) + 20 * away + (below ? 1 : 0)
                if (inside && cost < best.cost) {
                    best = { spot, cost }
                }
            }
        }
    }
    return best.spot
}
