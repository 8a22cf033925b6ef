import { describe, expect, it } from 'vitest'
import type { Calibrated, FreedNumber, Thing } from '@/api/types'
import { bandPath, linePath } from '@/charts/plane'
import { stateWords } from '@/places/fit/names'
import { asParameters, inTurn, isAt, madeUncertain, newScenario, placesOf, replaced, takenOver, usualBounds } from '@/stores/fitting'

const thing = (what: Partial<Thing>) => ({ kind: 'parameter', unit: '', value: null, formula: '', ...what }) as Thing
const number = (what: Partial<FreedNumber>) => ({ unit: '', value: 1, low: 0, high: 2, log: false, ...what }) as FreedNumber
const numbers = [
    number({ key: 'bite', of: 'bite', name: 'bite' }),
    number({ key: 'rate[north,old]', of: 'rate', name: 'rate, north, old' }),
    number({ key: 'start-of-urchins', of: 'urchins', name: 'urchins' }),
]
const isParameter = (id: string) => id !== 'urchins'

describe('bounds that one begins with', () => {
    it('are those of the dial, if the value lies between', () => {
        expect(usualBounds(thing({ value: 3, low: 1, high: 8 }))).toEqual({ low: 1, high: 8 })
        expect(usualBounds(thing({ value: 9, low: 1, high: 8 }))).toEqual({ low: 3, high: 27 })
    })
    it('are a third and three times the value, also below zero and of an initial value', () => {
        expect(usualBounds(thing({ value: 0.018 }))).toEqual({ low: 0.006, high: 0.054 })
        expect(usualBounds(thing({ value: -3 }))).toEqual({ low: -9, high: -1 })
        expect(usualBounds(thing({ value: 0 }))).toEqual({ low: 0.33, high: 3 })
        expect(usualBounds(thing({ kind: 'stock', formula: '60' }))).toEqual({ low: 20, high: 180 })
    })
})

describe('what was found', () => {
    it('is taken over as edits: formulas, and values of elements', () => {
        expect(placesOf('rate[north,old]', 'rate')).toEqual(['north', 'old'])
        expect(takenOver(numbers, [0.0194451158, 2, 19.0991529], 6)).toEqual([
            { kind: 'formula', id: 'bite', text: '0.0194451' },
            { kind: 'values', id: 'rate', values: [[['north', 'old'], 2]] },
            { kind: 'formula', id: 'urchins', text: '19.0992' },
        ])
        expect(takenOver(numbers, [], 6)).toEqual([])
    })
    it('is taken over by a curve with all its points at once, each at its own x', () => {
        const shelter = thing({
            id: 'shelter',
            kind: 'curve',
            points: [
                [0, 0.3],
                [0.2, 0.75],
                [1, 1.1],
            ],
        } as Partial<Thing>)
        const two = [number({ key: 'shelter[0.2]', of: 'shelter' }), number({ key: 'shelter[1]', of: 'shelter' }), ...numbers.slice(0, 1)]
        expect(takenOver(two, [0.812345678, 1.25, 0.02], 4, { shelter })).toEqual([
            { kind: 'formula', id: 'bite', text: '0.02' },
            {
                kind: 'curve',
                id: 'shelter',
                points: [
                    [0, 0.3],
                    [0.2, 0.8123],
                    [1, 1.25],
                ],
            },
        ])
        expect(usualBounds(shelter, '0.2')).toEqual({ low: 0.25, high: 2.3 })
        expect([isAt([0.3, 1], '0.30'), isAt([0.3, 1], '0.31'), isAt([0, 1], undefined)]).toEqual([true, false, false])
    })
    it('is a scenario behind the others, without initial values', () => {
        const parameters = asParameters(numbers, [0.0194451158, 2, 19], 4, isParameter)
        expect(parameters).toEqual({ bite: 0.01945, 'rate[north,old]': 2 })
        expect(newScenario('Best', parameters, { a: { place: 4 } } as never)).toMatchObject({
            kind: 'scenario',
            name: 'Best',
            place: 5,
            setting: { parameters },
        })
    })
    it('is uncertain as it was drawn, with how it goes together, in place of what was known', () => {
        const open = { parameters: [{ values: [1, 2] }, { values: [3, 4] }, { values: [5, 6] }], ranks: [] as number[][] }
        const plain = [
            numbers[0],
            number({ key: 'skill', of: 'skill', name: 'skill' }),
            number({ key: 'size', of: 'size' }),
        ] as FreedNumber[]
        open.ranks = [
            [1, -0.98123, 0.001],
            [-0.98123, 1, 0.001],
            [0.001, 0.001, 1],
        ]
        const edits = madeUncertain(plain, open, 6, {
            uncertain: [{ id: 'u1', of: 'bite', law: 'normal(1, 2)' }],
            pairs: [{ id: 'r1', one: 'size', other: 'bite', rank: 0.5 }],
            isParameter,
        })
        expect(edits.slice(0, 2)).toMatchObject([
            { part: 'uncertain', id: 'u1', fields: { of: 'bite', law: 'empirical(1, 2)', off: null } },
            { part: 'uncertain', fields: { of: 'skill', law: 'empirical(3, 4)' } },
        ])
        expect(edits.slice(3)).toMatchObject([
            { kind: 'put', part: 'rankPairs', fields: { one: 'bite', other: 'skill', rank: -0.981 } },
            // They do not go together any more.
            { kind: 'drop', part: 'rankPairs', id: 'r1' },
        ])
    })
})

