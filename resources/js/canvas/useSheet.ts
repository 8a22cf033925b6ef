import type { Edge, Node } from '@vue-flow/core'
import { computed } from 'vue'
import type { Placement, Point, Thing } from '@/api/types'
import { useModel } from '@/stores/model'
import { OUTSIDE, sizeOf } from './shapes'

export const endId = (flow: string, end: 'source' | 'target') => `${flow}~${end}`
export const flowOfEnd = (node: string) => node.split('~')[0] as string

/** The things of the model as nodes and edges of the canvas. Values are not among them: shapes read those themselves. */
export function useSheet() {
    const model = useModel()

    function placeOf(thing: Thing): Placement {
        return model.model.placements[thing.id] ?? { at: { x: 100, y: 100 } }
    }

    /** Where an end of a flow lies when it is outside. */
    function loose(flow: Thing, end: 'source' | 'target'): Point {
        const place = placeOf(flow)
        const known = place[end]
        if (known) {
            return known
        }
        const other = end === 'source' ? flow.to : flow.from
        const anchor = other ? model.model.placements[other]?.at : place[end === 'source' ? 'target' : 'source']
        return anchor ? { x: 2 * place.at.x - anchor.x, y: 2 * place.at.y - anchor.y } : { x: place.at.x + (end === 'source' ? -110 : 110), y: place.at.y }
    }

    const nodes = computed<Node[]>(() => {
        const list: Node[] = []
        for (const thing of model.things) {
            const size = sizeOf(thing.kind, thing.name)
            const { at } = placeOf(thing)
            list.push({
                id: thing.id,
                type: thing.kind === 'stock' ? 'stock' : thing.kind === 'flow' ? 'gate' : 'capsule',
                position: { x: at.x - size.width / 2, y: at.y - size.height / 2 },
                width: size.width,
                height: size.height,
                style: { width: `${size.width}px`, height: `${size.height}px` },
                data: { id: thing.id },
                zIndex: 10,
            })
            for (const end of ['source', 'target'] as const) {
                if (thing.kind === 'flow' && !(end === 'source' ? thing.from : thing.to)) {
                    const point = loose(thing, end)
                    list.push({
                        id: endId(thing.id, end),
                        type: 'outside',
                        position: { x: point.x - OUTSIDE.width / 2, y: point.y - OUTSIDE.height / 2 },
                        width: OUTSIDE.width,
                        height: OUTSIDE.height,
                        style: { width: `${OUTSIDE.width}px`, height: `${OUTSIDE.height}px` },
                        data: { flow: thing.id, end },
                        zIndex: 5,
                    })
                }
            }
        }
        return list
    })

    const edges = computed<Edge[]>(() => {
        const list: Edge[] = []
        for (const thing of model.things) {
            if (thing.kind === 'flow') {
                list.push({
                    id: `ribbon:${thing.id}`, type: 'ribbon', zIndex: 0,
                    source: thing.from ?? endId(thing.id, 'source'),
                    target: thing.to ?? endId(thing.id, 'target'),
                    data: { id: thing.id },
                })
            }
        }
        for (const link of model.model.links) {
            const to = model.model.elements[link.to]
            // A flow that uses the stock it is attached to needs a link as any other: its ribbon says where it runs, not what it uses.
            if (to && model.model.elements[link.from]) {
                list.push({ id: `link:${link.from}>${link.to}:${link.kind}`, type: 'link', source: link.from, target: link.to, zIndex: 2, data: { kind: link.kind } })
            }
        }
        return list
    })

    return { nodes, edges, loose, placeOf }
}
