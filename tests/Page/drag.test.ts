import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Edge, GraphNode, NodeDragEvent, VueFlowStore } from '@vue-flow/core'
import { effectScope, ref, type EffectScope } from 'vue'
import type { Placement, Point } from '@/api/types'
import { useBends } from '@/canvas/useBends'
import { usePicture } from '@/canvas/usePicture'
import { useSheetDrag } from '@/canvas/useSheetDrag'
import { useSheetGeometry } from '@/canvas/useSheetGeometry'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { harness } from './harness'
import { aThing, things } from './make'

let scope: EffectScope
beforeEach(() => {
    harness.begin()
    scope = effectScope()
})
afterEach(() => {
    scope.stop()
    harness.end()
})
const inScope = <T>(make: () => T) => scope.run(make) as T

type Spot = [x: number, y: number, width?: number, height?: number, type?: string]

/** A sheet on which nodes lie with their upper left corners at these spots. */
function sheet(spots: Record<string, Spot>, edges: Edge[] = [], view = { x: 0, y: 0, zoom: 1 }) {
    const nodes = Object.entries(spots).map(([id, [x, y, width = 100, height = 60, type = 'stock']]) => ({
        id,
        type,
        position: { x, y },
        computedPosition: { x, y },
        dimensions: { width, height },
        width,
        height,
        data: { thing: id },
    })) as unknown as GraphNode[]
    const viewport = ref(view)
    const flow = {
        findNode: (id: string) => nodes.find((n) => n.id === id),
        getNodes: ref(nodes),
        edges: ref(edges),
        dimensions: ref({ width: 800, height: 600 }),
        viewport,
        updateNode: (id: string, { position }: { position: Point }) => {
            const node = nodes.find((n) => n.id === id)
            if (node) {
                node.position = position
                node.computedPosition = { ...position, z: 0 }
            }
        },
        setViewport: vi.fn((to: typeof view) => {
            viewport.value = to
            return Promise.resolve(true)
        }),
        screenToFlowCoordinate: (p: Point) => ({
            x: (p.x - viewport.value.x) / viewport.value.zoom,
            y: (p.y - viewport.value.y) / viewport.value.zoom,
        }),
    }
    return { nodes, flow: flow as unknown as VueFlowStore, at: (id: string) => flow.findNode(id)?.position, set: flow.setViewport }
}

/** Two stocks, a flow between them and one from outside into the first. */
function pond(placements: Record<string, Placement> = {}) {
    const model = useModel()
    model.model = {
        ...model.model,
        elements: things(
            aThing('lens', { kind: 'stock' }),
            aThing('tank', { kind: 'stock' }),
            aThing('pumping', { kind: 'flow', from: 'lens', to: 'tank' }),
            aThing('rain', { kind: 'flow', to: 'lens' }),
        ),
        order: ['lens', 'tank', 'pumping', 'rain'],
        placements: {
            lens: { at: { x: 350, y: 130 } },
            tank: { at: { x: 750, y: 130 } },
            pumping: { at: { x: 550, y: 130 } },
            rain: { at: { x: 150, y: 130 } },
            ...placements,
        },
    }
    return sheet({
        lens: [300, 100],
        tank: [700, 100],
        pumping: [537, 117, 26, 26, 'gate'],
        rain: [137, 117, 26, 26, 'gate'],
        'rain~source': [20, 115, 14, 30, 'outside'],
    })
}

const dragOf = (s: ReturnType<typeof sheet>, id: string, to: Point, more: Partial<MouseEvent> = {}) => {
    const node = s.nodes.find((n) => n.id === id) as GraphNode
    const drag = inScope(() => useSheetDrag(s.flow))
    const event = () => ({ node, nodes: [node], event: { altKey: false, ...more } }) as unknown as NodeDragEvent
    drag.start(event())
    node.position = to
    return { drag, event }
}

