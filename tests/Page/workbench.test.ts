import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Kind, Model, Thing } from '@/api/types'
import { filtered, inRegions, joins, type AtlasFilter } from '@/places/model/atlas/atlas'
import { arranged, type Placed } from '@/ui/arrange'
import { bestBow, linkShape, ribbonSpine, type Box } from '@/canvas/shapes'
import { useSheet } from '@/canvas/useSheet'
import { moved, normalised, reversed, scaled, stretched, withPoint, type Pair } from '@/card/curvePoints'
import { replacements, search } from '@/find/search'
import { foresee } from '@/stores/foresee'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { aThing } from './make'

beforeEach(() => {
    HTMLCanvasElement.prototype.getContext = () => null
    window.matchMedia = vi.fn().mockReturnValue({ matches: false })
    localStorage.clear()
    setActivePinia(createPinia())
})

const thing = (id: string, kind: Kind = 'auxiliary', more: Partial<Thing> = {}) => aThing(id, { kind, formula: '', ...more })

function fill(things: Thing[], more: Partial<Model> = {}): Model {
    const model = useModel()
    model.model = {
        ...model.model,
        sheets: [
            { id: 'one', name: 'One' },
            { id: 'two', name: 'Two' },
        ],
        order: things.map((t) => t.id),
        elements: Object.fromEntries(things.map((t) => [t.id, t])),
        ...more,
    }
    return model.model
}

describe('lining things up', () => {
    const things: Placed[] = [
        { id: 'a', at: { x: 0, y: 0 }, width: 100, height: 20 },
        { id: 'b', at: { x: 90, y: 50 }, width: 40, height: 20 },
        { id: 'c', at: { x: 300, y: 20 }, width: 60, height: 40 },
    ]

    it('brings edges or middles onto one line and leaves what is there', () => {
        expect(arranged(things, 'left')).toEqual({ b: { x: -30, y: 50 }, c: { x: -20, y: 20 } })
        expect(arranged(things, 'right')).toEqual({ a: { x: 280, y: 0 }, b: { x: 310, y: 50 } })
        expect(Object.values(arranged(things, 'middle')).map((p) => p.y)).toEqual([25, 25, 25])
        expect(arranged(things, 'top')).toEqual({ b: { x: 90, y: 0 }, c: { x: 300, y: 10 } })
    })

    it('leaves equal room between', () => {
        const spread = { ...Object.fromEntries(things.map((t) => [t.id, t.at])), ...arranged(things, 'spread-across') }
        const gap = (l: string, r: string) =>
            (spread[r]?.x ?? 0) -
            (things.find((t) => t.id === r)?.width ?? 0) / 2 -
            ((spread[l]?.x ?? 0) + (things.find((t) => t.id === l)?.width ?? 0) / 2)
        expect(gap('a', 'b')).toBeCloseTo(gap('b', 'c'), 0)
        expect(spread.a).toEqual({ x: 0, y: 0 })
        expect(spread.c).toEqual({ x: 300, y: 20 })
    })
})

describe('the points of a curve', () => {
    const points: Pair[] = [
        [0, 1],
        [10, 4],
        [40, 2],
    ]

    it('are reversed about the middle of their range, and twice is as before', () => {
        expect(reversed(points)).toEqual([
            [0, 2],
            [30, 4],
            [40, 1],
        ])
        expect(reversed(reversed(points))).toEqual(points)
    })

    it('are scaled, normalised and stretched', () => {
        expect(scaled(points, 0.5)).toEqual([
            [0, 0.5],
            [10, 2],
            [40, 1],
        ])
        expect(normalised(points)).toEqual([
            [0, 0],
            [10, 1],
            [40, 0.333333],
        ])
        expect(
            normalised([
                [0, 3],
                [1, 3],
            ]),
        ).toEqual([
            [0, 3],
            [1, 3],
        ])
        expect(stretched(points, 0, 100, 200)).toEqual([
            [100, 1],
            [125, 4],
            [200, 2],
        ])
        expect(stretched(points, 1, 0, 3)).toEqual([
            [0, 0],
            [10, 3],
            [40, 1],
        ])
        expect(stretched(points, 0, 5, 5)).toBe(points)
    })

    it('stay between their neighbours when dragged', () => {
        const far = moved(points, 1, 99, 3)
        expect(far[1]?.[0]).toBeLessThan(40)
        expect(far[1]?.[0]).toBeGreaterThan(39)
        expect(moved(points, 0, -20, 2)[0]).toEqual([-20, 2])
    })

    it('are joined by new ones in their place', () => {
        expect(withPoint(points, 20, 9)).toEqual([
            [0, 1],
            [10, 4],
            [20, 9],
            [40, 2],
        ])
        expect(withPoint(points, 10, 9)).toEqual([
            [0, 1],
            [10, 9],
            [40, 2],
        ])
    })
})

