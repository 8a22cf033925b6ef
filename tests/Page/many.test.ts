import { describe, expect, it } from 'vitest'
import { nameOf, valuesOf } from '@/places/try/candidates/combined'
import { usualValues } from '@/places/try/candidates/useCandidates'
import { formulaText, SHAPES } from '@/places/try/expect/shapes'
import { KINDS, outcomeWords } from '@/places/try/outcomes'
import { keyOf } from '@/stores/ensembles'
import type { useLook } from '@/stores/look'
import type { useModel } from '@/stores/model'
import type { Model, Thing } from '@/api/types'

const thing = (what: Partial<Thing>) => ({ kind: 'parameter', unit: '', value: null, ...what }) as Thing
const elements: Record<string, Thing> = {
    boats: thing({ id: 'boats', name: 'boats', value: 2 }),
    mode: thing({
        id: 'mode',
        name: 'mode',
        value: 1,
        choices: [
            { name: 'quiet', value: 1 },
            { name: 'loud', value: 2 },
        ],
    }),
}
const model = { model: { elements } as unknown as Model, moment: (t: number) => `year ${t}` } as unknown as ReturnType<typeof useModel>
const look = { nameOf: (key: string) => (key === 'gone' ? undefined : key) } as unknown as ReturnType<typeof useLook>

describe('combinations of candidates', () => {
    const told = {
        dimensions: [
            { of: 'boats', values: [1, 2, 3] },
            { of: 'mode', values: [1, 2] },
        ],
        fixed: { price: 30 },
    }
    it('change the last dimension first, beside what is one number', () => {
        expect([0, 1, 2, 5].map((i) => valuesOf(told, i))).toEqual([
            { price: 30, boats: 1, mode: 1 },
            { price: 30, boats: 1, mode: 2 },
            { price: 30, boats: 2, mode: 1 },
            { price: 30, boats: 3, mode: 2 },
        ])
    })
    it('are called by their dimensions, states by their names', () => {
        expect(nameOf(told, 3, model)).toBe('boats 2, mode loud')
    })
    it('begin with the states of a switch, or with values about the own', () => {
        expect(usualValues(elements.mode as Thing)).toEqual([1, 2])
        expect(usualValues(elements.boats as Thing)).toEqual([1, 2, 3])
        expect(usualValues(thing({ value: 0 }))).toEqual([0, 1])
        expect(usualValues(thing({ value: -4 }))).toEqual([-6, -4, -2])
    })
})

describe('outcomes', () => {
    it('say what they are of and when, whatever their kind', () => {
        const words = KINDS.map((k) => outcomeWords({ key: 'kelp', kind: k.value, time: 30 }, model, look).words)
        expect(words).toEqual([
            'kelp at the end',
            'kelp at year 30',
            'least kelp',
            'greatest kelp',
            'mean kelp',
            'total kelp',
            'time of the greatest kelp',
        ])
        expect(new Set(words).size).toBe(KINDS.length)
    })
    it('have the unit that the engine says, and none where it says none', () => {
        expect(outcomeWords({ key: 'catch', kind: 'total', time: 0, unit: 't' }, model, look).unit).toBe('t')
        expect(outcomeWords({ key: 'gone', kind: 'last', time: 0 }, model, look)).toEqual({
            words: 'something that is gone at the end',
            unit: '',
        })
    })
    it('are of a thing, or of one of its elements', () => {
        expect([keyOf({ of: 'fish' }), keyOf({ of: 'fish', at: ['north', 'old'] })]).toEqual(['fish', 'fish[north,old]'])
    })
})

describe('expectations', () => {
    it('have each shape once, and each number of a shape once', () => {
        expect(new Set(SHAPES.map((s) => s.name)).size).toBe(SHAPES.length)
        for (const shape of SHAPES) {
            const names = shape.fields.map((f) => f.name)
            expect(new Set(names).size).toBe(names.length)
        }
    })
    it('show their formulas with the names of today', () => {
        const pieces = [{ name: 'ferries', id: 'boats' }, ' + ', { name: 'nobody' }, ' * 2']
        expect(formulaText(pieces, model.model)).toBe('boats + nobody * 2')
        expect(formulaText(undefined, model.model)).toBe('')
    })
})
