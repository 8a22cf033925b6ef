import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { api } from '@/api/client'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import TrackPlot from '@/tracks/TrackPlot.vue'
import ChangesPart from '@/places/try/ChangesPart.vue'
import FindingView from '@/places/try/FindingView.vue'
import TableView from '@/places/try/TableView.vue'
import ValuesStage from '@/places/try/ValuesStage.vue'
import { harness } from './harness'
import { aRun, aThing, things } from './make'

const { show, settle, button } = harness

beforeEach(async () => {
    harness.begin()
    window.ResizeObserver = class {
        observe() {}
        unobserve() {}
        disconnect() {}
    } as never
    vi.spyOn(api, 'run').mockImplementation((_, wish) =>
        Promise.resolve(aRun(Object.fromEntries((wish.only ?? ['a', 'b']).map((id) => [id, id === 'a' ? [0, 10, 5] : [2, 4, 8]])))),
    )
    const model = useModel()
    model.model = {
        ...model.model,
        time: { ...model.model.time, start: 0, end: 2, step: 1, unit: 'day' },
        order: ['a', 'b'],
        elements: things(aThing('a', { name: 'tide', unit: 'm' }), aThing('b', { name: 'wind' })),
    }
    model.loaded = true
    useView().playhead = 1
    await useRuns().refresh()
})
afterEach(() => {
    harness.end()
})

const text = () => harness.host.textContent?.replace(/\s+/g, ' ') ?? ''

describe('a track', () => {
    it('says what its line is at the playhead, in words too', async () => {
        await show(TrackPlot, { plot: { id: 't', of: ['a'] }, saved: true })
        expect(text()).toContain('tide')
        expect(harness.host.querySelector('strong')?.textContent).toBe('10')
        expect(harness.host.querySelector('canvas')?.getAttribute('aria-label')).toBe('tide over time, from 0 m to 10 m. At day 1: 10 m')
        button('Take the track of tide away')?.click()
        expect(harness.sent).toEqual([{ kind: 'discard', what: 'track', id: 't' }])
    })

    it('lists several things with their values, and lets one go', async () => {
        await show(TrackPlot, { plot: { id: 't', of: ['a', 'b'], options: { own: true } }, saved: true })
        expect([...harness.host.querySelectorAll('.read')].map((r) => r.textContent?.trim())).toEqual(['10 m', '4'])
        button('Take wind out of this track')?.click()
        expect(harness.sent.at(-1)).toEqual({ kind: 'plot-put', track: true, plot: { id: 't', of: ['a'], options: { own: true } } })
    })

    it('takes what is dropped on it, once', async () => {
        await show(TrackPlot, { plot: { id: 't', of: ['a'] }, saved: false })
        const drop = (id: string) => {
            const event = new Event('drop', { bubbles: true, cancelable: true })
            Object.assign(event, { dataTransfer: { getData: () => id } })
            harness.host.querySelector('.track')?.dispatchEvent(event)
        }
        drop('a')
        drop('gone')
        expect(harness.sent).toEqual([])
        drop('b')
        expect(harness.sent).toEqual([{ kind: 'plot-put', track: true, plot: { id: 't', of: ['a', 'b'] } }])
    })

    it('says so where nothing differs from the baseline', async () => {
        await show(TrackPlot, { plot: { id: 't', of: ['a'], options: { measure: 'difference' } }, saved: true })
        expect(text()).toContain('Nothing differs from the baseline yet')
    })

    it('goes to the stage', async () => {
        await show(TrackPlot, { plot: { id: 't', of: ['a'] }, saved: true })
        button('Enlarge the track of tide')?.click()
        expect([useView().plot, useView().stage]).toEqual(['t', 'plot'])
    })
})