describe('finding', () => {
    const things = [
        thing('kelp', 'stock', { formula: '60', unit: 't', note: 'On the reef.' }),
        thing('growth', 'flow', { formula: 'rate * kelp', unit: 't/year' }),
        thing('kelp cover', 'auxiliary', { formula: 'kelp / 100' }),
    ]
    const all = ['name', 'formula', 'unit', 'note', 'value'] as const

    it('looks into names, formulas, units, notes and values, names first', () => {
        const ids = (text: string, fields: ('name' | 'formula' | 'unit' | 'note' | 'value')[] = [...all]) =>
            search(things, text, fields, (id) => (id === 'growth' ? '12.5' : '')).map((h) => `${h.thing.id}:${h.field}`)
        expect(ids('KELP')).toEqual(['kelp:name', 'kelp cover:name', 'growth:formula'])
        expect(ids('year')).toEqual(['growth:unit'])
        expect(ids('reef')).toEqual(['kelp:note'])
        expect(ids('12')).toEqual(['growth:value'])
        expect(ids('kelp', ['formula'])).toEqual(['growth:formula', 'kelp cover:formula'])
        expect(ids('  ')).toEqual([])
    })

    it('shows what a replacement would do, of units as whole words', () => {
        expect(replacements(things, 'name', 'kelp', 'weed').map((r) => r.now)).toEqual(['weed', 'weed cover'])
        expect(replacements(things, 'unit', 't', 'kg').map((r) => [r.id, r.now])).toEqual([
            ['kelp', 'kg'],
            ['growth', 'kg/year'],
        ])
        expect(replacements(things, 'unit', 'year', '$1')).toEqual([{ id: 'growth', name: 'growth', was: 't/year', now: 't/$1' }])
        expect(replacements(things, 'name', '(', '')).toEqual([])
        expect(replacements(things, 'name', ' cover', '').map((r) => r.now)).toEqual(['kelp'])
    })
})

describe('the atlas', () => {
    const model = () =>
        fill([thing('a', 'parameter'), thing('f', 'flow', { to: 's' }), thing('s', 'stock'), thing('b'), thing('alone', 'parameter')], {
            links: [
                { from: 'a', to: 'f', kind: 'now' },
                { from: 's', to: 'b', kind: 'now' },
            ],
            placements: { a: { at: { x: 0, y: 0 }, sheet: 'one' }, s: { at: { x: 500, y: 0 }, sheet: 'two' } },
        })
    const filter = (more: Partial<AtlasFilter> = {}): AtlasFilter => ({
        around: [],
        steps: 0,
        kinds: new Set(['stock', 'flow', 'auxiliary', 'parameter']),
        search: '',
        hideLoose: false,
        ...more,
    })
    const ids = (more: Partial<AtlasFilter>) => filtered(model(), filter(more)).map((t) => t.id)

    it('knows what acts on what, flows and stocks included', () => {
        expect(joins(model()).map((j) => `${j.from}>${j.to}`)).toEqual(['a>f', 's>b', 'f>s'])
    })

    it('leaves what is near, of a kind, of a name, or joined', () => {
        expect(ids({ around: ['a'], steps: 1 })).toEqual(['a', 'f'])
        expect(ids({ around: ['a'], steps: 3 })).toEqual(['a', 'f', 's', 'b'])
        expect(ids({ kinds: new Set(['parameter']) })).toEqual(['a', 'alone'])
        expect(ids({ search: 'LON' })).toEqual(['alone'])
        expect(ids({ hideLoose: true })).toEqual(['a', 'f', 's', 'b'])
    })

    it('puts regions beside each other, each with its things inside', () => {
        const m = model()
        const picture = inRegions(m, filtered(m, filter()), (id) => ({ key: useModel().sheetOf(id), name: useModel().sheetOf(id) }))
        expect(picture.regions.map((r) => r.key)).toEqual(['one', 'two'])
        for (const [id, at] of picture.places) {
            const region = picture.regions.find((r) => r.key === useModel().sheetOf(id))
            expect(at.x > (region?.x ?? 0) && at.x < (region?.x ?? 0) + (region?.width ?? 0)).toBe(true)
        }
        const [one, two] = picture.regions
        expect((one?.x ?? 0) + (one?.width ?? 0) <= (two?.x ?? 0) || (one?.y ?? 0) + (one?.height ?? 0) <= (two?.y ?? 0)).toBe(true)
    })
})

