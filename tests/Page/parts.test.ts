import { describe, expect, it } from 'vitest'
import type { Model, Thing } from '@/api/types'
import { aroundPart, partsOf } from '@/places/model/atlas/parts'

const thing = (id: string, kind: Thing['kind'], more: object = {}) => ({ id, name: id, kind, ...more }) as unknown as Thing
const things = [
    thing('age', 'auxiliary', { members: 'boat' }),
    thing('soundness', 'stock', { members: 'boat' }),
    thing('wear', 'flow', { from: 'soundness', along: { over: ['boat'] } }),
    thing('bought', 'auxiliary'),
    thing('fish', 'stock'),
    thing('growing', 'flow', { to: 'fish' }),
    thing('debt', 'stock', { made: { id: 'debt' } }),
    thing('alone', 'parameter'),
]
const model = {
    name: 'Boats',
    elements: Object.fromEntries(things.map((t) => [t.id, t])),
    dimensions: [{ id: 'boat', name: 'boat', elements: [{ id: 'a', name: 'a' }] }],
    sheets: [
        { id: 'sea', name: 'The sea' },
        { id: 'more', name: 'More' },
    ],
    rosters: {
        fleet: {
            id: 'fleet',
            of: 'boat',
            entries: [{ id: 'new', words: 'bought', of: 'bought' }],
            exits: [{ id: 'x', words: 'sunk', kind: 'when', of: 'age' }],
        },
    },
    parties: { a: {}, b: {} },
    claims: { debt: {} },
    links: [
        { from: 'fish', to: 'soundness' },
        { from: 'fish', to: 'age' },
        { from: 'debt', to: 'bought' },
        { from: 'age', to: 'soundness' },
    ],
} as unknown as Model
const sheetOf = (id: string) => (id === 'alone' ? 'more' : 'sea')
const whole = partsOf(model, things, sheetOf)
const part = (name: string) => whole.parts.find((p) => p.name === name)

describe('the atlas by parts', () => {
    it('has a part for each roster, for the books and for each sheet, stocks first', () => {
        expect(whole.parts.map((p) => [p.kind, p.name, p.things.map((t) => t.id)])).toEqual([
            ['roster', 'boat', ['soundness', 'wear', 'age']],
            ['sheet', 'The sea', ['fish', 'growing', 'bought']],
            ['books', 'The books', ['debt']],
            ['sheet', 'More', ['alone']],
        ])
        expect(part('boat')?.words).toBe('roster, 1 boat on the list')
        expect(part('The books')?.words).toBe('2 parties, 1 claim')
    })

    it('tells what comes from outside and leaves', () => {
        expect([part('boat')?.comes, part('boat')?.goes]).toEqual([['bought'], ['sunk']])
        expect([part('The sea')?.comes, part('The sea')?.goes]).toEqual([['growing'], []])
    })

    it('joins parts one way at a time, with what creates members; within a part nothing is joined', () => {
        const found = whole.joins.map((j) => [j.from, j.to, j.count, j.creates])
        expect(found).toEqual([
            ['sheet sea', 'roster fleet', 3, true],
            ['books', 'sheet sea', 1, false],
        ])
        expect(whole.joins[0]?.names).toEqual(['fish → soundness', 'fish → age', 'bought → boat: bought'])
    })

    it('is cut to one part and what it is joined to', () => {
        const near = aroundPart(whole, 'roster fleet')
        expect(near.parts.map((p) => p.name)).toEqual(['boat', 'The sea'])
        expect(near.joins).toHaveLength(1)
        expect(aroundPart(whole, 'sheet more').parts.map((p) => p.name)).toEqual(['More'])
    })
})
