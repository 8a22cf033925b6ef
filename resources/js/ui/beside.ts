import type { Model, Point } from '@/api/types'

/** Where something new stands beside all that is on a sheet. */
export function besideAll(model: Model, sheet: string, sheetOf: (thing: string) => string): Point {
    const spots = [
        ...Object.entries(model.placements).flatMap(([id, p]) => (sheetOf(id) === sheet ? [p.at] : [])),
        ...Object.values(model.echoes).flatMap((e) => (e.sheet === sheet ? [e.at] : [])),
    ]
    const middle = spots.length ? spots.reduce((sum, p) => sum + p.y, 0) / spots.length : 200
    return { x: Math.round(Math.max(0, ...spots.map((p) => p.x)) + 190), y: Math.round(middle) }
}
