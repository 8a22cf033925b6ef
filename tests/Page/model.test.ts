import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { api, ConnectionError, ProblemError } from '@/api/client'
import type { Edit, Model, ModelAnswer, News, Thing } from '@/api/types'
import { EMPTY } from '@/stores/changed'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { WINDOW } from '@/stores/waiting'
import { aThing } from './make'

const thing = aThing

/** Edits that are told apart by what they say. */
const titled = (name: string): Edit => ({ kind: 'title', name })
const titleOf = (edit?: Edit) => (edit?.kind === 'title' ? edit.name : edit?.kind)

function model(things: Thing[]): Model {
    const elements = Object.fromEntries(things.map((t) => [t.id, t]))
    return {
        ...EMPTY,
        name: 'Tide',
        sheets: [{ id: 'sheet-1', name: 'Main' }],
        order: things.map((t) => t.id),
        elements,
        time: { ...EMPTY.time, end: 10 },
    }
}

const answer = (revision: number, things: Thing[]): ModelAnswer => ({
    id: 'm',
    study: 's',
    user: 7,
    may: 'own',
    revision,
    model: model(things),
    undo: null,
    redo: null,
})
const news = (since: number, revision: number, more: Partial<News> = {}): News => ({
    since,
    revision,
    done: [],
    undo: 'something',
    redo: null,
    ...more,
})
const refused = (status: number, details: Record<string, unknown> = {}) => new ProblemError(status, 'x', 'It cannot be so.', details)

const kept = (items: unknown[], user = 7) => JSON.stringify({ user, items })
const stored = (model = 'm') =>
    (JSON.parse(localStorage.getItem(`merry-orbit:pending:${model}:${WINDOW}`) ?? '{"items":[]}') as { items: unknown[] }).items

/** Until everything that was set off has come to rest. */
const settle = async () => {
    for (let i = 0; i < 20; i++) await Promise.resolve()
}

