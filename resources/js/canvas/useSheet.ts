import type { Edge, Node } from '@vue-flow/core'
import { computed } from 'vue'
import type { Placement, Point, Thing } from '@/api/types'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { bestBow, OUTSIDE, sizeOf, type Box } from './shapes'

/** The same list as before as long as nothing in it differs: then the canvas has nothing to do. */
function steady<T>(make: () => T[]) {
    let known: T[] = []
    let mark = ''
    return computed(() => {
        const now = make()
        const text = JSON.stringify(now)
        if (text !== mark) {
            mark = text
            known = now
        }
        return known
    })
}

export const endId = (flow: string, end: 'source' | 'target') => `${flow}~${end}`
export const flowOfEnd = (node: string) => node.split('~')[0] as string

/** More links than this on a sheet find no way around things: they keep their even bow. */
const MOST_ROUTED = 400

/** The things of the open sheet as nodes and edges of the canvas. Values are not among them: shapes read those themselves. */
export function useSheet() {
    const model = useModel()
    const view = useView()

    function placeOf(thing: Thing): Placement {
        return model.model.placements[thing.id] ?? { at: { x: 100, y: 100 } }
    }

    const here = computed(() => model.things.filter((t) => model.sheetOf(t.id) === view.sheet))
    const echoesHere = computed(() =>
        Object.entries(model.model.echoes).filter(([, e]) => e.sheet === view.sheet && model.model.elements[e.element]),
    )
    /** By thing, the nodes in which it appears on this sheet. */
    const appearances = computed(() => {
        const map = new Map<string, { node: string; at: Point }[]>(here.value.map((t) => [t.id, [{ node: t.id, at: placeOf(t).at }]]))
        for (const [id, echo] of echoesHere.value) {
            map.set(echo.element, [...(map.get(echo.element) ?? []), { node: id, at: echo.at }])
        }
        return map
    })

    /** The node of a thing that lies nearest to a point, if it appears on this sheet. */
    function nearest(thing: string | null | undefined, to: Point): string | undefined {
        const list = thing ? appearances.value.get(thing) : undefined
        return list?.reduce((best, one) =>
            Math.hypot(one.at.x - to.x, one.at.y - to.y) < Math.hypot(best.at.x - to.x, best.at.y - to.y) ? one : best,
        ).node
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
        return anchor
            ? { x: 2 * place.at.x - anchor.x, y: 2 * place.at.y - anchor.y }
            : { x: place.at.x + (end === 'source' ? -110 : 110), y: place.at.y }
    }

    function nodeOf(id: string, thing: Thing, at: Point, echo: boolean): Node {
        const size = sizeOf(thing.kind, thing.name)
        return {
            id,
            type: thing.kind === 'stock' ? 'stock' : thing.kind === 'flow' && !echo ? 'gate' : 'capsule',
            position: { x: at.x - size.width / 2, y: at.y - size.height / 2 },
            width: size.width,
            height: size.height,
            style: { width: `${size.width}px`, height: `${size.height}px` },
            data: { thing: thing.id, echo },
            zIndex: 10,
        }
    }

    /** The words under a gate lie on no basin: where they would, they stand above it. */
    function wordsAbove(thing: Thing, at: Point): boolean {
        const basins = here.value.filter((t) => t.kind === 'stock').map((t) => ({ at: placeOf(t).at, ...sizeOf('stock', t.name) }))
        const half = Math.min(85, sizeOf('auxiliary', thing.name).width / 2)
        const lies = (top: number, bottom: number) =>
            basins.some(
                (b) =>
                    Math.abs(b.at.x - at.x) < b.width / 2 + half &&
                    b.at.y - b.height / 2 < at.y + bottom &&
                    b.at.y + b.height / 2 > at.y + top,
            )
        return lies(14, 50) && !lies(-52, -14)
    }

    const nodes = steady<Node>(() => {
        const list: Node[] = []
        for (const thing of here.value) {
            if (thing.kind === 'flow') {
                const gate = nodeOf(thing.id, thing, placeOf(thing).at, false)
                list.push({ ...gate, data: { ...(gate.data as object), above: wordsAbove(thing, placeOf(thing).at) } })
            } else {
                list.push(nodeOf(thing.id, thing, placeOf(thing).at, false))
            }
            for (const end of ['source', 'target'] as const) {
                if (thing.kind === 'flow' && !nearest(end === 'source' ? thing.from : thing.to, placeOf(thing).at)) {
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
        for (const [id, echo] of echoesHere.value) {
            const thing = model.model.elements[echo.element] as Thing
            list.push(nodeOf(id, thing.kind === 'flow' ? { ...thing, kind: 'auxiliary' } : thing, echo.at, true))
        }
        return list
    })

    /** What links should not run through. */
    const boxes = computed<Box[]>(() =>
        nodes.value
            .filter((n) => n.type !== 'outside')
            .map((n) => ({
                id: n.id,
                x: n.position.x,
                y: n.position.y,
                width: n.width as number,
                height: (n.height as number) + (n.type === 'gate' ? 30 : 0),
            })),
    )

    const edges = steady<Edge>(() => {
        const list: Edge[] = []
        for (const thing of here.value) {
            if (thing.kind === 'flow') {
                const { at } = placeOf(thing)
                list.push({
                    id: `ribbon:${thing.id}`,
                    type: 'ribbon',
                    zIndex: 0,
                    source: nearest(thing.from, at) ?? endId(thing.id, 'source'),
                    target: nearest(thing.to, at) ?? endId(thing.id, 'target'),
                    data: { id: thing.id },
                })
            }
        }
        const links = model.model.links.filter(
            (l) => model.sheetOf(l.to) === view.sheet && model.model.elements[l.to] && appearances.value.has(l.from),
        )
        for (const link of links) {
            // A flow that uses the stock it is attached to needs a link as any other: its ribbon says where it runs, not what it uses.
            const at = placeOf(model.model.elements[link.to] as Thing).at
            const source = nearest(link.from, at) as string
            const key = `${link.from}>${link.to}`
            const by = model.model.bends[key]
            list.push({
                id: `link:${key}:${link.kind}`,
                type: 'link',
                source,
                target: link.to,
                zIndex: 2,
                data: {
                    key,
                    kind: link.kind,
                    sign: link.sign,
                    late: link.late,
                    by,
                    bow: by || links.length > MOST_ROUTED ? undefined : bestBow(source, link.to, boxes.value),
                },
            })
        }
        return list
    })

    return { nodes, edges, here, nearest }
}
