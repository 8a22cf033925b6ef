import type { GraphNode, VueFlowStore } from '@vue-flow/core'
import type { Ref } from 'vue'
import type { Point } from '@/api/types'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { spotNear } from './freeSpot'
import { middleOfNode, sizeOfNode } from './nodes'
import { ringSpot, type RingSpot } from './ringSpot'

/** The farthest one can be from the sheet. */
export const LEAST = 0.04

/** From this zoom on names and values can be read. */
const READABLE = 0.7

/** What is brought into sight keeps so far from the sides of the window, for its ring. */
const MARGIN = 150

/** The foot of the window, where its buttons lie over the sheet. */
const FOOT = 40

/** What stands under things, in pixels of the sheet: half the width of a gate’s words; heights of words, of a value, of a small plot. */
const GATE_WORDS = 52
const UNDER = { gate: 34, capsule: 18, plot: 32 }

/** Where things lie on the sheet and on the stage, and which one is next in a direction. */
export function useSheetGeometry(
    { findNode, getNodes, viewport, screenToFlowCoordinate, setViewport }: VueFlowStore,
    stage: Ref<HTMLElement | undefined>,
) {
    const model = useModel()
    const view = useView()

    /** From a place on the sheet to one on the stage. */
    const onStage = (p: Point): Point => ({
        x: p.x * viewport.value.zoom + viewport.value.x,
        y: p.y * viewport.value.zoom + viewport.value.y,
    })

    function middleOf(id: string | undefined): Point | undefined {
        const node = id ? findNode(id) : undefined
        return node && middleOfNode(node)
    }

    function centreOfStage(): Point {
        const box = stage.value?.getBoundingClientRect()
        return screenToFlowCoordinate({ x: (box?.left ?? 0) + (box?.width ?? 0) / 2, y: (box?.top ?? 0) + (box?.height ?? 0) / 2 })
    }

    function standing(n: GraphNode) {
        const size = sizeOfNode(n)
        const gate = n.type === 'gate'
        const words = (gate ? UNDER.gate : n.type === 'capsule' ? UNDER.capsule : 0) + (model.model.placements[n.id]?.plot ? UNDER.plot : 0)
        // The words of a gate are wider than it is.
        return {
            x: n.position.x - (gate ? GATE_WORDS - size.width / 2 : 0),
            y: n.position.y,
            width: gate ? 2 * GATE_WORDS : size.width,
            height: size.height,
            words,
        }
    }

    /** A free spot in sight near the selection, or near the middle of what is seen. */
    function freeSpot(): Point {
        const beside = middleOf(view.node)
        const box = stage.value
        const { x, y, zoom } = viewport.value
        const seen = {
            left: -x / zoom + 110,
            top: -y / zoom + 60,
            right: ((box?.clientWidth ?? 0) - x) / zoom - 110,
            bottom: ((box?.clientHeight ?? 0) - y) / zoom - 90,
        }
        return spotNear(beside ?? centreOfStage(), seen, getNodes.value.map(standing), beside !== undefined)
    }

    /** What must stay in sight above and below the middle of a node, in pixels of the window. */
    function reachesOf(id: string): { above: number; below: number } {
        const node = findNode(id)
        const half = node ? sizeOfNode(node).height / 2 : 0
        return { above: half * viewport.value.zoom, below: (half + (node ? standing(node).words : 0)) * viewport.value.zoom }
    }

    /** Where the ring of a node with so many buttons hides least. */
    function spotOfRing(id: string, count: number): RingSpot | undefined {
        const middle = middleOf(id)
        const box = stage.value
        if (!middle || !box) {
            return undefined
        }
        const { x, y, zoom } = viewport.value
        const around = getNodes.value
            .filter((n) => n.id !== id && !n.id.includes('~'))
            .map(standing)
            .map((t) => ({ x: t.x * zoom + x, y: t.y * zoom + y, width: t.width * zoom, height: t.height * zoom, words: t.words * zoom }))
        return ringSpot(count, onStage(middle), reachesOf(id), { width: box.clientWidth, height: box.clientHeight }, around)
    }

    /** Brings a thing into the middle, near enough to be read. */
    function jump(id: string) {
        const middle = middleOf(id)
        const box = stage.value
        if (!middle || !box) {
            return
        }
        if (viewport.value.zoom >= READABLE) {
            reveal(id)
            return
        }
        void setViewport({ x: box.clientWidth / 2 - middle.x, y: box.clientHeight / 2 - middle.y, zoom: 1 })
    }

    /** Moves the sheet just so far that a thing is in sight. */
    function reveal(id: string) {
        const middle = middleOf(id)
        const box = stage.value
        if (!middle || !box) {
            return
        }
        const at = onStage(middle)
        // With room for its ring at both sides.
        const side = Math.min(MARGIN, box.clientWidth / 3)
        const by = {
            x: Math.max(0, side - at.x) + Math.min(0, box.clientWidth - side - at.x),
            y: Math.max(0, 60 - at.y) + Math.min(0, box.clientHeight - 90 - at.y),
        }
        if (by.x || by.y) {
            void setViewport({ x: viewport.value.x + by.x, y: viewport.value.y + by.y, zoom: viewport.value.zoom })
        }
    }

    /** Brings some nodes into the window whole, with room around them; also those that are not drawn. */
    async function show(ids: (id: string) => boolean, room: number, most: number) {
        const box = stage.value
        const shown = getNodes.value.filter((n) => ids(n.id)).map(standing)
        if (!box || !shown.length) {
            return
        }
        const left = Math.min(...shown.map((n) => n.x))
        const top = Math.min(...shown.map((n) => n.y))
        const width = Math.max(...shown.map((n) => n.x + n.width)) - left
        const height = Math.max(...shown.map((n) => n.y + n.height + n.words)) - top
        const tall = box.clientHeight - FOOT
        const zoom = Math.min(most, Math.max(LEAST, Math.min(box.clientWidth / (width * (1 + room)), tall / (height * (1 + room)))))
        await setViewport({ x: box.clientWidth / 2 - (left + width / 2) * zoom, y: tall / 2 - (top + height / 2) * zoom, zoom })
    }

    const fit = () => show(() => true, 0.08, 1)
    const fitSelection = () => (view.selection.length ? show((id) => view.selection.includes(id), 0.3, 1.4) : fit())

    /** What a thing is joined to by a link or a ribbon. */
    function joined(thing: string): Set<string> {
        const set = new Set<string>()
        for (const link of model.model.links) {
            if (link.from === thing) set.add(link.to)
            if (link.to === thing) set.add(link.from)
        }
        for (const flow of model.things) {
            if (flow.kind === 'flow' && (flow.id === thing || flow.from === thing || flow.to === thing)) {
                ;[flow.id, flow.from, flow.to].forEach((id) => {
                    if (id) set.add(id)
                })
            }
        }
        return set
    }

    const thingOf = (node: string) => model.model.echoes[node]?.element ?? node

    /** To the nearest thing that lies in a direction, sooner along a link than across empty paper. */
    function travel(dx: number, dy: number, more = false) {
        const from = view.selection.at(-1)
        const here = middleOf(from)
        if (!here || !from) {
            const first = getNodes.value.find((n) => !n.id.includes('~'))
            if (first) {
                view.select(first.id)
                reveal(first.id)
            }
            return
        }
        const near = joined(thingOf(from))
        let best: { id: string; cost: number } | undefined
        for (const node of getNodes.value) {
            const there = middleOf(node.id)
            if (!there || node.id.includes('~') || view.selection.includes(node.id)) {
                continue
            }
            const along = (there.x - here.x) * dx + (there.y - here.y) * dy
            const aside = Math.abs((there.x - here.x) * dy) + Math.abs((there.y - here.y) * dx)
            const cost = (along + 2 * aside) * (near.has(thingOf(node.id)) ? 0.6 : 1)
            if (along > 4 && (!best || cost < best.cost)) {
                best = { id: node.id, cost }
            }
        }
        if (best) {
            if (more) {
                view.selection = [...view.selection, best.id]
            } else {
                view.select(best.id)
            }
            reveal(best.id)
        }
    }

    return { onStage, middleOf, freeSpot, reachesOf, spotOfRing, reveal, jump, travel, fit, fitSelection }
}
