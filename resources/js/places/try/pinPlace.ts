import type { useModel } from '@/stores/model'

/** A pinned plot, in pixels of the sheet. */
const WIDTH = 400
const HEIGHT = 270
const GAP = 30

interface Box {
    x: number
    y: number
    width: number
    height: number
}
const meets = (a: Box, b: Box) => a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height

/** Room for another plot on a sheet, clear of its things and of what is pinned there: beside the structure, or below it. */
export function pinPlace(model: ReturnType<typeof useModel>, sheet: string): { x: number; y: number } {
    const { placements, echoes, plots } = model.model
    const taken: Box[] = [
        ...model.things
            .filter((t) => model.sheetOf(t.id) === sheet)
            .flatMap((t) => {
                const place = placements[t.id]
                return place
                    ? [place.at, place.source, place.target]
                          .filter((p) => p !== undefined)
                          .map((p) => ({ x: p.x - 90, y: p.y - 50, width: 180, height: 110 }))
                    : []
            }),
        ...Object.values(echoes)
            .filter((e) => e.sheet === sheet)
            .map((e) => ({ x: e.at.x - 90, y: e.at.y - 30, width: 180, height: 60 })),
        ...Object.values(plots).flatMap((p) => (p.pin?.sheet === sheet ? [{ x: p.pin.x, y: p.pin.y, width: WIDTH, height: HEIGHT }] : [])),
    ]
    const left = Math.min(60, ...taken.map((b) => b.x))
    const right = Math.max(left, ...taken.map((b) => b.x + b.width))
    const top = Math.min(60, ...taken.map((b) => b.y))
    const bottom = Math.max(top, ...taken.map((b) => b.y + b.height))
    // First within and beside what is there, then below all.
    for (let y = top; y <= bottom + GAP; y += 40) {
        for (let x = left; x <= right + GAP; x += 40) {
            const box = { x: x - GAP, y: y - GAP, width: WIDTH + 2 * GAP, height: HEIGHT + 2 * GAP }
            if (!taken.some((b) => meets(b, box))) {
                return { x: Math.round(x), y: Math.round(y) }
            }
        }
    }
    return { x: Math.round(left), y: Math.round(bottom + GAP) }
}
