import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { fits as api } from '@/api/fits'
import type { PolicyRecord } from '@/api/parts'
import type { Calibrated, FreedNumber, PolicyBeside } from '@/api/types'
import { useFits } from '@/stores/fits'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { usePolicies } from '@/stores/policies'
import { harness } from './harness'
import { aThing, things } from './make'

const { settle } = harness

const number = (key: string, value: number) => ({ key, of: key, name: key, unit: '', value, low: 0, high: 100, log: false }) as FreedNumber
const policy = (id: string, more: Partial<PolicyRecord> = {}) => ({ id, name: `Policy ${id}`, place: 1, ...more }) as PolicyRecord
/** A search of a policy that has come to its end. */
const search = (plan: string, choice: number[], more: Record<string, unknown> = {}) =>
    ({
        id: `search-${plan}`,
        plan,
        meaning: 'as it is',
        finished: true,
        stopped: false,
        numbers: [number('price', 40), number('cap', 900)],
        found: { choice, value: 7, others: [{ choice: [30, 700], value: 6 }] },
        wish: policy(plan),
        ...more,
    }) as unknown as Calibrated

beforeEach(() => {
    harness.begin()
    vi.spyOn(api, 'foreseen').mockResolvedValue({ meaning: 'as it is', numbers: [number('price', 40), number('cap', 900)] } as never)
})
afterEach(() => {
    harness.end()
})

function fill(policies: PolicyRecord[], searches: Calibrated[] = []) {
    const model = useModel()
    model.model = {
        ...model.model,
        elements: things(aThing('price', { kind: 'parameter', value: 40 }), aThing('cap', { kind: 'parameter', value: 900 })),
        policies: Object.fromEntries(policies.map((p) => [p.id, p])),
        scenarios: {
            s1: { id: 's1', name: 'Dear', place: 1, setting: { parameters: { price: 70 } } },
            s2: { id: 's2', name: 'Long', place: 2, setting: { time: { end: 60 } } },
        } as never,
    }
    const fits = useFits()
    vi.spyOn(fits, 'lastOf').mockImplementation((id) => searches.find((s) => s.plan === id) ?? null)
    return usePolicies()
}

describe('policies', () => {
    it('stand in the order that they were given, and one of them is looked at', () => {
        const policies = fill([policy('b', { place: 2 }), policy('a', { place: 3 }), policy('c', { place: 2 })])
        expect(policies.all.map((p) => p.id)).toEqual(['b', 'c', 'a'])
        expect(policies.policy?.id).toBe('b')
        useFits().chosen = 'a'
        expect(policies.policy?.id).toBe('a')
    })

    it('are held against other policies, runners-up, and scenarios that set a parameter', async () => {
        const policies = fill([policy('a'), policy('b', { place: 2 })], [search('a', [42.123456789, 950]), search('b', [55, 800])])
        const groups = policies.besides.map((g) => [g.words, g.choices.map((c) => [c.words, c.values])])
        expect(groups).toEqual([
            ['Other policies', [['Policy b', { price: 55, cap: 800 }]]],
            ['Also good', [['choice 2', { price: 30, cap: 700 }]]],
            ['Scenarios', [['Dear', { price: 70 }]]],
        ])
        const held = { runs: 100 } as unknown as PolicyBeside
        const asked = vi.spyOn(api, 'beside').mockResolvedValue(held)
        await policies.holdAgainst('scenario:s1')
        expect(asked).toHaveBeenCalledWith(useModel().id, 'search-a', { price: 70 })
        expect(policies.beside).toEqual({ name: 'Dear', held })
        // What cannot be held against it is said, and the last answer does not stay beside another name.
        asked.mockRejectedValueOnce(new Error('To hold two against each other takes 90 s here.'))
        await policies.holdAgainst('policy:b')
        expect([policies.beside, policies.besideTrouble, policies.holding]).toEqual([
            null,
            'To hold two against each other takes 90 s here.',
            false,
        ])
        await policies.holdAgainst('nothing')
        expect([policies.besideKey, policies.beside]).toEqual(['', null])
    })

    it('only the last question is answered', async () => {
        const policies = fill([policy('a')], [search('a', [42, 950])])
        let answer: (told: PolicyBeside) => void = () => {}
        vi.spyOn(api, 'beside')
            .mockImplementationOnce(() => new Promise((resolve) => (answer = resolve)))
            .mockResolvedValueOnce({ runs: 2 } as unknown as PolicyBeside)
        const first = policies.holdAgainst('scenario:s1')
        const second = policies.holdAgainst('other:0')
        await second
        answer({ runs: 1 } as unknown as PolicyBeside)
        await first
        expect(policies.beside).toEqual({ name: 'choice 2', held: { runs: 2 } })
    })

    it('what was found becomes the model, rounded, or a scenario behind the others', async () => {
        const policies = fill([policy('a')], [search('a', [42.123456789, 950])])
        await policies.takeOver()
        expect(harness.sent).toEqual([
            {
                kind: 'together',
                words: 'Take over the policy “Policy a”',
                edits: [
                    { kind: 'formula', id: 'price', text: '42.12' },
                    { kind: 'formula', id: 'cap', text: '950' },
                ],
            },
        ])
        expect(useNotices().all.at(-1)?.words).toContain('rounded to 4 digits')
        await policies.asScenario()
        expect(harness.sent.at(-1)).toMatchObject({
            kind: 'scenario',
            name: 'Policy a',
            place: 3,
            setting: { parameters: { price: 42.12, cap: 950 } },
        })
    })

    it('a search of other wishes, or of a model that is no more, is told from one of these', async () => {
        vi.useFakeTimers()
        try {
            const same = fill(
                [policy('a', { seed: 1 })],
                [search('a', [42, 950], { wish: policy('a', { seed: 1, name: 'Another name' }) })],
            )
            expect(same.older).toBe(false)
            useModel().model = { ...useModel().model, policies: { a: policy('a', { seed: 2 }) } }
            expect(same.older).toBe(true)
        } finally {
            vi.useRealTimers()
        }
        await settle()
    })

    it('one more stands behind the others and is looked at; changes of one are made one after the other', async () => {
        const policies = fill([policy('a', { place: 4, seed: 1 })])
        await policies.add({ name: 'Another' })
        const put = harness.sent.at(-1) as { id: string; fields: Record<string, unknown> }
        expect(put).toMatchObject({ kind: 'put', part: 'policies', fields: { place: 5, name: 'Another' } })
        expect(useFits().chosen).toBe(put.id)
        useFits().chosen = 'a'
        const seeds: unknown[] = []
        vi.mocked(useModel().attempt).mockImplementation(((edit: { fields: { seed: number } }) => {
            seeds.push(edit.fields.seed)
            useModel().model.policies = { a: policy('a', { seed: edit.fields.seed }) } as never
            return Promise.resolve(true)
        }) as never)
        const more = (p: PolicyRecord) => ({ seed: (p.seed ?? 0) + 1 })
        await Promise.all([policies.change(more), policies.change(more), policies.change(more)])
        expect(seeds).toEqual([2, 3, 4])
    })
})
