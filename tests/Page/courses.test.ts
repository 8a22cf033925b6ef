import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { api } from '@/api/client'
import type { BatchState, KeptRun, RunRequest, Scenario } from '@/api/types'
import { useCourses } from '@/stores/courses'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useRuns } from '@/stores/runs'
import { aRun, aThing } from './make'

const settle = async () => {
    for (let i = 0; i < 20; i++) await Promise.resolve()
}
const kept = (id: string, more: Partial<KeptRun> = {}): KeptRun => ({
    id,
    name: `Run ${id}`,
    note: '',
    colour: 0,
    hidden: false,
    revision: 0,
    setting: {},
    meaning: 'm',
    made: '2031-01-01T00:00:00Z',
    ...more,
})
const scenario = (id: string): Scenario => ({ id, name: `Scenario ${id}`, note: '', on: [], setting: {}, place: 0 })
let asked: RunRequest[]

describe('the runs that are compared', () => {
    beforeEach(() => {
        window.matchMedia = vi.fn().mockReturnValue({ matches: false })
        localStorage.clear()
        setActivePinia(createPinia())
        asked = []
        vi.spyOn(api, 'run').mockImplementation((_, wish) => {
            asked.push(wish)
            return Promise.resolve(aRun(Object.fromEntries((wish.only ?? ['a', 'b']).map((id) => [id, [1, 2]]))))
        })
        vi.spyOn(api, 'kept').mockResolvedValue([kept('x', { colour: 3 }), kept('y', { hidden: true })])
        const model = useModel()
        model.model = {
            ...model.model,
            order: ['a', 'b', 'k'],
            elements: { a: aThing('a'), b: aThing('b'), k: aThing('k', { kind: 'curve' }) },
            scenarios: { s: scenario('s'), t: scenario('t') },
        }
    })
    afterEach(() => {
        vi.restoreAllMocks()
    })

    it('bring only the columns that are missing, once', async () => {
        const courses = useCourses()
        await courses.open()
        await courses.bring(['a', 'k', 'gone'], 'value')
        await courses.bring(['a', 'b'], 'value')
        await courses.bring(['a', 'b'], 'value')
        expect(asked.map((w) => [w.run, w.only])).toEqual([
            [{ kept: 'x' }, ['a']],
            [{ kept: 'x' }, ['b']],
        ])
        expect(courses.list().map((c) => [c.key, c.look])).toEqual([['kept:x', 3]])
        expect([...(courses.list()[0]?.run.values.keys() ?? [])]).toEqual(['a', 'b'])
    })

    it('give scenarios the looks that no kept run has', async () => {
        const courses = useCourses()
        await courses.open()
        courses.toggleScenario('s')
        courses.toggleScenario('t')
        expect(courses.others.map((o) => o.look)).toEqual([3, 1, 2])
        courses.toggleScenario('s')
        expect(courses.others.map((o) => o.name)).toEqual(['Run x', 'Scenario t'])
    })

    it('keep their look for life: when another is kept, hidden or shown again, and after a reload', async () => {
        const courses = useCourses()
        await courses.open()
        courses.toggleScenario('s')
        courses.toggleScenario('t')
        const looks = () => Object.fromEntries(courses.others.map((o) => [o.key, o.look]))
        const before = looks()
        const keep = vi
            .spyOn(api, 'keep')
            .mockResolvedValue([kept('x', { colour: 3 }), kept('y', { hidden: true }), kept('z', { colour: 4 })])
        await courses.keep('Another')
        expect([0, 1, 3]).not.toContain(keep.mock.calls[0]?.[4])
        expect(looks()).toMatchObject(before)
        courses.toggleScenario('s')
        expect(looks()['scenario:t']).toBe(before['scenario:t'])
        courses.toggleScenario('s')
        expect(looks()).toMatchObject(before)
        setActivePinia(createPinia())
        const model = useModel()
        model.model = { ...model.model, scenarios: { s: scenario('s'), t: scenario('t') } }
        const again = useCourses()
        await again.open()
        again.toggleScenario('t')
        expect(again.others.find((o) => o.key === 'scenario:t')?.look).toBe(before['scenario:t'])
    })

    it('are older when the model gives other numbers, and say when they are the baseline', async () => {
        const courses = useCourses()
        const model = useModel()
        model.model = { ...model.model, meaning: 'm' }
        expect([courses.isOlder(kept('x')), courses.isBaseline(kept('x'))]).toEqual([false, true])
        expect(courses.isBaseline(kept('x', { setting: { parameters: { a: 1 } } }))).toBe(false)
        model.model = { ...model.model, meaning: 'another' }
        expect([courses.isOlder(kept('x')), courses.isBaseline(kept('x'))]).toEqual([true, false])
        await courses.open()
        await useRuns().refresh()
        await courses.bring(['a'], 'value')
        expect(courses.isBaseline(kept('x')), 'all that is plotted is the same').toBe(true)
    })

    it('are differences from the baseline where a plot shows those', async () => {
        const runs = useRuns()
        const courses = useCourses()
        await courses.open()
        await runs.refresh()
        runs.leave('a', 3)
        await settle()
        asked = []
        await courses.bring(['b'], 'difference-percent')
        expect(asked).toEqual([
            { run: { kept: 'x' }, only: ['b'], points: 2400, against: {}, measure: 'difference-percent' },
            { run: { setting: { parameters: { a: 3 } } }, only: ['b'], points: 2400, against: {}, measure: 'difference-percent' },
        ])
        expect(courses.list('difference-percent').map((c) => c.key)).toEqual(['present', 'kept:x'])
        expect(courses.list().map((c) => c.key)).toEqual(['shown', 'baseline'])
    })

    it('are old when the model has changed, but for what was kept', async () => {
        const courses = useCourses()
        const model = useModel()
        await courses.open()
        courses.toggleScenario('s')
        await courses.bring(['a'], 'value')
        expect(courses.loaded.size).toBe(2)
        model.model = { ...model.model, elements: { ...model.model.elements }, scenarios: { ...model.model.scenarios } }
        await settle()
        expect(courses.loaded.size, 'a name or a place is no other number').toBe(2)
        model.model = { ...model.model, meaning: 'another' }
        await settle()
        expect([...courses.loaded.keys()]).toEqual(['kept:x|value'])
    })

    it('are kept, renamed, removed and brought back', async () => {
        const courses = useCourses()
        await courses.open()
        const keep = vi.spyOn(api, 'keep').mockResolvedValue([kept('x'), kept('z')])
        await courses.keep('Mine', 'why')
        expect(keep).toHaveBeenCalledWith('', 'Mine', 'why', {}, 1)
        expect(courses.kept).toHaveLength(2)
        vi.spyOn(api, 'dropKept').mockResolvedValue(undefined)
        vi.spyOn(api, 'restoreKept').mockResolvedValue([kept('x'), kept('z')])
        await courses.drop('z')
        expect(courses.kept).toHaveLength(1)
        useNotices().all[0]?.action?.run()
        await settle()
        expect(courses.kept).toHaveLength(2)
        vi.spyOn(api, 'changeKept').mockRejectedValue(new Error('It cannot be so.'))
        expect(await courses.change('x', { name: '' })).toBe(false)
    })

    it('follow a batch until it is finished, and then plot what was made', async () => {
        vi.useFakeTimers()
        try {
            const state = (finished: boolean): BatchState => ({
                id: 'b',
                revision: 1,
                cancelled: false,
                share: finished ? 1 : 0.5,
                finished,
                runs: [
                    { position: 0, name: 'Baseline', scenario: '', state: 'done', share: 1, seconds: 0, words: '' },
                    {
                        position: 1,
                        name: 'Scenario s',
                        scenario: 's',
                        state: finished ? 'done' : 'running',
                        share: 1,
                        seconds: 0,
                        words: '',
                    },
                    { position: 2, name: 'Scenario t', scenario: 't', state: 'refused', share: 0, seconds: null, words: 'It cannot run.' },
                ],
            })
            vi.spyOn(api, 'batch').mockResolvedValue(state(false))
            const look = vi.spyOn(api, 'batchState').mockResolvedValueOnce(state(false)).mockResolvedValue(state(true))
            const courses = useCourses()
            const done = courses.runScenarios(['s', 't'])
            await vi.advanceTimersByTimeAsync(1000)
            await done
            expect(look).toHaveBeenCalledTimes(2)
            expect(courses.scenarios).toEqual(['s'])
        } finally {
            vi.useRealTimers()
        }
    })

    it('take out of the plots what cannot be had', async () => {
        const courses = useCourses()
        courses.call('log:7', 'Old', { log: 7 })
        vi.mocked(api.run).mockRejectedValue(new Error('This run is not in the logbook any more.'))
        await courses.bring(['a'], 'value')
        expect(courses.called).toEqual([])
        expect(useNotices().all[0]?.words).toContain('not in the logbook')
    })
})
