import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { api } from '@/api/client'
import type { DimensionView } from '@/api/types'
import { cellsOf, numberIn, readBlock } from '@/card/block'
import { bracketWords, openBracket } from '@/card/bracketWords'
import { readSeries } from '@/card/seriesBlock'
import { inFull } from '@/charts/words'
import { heatRows, heatScale, heatShare } from '@/charts/heat'
import { heads, moved, placesAlong, transposed, usualTurn, type Field } from '@/places/try/turning'
import { readableId, recordOf, useDimensions } from '@/stores/dimensions'
import { elementsOf, useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useRanked } from '@/stores/ranked'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import { aRun, aThing, things } from './make'

const dimension = (id: string, names: string[], more: Partial<DimensionView> = {}): DimensionView => ({
    id,
    name: id,
    counted: false,
    partOf: null,
    sameAs: null,
    whole: id,
    root: id,
    limitedTo: null,
    words: {},
    shared: false,
    elements: names.map((name) => ({ id: name.replace(/\W+/g, '-'), name })),
    ...more,
})
const TERRACE = dimension('terrace', ['north', 'middle', 'south'], { words: { sum: 'all terraces' } })
const AGE = dimension('age', ['0', '1', '2'], { counted: true })

describe('a block that is pasted', () => {
    it('finds rows and columns by their names, whatever way round, and marks what it does not know', () => {
        const block = readBlock(cellsOf('\tNorth\tSouths\teast\n0\t1,5\t2\t9\n2\t1.200,5\tx\t8\n'), [TERRACE, AGE])
        expect([block.rows.dimension?.id, block.columns.dimension?.id]).toEqual(['age', 'terrace'])
        expect(block.rows.heads.map((h) => h.element)).toEqual(['0', '2'])
        expect(block.columns.heads.map((h) => h.element)).toEqual(['north', 'south', undefined])
        expect(block.columns.unknown).toEqual(['east'])
        expect(block.grid).toEqual([
            [1.5, 2, 9],
            [1200.5, undefined, 8],
        ])
        expect(block.unread).toEqual(['C3'])
        const turned = readBlock(cellsOf(';0;1\nmiddle;4;5'), [TERRACE, AGE])
        expect([turned.rows.dimension?.id, turned.columns.dimension?.id]).toEqual(['terrace', 'age'])
    })

    it('may be two columns of names and numbers, or names alone above numbers', () => {
        const one = readBlock(cellsOf('north\t10\nsouth\t20\nisland\t30'), [TERRACE])
        expect([one.rows.dimension?.id, one.columns.dimension?.id, one.rows.unknown]).toEqual(['terrace', undefined, ['island']])
        expect(one.grid).toEqual([[10], [20], [30]])
        const across = readBlock(cellsOf('north\tmiddle\n1\t2'), [TERRACE])
        expect(across.columns.dimension?.id ?? across.rows.dimension?.id).toBe('terrace')
    })

    it('reads numbers as people write them', () => {
        expect(['1 200', '1,200', '1,200.5', '1.200,5', '0,5', '12 %', '−3', '1e3', '.5'].map(numberIn)).toEqual([
            1200, 1200, 1200.5, 1200.5, 0.5, 0.12, -3, 1000, 0.5,
        ])
        expect(['', 'n/a', '3 t', '1.2.3'].map(numberIn)).toEqual([NaN, NaN, NaN, NaN])
    })
})