describe('dragging', () => {
    it('a stock takes its outside ends along, and the gate between two stocks half the way', () => {
        const s = pond()
        const { drag, event } = dragOf(s, 'lens', { x: 330, y: 180 })
        const places = drag.stop(event())
        expect(s.at('pumping')).toEqual({ x: 552, y: 157 })
        // Rain touches no other stock: it goes the whole way, with its horizon.
        expect(s.at('rain')).toEqual({ x: 167, y: 197 })
        expect(s.at('rain~source')).toEqual({ x: 50, y: 195 })
        expect(s.at('tank')).toEqual({ x: 700, y: 100 })
        expect(places).toEqual({
            lens: { at: { x: 380, y: 210 } },
            pumping: { at: { x: 565, y: 170 } },
            rain: { at: { x: 180, y: 210 }, source: { x: 57, y: 210 } },
        })
        expect(drag.dragging.value).toBe(false)
    })

    it('both stocks take the gate between them the whole way', () => {
        const s = pond()
        useView().selection = ['lens', 'tank']
        const { drag, event } = dragOf(s, 'lens', { x: 300, y: 200 })
        drag.stop(event())
        expect(s.at('tank')).toEqual({ x: 700, y: 200 })
        expect(s.at('pumping')).toEqual({ x: 537, y: 217 })
    })

    it('a gate that is dragged alone leaves stocks and horizons, and takes its bends along', () => {
        const s = pond({ rain: { at: { x: 150, y: 130 }, bendIn: { x: 90, y: 60 } } })
        const { drag, event } = dragOf(s, 'rain', { x: 147, y: 217 }, { altKey: true })
        expect(drag.stop(event())).toEqual({ rain: { at: { x: 160, y: 230 }, bendIn: { x: 100, y: 160 } } })
        expect(s.at('rain~source')).toEqual({ x: 20, y: 115 })
        expect(s.at('lens')).toEqual({ x: 300, y: 100 })
    })

    it('snaps to the middle of another thing within six pixels of the screen, and not with Alt', () => {
        const near = pond()
        const first = dragOf(near, 'tank', { x: 690, y: 104 })
        first.drag.move(first.event())
        expect(near.at('tank')).toEqual({ x: 690, y: 100 })
        expect(first.drag.guides.value).toEqual({ y: 130 })
        const far = pond()
        const second = dragOf(far, 'tank', { x: 690, y: 107 })
        second.drag.move(second.event())
        expect(far.at('tank')).toEqual({ x: 690, y: 107 })
        expect(second.drag.guides.value).toEqual({})
        const free = pond()
        const third = dragOf(free, 'tank', { x: 690, y: 104 }, { altKey: true })
        third.drag.move(third.event())
        expect(free.at('tank')).toEqual({ x: 690, y: 104 })
    })

    it('that is given up leaves everything where it was', () => {
        const s = pond()
        const { drag, event } = dragOf(s, 'lens', { x: 400, y: 300 })
        drag.move(event())
        drag.back()
        expect(s.at('lens')).toEqual({ x: 300, y: 100 })
        expect(s.at('rain~source')).toEqual({ x: 20, y: 115 })
        expect(s.at('pumping')).toEqual({ x: 537, y: 117 })
    })

    it('lines up: what is between two moved things goes the mean of both', async () => {
        const s = pond()
        const placed = vi.spyOn(useModel(), 'place').mockResolvedValue(true)
        const drag = inScope(() => useSheetDrag(s.flow))
        await drag.moveTo({ lens: { x: 350, y: 230 }, tank: { x: 750, y: 330 } })
        expect(s.at('lens')).toEqual({ x: 300, y: 200 })
        expect(s.at('tank')).toEqual({ x: 700, y: 300 })
        expect(s.at('pumping')).toEqual({ x: 537, y: 267 })
        expect(Object.keys(placed.mock.calls[0]?.[0] ?? {}).sort()).toEqual(['lens', 'pumping', 'rain', 'tank'])
    })
})

describe('bends', () => {
    it('of a flow without one stand on its legs near their far ends, and move from there', () => {
        const s = pond()
        const view = useView()
        const placed = vi.spyOn(useModel(), 'place').mockResolvedValue(true)
        view.select('pumping')
        const bends = inScope(() =>
            useBends({ ...s.flow, edges: ref([{ id: 'ribbon:pumping', source: 'lens', target: 'tank' }]) } as never, (p) => p),
        )
        const [before, behind] = bends.handles.value
        // From the gate at 550 to the borders at 400 and 700.
        expect(before).toMatchObject({ key: 'bendIn', set: false, at: { x: 550 - 0.8 * 150, y: 130 } })
        expect(behind).toMatchObject({ key: 'bendOut', set: false, at: { x: 550 + 0.8 * 150, y: 130 } })
        bends.move('bendIn', 0, -40, false)
        expect(useModel().model.placements.pumping?.bendIn).toEqual({ x: 430, y: 90 })
        // Moves count from where the drag began.
        bends.move('bendIn', 10, -60, true)
        expect(placed).toHaveBeenCalledWith({ pumping: { at: { x: 550, y: 130 }, bendIn: { x: 440, y: 70 } } })
        expect(bends.handles.value[0]).toMatchObject({ set: true })
        bends.straighten('bendIn')
        expect(placed.mock.lastCall?.[0].pumping?.bendIn).toBeUndefined()
    })

    it('of a link are told from the middle of its ends', () => {
        const s = pond()
        const view = useView()
        const edge = { id: 'l', source: 'lens', target: 'tank', data: { key: 'lens>tank' } }
        view.link = 'lens>tank'
        const bends = inScope(() => useBends({ ...s.flow, edges: ref([edge]) } as never, (p) => p))
        const from = bends.handles.value[0]?.at as Point
        bends.move('link', 500 - from.x, 30 - from.y, true)
        expect(harness.sent).toEqual([{ kind: 'bend', from: 'lens', to: 'tank', by: { x: 500 - 550, y: 30 - 130 } }])
        bends.straighten('link')
        expect(harness.sent.at(-1)).toEqual({ kind: 'bend', from: 'lens', to: 'tank', by: null })
        expect(useModel().model.bends['lens>tank']).toBeUndefined()
    })
})