describe('the open model', () => {
    beforeEach(async () => {
        vi.useFakeTimers()
        localStorage.clear()
        setActivePinia(createPinia())
        vi.spyOn(api, 'model').mockResolvedValue(answer(3, [thing('a'), thing('b')]))
        vi.spyOn(api, 'news').mockResolvedValue(news(3, 3))
        vi.spyOn(api, 'edit').mockResolvedValue(news(3, 4))
        await useModel().open('m')
    })
    afterEach(() => {
        vi.restoreAllMocks()
        vi.useRealTimers()
    })

    it('takes in what an edit changed, and what it took away', async () => {
        vi.mocked(api.edit).mockResolvedValue(
            news(3, 4, {
                changed: {
                    elements: { a: thing('a', { name: 'alpha' }), b: null },
                    order: ['a'],
                    placements: { a: { at: { x: 1, y: 2 } } },
                },
            }),
        )
        const store = useModel()
        await store.edit({ kind: 'delete', ids: ['b'] })
        expect(store.revision).toBe(4)
        expect(store.things.map((t) => t.name)).toEqual(['alpha'])
        expect(store.model.placements).toEqual({ a: { at: { x: 1, y: 2 } } })
        expect(store.model.time.end).toBe(10)
        expect(store.steps.undo).toBe('something')
    })

    it('sends edits one after the other, each on the revision before it', async () => {
        const bases: number[] = []
        vi.mocked(api.edit).mockImplementation((_, { base }) => {
            bases.push(base)
            return Promise.resolve(news(base, base + 1))
        })
        const store = useModel()
        await Promise.all([store.edit(titled('a')), store.edit(titled('b')), store.edit(titled('c'))])
        expect(bases).toEqual([3, 4, 5])
        expect(store.pending).toEqual([])
    })

    it('tells when the server knows what was changed, so that what begins then is of it; at once where the server is away', async () => {
        const order: string[] = []
        let answered: (n: News) => void = () => undefined
        vi.mocked(api.edit).mockImplementationOnce(() => new Promise<News>((resolve) => (answered = resolve)))
        const store = useModel()
        await store.sent()
        void store.edit(titled('a')).then(() => order.push('known'))
        const fitted = store.sent().then(() => order.push('fitted'))
        await settle()
        expect(order).toEqual([])
        answered(news(3, 4))
        await fitted
        await settle()
        expect([...order].sort()).toEqual(['fitted', 'known'])
        expect(store.pending).toEqual([])
        vi.mocked(api.edit).mockRejectedValue(new ConnectionError())
        void store.edit(titled('b'))
        await settle()
        await store.sent()
        expect([store.offline, store.pending.length]).toEqual([true, 1])
    })

    it('keeps edits while nobody answers, through a reload, and sends them later under the same id', async () => {
        vi.mocked(api.edit).mockRejectedValue(new ConnectionError())
        const store = useModel()
        void store.edit({ kind: 'unit', id: 'a', text: 'm' })
        void store.edit({ kind: 'unit', id: 'b', text: 'm' })
        await settle()
        expect(store.offline).toBe(true)
        expect(store.pending).toHaveLength(2)
        const id = store.pending[0]?.id

        setActivePinia(createPinia())
        const sent: string[] = []
        vi.mocked(api.edit).mockImplementation((_, { base }, edits) => {
            sent.push(edits[0]?.id ?? '')
            return Promise.resolve(news(base, base + 1))
        })
        const reloaded = useModel()
        await reloaded.open('m')
        await settle()
        expect(sent).toHaveLength(2)
        expect(sent[0]).toBe(id)
        expect(reloaded.pending).toEqual([])
        expect(localStorage.length).toBe(0)
    })

    it('tries again by itself after a while', async () => {
        vi.mocked(api.edit).mockRejectedValueOnce(new ConnectionError())
        const store = useModel()
        const done = store.edit(titled('x'))
        await settle()
        expect(store.offline).toBe(true)
        await vi.advanceTimersByTimeAsync(1600)
        await done
        expect(store.offline).toBe(false)
        expect(api.edit).toHaveBeenCalledTimes(2)
    })

    it('never lets go of an edit that the server trips over, and saves all by itself when it can', async () => {
        const store = useModel()
        let full = true
        vi.mocked(api.edit).mockImplementation((_, { base }) =>
            full ? Promise.reject(refused(500)) : Promise.resolve(news(base, base + 1)),
        )
        const first = store.edit(titled('one'))
        const second = store.edit(titled('two'))
        await vi.advanceTimersByTimeAsync(120_000)
        expect(vi.mocked(api.edit).mock.calls.length).toBeGreaterThan(5)
        expect([store.pending.length, store.held, store.stuck]).toEqual([2, 'It cannot be so.', true])
        expect(stored()).toHaveLength(2)
        full = false
        await vi.advanceTimersByTimeAsync(31_000)
        await Promise.all([first, second])
        expect([store.pending.length, store.held, store.stuck, store.revision]).toEqual([0, '', false, 5])
    })

    it('tries once at a time, however many edits wait, and says no more that it is held when the last one is gone', async () => {
        const store = useModel()
        vi.mocked(api.edit).mockRejectedValue(refused(500))
        for (let i = 0; i < 6; i++) {
            store.edit(titled(`k${i}`)).catch(() => undefined)
            await settle()
        }
        const before = vi.mocked(api.edit).mock.calls.length
        await vi.advanceTimersByTimeAsync(60_000)
        expect(vi.mocked(api.edit).mock.calls.length - before).toBeLessThan(8)
        vi.mocked(api.edit).mockRejectedValue(refused(422))
        await vi.advanceTimersByTimeAsync(31_000)
        expect([store.pending, store.held, store.stuck]).toEqual([[], '', false])
    })

    it('waits for a session that is gone', async () => {
        const store = useModel()
        vi.mocked(api.edit)
            .mockRejectedValueOnce(refused(401))
            .mockImplementation((_, { base }) => Promise.resolve(news(base, base + 1)))
        const done = store.edit(titled('one'))
        await settle()
        expect(store.pending).toHaveLength(1)
        await vi.advanceTimersByTimeAsync(1600)
        await done
        expect(store.pending).toEqual([])
    })

    it('keeps what its person sets aside, through a reload, to be sent again or thrown away', async () => {
        const store = useModel()
        vi.mocked(api.edit).mockImplementation((_, { base }, edits) =>
            titleOf(edits[0]?.edit) === 'bad' ? Promise.reject(refused(500)) : Promise.resolve(news(base, base + 1)),
        )
        const bad = store.edit(titled('bad')).catch((e: unknown) => e)
        const good = store.edit(titled('good'))
        await vi.advanceTimersByTimeAsync(20_000)
        expect(store.stuck).toBe(true)
        store.setAside()
        expect(await bad).toBeInstanceOf(ProblemError)
        await vi.advanceTimersByTimeAsync(31_000)
        await good
        expect([store.held, store.stuck, store.pending]).toEqual(['', false, []])
        expect(store.aside.map((a) => titleOf(a.edit))).toEqual(['bad'])
        setActivePinia(createPinia())
        const reloaded = useModel()
        await reloaded.open('m')
        expect(reloaded.aside.map((a) => [titleOf(a.edit), a.sentence])).toEqual([['bad', 'It cannot be so.']])
        vi.mocked(api.edit).mockRejectedValueOnce(refused(422))
        expect(await reloaded.sendAgain(reloaded.aside[0] as never)).toBe(false)
        expect(reloaded.aside).toHaveLength(1)
        vi.mocked(api.edit).mockImplementation((_, { base }) => Promise.resolve(news(base, base + 1)))
        expect(await reloaded.sendAgain(reloaded.aside[0] as never)).toBe(true)
        expect([reloaded.aside, localStorage.length]).toEqual([[], 0])
    })

    it('keeps a refused edit of which nobody knows any more', async () => {
        localStorage.setItem('merry-orbit:pending:m', JSON.stringify([{ id: 'x', edit: { kind: 'rename', id: 'a', name: '' } }]))
        vi.mocked(api.edit).mockRejectedValue(refused(422))
        const store = useModel()
        await store.open('m')
        await settle()
        expect([store.pending, store.aside.map((a) => a.sentence)]).toEqual([[], ['It cannot be so.']])
        expect(useNotices().all.at(-1)?.words).toContain('kept on the card of the study')
        store.throwAway(store.aside[0] as never)
        expect(localStorage.length).toBe(0)
    })

    it('sends what closed windows left behind, and leaves alone what an open window looks after', async () => {
        localStorage.setItem('merry-orbit:pending:m:gone', kept([{ id: 'x', edit: { kind: 'theirs' } }]))
        localStorage.setItem('merry-orbit:pending:m:there', kept([{ id: 'y', edit: { kind: 'looked after' } }]))
        vi.stubGlobal('navigator', { locks: { query: () => Promise.resolve({ held: [{ name: 'merry-orbit:window:there' }] }) } })
        vi.mocked(api.edit).mockImplementation((_, { base }) => Promise.resolve(news(base, base + 1)))
        const store = useModel()
        await store.listen()
        await settle()
        expect(vi.mocked(api.edit).mock.calls.map((c) => titleOf(c[2][0]?.edit))).toEqual(['theirs'])
        expect(Object.keys(localStorage)).toEqual(['merry-orbit:pending:m:there'])
        // The other window is closed while this one lives on.
        vi.stubGlobal('navigator', { locks: { query: () => Promise.resolve({ held: [] }) } })
        await store.listen()
        await settle()
        expect(vi.mocked(api.edit).mock.calls.map((c) => titleOf(c[2][0]?.edit))).toEqual(['theirs', 'looked after'])
        expect(localStorage.length).toBe(0)
        vi.unstubAllGlobals()
    })

    it('never sends what somebody else left waiting, and keeps it for them', async () => {
        localStorage.setItem('merry-orbit:pending:m:gone', kept([{ id: 'x', edit: { kind: 'theirs' } }], 8))
        const store = useModel()
        await store.open('m')
        await settle()
        expect([store.pending, vi.mocked(api.edit).mock.calls]).toEqual([[], []])
        expect(localStorage.getItem('merry-orbit:pending:m:gone')).not.toBeNull()
    })

    it('says who made an edit, and keeps it when somebody else is signed in by now', async () => {
        vi.mocked(api.edit).mockRejectedValue(refused(403))
        const store = useModel()
        void store.edit(titled('mine')).catch(() => undefined)
        await settle()
        expect(vi.mocked(api.edit).mock.calls[0]?.[1].user).toBe(7)
        expect([store.pending.length, store.held, stored().length]).toEqual([1, 'It cannot be so.', 1])
    })

    it('keeps the edits of two models apart, also when the other one is opened while one is under way', async () => {
        let acknowledge: (n: News) => void = () => undefined
        vi.mocked(api.edit).mockImplementation((of, { base }) =>
            of === 'm'
                ? new Promise((resolve) => {
                      acknowledge = resolve
                  })
                : Promise.resolve(news(base, base + 1)),
        )
        const store = useModel()
        void store.edit(titled('first'))
        void store.edit(titled('second'))
        await settle()
        vi.mocked(api.model).mockResolvedValue({ ...answer(10, [thing('z')]), id: 'n' })
        await store.open('n')
        const there = store.edit(titled('there'))
        acknowledge(news(3, 4, { changed: { name: 'of the first model' } }))
        await there
        expect([store.model.name, store.revision]).toEqual(['Tide', 11])
        expect(vi.mocked(api.edit).mock.calls.map((c) => [c[0], titleOf(c[2][0]?.edit)])).toEqual([
            ['m', 'first'],
            ['n', 'there'],
        ])
        expect(stored('m')).toMatchObject([{ edit: titled('second') }])
        vi.mocked(api.model).mockResolvedValue(answer(4, [thing('a')]))
        vi.mocked(api.edit).mockImplementation((_, { base }) => Promise.resolve(news(base, base + 1)))
        await store.open('m')
        await settle()
        expect([titleOf(vi.mocked(api.edit).mock.calls.at(-1)?.[2][0]?.edit), stored('m')]).toEqual(['second', []])
    })

    it('asks before the page closes when edits wait that the browser could not store', async () => {
        vi.mocked(api.edit).mockRejectedValue(new ConnectionError())
        const full = vi.spyOn(Storage.prototype, 'setItem').mockImplementation(() => {
            throw new DOMException('full', 'QuotaExceededError')
        })
        const store = useModel()
        void store.edit(titled('one'))
        const asked = () => !window.dispatchEvent(new Event('beforeunload', { cancelable: true }))
        expect(asked()).toBe(true)
        full.mockRestore()
        void store.edit(titled('two'))
        expect([asked(), stored().length]).toEqual([false, 2])
    })

    it('hands a refusal to who asked, and changes nothing', async () => {
        vi.mocked(api.edit).mockRejectedValue(refused(422))
        const store = useModel()
        await expect(store.edit({ kind: 'rename', id: 'a', name: '' })).rejects.toThrow('It cannot be so.')
        expect(await store.attempt({ kind: 'rename', id: 'a', name: '' })).toBe(false)
        expect(useNotices().all.at(-1)?.words).toBe('It cannot be so.')
        expect(store.revision).toBe(3)
        expect(store.pending).toEqual([])
    })

    it('keeps both versions of a clash until one is chosen', async () => {
        const edit: Edit = { kind: 'formula', id: 'a', text: '30%' }
        vi.mocked(api.edit).mockRejectedValueOnce(refused(409, { theirs: thing('a', { formula: '20%' }) }))
        const store = useModel()
        await store.edit(edit).catch(() => {})
        expect(store.clash).toMatchObject({ edit, theirs: { formula: '20%' } })
        vi.mocked(api.news).mockResolvedValue(news(3, 4, { changed: { elements: { a: thing('a', { formula: '20%' }) } } }))
        await store.settleClash(true)
        expect(store.clash).toBeNull()
        expect(vi.mocked(api.edit).mock.calls.at(-1)?.[1].base).toBe(4)
        expect(vi.mocked(api.edit).mock.calls.at(-1)?.[2][0]?.edit).toEqual(edit)
    })

    it('leaves theirs when theirs is chosen, and asks again when nobody answers', async () => {
        vi.mocked(api.edit).mockRejectedValueOnce(refused(409, { theirs: null }))
        const store = useModel()
        await store.edit({ kind: 'formula', id: 'a', text: '30%' }).catch(() => {})
        vi.mocked(api.news).mockRejectedValueOnce(new ConnectionError())
        await store.settleClash(true)
        expect(store.clash).not.toBeNull()
        await store.settleClash(false)
        expect(store.clash).toBeNull()
        expect(api.edit).toHaveBeenCalledTimes(1)
    })

    it('tells what another window did, and not what this one did', async () => {
        const store = useModel()
        vi.mocked(api.news).mockResolvedValue(
            news(3, 5, {
                changed: { name: 'Ebb' },
                done: [
                    { revision: 4, window: 'elsewhere', kind: 'edit', words: 'Renamed `a`', by: null },
                    { revision: 5, window: 'elsewhere', kind: 'edit', words: 'Moved `b`', by: null },
                ],
            }),
        )
        await store.listen()
        expect(store.model.name).toBe('Ebb')
        expect(useNotices().all.map((n) => n.words)).toEqual(['In another window: Renamed `a` · Moved `b`'])
        await store.listen()
        expect(useNotices().all).toHaveLength(1)
    })

    it('loads the model anew when it missed something', async () => {
        const store = useModel()
        vi.mocked(api.news).mockResolvedValue(news(9, 10))
        vi.mocked(api.model).mockResolvedValue(answer(10, [thing('z')]))
        await store.listen()
        expect(store.revision).toBe(10)
        expect(store.things.map((t) => t.id)).toEqual(['z'])
    })

    it('never goes back to an older answer', async () => {
        const store = useModel()
        vi.mocked(api.edit).mockResolvedValue(news(3, 6, { changed: { name: 'new' } }))
        await store.edit(titled('title'))
        vi.mocked(api.news).mockResolvedValue(news(3, 5, { changed: { name: 'old' } }))
        await store.listen()
        expect(store.model.name).toBe('new')
    })

    it('takes steps of undo one by one, however fast they are asked for', async () => {
        let running = 0
        let most = 0
        vi.spyOn(api, 'step').mockImplementation(async (_, __, { base }) => {
            most = Math.max(most, ++running)
            await Promise.resolve()
            running--
            return news(base, base + 1)
        })
        const store = useModel()
        await Promise.all([store.step('undo'), store.step('undo'), store.step('redo')])
        expect(most).toBe(1)
        expect(store.revision).toBe(6)
    })

    it('offers to bring back what was deleted, and says what misses it', async () => {
        vi.mocked(api.edit).mockResolvedValue(
            news(3, 4, {
                changed: {
                    elements: { a: null },
                    order: ['b'],
                    problems: [
                        {
                            code: 'name.unknown',
                            sentence: 'Nothing is called `a`.',
                            element: 'b',
                            field: 'formula',
                            from: 0,
                            length: 1,
                            severity: 'wrong',
                        },
                    ],
                },
            }),
        )
        const step = vi.spyOn(api, 'step').mockResolvedValue(news(4, 5))
        const store = useModel()
        await store.remove(['a'])
        const notice = useNotices().all.at(-1)
        expect(notice?.words).toBe('Deleted “a”. One formula misses it now.')
        notice?.action?.run()
        await settle()
        expect(step).toHaveBeenCalledWith('m', 'undo', { base: 4, window: WINDOW, user: 7 }, expect.any(String), {})
    })
})