describe('where the window looks along dimensions', () => {
    const OYSTERS = aThing('oysters', {
        kind: 'stock',
        along: { over: ['terrace', 'age'], dimensions: ['terrace', 'age'], size: 9, parts: [] },
    })
    beforeEach(() => {
        setActivePinia(createPinia())
        const model = useModel()
        model.model = {
            ...model.model,
            dimensions: [TERRACE, AGE],
            elements: things(OYSTERS, aThing('price')),
            order: ['oysters', 'price'],
        }
        useView().look = {}
    })

    it('is each element at first, and then a line for each that is left', () => {
        const look = useLook()
        expect(look.dimensions.map((d) => d.id)).toEqual(['terrace', 'age'])
        expect(look.elements.oysters?.along?.parts.map((p) => p.name).slice(0, 4)).toEqual([
            'north, 0',
            'north, 1',
            'north, 2',
            'middle, 0',
        ])
        expect([look.keyOf('oysters'), look.keyOf('price')]).toEqual([undefined, 'price'])
        expect(look.boundKeys('oysters')).toEqual(['oysters[*least,*least]', 'oysters[*greatest,*greatest]'])
        look.set('terrace', '*sum')
        expect(look.elements.oysters?.along?.parts.map((p) => p.key)).toEqual(['oysters[*sum,0]', 'oysters[*sum,1]', 'oysters[*sum,2]'])
        expect(look.elements.oysters?.along?.looked).toBe('all terraces')
        look.set('age', '1')
        expect([look.keyOf('oysters'), look.drawnKey('oysters')]).toEqual(['oysters[*sum,1]', 'oysters[*sum,1]'])
        expect(look.columns(['oysters', 'price']).map((c) => c.name)).toEqual(['oysters, all terraces, 1', 'price'])
        look.set('age', '*mean')
        expect(look.elements.oysters?.along?.looked).toBe('all terraces, mean over age')
        // An element that is gone is looked at no more.
        look.set('age', '7')
        expect(look.at('age')).toBe('')
    })

    it('holds for parts of a dimension too, and only for elements that are there', () => {
        const model = useModel()
        const outer = dimension('outer', ['north', 'south'], { partOf: 'terrace', whole: 'terrace', root: 'terrace' })
        const limited = { ...TERRACE, limitedTo: ['middle', 'south'] }
        const part = aThing('part', { along: { over: ['outer'], dimensions: ['outer'], size: 2, parts: [] } })
        model.model = { ...model.model, dimensions: [limited, AGE, outer], elements: things(OYSTERS, part), order: ['oysters', 'part'] }
        const look = useLook()
        expect(elementsOf(limited).map((e) => e.id)).toEqual(['middle', 'south'])
        expect(look.elements.oysters?.along?.size).toBe(6)
        look.set('terrace', 'south')
        expect(look.keyOf('part')).toBe('part[south]')
    })
})

describe('of very many elements', () => {
    it('a plot shows those with the greatest or least value at the end, asked anew under another look', async () => {
        setActivePinia(createPinia())
        const model = useModel()
        const many = dimension(
            'boat',
            Array.from({ length: 40 }, (_, i) => `b${i}`),
        )
        const rust = aThing('rust', { along: { over: ['boat'], dimensions: ['boat'], size: 40, parts: [] } })
        Object.assign(model.model, { dimensions: [many, AGE], elements: things(rust), order: ['rust'] })
        const asked = vi.spyOn(api, 'ranked').mockResolvedValue({ keys: ['rust[b7]', 'rust[b3]'] })
        const runs = useRuns()
        runs.shown = aRun({ 'rust[b0]': [0, 1] })
        const ranked = useRanked()
        const plot = { id: 'p', of: ['rust'], options: { pick: 'greatest' as const } }
        expect(ranked.isMany(rust)).toBe(true)
        expect(ranked.elementsFor(plot).rust?.along?.parts).toHaveLength(12)
        ranked.follow(() => plot)
        await vi.waitFor(() => expect(ranked.elementsFor(plot).rust?.along?.parts.map((p) => p.name)).toEqual(['b7', 'b3']))
        expect(asked.mock.calls[0]?.slice(1, 2)).toEqual(['rust'])
        const [shown] = Object.values(ranked.elementsFor(plot))
        expect(shown && inFull(shown)).toBe('rust (2 greatest at the end, of 40)')
        expect(ranked.elementsFor({ id: 'q', of: ['rust'] }).rust?.along?.parts).toHaveLength(12)
    })
})