describe('echoes on the sheet', () => {
    it('stand for things of other sheets, and links lead from the nearest', () => {
        fill([thing('x', 'parameter'), thing('y')], {
            placements: { x: { at: { x: 0, y: 0 }, sheet: 'one' }, y: { at: { x: 400, y: 0 }, sheet: 'two' } },
            echoes: {
                far: { element: 'x', at: { x: -900, y: 0 }, sheet: 'two' },
                near: { element: 'x', at: { x: 300, y: 0 }, sheet: 'two' },
            },
            links: [{ from: 'x', to: 'y', kind: 'now', sign: '+' }],
        })
        const view = useView()
        const { nodes, edges } = useSheet()
        expect(nodes.value.map((n) => n.id)).toEqual(['x'])
        expect(edges.value).toEqual([])
        view.go({ sheet: 'two' })
        expect(nodes.value.map((n) => [n.id, (n.data as { thing: string }).thing, (n.data as { echo: boolean }).echo])).toEqual([
            ['y', 'y', false],
            ['far', 'x', true],
            ['near', 'x', true],
        ])
        expect(edges.value.map((e) => [e.source, e.target])).toEqual([['near', 'y']])
    })

    it('a selected echo shows its thing', () => {
        fill([thing('x'), thing('y')], {
            placements: { x: { at: { x: 0, y: 0 }, sheet: 'one' }, y: { at: { x: 0, y: 0 }, sheet: 'two' } },
            echoes: { e: { element: 'x', at: { x: 0, y: 0 }, sheet: 'two' } },
        })
        const view = useView()
        view.goTo('e')
        expect([view.sheet, view.node, view.selected]).toEqual(['two', 'e', 'x'])
        view.goTo('x')
        expect([view.sheet, view.node]).toEqual(['one', 'x'])
    })

    it('an unchanged sheet gives the canvas nothing to do', () => {
        const model = fill([thing('x')], { placements: { x: { at: { x: 0, y: 0 }, sheet: 'one' } } })
        const { nodes } = useSheet()
        const before = nodes.value
        useModel().model = { ...model, elements: { x: thing('x', 'auxiliary', { formula: '7' }) } }
        expect(nodes.value).toBe(before)
        useModel().model = { ...model, elements: { x: thing('x', 'auxiliary', { name: 'a much longer name' }) } }
        expect(nodes.value).not.toBe(before)
    })
})

describe('edits while the server is away', () => {
    it('are shown as they will probably be', () => {
        const model = fill([thing('x', 'stock', { formula: '1' }), thing('y')], {
            links: [{ from: 'x', to: 'y', kind: 'now' }],
            echoes: { e: { element: 'x', at: { x: 0, y: 0 }, sheet: 'one' } },
        })
        expect(foresee(model, { kind: 'rename', id: 'x', name: ' lens ' })?.elements?.x?.name).toBe('lens')
        expect(foresee(model, { kind: 'formula', id: 'x', text: '2' })?.elements?.x?.formula).toBe('2')
        expect(
            foresee(model, { kind: 'add', id: 'z', element: 'flow', from: 'x', to: null, placement: { at: { x: 1, y: 2 } } }),
        ).toMatchObject({
            elements: { z: { kind: 'flow', name: 'new flow', from: 'x' } },
            order: ['x', 'y', 'z'],
            placements: { z: { at: { x: 1, y: 2 } } },
        })
        expect(foresee(model, { kind: 'delete', ids: ['x', 'e'] })).toMatchObject({
            elements: { x: null },
            echoes: { e: null },
            order: ['y'],
            links: [],
        })
        expect(foresee(model, { kind: 'unit', id: 'gone', text: 'm' })).toBeUndefined()
        expect(foresee(model, { kind: 'time', start: 0, end: 1, step: 1 })).toBeUndefined()
    })
})

describe('ways of links and flows', () => {
    const box = (id: string, x: number, y: number): Box => ({ id, x: x - 40, y: y - 15, width: 80, height: 30 })

    it('a link swings around what stands in its way', () => {
        const boxes = [box('a', 0, 0), box('b', 400, 0)]
        expect(bestBow('a', 'b', boxes)).toBeUndefined()
        const usual = linkShape({ x: 0, y: 0 }, { width: 80, height: 30 }, { x: 400, y: 0 }, { width: 80, height: 30 }).middle
        const blocked = [...boxes, box('c', usual.x, usual.y)]
        const bow = bestBow('a', 'b', blocked)
        expect(bow).toBeDefined()
        const middle = linkShape(
            { x: 0, y: 0 },
            { width: 80, height: 30 },
            { x: 400, y: 0 },
            { width: 80, height: 30 },
            undefined,
            bow,
        ).middle
        expect(Math.abs(middle.y - usual.y)).toBeGreaterThan(18)
        expect(bestBow('a', 'nowhere', boxes)).toBeUndefined()
    })

    it('a bend by hand is where the link runs through', () => {
        const { middle } = linkShape({ x: 0, y: 0 }, { width: 2, height: 2 }, { x: 400, y: 0 }, { width: 2, height: 2 }, { x: 10, y: 80 })
        expect(middle.x).toBeCloseTo(210, -1)
        expect(middle.y).toBeCloseTo(80, -1)
    })

    it('a flow runs through its bends and its gate', () => {
        const spine = ribbonSpine({ x: 0, y: 0 }, { x: 200, y: 0 }, { x: 400, y: 0 }, { x: 100, y: 60 }, { x: 300, y: -60 })
        expect(spine[6]).toEqual({ x: 100, y: 60 })
        expect(spine[12]).toEqual({ x: 200, y: 0 })
        expect(spine[18]).toEqual({ x: 300, y: -60 })
    })
})