describe('the sheet under the window', () => {
    const stage = () => {
        const element = document.createElement('div')
        Object.defineProperties(element, { clientWidth: { value: 800 }, clientHeight: { value: 600 } })
        return ref<HTMLElement | undefined>(element)
    }

    it('moves just so far that a thing is in sight with its ring', () => {
        pond()
        const s = sheet({ lens: [300, 100], far: [2000, 100], above: [350, -500] })
        const geometry = inScope(() => useSheetGeometry(s.flow, stage()))
        geometry.reveal('lens')
        expect(s.set).not.toHaveBeenCalled()
        geometry.reveal('far')
        expect(geometry.onStage({ x: 2050, y: 130 })).toEqual({ x: 650, y: 130 })
        geometry.reveal('above')
        expect(geometry.onStage({ x: 400, y: -470 }).y).toBe(60)
    })

    it('goes near enough to be read where a thing is jumped to from afar', () => {
        pond()
        const s = sheet({ lens: [300, 100] }, [], { x: 0, y: 0, zoom: 0.2 })
        const geometry = inScope(() => useSheetGeometry(s.flow, stage()))
        geometry.jump('lens')
        expect(s.flow.viewport.value.zoom).toBe(1)
        expect(geometry.onStage({ x: 350, y: 130 })).toEqual({ x: 400, y: 300 })
    })

    it('fits all things whole, with the words under them', async () => {
        pond()
        const s = sheet({ lens: [0, 0], tank: [1900, 940] })
        const geometry = inScope(() => useSheetGeometry(s.flow, stage()))
        await geometry.fit()
        const [low, high] = [geometry.onStage({ x: 0, y: 0 }), geometry.onStage({ x: 2000, y: 1000 })]
        expect(Math.min(low.x, low.y)).toBeGreaterThanOrEqual(0)
        expect(high.x).toBeLessThanOrEqual(800)
        expect(high.y).toBeLessThanOrEqual(560)
        // As near as that allows.
        expect(high.x - low.x).toBeGreaterThan(700)
    })

    it('is travelled to what lies in the direction, sooner along a link', () => {
        pond()
        const view = useView()
        const s = sheet({ lens: [300, 100], tank: [700, 100], pumping: [537, 117, 26, 26, 'gate'], rain: [137, 117, 26, 26, 'gate'] })
        const geometry = inScope(() => useSheetGeometry(s.flow, stage()))
        view.select('lens')
        geometry.travel(1, 0)
        expect(view.selected).toBe('pumping')
        geometry.travel(1, 0)
        expect(view.selected).toBe('tank')
        geometry.travel(1, 0)
        expect(view.selected).toBe('tank')
        geometry.travel(-1, 0, true)
        expect(view.selection).toEqual(['tank', 'pumping'])
    })
})

describe('the picture from afar', () => {
    const many = (zoom: number, count: number) => {
        const spots = Object.fromEntries(
            Array.from({ length: count }, (_, i) => [`a${i}`, [(i % 30) * 150, Math.floor(i / 30) * 100] as Spot]),
        )
        const s = sheet(spots, [], { x: 0, y: 0, zoom })
        useModel().model = { ...useModel().model, elements: things(aThing('a31', { name: 'the last well' })) }
        return inScope(() => usePicture(ref(s.nodes) as never, ref([]), s.flow))
    }

    it('takes the place of shapes on a large sheet only, and only from afar', () => {
        expect(many(0.2, 201).pictured.value).toBe(true)
        expect(many(0.2, 200).pictured.value).toBe(false)
        expect(many(0.5, 201).pictured.value).toBe(false)
        expect(many(0.5, 201).detail.value).toBe('half')
    })

    it('is hit where something is painted, however small, and nowhere else', () => {
        const picture = many(0.05, 450)
        const hit = (x: number, y: number) => picture.nodeAt({ clientX: x * 0.05, clientY: y * 0.05 } as MouseEvent)?.id
        expect(hit(200, 130)).toBe('a31')
        // Ten pixels of the screen are 200 of the sheet: the nearest counts.
        expect(hit(200 + 60, 130)).toBe('a31')
        expect(hit(200 + 90, 130)).toBe('a32')
        expect(hit(200, 100 * 16 + 400)).toBeUndefined()
        picture.point({ clientX: 10, clientY: 6.5 } as MouseEvent)
        expect(picture.pointed.value).toBe('the last well')
    })
})
