import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { shallowRef } from 'vue'
import type { Run } from '@/api/client'
import { useModel } from '@/stores/model'
import { runValues } from '@/stores/runValues'
import { useView } from '@/stores/view'
import { harness } from './harness'
import { aRun, aThing, things } from './make'

beforeEach(() => {
    harness.begin()
    const model = useModel()
    model.model = {
        ...model.model,
        time: { ...model.model.time, start: 0, end: 4, step: 1 },
        order: ['kelp', 'growth', 'loss', 'catch', 'rate'],
        elements: things(
            aThing('kelp', { kind: 'stock', unit: 't' }),
            aThing('growth', { kind: 'flow', unit: 't/month' }),
            aThing('loss', { kind: 'flow', unit: 't/month' }),
            aThing('catch', { kind: 'flow', unit: 'fish/month' }),
            aThing('rate', { kind: 'parameter', value: 3 }),
        ),
    }
    model.loaded = true
})
afterEach(() => {
    harness.end()
})

function told(shown: Run | null, before: Run | null = null, sheet: Run | null = shown) {
    return runValues({ shown: shallowRef(shown), sheet: shallowRef(sheet), before: shallowRef(before) })
}
const to = (time: number) => (useView().playhead = time)

describe('what a run says at the playhead', () => {
    it('lies on a straight line between what was saved, and stays at its ends', () => {
        const values = told(aRun({ kelp: [0, 10, 30] }))
        expect([0, 0.5, 1, 1.25, 2, 7].map((t) => (to(t), values.value('kelp')))).toEqual([0, 5, 10, 15, 30, 30])
    })
    it('is of moments that are not evenly apart, and of each run by its own', () => {
        const thin = aRun({ kelp: [0, 8] }, { times: Float64Array.of(0, 4) })
        const values = told(aRun({ kelp: [0, 10, 30] }), null, thin)
        to(1)
        expect([values.value('kelp'), values.onSheet('kelp')]).toEqual([10, 2])
    })
    it('is nothing after a run has stopped', () => {
        const values = told(aRun({ kelp: [5, 6] }, { fault: { code: 'overflow' } as never, span: [0, 1] }))
        expect([1, 1.5].map((t) => (to(t), values.value('kelp')))).toEqual([6, undefined])
        const ended = told(aRun({ kelp: [5, 6] }, { ended: true, span: [0, 1] }))
        expect((to(3), ended.value('kelp'))).toBeUndefined()
    })
    it('is what does not move where nothing was saved, and what was asked for at this moment before that', () => {
        to(1)
        expect(told(aRun({ kelp: [1, 2] }, { steady: { rate: 3 } })).value('rate')).toBe(3)
        expect(told(aRun({ kelp: [1, 2] }, { steady: { rate: 3 }, now: { rate: 4 } })).value('rate')).toBe(4)
        expect(told(null).value('kelp')).toBeUndefined()
    })
})

describe('the scales of what is drawn', () => {
    it('go from the least to the greatest of a run, also of what lies between saved moments', () => {
        const values = told(aRun({ kelp: [4, 2, 9] }, { steady: { rate: 3 } }))
        expect([values.range(aRun({ kelp: [4, 2, 9] }), 'kelp'), values.size('kelp'), values.size('rate')]).toEqual([[2, 9], 9, 3])
        const coarse = aRun(
            { kelp: [4, 9] },
            { lows: new Map([['kelp', Float64Array.of(-20, 9)]]), highs: new Map([['kelp', Float64Array.of(4, 11)]]) },
        )
        expect(values.range(coarse, 'kelp')).toEqual([-20, 11])
        expect(told(coarse).size('kelp')).toBe(20)
    })
    it('a level is filled up to the largest of the baseline, so it stays while a dial moves', () => {
        const baseline = aRun({ kelp: [0, 50, 100] })
        const tried = aRun({ kelp: [0, 20, 400] })
        const values = told(tried, baseline)
        expect([1, 2].map((t) => (to(t), values.level('kelp')))).toEqual([0.2, 1])
        const without = told(tried)
        expect((to(1), without.level('kelp'))).toBe(0.05)
    })
    it('a level below zero is empty, and so is one that never was above', () => {
        const values = told(aRun({ kelp: [-5, 10, -2] }))
        expect([0, 1, 2].map((t) => (to(t), values.level('kelp')))).toEqual([0, 1, 0])
        expect((to(1), told(aRun({ kelp: [-5, -1, -2] })).level('kelp'))).toBe(0)
    })
    it('flows of one unit share a scale, whichever way they go', () => {
        const values = told(aRun({ growth: [1, 4], loss: [-9, 2], catch: [0.5, 0.2] }))
        expect(values.flowScale.value).toEqual({ 't/month': 9, 'fish/month': 0.5 })
    })
})