describe('where a question to the data stands', () => {
    const fit = (what: Partial<Calibrated>) =>
        ({ kind: 'fit', stage: 'done', finished: true, stopped: false, walks: [], ...what }) as Calibrated
    it('is told in few words', () => {
        expect(stateWords(null)).toBe('not begun')
        expect(stateWords(fit({ trouble: 'gone' }))).toBe('cannot go on')
        expect(stateWords(fit({ finished: false, stopped: true }))).toBe('stopped')
        const search = { name: 'search-0', runs: 1, made: false, path: [] }
        expect(stateWords(fit({ finished: false, stage: 'search', walks: [search, { ...search, name: 'search-1' }] }))).toBe(
            'running, 2 starts',
        )
        expect(stateWords(fit({ finished: false, stage: 'chain' }))).toBe('drawing what is left open')
        expect(stateWords(fit({}))).toBe('done')
        const told = (held: number) => stateWords(fit({ trial: true, result: { again: { held, of: 5 } } as never }))
        expect([told(5), told(4)]).toEqual(['found again', '4 of 5 found again'])
        const found = { value: 3, holds: false }
        expect(stateWords(fit({ kind: 'policy', found: found as never }))).toBe('limits cannot all be kept')
        expect(stateWords(fit({ kind: 'policy', finished: false, stage: 'seek' }))).toBe('looking for it')
    })
})

describe('courses in small pictures', () => {
    const plane = { x: (t: number) => 10 * t, y: (v: number) => 100 - v }
    it('have gaps where nothing is known', () => {
        expect(linePath(plane, [0, 1, 2, 3], [1, null, 2, 3])).toBe('M0.0 99.0M20.0 98.0L30.0 97.0')
        expect(linePath(plane, [0, 1], [null, null])).toBe('')
    })
    it('enclose what lies between two of them', () => {
        expect(bandPath(plane, [0, 1, 2], [1, null, 1], [5, 6, 7])).toBe('M0.0 95.0L20.0 93.0L20.0 99.0L0.0 99.0Z')
        expect(bandPath(plane, [0], [null], [1])).toBe('')
    })
})

describe('quick acts on a list', () => {
    it('are worked out one after the other, each of what the one before it left', async () => {
        const turn = inTurn()
        let list = [{ of: 'a' }, { of: 'b' }, { of: 'c' }]
        // Both are clicked before the first one is taken.
        const [a, b] = list as [{ of: string }, { of: string }]
        const without = (line: { of: string }) =>
            turn(async () => {
                const next = replaced(list, line)
                await new Promise((done) => setTimeout(done, 5))
                list = next
                return true
            })
        const refused = turn(() => Promise.reject(new Error('refused')))
        await Promise.all([without(a), without(b), refused.catch(() => false)])
        expect(list).toEqual([{ of: 'c' }])
    })
    it('change the line that says the same, and one only', () => {
        const list = [
            { of: 'a', low: 1 },
            { of: 'a', low: 1 },
            { of: 'b', low: 2 },
        ]
        expect(replaced(list, { of: 'a', low: 1 }, { low: 3 })).toEqual([
            { of: 'a', low: 3 },
            { of: 'a', low: 1 },
            { of: 'b', low: 2 },
        ])
        expect(replaced(list, { of: 'gone', low: 1 }, { low: 3 })).toEqual(list)
    })
})