describe('a table that is turned', () => {
    const fields: Field[] = [
        { id: 'variable', name: 'variable', items: [{ id: 'oysters', name: 'oysters' }] },
        { id: 'run', name: 'run', items: ['0', '1'].map((id) => ({ id, name: `run ${id}` })) },
        { id: 'time', name: 'year', items: ['0', '5'].map((id) => ({ id, name: id })) },
        { id: 'terrace', name: 'terrace', items: TERRACE.elements, isDimension: true },
        { id: 'age', name: 'age', items: AGE.elements, isDimension: true },
    ]
    const of = (id: string) => fields.find((f) => f.id === id) as Field

    it('lies so that what there is more than one of is in sight', () => {
        expect(usualTurn(fields)).toEqual({ rows: ['terrace'], columns: ['run', 'age'], picks: {} })
        expect(usualTurn(fields.slice(0, 3))).toEqual({ rows: ['time'], columns: ['run'], picks: {} })
    })

    it('takes a field from one zone to another and keeps each once', () => {
        const turned = usualTurn(fields)
        expect(moved(turned, 'age', 'rows', 0)).toMatchObject({ rows: ['age', 'terrace'], columns: ['run'] })
        expect(moved(turned, 'run', 'pages')).toMatchObject({ rows: ['terrace'], columns: ['age'] })
        expect(moved(turned, 'time', 'columns', 1).columns).toEqual(['run', 'time', 'age'])
        expect(transposed(turned)).toMatchObject({ rows: ['run', 'age'], columns: ['terrace'] })
    })

    it('has a head for each field, spanning what it is over', () => {
        const places = placesAlong([of('run'), of('age')], 60)
        expect(places).toHaveLength(6)
        expect(heads([of('run'), of('age')], places).map((line) => line.map((h) => [h.name, h.span]))).toEqual([
            [
                ['run 0', 3],
                ['run 1', 3],
            ],
            [
                ['0', 1],
                ['1', 1],
                ['2', 1],
                ['0', 1],
                ['1', 1],
                ['2', 1],
            ],
        ])
        expect(placesAlong([of('terrace'), of('age')], 4)).toHaveLength(4)
    })
})

describe('a heat map', () => {
    const along = { over: ['terrace'], dimensions: ['terrace'], size: 2, parts: [] }
    const parts = () => [
        { key: 'a[north]', name: 'north' },
        { key: 'a[south]', name: 'south' },
        { key: 'a[gone]', name: 'gone' },
    ]
    const run = aRun({ 'a[north]': [0, 5, 10], 'a[south]': [2, 2, 4], b: [-1, 0, 3] })

    it('has a row for each element that the run has, all on one scale', () => {
        const rows = heatRows({ id: 'p', of: ['a'] }, run, things(aThing('a', { along })), parts)
        expect(rows.map((r) => [r.name, r.low, r.high])).toEqual([
            ['north', 0, 10],
            ['south', 2, 4],
        ])
        const scale = heatScale(rows, { id: 'p', of: ['a'] })
        expect([scale.low, scale.high, scale.own]).toEqual([0, 10, false])
        expect(heatShare(5, rows[0] as never, scale)).toBe(0.5)
        expect(heatShare(NaN, rows[0] as never, scale)).toBeNaN()
    })

    it('tells rows of several units each over its own range, and values below zero another way', () => {
        const elements = things(aThing('a', { along, unit: 't' }), aThing('b', { unit: 'kg' }))
        const rows = heatRows({ id: 'p', of: ['a', 'b'] }, run, elements, parts)
        const scale = heatScale(rows, { id: 'p', of: ['a', 'b'] })
        expect(scale.own).toBe(true)
        expect(heatShare(3, rows[1] as never, scale)).toBe(0.5)
        const alone = heatRows({ id: 'p', of: ['b'] }, run, elements, parts)
        const signed = heatScale(alone, { id: 'p', of: ['b'] })
        expect([heatShare(-1, alone[0] as never, signed), heatShare(3, alone[0] as never, signed)]).toEqual([-1 / 3, 1])
    })
})

describe('what is sent of a dimension', () => {
    it('is its elements, or whose they are, with what it is limited to', () => {
        expect(recordOf({ ...TERRACE, limitedTo: ['north'] })).toEqual({
            id: 'terrace',
            name: 'terrace',
            elements: TERRACE.elements,
            limitedTo: ['north'],
            words: { sum: 'all terraces' },
        })
        expect(recordOf(AGE)).toEqual({ id: 'age', name: 'age', from: 0, to: 2 })
        expect(recordOf(dimension('outer', ['north'], { partOf: 'terrace', root: 'terrace', limitedTo: ['north'] }))).toEqual({
            id: 'outer',
            name: 'outer',
            partOf: 'terrace',
            elements: [{ id: 'north', name: 'north' }],
        })
        expect(recordOf(dimension('other', ['north'], { sameAs: 'terrace', root: 'terrace' }))).toEqual({
            id: 'other',
            name: 'other',
            sameAs: 'terrace',
        })
        expect([readableId('Harbour bay', new Set()), readableId('Ø', new Set()).length > 5]).toEqual(['harbour-bay', true])
        expect(readableId('north', new Set(['north']))).not.toBe('north')
    })
})

