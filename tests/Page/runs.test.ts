import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { api, ConnectionError, ProblemError, type Run } from '@/api/client'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'

function run(values: Record<string, number[]>, more: Partial<Run> = {}): Run {
    const length = Object.values(values)[0]?.length ?? 0
    return {
        revision: 1, unit: 'day', method: 'Euler', evaluations: 1, milliseconds: 1, length, columns: Object.keys(values), steady: {}, fault: null, ended: false, whole: true, notices: [],
        times: Float64Array.from({ length }, (_, i) => i), values: new Map(Object.entries(values).map(([id, v]) => [id, Float64Array.from(v)])), ...more,
    }
}

const settle = async () => { for (let i = 0; i < 20; i++) await Promise.resolve() }

describe('the run that is shown', () => {
    beforeEach(() => {
        window.matchMedia = vi.fn().mockReturnValue({ matches: false })
        setActivePinia(createPinia())
    })
    afterEach(() => { vi.restoreAllMocks() })

    it('asks once more, and only once, when much happened while it waited', async () => {
        const asked: Record<string, number>[] = []
        const answers: ((r: Run) => void)[] = []
        vi.spyOn(api, 'run').mockImplementation((_, set) => {
            asked.push({ ...set })
            return new Promise((resolve) => { answers.push(resolve) })
        })
        const runs = useRuns()
        for (const value of [1, 2, 3, 4]) {
            runs.turn('p', value)
        }
        expect(asked).toEqual([{ p: 1 }])
        answers[0]?.(run({ a: [1] }))
        await settle()
        expect(asked).toEqual([{ p: 1 }, { p: 4 }])
        answers[1]?.(run({ a: [4] }))
        await settle()
        expect(runs.shown?.values.get('a')?.[0]).toBe(4)
        expect(runs.running).toBe(false)
    })

    it('remembers the run before the dial until the dial is let go', async () => {
        vi.spyOn(api, 'run').mockResolvedValueOnce(run({ a: [1, 9] })).mockResolvedValue(run({ a: [5, 5] }))
        const runs = useRuns()
        await runs.refresh()
        runs.turn('p', 2)
        await settle()
        expect(runs.before?.values.get('a')?.[1]).toBe(9)
        runs.release('p')
        await runs.refresh()
        expect(runs.before).toBeNull()
        expect(vi.mocked(api.run).mock.calls.map((c) => c[2])).toEqual([true, false, true])
    })

    it('keeps the scale of levels while a dial moves', async () => {
        vi.spyOn(api, 'run').mockResolvedValueOnce(run({ a: [0, 10] })).mockResolvedValue(run({ a: [0, 5] }))
        const runs = useRuns()
        useView().playhead = 1
        await runs.refresh()
        expect(runs.level('a')).toBe(1)
        runs.turn('p', 2)
        await settle()
        expect(runs.level('a')).toBe(0.5)
    })

    it('reads values at the playhead, between saved moments in proportion', async () => {
        vi.spyOn(api, 'run').mockResolvedValue(run({ a: [0, 10, 30] }, { steady: { p: 7 } }))
        const runs = useRuns()
        const view = useView()
        await runs.refresh()
        for (const [time, value] of [[0, 0], [0.5, 5], [1, 10], [1.25, 15], [2, 30], [99, 30], [-5, 0]] as const) {
            view.playhead = time
            expect(runs.value('a')).toBeCloseTo(value, 12)
        }
        expect(runs.value('p')).toBe(7)
        expect(runs.value('nothing')).toBeUndefined()
        expect([runs.known('a'), runs.known('p'), runs.known('nothing')]).toEqual([true, true, false])
    })

    it('gives flows of one unit one scale', async () => {
        vi.spyOn(api, 'run').mockResolvedValue(run({ f: [-8, 2], g: [1, 3], h: [100, 0] }))
        const flow = (id: string, unit: string) => ({ id, kind: 'flow' as const, name: id, written: id, formula: '1', unit, note: '' })
        const model = useModel()
        model.model = { ...model.model, order: ['f', 'g', 'h'], elements: { f: flow('f', 't/year'), g: flow('g', 't/year'), h: flow('h', 'person/year') } }
        const runs = useRuns()
        await runs.refresh()
        expect(runs.flowScale).toEqual({ 't/year': 8, 'person/year': 100 })
    })

    it('says why there is no run, and keeps the last one in sight', async () => {
        vi.spyOn(api, 'run').mockResolvedValueOnce(run({ a: [1] })).mockRejectedValueOnce(new ProblemError(422, 'run.limit', 'Choose a longer step.', {})).mockRejectedValueOnce(new ConnectionError())
        const runs = useRuns()
        await runs.refresh()
        await runs.refresh()
        expect(runs.refusal).toBe('Choose a longer step.')
        expect(runs.shown).not.toBeNull()
        await runs.refresh()
        expect(runs.running).toBe(false)
    })

    it('knows the extremes of a column', async () => {
        vi.spyOn(api, 'run').mockResolvedValue(run({ a: [3, -2, 8, 1] }, { steady: { p: 4 } }))
        const runs = useRuns()
        await runs.refresh()
        expect(runs.range(runs.shown, 'a')).toEqual([-2, 8])
        expect(runs.range(runs.shown, 'p')).toEqual([4, 4])
        expect(runs.range(null, 'a')).toEqual([0, 0])
    })
})
