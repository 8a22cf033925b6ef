import { describe, expect, it } from 'vitest'
import { kindOf, sameSteps, STEP_KINDS, titleOf, type CleaningStep } from '@/places/data/steps'

const name = (id: string) => (id === 's1' ? 'coves.csv' : '?')

describe('steps from a file to its series', () => {
    it('are offered once each, and start with what they can', () => {
        const all = STEP_KINDS.map((k) => k.do)
        expect(new Set(all).size).toBe(all.length)
        expect(all).toHaveLength(15)
        for (const kind of STEP_KINDS) {
            expect(kindOf({ do: kind.do })).toBe(kind)
            // What they start with is among what can be chosen.
            for (const field of kind.fields) {
                const start = kind.start?.[field.name]
                if (start !== undefined && Array.isArray(field.of)) {
                    expect(field.of.map((c: { value: string }) => c.value)).toContain(start)
                }
            }
        }
    })
    it('have a title that says what they are about', () => {
        const titles: [CleaningStep, string][] = [
            [{ do: 'over time', to: 'year', take: 'sum' }, 'To years'],
            [{ do: 'over time', to: '12', take: 'sum' }, 'To spans of 12'],
            [{ do: 'over mapping', along: 'cove', to: 'bay' }, 'cove to bay'],
            [{ do: 'fill', series: ['seen'], from: 'counted' }, 'Fill gaps of seen from counted'],
            [{ do: 'gaps', take: 'last' }, 'Fill gaps'],
            [{ do: 'set aside', series: ['kelp'], at: '2004' }, 'Set 2004 of kelp aside'],
            [{ do: 'mend', series: ['kelp'], at: '2004', value: 5 }, 'Mend 2004 of kelp'],
            [{ do: 'leave out', series: ['a', 'b', 'c'] }, 'Leave out a, b …'],
            [{ do: 'join', source: 's1' }, 'Take in coves.csv'],
            [{ do: 'rate', to: 'year' }, 'Rates per year'],
            [{ do: 'rename', series: ['a'], to: 'b' }, 'a is b'],
        ]
        expect(titles.map(([step]) => titleOf(step, name))).toEqual(titles.map(([, title]) => title))
    })
    it('say the same whatever the order of their fields, and not where one is passed over', () => {
        const one: CleaningStep = { do: 'rate', to: 'year', series: ['a'] }
        expect(sameSteps([one], [{ series: ['a'], to: 'year', do: 'rate', off: false, note: '' }])).toBe(true)
        expect(sameSteps([one], [{ ...one, off: true }])).toBe(false)
        expect(sameSteps([one], [])).toBe(false)
        expect(sameSteps([one, { do: 'spread' }], [{ do: 'spread' }, one])).toBe(false)
    })
})
