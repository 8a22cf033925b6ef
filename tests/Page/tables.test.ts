import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { api } from '@/api/client'
import type { TableRead, TableWishes } from '@/api/types'
import { useData } from '@/places/data/useData'
import { useModel } from '@/stores/model'
import { harness } from './harness'

const { settle } = harness

/** A table as the server reads it, by the name of what it was read with. */
const read = (label: string): TableRead =>
    ({
        content: 'c'.repeat(64),
        name: 'landings.csv',
        columns: [],
        series: [{ label, key: label, match: null, points: [] }],
        came: { series: [label], along: [], said: '' },
        steps: [],
        slips: [],
    }) as unknown as TableRead

/** Questions that are answered when the test says so. */
let asked: {
    wishes: TableWishes & { steps?: unknown[] }
    answer: (label: string) => Promise<void>
    refuse: (words: string) => Promise<void>
}[]

beforeEach(() => {
    harness.begin()
    asked = []
    useModel().loaded = true
    vi.spyOn(api, 'dropTable').mockResolvedValue(read('as it came'))
    vi.spyOn(api, 'readTable').mockImplementation(
        (_, __, wishes) =>
            new Promise((resolve, reject) => {
                asked.push({
                    wishes,
                    answer: (label) => (resolve(read(label)), settle()),
                    refuse: (words) => (reject(new Error(words)), settle()),
                })
            }),
    )
})
afterEach(() => {
    harness.end()
})
const shown = () => useData().table?.series[0]?.label

describe('a table that is read anew', () => {
    it('is what was asked for last, in whatever order the answers come', async () => {
        const data = useData()
        await data.drop('landings.csv', new Blob([]))
        void data.addStep({ do: 'gather' } as never)
        void data.setStep(0, { to: 'landed' })
        void data.setStep(0, { along: 'harbour' })
        await settle()
        expect(asked.map((a) => a.wishes.steps)).toEqual([
            [{ do: 'gather' }],
            [{ do: 'gather', to: 'landed' }],
            [{ do: 'gather', to: 'landed', along: 'harbour' }],
        ])
        await asked[2]?.answer('the last')
        expect(shown()).toBe('the last')
        expect(data.busy).not.toBe('')
        await asked[0]?.answer('the first')
        await asked[1]?.answer('the second')
        expect([shown(), data.busy]).toEqual(['the last', ''])
    })
    it('a refusal of what was asked for before is not said of what is shown', async () => {
        const data = useData()
        await data.drop('landings.csv', new Blob([]))
        void data.addStep({ do: 'gather' } as never)
        void data.setStep(0, { to: 'landed' })
        await settle()
        await asked[1]?.answer('the last')
        await asked[0]?.refuse('Say what the numbers are.')
        expect([shown(), data.refusal]).toEqual(['the last', ''])
    })
    it('wishes come on top of each other, also before the first is answered', async () => {
        const data = useData()
        await data.drop('landings.csv', new Blob([]))
        void data.reread({ decimal: 'comma' } as never)
        void data.reread({ layout: 'long' } as never)
        await settle()
        expect(asked[1]?.wishes).toMatchObject({ decimal: 'comma', layout: 'long' })
        await asked[1]?.answer('both')
        await asked[0]?.answer('one')
        expect([shown(), data.wishes]).toEqual(['both', { decimal: 'comma', layout: 'long' }])
    })
    it('a wish that cannot be met is taken back, and the table stays as it was', async () => {
        const data = useData()
        await data.drop('landings.csv', new Blob([]))
        void data.reread({ layout: 'long' } as never)
        await settle()
        await asked[0]?.refuse('There is no column of names.')
        expect([shown(), data.wishes, data.refusal]).toEqual(['as it came', {}, 'There is no column of names.'])
    })
    it('another file that is dropped meanwhile is what is shown', async () => {
        const data = useData()
        await data.drop('landings.csv', new Blob([]))
        void data.addStep({ do: 'gather' } as never)
        await settle()
        vi.mocked(api.dropTable).mockResolvedValueOnce(read('another file'))
        await data.drop('other.csv', new Blob([]))
        await asked[0]?.answer('the step')
        expect([shown(), data.steps]).toEqual(['another file', []])
    })
})
