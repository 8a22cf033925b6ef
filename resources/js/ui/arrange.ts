import type { Point } from '@/api/types'

export interface Placed {
    id: string
    at: Point
    width: number
    height: number
}

export type Arrangement = 'left' | 'centre' | 'right' | 'top' | 'middle' | 'bottom' | 'spread-across' | 'spread-down'

export const ARRANGEMENTS: { key: Arrangement; words: string }[] = [
    { key: 'left', words: 'Align left edges' },
    { key: 'centre', words: 'Align on a vertical line' },
    { key: 'right', words: 'Align right edges' },
    { key: 'top', words: 'Align top edges' },
    { key: 'middle', words: 'Align on a horizontal line' },
    { key: 'bottom', words: 'Align bottom edges' },
    { key: 'spread-across', words: 'Space evenly across' },
    { key: 'spread-down', words: 'Space evenly downward' },
]

/** New middles for things that are lined up or spaced evenly; those that stay are left out. */
export function arranged(things: Placed[], how: Arrangement): Record<string, Point> {
    const across = how === 'left' || how === 'centre' || how === 'right' || how === 'spread-across'
    const axis = across ? 'x' : 'y'
    const size = across ? 'width' : 'height'
    const low = Math.min(...things.map((t) => t.at[axis] - t[size] / 2))
    const high = Math.max(...things.map((t) => t.at[axis] + t[size] / 2))
    const target = (thing: Placed): number => {
        switch (how) {
            case 'left':
            case 'top':
                return low + thing[size] / 2
            case 'right':
            case 'bottom':
                return high - thing[size] / 2
            default:
                return (low + high) / 2
        }
    }
    const middles = new Map<string, number>()
    if (how === 'spread-across' || how === 'spread-down') {
        const sorted = [...things].sort((a, b) => a.at[axis] - b.at[axis])
        const gap = (high - low - things.reduce((sum, t) => sum + t[size], 0)) / Math.max(1, things.length - 1)
        let edge = low
        for (const thing of sorted) {
            middles.set(thing.id, edge + thing[size] / 2)
            edge += thing[size] + gap
        }
    } else {
        things.forEach((t) => {
            middles.set(t.id, target(t))
        })
    }
    return Object.fromEntries(
        things
            .map((t) => [t.id, { ...t.at, [axis]: Math.round(middles.get(t.id) ?? t.at[axis]) }] as const)
            .filter(([id, at]) => things.some((t) => t.id === id && (t.at.x !== at.x || t.at.y !== at.y))),
    )
}
