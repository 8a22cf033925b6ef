import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { api, ConnectionError, ProblemError, type Run } from '@/api/client'
import type { News, RunRequest } from '@/api/types'
import { useModel } from '@/stores/model'
import { LARGE } from '@/stores/outbox'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import { aRun as run, aThing } from './make'

const settle = async () => {
    for (let i = 0; i < 20; i++) await Promise.resolve()
}

describe('the run that is shown', () => {
    beforeEach(() => {
        window.matchMedia = vi.fn().mockReturnValue({ matches: false })
        setActivePinia(createPinia())
    })
    afterEach(() => {
        vi.restoreAllMocks()
    })

    it('asks once more, and only once, when much happened while it waited', async () => {
        const asked: RunRequest['run'][] = []
        const answers: ((r: Run) => void)[] = []
        vi.spyOn(api, 'run').mockImplementation((_, wish) => {
            asked.push(wish.run)
            return new Promise((resolve) => {
                answers.push(resolve)
            })
        })
        const runs = useRuns()
        for (const value of [1, 2, 3, 4]) {
            runs.turn('p', value)
        }
        expect(asked).toEqual([{ setting: { parameters: { p: 1 } } }])
        answers[0]?.(run({ a: [1] }))
        await settle()
        expect(asked).toEqual([{ setting: { parameters: { p: 1 } } }, { setting: { parameters: { p: 4 } } }])
        answers[1]?.(run({ a: [4] }))
        await settle()
        expect(runs.shown?.values.get('a')?.[0]).toBe(4)
        expect(runs.running).toBe(false)
    })

    it('remembers the run before the dial until the dial is let go', async () => {
        vi.spyOn(api, 'run')
            .mockResolvedValueOnce(run({ a: [1, 9] }))
            .mockResolvedValue(run({ a: [5, 5] }))
        const runs = useRuns()
        await runs.refresh()
        runs.turn('p', 2)
        await settle()
        expect(runs.before?.values.get('a')?.[1]).toBe(9)
        runs.release('p')
        await runs.refresh()
        expect(runs.before).toBeNull()
        expect(vi.mocked(api.run).mock.calls.map((c) => c[1].remember)).toEqual([true, false, true])
    })

    it('keeps the scale of levels while a dial moves', async () => {
        vi.spyOn(api, 'run')
            .mockResolvedValueOnce(run({ a: [0, 10] }))
            .mockResolvedValue(run({ a: [0, 5] }))
        const runs = useRuns()
        useView().playhead = 1
        await runs.refresh()
        expect(runs.level('a')).toBe(1)
        runs.turn('p', 2)
        await settle()
        // The sheet follows a moment after the plots.
        await vi.waitFor(() => {
            expect(runs.level('a')).toBe(0.5)
        })
    })

    it('reads values at the playhead, between saved moments in proportion', async () => {
        vi.spyOn(api, 'run').mockResolvedValue(run({ a: [0, 10, 30] }, { steady: { p: 7 } }))
        const runs = useRuns()
        const view = useView()
        await runs.refresh()
        for (const [time, value] of [
            [0, 0],
            [0.5, 5],
            [1, 10],
            [1.25, 15],
            [2, 30],
            [99, 30],
            [-5, 0],
        ] as const) {
            view.playhead = time
            expect(runs.value('a')).toBeCloseTo(value, 12)
        }
        expect(runs.value('p')).toBe(7)
        expect(runs.value('nothing')).toBeUndefined()
        expect([runs.known('a'), runs.known('p'), runs.known('nothing')]).toEqual([true, true, false])
    })

    it('gives flows of one unit one scale', async () => {
        vi.spyOn(api, 'run').mockResolvedValue(run({ f: [-8, 2], g: [1, 3], h: [100, 0] }))
        const flow = (id: string, unit: string) => aThing(id, { kind: 'flow', unit })
        const model = useModel()
        model.model = {
            ...model.model,
            order: ['f', 'g', 'h'],
            elements: { f: flow('f', 't/year'), g: flow('g', 't/year'), h: flow('h', 'person/year') },
        }
        const runs = useRuns()
        await runs.refresh()
        expect(runs.flowScale).toEqual({ 't/year': 8, 'person/year': 100 })
    })

    it('says why there is no run, and keeps the last one in sight', async () => {
        vi.spyOn(api, 'run')
            .mockResolvedValueOnce(run({ a: [1] }))
            .mockRejectedValueOnce(new ProblemError(422, 'run.limit', 'Choose a longer step.', {}))
            .mockRejectedValueOnce(new ConnectionError())
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

    it('asks for what is plotted while a dial is held, and for everything when it rests', async () => {
        vi.useFakeTimers()
        try {
            const few = run({ a: [1, 2] }, { whole: false, now: { b: 7 } })
            const ask = vi.spyOn(api, 'run').mockResolvedValue(few)
            const model = useModel()
            model.model = {
                ...model.model,
                order: ['a', 'b'],
                elements: { a: aThing('a', { kind: 'stock' }), b: aThing('b') },
                tracks: [{ id: 't', of: ['a'] }],
            }
            const runs = useRuns()
            runs.turn('p', 1)
            await settle()
            expect(ask.mock.lastCall?.[1]).toMatchObject({ only: ['a'], remember: false })
            expect([runs.value('b'), runs.known('b')]).toEqual([7, true])
            ask.mockResolvedValue(run({ a: [1, 2], b: [3, 4] }))
            runs.leave('p', 1)
            await settle()
            await vi.runAllTimersAsync()
            expect(ask.mock.calls.at(-1)?.[1].only).toBeUndefined()
            expect(runs.value('b')).toBe(3)
        } finally {
            vi.useRealTimers()
        }
    })

    it('keeps what is tried through a reload, as far as the model still has it, and forgets it at the base', async () => {
        vi.spyOn(api, 'run').mockResolvedValue(run({ a: [1] }))
        localStorage.clear()
        const opened = () => {
            const model = useModel()
            model.model = {
                ...model.model,
                order: ['p', 'a'],
                elements: { p: aThing('p', { kind: 'parameter', value: 1 }), a: aThing('a') },
            }
            return useRuns()
        }
        let runs = opened()
        runs.leave('p', 5)
        runs.grip('a', { signal: 'constant', values: { value: 2 } })
        runs.grip('gone', { signal: 'constant', values: { value: 2 } })
        await settle()
        expect(runs.ref).toEqual({
            setting: {
                parameters: { p: 5 },
                grips: { a: { signal: 'constant', values: { value: 2 } }, gone: { signal: 'constant', values: { value: 2 } } },
            },
        })
        setActivePinia(createPinia())
        runs = opened()
        expect(runs.tried).toBe(false)
        runs.recall()
        expect(runs.setting).toEqual({ parameters: { p: 5 }, grips: { a: { signal: 'constant', values: { value: 2 } } } })
        runs.put()
        await settle()
        expect([runs.tried, runs.ref, localStorage.getItem('merry-orbit:present:')]).toEqual([false, {}, null])
    })

    it('runs the baseline again beside what is tried when the model has changed', async () => {
        const ask = vi.spyOn(api, 'run').mockResolvedValue(run({ a: [1] }))
        const runs = useRuns()
        await runs.refresh()
        runs.leave('p', 5)
        await settle()
        expect(ask).toHaveBeenCalledTimes(2)
        ask.mockResolvedValue(run({ a: [2] }, { revision: 2 }))
        await runs.refresh()
        expect(ask.mock.calls.map((c) => c[1].run)).toEqual([
            {},
            { setting: { parameters: { p: 5 } } },
            { setting: { parameters: { p: 5 } } },
            undefined,
        ])
        expect(runs.before?.revision).toBe(2)
    })

    it('follows a long run and stops it', async () => {
        vi.useFakeTimers()
        try {
            let answer: (r: Run) => void = () => undefined
            vi.spyOn(api, 'run').mockImplementation(
                () =>
                    new Promise((resolve) => {
                        answer = resolve
                    }),
            )
            vi.spyOn(api, 'progress').mockResolvedValue(0.4)
            const stop = vi.spyOn(api, 'stopRun').mockResolvedValue(undefined)
            const runs = useRuns()
            const done = runs.refresh()
            await vi.advanceTimersByTimeAsync(900)
            expect(runs.progress?.share).toBe(0.4)
            runs.stop()
            expect(stop).toHaveBeenCalledWith('', runs.progress?.token)
            answer(run({ a: [1] }, { stopped: true }))
            await done
            expect([runs.progress, runs.shown?.stopped]).toEqual([null, true])
        } finally {
            vi.useRealTimers()
        }
    })

    it('reads the extremes of a thinned column', async () => {
        vi.spyOn(api, 'run').mockResolvedValue(
            run(
                { a: [3, 4] },
                { coarse: true, lows: new Map([['a', Float64Array.from([-7, 4])]]), highs: new Map([['a', Float64Array.from([9, 4])]]) },
            ),
        )
        const runs = useRuns()
        await runs.refresh()
        expect(runs.range(runs.shown, 'a')).toEqual([-7, 9])
    })

    it('comes with the edit and what changed, in one request; an edit that changes no number asks for none', async () => {
        const model = useModel()
        Object.assign(model, { id: 'm', revision: 1 })
        const runs = useRuns()
        const ask = vi.spyOn(api, 'run')
        const news = vi.spyOn(api, 'news')
        const edit = vi.spyOn(api, 'edit').mockImplementation((_, { base }, __, beside) =>
            Promise.resolve({
                since: base,
                revision: base + 1,
                done: [],
                changed: { name: `at ${base + 1}` },
                ...(beside?.then ? { run: run({ a: [4] }, { revision: base + 1 }) } : {}),
            }),
        )
        await model.edit({ kind: 'formula', id: 'a', text: '2' })
        expect(edit.mock.calls[0]?.[3]).toMatchObject({ changed: true, then: { remember: true, run: {} } })
        expect([model.model.name, runs.shown?.revision]).toEqual(['at 2', 2])
        await model.edit({ kind: 'note', id: 'a', text: 'Said.' })
        expect([edit.mock.calls[1]?.[3], model.model.name, runs.shown?.revision]).toEqual([{}, 'at 3', 2])
        expect([ask.mock.calls, news.mock.calls]).toEqual([[], []])
    })

    describe('of a large model', () => {
        /** A large model, whose edits are answered as `edit` says. */
        const large = (edit: (then: RunRequest | undefined) => Partial<News>) => {
            const model = useModel()
            model.id = 'm'
            model.revision = 1
            model.model = { ...model.model, order: Array.from({ length: LARGE + 1 }, (_, i) => `a${i}`) }
            const sent: (RunRequest | undefined)[] = []
            vi.spyOn(api, 'edit').mockImplementation((_, __, ___, beside) => {
                sent.push(beside?.then)
                return Promise.resolve({ since: 1, revision: 2, done: [], ...edit(beside?.then) })
            })
            vi.spyOn(api, 'news').mockResolvedValue({ since: 1, revision: 2, done: [], changed: { name: 'New' } })
            return { model, runs: useRuns(), sent }
        }

        it('comes with the edit, and what changed is asked for afterwards', async () => {
            vi.spyOn(api, 'run')
            const { model, runs, sent } = large((then) => (then ? { quick: true, run: run({ a: [4] }, { revision: 2 }) } : {}))
            await model.edit({ kind: 'formula', id: 'a1', text: '2' })
            expect(sent[0]).toMatchObject({ remember: true, run: {} })
            expect(runs.shown?.values.get('a')?.[0]).toBe(4)
            expect([model.revision, model.model.name, runs.running]).toEqual([2, 'New', false])
            runs.follow(false)
            expect(api.run).not.toHaveBeenCalled()
        })

        it('is asked for by itself where it could not come along', async () => {
            vi.spyOn(api, 'run').mockRejectedValue(new ProblemError(422, 'run', 'A formula is missing.', {}))
            const { model, runs } = large(() => ({ quick: true }))
            await model.edit({ kind: 'formula', id: 'a1', text: '' })
            await settle()
            expect([runs.refusal, model.model.name]).toEqual(['A formula is missing.', 'New'])
        })

        it('is not wished for while something is tried, which takes a run more', async () => {
            vi.spyOn(api, 'run').mockResolvedValue(run({ a: [1] }, { revision: 2 }))
            const { model, runs, sent } = large(() => ({}))
            runs.leave('a1', 3)
            await settle()
            await model.edit({ kind: 'formula', id: 'a2', text: '2' })
            expect(sent).toEqual([undefined])
        })

        it('of a dial that moves while the edit is under way comes afterwards', async () => {
            const asked: RunRequest['run'][] = []
            vi.spyOn(api, 'run').mockImplementation((_, wish) => {
                asked.push(wish.run)
                return Promise.resolve(run({ a: [9] }, { revision: 2 }))
            })
            let answer: (news: News) => void = () => undefined
            const { model, runs } = large(() => ({}))
            vi.mocked(api.edit).mockReturnValue(
                new Promise((resolve) => {
                    answer = resolve
                }),
            )
            const done = model.edit({ kind: 'formula', id: 'a1', text: '2' })
            runs.turn('p', 7)
            expect(asked).toEqual([])
            answer({ since: 1, revision: 2, done: [], quick: true, run: run({ a: [4] }, { revision: 2 }) })
            await done
            await settle()
            expect(asked).toEqual([{ setting: { parameters: { p: 7 } } }])
            expect(runs.shown?.values.get('a')?.[0]).toBe(9)
        })
    })
})