describe('what is offered behind an open bracket', () => {
    const words = {
        things: [aThing('oysters', { along: { over: ['terrace', 'age'], dimensions: ['terrace', 'age'], size: 9, parts: [] } })],
        dimensions: [TERRACE, AGE, dimension('other terrace', ['north', 'middle', 'south'], { sameAs: 'terrace', root: 'terrace' })],
        mappings: [{ name: 'home bay', from: 'cove', to: 'terrace' }],
    }
    const offered = (text: string) => {
        const open = openBracket(text)
        return open ? bracketWords(open, words).map((w) => w.apply) : null
    }

    it('are elements, dimensions and mappings of the thing before it', () => {
        expect(openBracket('2 * oysters[nor')).toEqual({ name: 'oysters', dimension: '', typed: 'nor', from: 12 })
        expect(offered('2 * oysters[')).toEqual([
            'north',
            'middle',
            'south',
            'age: 0',
            'age: 1',
            'age: 2',
            'terrace: ',
            'age: ',
            'home bay',
        ])
        expect(offered('oysters[north, age: ')).toEqual(['0', '1', '2', 'previous', 'next', 'first', 'last'])
        expect(offered('oysters[terrace: ')?.at(-1)).toBe('other terrace')
        expect(offered('oysters[age: previous; else pri')).toBeNull()
        expect(offered('oysters[north] + ')).toBeNull()
        expect(offered('nothing[')).toEqual([])
    })
})

describe('courses that are pasted onto a series', () => {
    it('go to the elements that the heads name, and tell what they do not understand', () => {
        const block = readSeries('year\tNorth\tsouths\teast\n2\t5\t1,5\t9\n0\t3\tx\t8\nsoon\t1\t1\t1', [TERRACE])
        expect([...block.courses]).toEqual([
            [
                'north',
                [
                    [0, 3],
                    [2, 5],
                ],
            ],
            ['south', [[2, 1.5]]],
        ])
        expect([block.unknown, block.unread]).toEqual([['east'], ['C3', 'A4']])
    })

    it('name one element of each dimension', () => {
        const block = readSeries('t;north, 1;middle/2\n0;4;5', [TERRACE, AGE])
        expect([...block.courses.keys()]).toEqual(['north,1', 'middle,2'])
        expect(readSeries('', [TERRACE]).courses.size).toBe(0)
    })
})

describe('dimensions that are changed quicker than the page hears of it', () => {
    const sent: string[][] = []
    let answer: (() => void)[] = []
    beforeEach(() => {
        setActivePinia(createPinia())
        const model = useModel()
        model.model = { ...model.model, dimensions: [TERRACE, AGE, dimension('month', ['1', '2'])] }
        sent.length = 0
        answer = []
        vi.spyOn(model, 'attempt').mockImplementation(((edit: {
            dimensions: { id: string; name: string; elements?: { name: string }[] }[]
        }) => {
            sent.push(edit.dimensions.map((d) => [d.id, d.name, ...(d.elements ?? []).map((e) => e.name)].join(' ')))
            return new Promise((resolve) => answer.push(() => resolve(true)))
        }) as never)
    })
    const T = 'terrace terrace north middle south'
    const M = 'month month 1 2'

    it('two that are taken away stay away', () => {
        const dimensions = useDimensions()
        void dimensions.remove('month')
        void dimensions.remove('age')
        expect(sent).toEqual([[T, 'age age'], [T]])
    })
    it('one that is taken away does not come back by a change of another, nor by one that is refused', async () => {
        const dimensions = useDimensions()
        void dimensions.remove('age')
        void dimensions.change(TERRACE, { name: 'step' })
        expect(sent[1]).toEqual(['terrace step north middle south', M])
        // The model has not changed: the first was refused, so it is there as before.
        answer.forEach((a) => a())
        await Promise.resolve()
        await Promise.resolve()
        void dimensions.change(TERRACE, { words: { sum: 'all' } })
        expect(sent[2]).toEqual([T, 'age age', M])
    })
    it('a new one, and one that is called otherwise, are not lost by the next', () => {
        const dimensions = useDimensions()
        void dimensions.add('cove', ['west', 'east'])
        void dimensions.rename(dimensions.own()[2] as DimensionView, 'moon')
        expect(sent[1]).toEqual([T, 'age age', 'cove cove west east', 'moon moon 1 2'])
        void dimensions.remove('terrace')
        expect(sent[2]).toEqual(['age age', 'cove cove west east', 'moon moon 1 2'])
    })
})
