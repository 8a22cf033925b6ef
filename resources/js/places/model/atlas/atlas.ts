import type { Model, Point, Thing } from '@/api/types'
import { sizeOf } from '@/canvas/shapes'

export interface AtlasFilter {
    /** Only what is within so many steps of these things; empty for all. */
    around: string[]
    steps: number
    /** Steps go to what acts on it, to what it acts on, or both ways. */
    way?: 'both' | 'up' | 'down'
    kinds: Set<string>
    search: string
    hideLoose: boolean
}

/** What acts on what: causal links, and flows with the stocks they change. */
export function joins(model: Model): { from: string; to: string; flow: boolean }[] {
    const list = model.links.map((l) => ({ from: l.from, to: l.to, flow: false }))
    for (const thing of Object.values(model.elements)) {
        if (thing.kind === 'flow') {
            if (thing.to) list.push({ from: thing.id, to: thing.to, flow: true })
            if (thing.from) list.push({ from: thing.from, to: thing.id, flow: true })
        }
    }
    return list
}

/** Things that the filter leaves: by kind and by name, then those near to something, then those joined to any that is left. */
export function filtered(model: Model, filter: AtlasFilter): Thing[] {
    const all = model.order.map((id) => model.elements[id]).filter((t): t is Thing => t !== undefined)
    const ways = joins(model)
    let near: Set<string> | undefined
    if (filter.around.length) {
        near = new Set(filter.around)
        // A parameter is shown, but what two things share of it does not join them.
        const passes = (id: string) => filter.around.includes(id) || model.elements[id]?.kind !== 'parameter'
        for (let i = 0; i < filter.steps; i++) {
            const inner: Set<string> = near
            const ring = new Set(inner)
            for (const { from, to } of ways) {
                if (filter.way !== 'up' && inner.has(from) && passes(from)) ring.add(to)
                if (filter.way !== 'down' && inner.has(to) && passes(to)) ring.add(from)
            }
            near = ring
        }
    }
    const text = filter.search.trim().toLowerCase()
    const left = all.filter((t) => (!near || near.has(t.id)) && filter.kinds.has(t.kind) && (!text || t.name.toLowerCase().includes(text)))
    if (!filter.hideLoose) {
        return left
    }
    const ids = new Set(left.map((t) => t.id))
    const joined = new Set(ways.filter((w) => ids.has(w.from) && ids.has(w.to)).flatMap((w) => [w.from, w.to]))
    return left.filter((t) => joined.has(t.id))
}

export interface Region {
    name: string
    key: string
    x: number
    y: number
    width: number
    height: number
}
export interface AtlasPicture {
    places: Map<string, Point>
    regions: Region[]
    width: number
    height: number
}

const GAP = 90
const PAD = 34
/** Width to height of the stage. */
const WINDOW = 1.45

/** The width of the rows with which the whole comes nearest to the shape of a window. */
function bestWidth(blocks: { width: number; height: number }[]): number {
    let best = { width: Infinity, cost: Infinity }
    for (let count = 1; count <= Math.min(blocks.length, 30); count++) {
        const width = blocks.slice(0, count).reduce((sum, b) => sum + b.width + GAP, 0)
        let [x, row, height, right] = [0, 0, 0, 0]
        for (const b of blocks) {
            if (x > 0 && x + b.width > width) {
                height += row + GAP
                x = row = 0
            }
            x += b.width + GAP
            row = Math.max(row, b.height)
            right = Math.max(right, x)
        }
        const cost = Math.max(right / WINDOW, height + row)
        if (cost < best.cost) {
            best = { width: Math.max(width, ...blocks.map((b) => b.width)), cost }
        }
    }
    return best.width
}

/**
 * Regions beside each other, each laid out as its sheet is drawn, drawn together where it is wide. What has no place stands
 * in rows. Regions are put into rows of about the shape of a window.
 */
export function inRegions(model: Model, things: Thing[], regionOf: (id: string) => { key: string; name: string }): AtlasPicture {
    const groups = new Map<string, { name: string; things: Thing[] }>()
    for (const thing of things) {
        const { key, name } = regionOf(thing.id)
        groups.set(key, { name, things: [...(groups.get(key)?.things ?? []), thing] })
    }
    const blocks = [...groups].map(([key, { name, things: list }]) => {
        const at = list.map((t) => model.placements[t.id]?.at ?? { x: 0, y: 0 })
        const sizes = list.map((t) => sizeOf(t.kind, t.name))
        const left = Math.min(...at.map((p, i) => p.x - (sizes[i]?.width ?? 0) / 2))
        const top = Math.min(...at.map((p, i) => p.y - (sizes[i]?.height ?? 0) / 2))
        const width = Math.max(...at.map((p, i) => p.x + (sizes[i]?.width ?? 0) / 2)) - left
        const height = Math.max(...at.map((p, i) => p.y + (sizes[i]?.height ?? 0) / 2)) - top
        return { key, name, list, at, left, top, width: width + 2 * PAD, height: height + 2 * PAD + 30 }
    })
    const wide = bestWidth(blocks)
    const places = new Map<string, Point>()
    const regions: Region[] = []
    let [x, y, row, right] = [0, 0, 0, 0]
    for (const block of blocks) {
        if (x > 0 && x + block.width > wide) {
            x = 0
            y += row + GAP
            row = 0
        }
        block.list.forEach((t, i) => {
            const p = block.at[i] as Point
            places.set(t.id, { x: x + PAD + p.x - block.left, y: y + PAD + 30 + p.y - block.top })
        })
        regions.push({ name: block.name, key: block.key, x, y, width: block.width, height: block.height })
        x += block.width + GAP
        row = Math.max(row, block.height)
        right = Math.max(right, x)
    }
    return { places, regions, width: right, height: y + row }
}
