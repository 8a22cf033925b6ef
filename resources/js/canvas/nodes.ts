import type { GraphNode } from '@vue-flow/core'
import type { Point } from '@/api/types'
import type { Size } from './shapes'

/** The size that a node was given: one that is not drawn was never measured. */
export const sizeOfNode = (n: GraphNode): Size => ({
    width: Number(n.width ?? n.dimensions.width),
    height: Number(n.height ?? n.dimensions.height),
})

/** The middle of a node on the sheet, also while it is dragged. */
export function middleOfNode(n: GraphNode): Point {
    const { width, height } = sizeOfNode(n)
    return { x: n.computedPosition.x + width / 2, y: n.computedPosition.y + height / 2 }
}