describe('what stands beside the plots', () => {
    it('a table with totals', async () => {
        vi.spyOn(api, 'values').mockResolvedValue({
            runs: [{ name: 'Baseline', revision: 0, stopped: null, between: [1] }],
            times: [0, 2],
            rows: [{ element: 'a', cells: [[0, null]] }],
        })
        vi.spyOn(api, 'summary').mockResolvedValue({
            runs: [],
            times: [],
            rows: [
                {
                    element: 'a',
                    cells: [{ first: 0, last: 5, least: 0, most: 10, leastAt: 0, mostAt: 1, mean: 6.25, total: 12.5, settled: null }],
                },
            ],
        })
        await show(TableView, {
            plot: { id: 't', of: ['a'], options: { times: [0, 2], totals: true } },
            given: [{ name: 'Then', ref: { kept: 'x' } }],
        })
        await settle()
        expect(vi.mocked(api.values).mock.lastCall?.[1]).toEqual([{ kept: 'x' }])
        expect(harness.host.querySelector('thead small')?.textContent?.trim()).toBe('m')
        expect([...harness.host.querySelectorAll('tbody td:not([role="rowheader"])')].map((c) => c.textContent)).toEqual(['0', '–'])
        expect(text()).toContain('total over time12.5 m·day')
        expect(text()).toContain('lie between two saved moments')
    })

    it('values side by side, which stay for the next time', async () => {
        vi.spyOn(api, 'summary').mockResolvedValue({
            runs: [],
            times: [],
            rows: [
                {
                    element: 'b',
                    cells: [{ first: 2, last: 8, least: 2, most: 8, leastAt: 0, mostAt: 2, mean: 4.5, total: 9, settled: null }],
                },
            ],
        })
        useView().pinned = ['b']
        await show(ValuesStage)
        await settle()
        expect(text()).toContain('not at rest at the end')
        const add = harness.host.querySelector<HTMLInputElement>('input[aria-label="Add a variable"]')
        if (add) {
            add.value = 'tid'
            add.dispatchEvent(new Event('input'))
            await nextTick()
            add.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }))
        }
        await nextTick()
        expect(useView().pinned).toEqual(['b', 'a'])
        button('Take wind away')?.click()
        await nextTick()
        expect(JSON.parse(localStorage.getItem('merry-orbit:pinned:') ?? '')).toEqual(['a'])
    })

    it('what two runs differ in, or that nothing does', async () => {
        const ask = vi
            .spyOn(api, 'changes')
            .mockResolvedValueOnce([])
            .mockResolvedValue([
                {
                    what: 'changed',
                    key: 'elements/a',
                    element: 'a',
                    name: 'tide',
                    kind: 'auxiliary',
                    fields: [{ field: 'formula', was: '1', now: '2' }],
                },
            ])
        await show(ChangesPart, { logged: [{ key: 'log:4', name: 'Then', ref: { log: 4 } }] })
        await settle()
        expect(text()).toContain('same model and the same settings')
        useView().compared = ['log:4', 'baseline']
        await settle()
        expect(ask.mock.lastCall?.slice(1)).toEqual([{ log: 4 }, {}])
        expect(harness.host.querySelector('tbody')?.textContent).toContain('tide')
    })

    it('a finding made again from the runs that it names, and a trail in words', async () => {
        await show(FindingView, {
            finding: {
                id: 'f',
                title: 'F',
                words: '',
                place: 1,
                view: {
                    kind: 'trail',
                    element: 'a',
                    steps: [
                        {
                            path: ['a'],
                            element: 'a',
                            time: 1,
                            value: 10,
                            rate: 2,
                            causes: [
                                { cause: 'b', change: 2 },
                                { cause: 'time', change: -1 },
                            ],
                        },
                    ],
                },
            },
        })
        expect(text()).toContain('tide 10 m changing by +2 m per day: wind +2, time itself −1')
        harness.leave()
        const ask = vi.mocked(api.run)
        ask.mockClear()
        await show(FindingView, {
            finding: {
                id: 'f',
                title: 'F',
                words: '',
                place: 1,
                view: {
                    kind: 'plot',
                    plot: { id: 'p', of: ['b'] },
                    courses: [
                        { name: 'baseline', ref: { revision: 3 } },
                        { name: 'Dry', ref: { kept: 'x' } },
                    ],
                },
            },
        })
        await settle()
        expect(ask.mock.calls.map((c) => c[1].run)).toEqual([{ revision: 3 }, { kept: 'x' }])
        harness.leave()
        ask.mockRejectedValue(new Error('This run was removed.'))
        await show(FindingView, {
            finding: {
                id: 'g',
                title: 'G',
                words: '',
                place: 1,
                view: { kind: 'plot', plot: { id: 'p', of: ['b'] }, courses: [{ name: 'gone', ref: { kept: 'y' } }] },
            },
        })
        await settle()
        expect(text()).toContain('This run was removed.')
    })
})
