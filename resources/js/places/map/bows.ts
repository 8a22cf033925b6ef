import { bestBow, type Box } from '@/canvas/shapes'
import type { Hull } from './hull'
import type { Point } from '@/api/types'

/** A link and the one that answers it keep to their own sides. */
const APART = 0.17
/** From so many links on, they find no way around things and do not follow how hulls ride: the page has to stay fluent. */
export const MOST_ROUTED = 260

export const boxOf = (id: string, at: Point, hull: Hull): Box => ({
    id,
    x: at.x - hull.width / 2,
    y: at.y - hull.height / 2,
    width: hull.width,
    height: hull.height,
})

/** How far a link is bent aside: around what stands in its way, as long as there are not too many. */
export function bowOf(from: string, to: string, isAnswered: boolean, links: number, boxes: Box[]): number {
    if (isAnswered) {
        return APART
    }
    return links > MOST_ROUTED ? 0.08 : (bestBow(from, to, boxes) ?? (from < to ? 0.07 : -0.07))
}
