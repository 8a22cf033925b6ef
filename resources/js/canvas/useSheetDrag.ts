import type { NodeDragEvent, VueFlowStore } from '@vue-flow/core'
import { ref } from 'vue'
import type { Placement, Point } from '@/api/types'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { sizeOfNode } from './nodes'
import { OUTSIDE, shapeOf } from './shapes'
import { endId, flowOfEnd } from './useSheet'

/** Nearer than this, in pixels of the screen, a middle snaps to the middle of another thing. */
const SNAP = 6

/** Dragging: a stock takes along the outside ends of its flows, and their gates half the way to another stock. */
export function useSheetDrag(flow: VueFlowStore) {
    const model = useModel()
    const view = useView()
    const dragging = ref(false)
    /** Lines along which something snapped, on the sheet. */
    const guides = ref<{ x?: number; y?: number }>({})
    let origin: Point = { x: 0, y: 0 }
    let dragged = ''
    /** By node, where it was and which share of the drag it follows. */
    let followers = new Map<string, { from: Point; share: number }>()

    const thingOf = (node: string) => model.model.elements[model.model.echoes[node]?.element ?? flowOfEnd(node)]

    function sizeOf(node: string) {
        const thing = thingOf(node)
        const known = flow.findNode(node)
        return node.includes('~') || !thing ? OUTSIDE : known ? sizeOfNode(known) : shapeOf(thing)
    }

    function follow(id: string, share: number) {
        const node = flow.findNode(id)
        const known = followers.get(id)
        if (node && (!known || known.share < share)) {
            followers.set(id, { from: { ...node.position }, share })
        }
    }

    function gather(moved: Set<string>) {
        for (const thing of model.things) {
            if (thing.kind !== 'flow' || !flow.findNode(thing.id)) {
                continue
            }
            const ends = [thing.from, thing.to]
            const touched = ends.filter((e) => e && moved.has(e)).length
            if (moved.has(thing.id) || touched) {
                const all = moved.has(thing.id) || ends.every((e) => !e || moved.has(e))
                follow(thing.id, moved.has(thing.id) || all ? 1 : 0.5)
                // A gate moved alone bends its ribbon; its ends stay.
                if ((touched && all) || (moved.size > 1 && moved.has(thing.id))) {
                    follow(endId(thing.id, 'source'), 1)
                    follow(endId(thing.id, 'target'), 1)
                }
            }
        }
    }

    function start({ node }: NodeDragEvent) {
        if (!thingOf(node.id)) {
            return
        }
        dragging.value = true
        origin = { ...node.position }
        dragged = node.id
        followers = new Map()
        const moved = new Set(view.selection.includes(node.id) ? view.selection : [node.id])
        moved.forEach((id) => {
            if (id !== node.id) follow(id, 1)
        })
        gather(moved)
        followers.delete(node.id)
        if (!view.selection.includes(node.id)) {
            view.select(flowOfEnd(node.id))
        }
    }

    /** Where the dragged node goes so that its middle is in line with another one. */
    function snapped(id: string, position: Point): Point {
        const size = sizeOf(id)
        const middle = { x: position.x + size.width / 2, y: position.y + size.height / 2 }
        const reach = SNAP / flow.viewport.value.zoom
        const best: { x?: number; y?: number } = {}
        for (const other of flow.getNodes.value) {
            if (other.id === id || followers.has(other.id) || other.id.includes('~')) {
                continue
            }
            const at = { x: other.position.x + Number(other.width ?? 0) / 2, y: other.position.y + Number(other.height ?? 0) / 2 }
            for (const axis of ['x', 'y'] as const) {
                if (Math.abs(at[axis] - middle[axis]) < Math.min(reach, Math.abs((best[axis] ?? Infinity) - middle[axis]))) {
                    best[axis] = at[axis]
                }
            }
        }
        guides.value = best
        return {
            x: best.x === undefined ? position.x : best.x - size.width / 2,
            y: best.y === undefined ? position.y : best.y - size.height / 2,
        }
    }

    function move({ node, event }: NodeDragEvent) {
        const free = 'altKey' in event && event.altKey
        guides.value = {}
        const to = free ? node.position : snapped(node.id, node.position)
        if (to.x !== node.position.x || to.y !== node.position.y) {
            flow.updateNode(node.id, { position: to })
        }
        followers.forEach(({ from, share }, id) => {
            flow.updateNode(id, { position: { x: from.x + (to.x - origin.x) * share, y: from.y + (to.y - origin.y) * share } })
        })
    }

    /** The places of all that has moved. */
    function stop(event: NodeDragEvent): Record<string, Placement> {
        move(event)
        dragging.value = false
        guides.value = {}
        return placesOf([event.node.id, ...followers.keys()])
    }

    /** As if nothing had been moved. */
    function back() {
        followers.forEach(({ from }, id) => {
            flow.updateNode(id, { position: from })
        })
        flow.updateNode(dragged, { position: origin })
    }

    const shifted = (p: Point | undefined, dx: number, dy: number) => p && { x: Math.round(p.x + dx), y: Math.round(p.y + dy) }

    function placesOf(nodes: string[]): Record<string, Placement> {
        const places: Record<string, Placement> = {}
        for (const id of nodes) {
            const thing = thingOf(id)
            const node = flow.findNode(id)
            if (!thing || !node) {
                continue
            }
            const size = sizeOf(id)
            const middle = { x: Math.round(node.position.x + size.width / 2), y: Math.round(node.position.y + size.height / 2) }
            if (model.model.echoes[id]) {
                places[id] = { at: middle }
                continue
            }
            const was = model.model.placements[thing.id] ?? { at: middle }
            const place = places[thing.id] ?? { ...was }
            const [dx, dy] = [middle.x - was.at.x, middle.y - was.at.y]
            places[thing.id] = id.includes('~')
                ? { ...place, [id.split('~')[1] as 'source' | 'target']: middle }
                : {
                      ...place,
                      at: middle,
                      ...(was.bendIn ? { bendIn: shifted(was.bendIn, dx, dy) } : {}),
                      ...(was.bendOut ? { bendOut: shifted(was.bendOut, dx, dy) } : {}),
                  }
        }
        return places
    }

    /** Moves things to given middles, with what hangs on them; one edit. */
    function moveTo(middles: Record<string, Point>) {
        followers = new Map()
        const ids = Object.keys(middles)
        const before = new Map(ids.map((id) => [id, flow.findNode(id)?.position]))
        gather(new Set(ids))
        // What is between two moved things goes half the way of each; what hangs on one goes along.
        const shifts = new Map<string, Point>()
        for (const id of ids) {
            const position = before.get(id)
            const size = sizeOf(id)
            const to = middles[id]
            if (position && to) {
                shifts.set(id, { x: to.x - size.width / 2 - position.x, y: to.y - size.height / 2 - position.y })
            }
        }
        for (const [id, { from }] of followers) {
            const thing = thingOf(id)
            if (shifts.has(id) || !thing) {
                continue
            }
            const moved = (id.includes('~') ? [thing.id, thing.from, thing.to] : [thing.from, thing.to])
                .map((end) => (end ? shifts.get(end) : undefined))
                .filter((s): s is Point => s !== undefined)
            const parts = id.includes('~') ? 1 : Math.max(1, [thing.from, thing.to].filter(Boolean).length)
            const by = { x: moved.reduce((sum, s) => sum + s.x, 0) / parts, y: moved.reduce((sum, s) => sum + s.y, 0) / parts }
            flow.updateNode(id, { position: { x: from.x + by.x, y: from.y + by.y } })
        }
        for (const [id, by] of shifts) {
            const position = before.get(id)
            if (position) {
                flow.updateNode(id, { position: { x: position.x + by.x, y: position.y + by.y } })
            }
        }
        const places = placesOf([...new Set([...ids, ...followers.keys()])])
        return Object.keys(places).length ? model.place(places) : Promise.resolve(true)
    }

    /** Moves things by keyboard. */
    function nudge(ids: string[], dx: number, dy: number) {
        followers = new Map()
        ids.forEach((id) => {
            follow(id, 1)
        })
        gather(new Set(ids))
        followers.forEach(({ from, share }, id) => {
            flow.updateNode(id, { position: { x: from.x + dx * share, y: from.y + dy * share } })
        })
        const places = placesOf([...followers.keys()])
        if (Object.keys(places).length) {
            void model.place(places)
        }
    }

    return { dragging, guides, start, move, stop, back, nudge, moveTo, sizeOf }
}
