import type { NodeDragEvent, VueFlowStore } from '@vue-flow/core'
import { ref } from 'vue'
import type { Placement, Point, Thing } from '@/api/types'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { OUTSIDE, sizeOf } from './shapes'
import { endId } from './useSheet'

/** Dragging: a stock takes along the outside ends of its flows, and their gates half the way to another stock. */
export function useSheetDrag(flow: VueFlowStore) {
    const model = useModel()
    const view = useView()
    const dragging = ref(false)
    let origin: Point = { x: 0, y: 0 }
    /** By node, where it was and which share of the drag it follows. */
    let followers = new Map<string, { from: Point, share: number }>()

    const held = (id: string) => model.model.elements[id.split('~')[0] as string]

    function follow(id: string, share: number) {
        const node = flow.findNode(id)
        const known = followers.get(id)
        if (node && (!known || known.share < share)) {
            followers.set(id, { from: { ...node.position }, share })
        }
    }

    function gather(moved: Set<string>) {
        for (const thing of model.things) {
            if (thing.kind !== 'flow') {
                continue
            }
            const ends = [thing.from, thing.to]
            const touched = ends.filter((e) => e && moved.has(e)).length
            if (moved.has(thing.id) || touched) {
                const all = moved.has(thing.id) || ends.every((e) => !e || moved.has(e))
                follow(thing.id, moved.has(thing.id) || all ? 1 : 0.5)
                // A gate moved alone bends its ribbon; its ends stay.
                if (touched && all) {
                    follow(endId(thing.id, 'source'), 1)
                    follow(endId(thing.id, 'target'), 1)
                }
            }
        }
    }

    function start({ node }: NodeDragEvent) {
        const thing = held(node.id)
        if (!thing) {
            return
        }
        dragging.value = true
        origin = { ...node.position }
        followers = new Map()
        const moved = new Set(view.selection.includes(thing.id) && !node.id.includes('~') ? view.selection : [node.id])
        moved.forEach((id) => { if (id !== node.id) follow(id, 1) })
        gather(moved)
        followers.delete(node.id)
        if (!view.selection.includes(thing.id)) {
            view.select(thing.id)
        }
    }

    function move({ node }: NodeDragEvent) {
        const dx = node.position.x - origin.x
        const dy = node.position.y - origin.y
        followers.forEach(({ from, share }, id) => {
            flow.updateNode(id, { position: { x: from.x + dx * share, y: from.y + dy * share } })
        })
    }

    /** The places of all that has moved. */
    function stop(event: NodeDragEvent): Record<string, Placement> {
        move(event)
        dragging.value = false
        return placesOf([event.node.id, ...followers.keys()])
    }

    function placesOf(nodes: string[]): Record<string, Placement> {
        const places: Record<string, Placement> = {}
        for (const id of nodes) {
            const thing = held(id)
            const node = flow.findNode(id)
            if (!thing || !node) {
                continue
            }
            const size = id.includes('~') ? OUTSIDE : sizeOf(thing.kind, thing.name)
            const middle = { x: Math.round(node.position.x + size.width / 2), y: Math.round(node.position.y + size.height / 2) }
            const place = places[thing.id] ?? { ...model.model.placements[thing.id] ?? { at: middle } }
            places[thing.id] = id.includes('~') ? { ...place, [id.split('~')[1] as 'source' | 'target']: middle } : { ...place, at: middle }
        }
        return places
    }

    /** Moves things by keyboard. */
    function nudge(ids: string[], dx: number, dy: number) {
        followers = new Map()
        const things = ids.map((id) => model.model.elements[id]).filter((t): t is Thing => t !== undefined)
        things.forEach((t) => { follow(t.id, 1) })
        gather(new Set(ids))
        followers.forEach(({ from, share }, id) => { flow.updateNode(id, { position: { x: from.x + dx * share, y: from.y + dy * share } }) })
        void model.place(placesOf([...followers.keys()]))
    }

    return { dragging, start, move, stop, nudge }
}
