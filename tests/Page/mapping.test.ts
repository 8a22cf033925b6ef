import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { DimensionView } from '@/api/types'
import DimensionCard from '@/card/DimensionCard.vue'
import MappingGrid from '@/card/MappingGrid.vue'
import { useModel } from '@/stores/model'
import { harness } from './harness'

const { show, settle } = harness
const dimension = (id: string, ...names: string[]): DimensionView => ({
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
    elements: names.map((name) => ({ id: name, name })),
})
const COVE = dimension('cove', 'west', 'east', 'north')
const BAY = dimension('bay', 'inner', 'outer')
const cell = (a: string, b: string) => harness.host.querySelector<HTMLInputElement>(`input[aria-label="Weight of ${a} in ${b}"]`)
function type(a: string, b: string, text: string) {
    const input = cell(a, b)
    if (input) {
        input.value = text
        input.dispatchEvent(new Event('input'))
        input.dispatchEvent(new Event('change'))
    }
}

beforeEach(() => {
    harness.begin()
})
afterEach(() => {
    harness.end()
})

describe('which element belongs to which', () => {
    type Pairs = [string, string, number][]
    it('is changed on top of what there is then, in the order of the elements', async () => {
        const changes: ((now: Pairs) => Pairs)[] = []
        await show(MappingGrid, {
            from: COVE,
            to: BAY,
            pairs: [['east', 'outer', 1]],
            label: 'Weights',
            onChange: (c: never) => changes.push(c),
        })
        type('north', 'inner', '0,25')
        type('west', 'outer', '1')
        const after = changes.reduce<Pairs>((now, change) => change(now), [['east', 'outer', 1]])
        expect(after).toEqual([
            ['west', 'outer', 1],
            ['east', 'outer', 1],
            ['north', 'inner', 0.25],
        ])
        // What is emptied belongs no more; what is no number, or changes nothing, is left alone.
        type('east', 'outer', '')
        expect(changes.at(-1)?.(after)).toEqual([
            ['west', 'outer', 1],
            ['north', 'inner', 0.25],
        ])
        const before = changes.length
        type('east', 'inner', 'much')
        type('north', 'outer', '0')
        expect(changes.length).toBe(before)
    })
    it('belongs and does not belong by a double click', async () => {
        const changes: ((now: Pairs) => Pairs)[] = []
        await show(MappingGrid, {
            from: COVE,
            to: BAY,
            pairs: [['east', 'outer', 0.5]],
            label: 'Weights',
            onChange: (c: never) => changes.push(c),
        })
        cell('east', 'outer')?.dispatchEvent(new MouseEvent('dblclick'))
        cell('west', 'inner')?.dispatchEvent(new MouseEvent('dblclick'))
        expect(changes.map((c) => c([['east', 'outer', 0.5]]))).toEqual([
            [],
            [
                ['west', 'inner', 1],
                ['east', 'outer', 0.5],
            ],
        ])
    })
    it('two weights that are typed quickly are both kept, though the first is not answered yet', async () => {
        const model = useModel()
        const mapping = { id: 'm', name: 'bays', from: 'cove', to: 'bay', pairs: [['east', 'outer', 1]] }
        model.model = { ...model.model, dimensions: [COVE, BAY], mappings: { m: mapping } as never }
        vi.mocked(model.attempt).mockImplementation((async (edit: { id: string; fields: object }) => {
            harness.sent.push(edit as never)
            for (let i = 0; i < 5; i++) {
                await Promise.resolve()
            }
            model.model = { ...model.model, mappings: { m: { ...mapping, ...edit.fields } } as never }
            return true
        }) as never)
        await show(DimensionCard, { dimension: COVE })
        type('west', 'inner', '1')
        type('north', 'inner', '1')
        await settle()
        await settle()
        const [, second] = harness.sent as unknown as { fields: { pairs: Pairs } }[]
        expect(second?.fields.pairs.map(([a, b]) => `${a} ${b}`)).toEqual(['west inner', 'east outer', 'north inner'])
    })
})
