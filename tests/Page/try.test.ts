import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { api } from '@/api/client'
import type { LoggedRun, Model, Scenario, Thing } from '@/api/types'
import GripField from '@/card/GripField.vue'
import { useCourses } from '@/stores/courses'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import LogbookStage from '@/places/try/LogbookStage.vue'
import PresentDial from '@/places/try/PresentDial.vue'
import ScenarioStage from '@/places/try/ScenarioStage.vue'
import TrailStage from '@/places/try/TrailStage.vue'
import { harness } from './harness'
import { aRun, aThing, things } from './make'

const { show, settle, button, pick } = harness

beforeEach(() => {
    harness.begin()
    vi.spyOn(api, 'run').mockImplementation((_, wish) =>
        Promise.resolve(aRun(Object.fromEntries((wish.only ?? ['s', 'a']).map((id) => [id, [2, 4, 8]])), { steady: { p: 3 } })),
    )
})
afterEach(() => {
    harness.end()
})

const stock = aThing('s', { kind: 'stock', name: 'tank' })
const parameter = aThing('p', { kind: 'parameter', name: 'rate', value: 3, low: 0, high: 10, step: 1 })

function fill(more: Partial<Model> = {}, all: Thing[] = [stock, parameter, aThing('a', { name: 'need' })]) {
    const model = useModel()
    model.model = {
        ...model.model,
        time: { ...model.model.time, start: 0, end: 2, step: 1 },
        order: all.map((t) => t.id),
        elements: things(...all),
        ...more,
    }
    model.loaded = true
}
const field = (label: string) =>
    [...harness.host.querySelectorAll('input')].find(
        (f) => f.getAttribute('aria-label') === label || f.closest('label')?.textContent?.trim() === label,
    )
async function type(label: string, text: string) {
    const input = field(label)
    if (input) {
        input.value = text
        input.dispatchEvent(new Event('input'))
        input.dispatchEvent(new Event('change'))
    }
    await settle()
}

describe('a dial of what is tried', () => {
    it('changes the present setting and not the model, and goes back', async () => {
        fill()
        const runs = useRuns()
        await show(PresentDial, { thing: parameter })
        await type('Value of rate', '7')
        expect(runs.setting).toEqual({ parameters: { p: 7 } })
        await type('Value of rate', 'much')
        expect(runs.setting).toEqual({ parameters: { p: 7 } })
        button('rate back to 3')?.click()
        await settle()
        expect([runs.setting, harness.sent]).toEqual([{}, []])
        await type('Value of rate', '3')
        expect(runs.tried).toBe(false)
    })

    it('is a switch with two named values and a list with more', async () => {
        const two = {
            ...parameter,
            choices: [
                { name: 'dry', value: 1 },
                { name: 'wet', value: 3 },
            ],
        }
        fill({}, [two])
        await show(PresentDial, { thing: two })
        expect(button('wet')?.getAttribute('aria-checked')).toBe('true')
        button('dry')?.click()
        await settle()
        expect(useRuns().setting).toEqual({ parameters: { p: 1 } })
        button('wet')?.click()
        await settle()
        expect(useRuns().tried).toBe(false)
        harness.leave()
        await show(PresentDial, { thing: { ...two, choices: [...two.choices, { name: 'flood', value: 9 }] } })
        await pick('rate', 'flood')
        expect(useRuns().setting).toEqual({ parameters: { p: 9 } })
    })

    it('gets names for its values as soon as all have one', async () => {
        fill()
        await show(PresentDial, { thing: parameter })
        button('Range of rate')?.click()
        await nextTick()
        button('Give values names')?.click()
        await nextTick()
        const name = async (i: number, text: string) => {
            const input = harness.host.querySelector<HTMLInputElement>(`[aria-label="Name of choice ${i}"]`)
            if (input) {
                input.value = text
                input.dispatchEvent(new Event('input'))
                input.dispatchEvent(new Event('change'))
            }
            await settle()
        }
        await name(1, 'none')
        expect(harness.sent).toEqual([])
        await name(2, 'all')
        expect(harness.sent).toEqual([
            {
                kind: 'choices',
                id: 'p',
                choices: [
                    { name: 'none', value: 0 },
                    { name: 'all', value: 10 },
                ],
            },
        ])
    })
})

describe('taking by hand', () => {
    async function taken() {
        fill()
        const runs = useRuns()
        await runs.refresh()
        useView().playhead = 1
        await show(GripField, { thing: stock })
        button('Take by hand')?.click()
        await settle()
        return runs
    }

    it('begins with the value at the playhead, and every signal with numbers that make sense', async () => {
        const runs = await taken()
        expect(runs.present.grips.s).toEqual({ signal: 'constant', values: { value: 4 } })
        const signals = [
            ['step', 'Step'],
            ['ramp', 'Ramp'],
            ['wave', 'Wave'],
            ['pulses', 'Repeated pulses'],
            ['window', 'Window'],
            ['drawn', 'Drawn by hand'],
            ['constant', 'Constant'],
        ] as const
        for (const [signal, words] of signals) {
            expect(await pick('Signal', words)).toBe(true)
            const grip = runs.present.grips.s
            expect(grip?.signal).toBe(signal)
            const v = grip?.values ?? {}
            expect(v.to ?? Infinity).toBeGreaterThan(v.at ?? 0)
            expect(v.every ?? Infinity).toBeGreaterThanOrEqual(v.width ?? 0)
        }
    })

    it('is set by numbers and by keys on its handles, and let go', async () => {
        const runs = await taken()
        await pick('Signal', 'Step')
        await type('value', '12')
        await type('holds from', '1')
        await type('at', 'soon')
        expect(runs.present.grips.s).toMatchObject({ from: 1, values: { value: 12, at: 0.5 } })
        await type('holds from', '')
        expect(runs.present.grips.s?.from).toBeUndefined()
        const handle = harness.host.querySelectorAll('.handle')[1]
        handle?.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight', bubbles: true, cancelable: true }))
        await settle()
        expect(runs.present.grips.s?.values?.at).toBe(1.5)
        button('Switch it off for a while')?.click()
        await settle()
        expect(runs.present.grips.s?.on).toBe(false)
        expect(harness.host.querySelectorAll('.handle')).toHaveLength(0)
        button('Switch it on')?.click()
        await settle()
        button('Release')?.click()
        await settle()
        expect(runs.tried).toBe(false)
    })
})

describe('the table of scenarios', () => {
    const scenario = (id: string, more: Partial<Scenario> = {}): Scenario => ({
        id,
        name: id,
        note: '',
        on: [],
        setting: {},
        place: 1,
        ...more,
    })

    it('has a row for what any of them changes, says what an empty cell takes, and writes what is typed', async () => {
        fill({
            scenarios: {
                dry: scenario('dry', { setting: { parameters: { p: 1 }, time: { end: 5 } } }),
                wet: scenario('wet', { on: ['dry'], place: 2, resolved: { parameters: { p: 1 }, time: { end: 5 } } }),
            },
        })
        vi.spyOn(api, 'against').mockResolvedValue({ runs: [], times: [], rows: [] })
        await show(ScenarioStage)
        expect(field('rate in dry')?.value).toBe('1')
        expect((field('rate in wet') as HTMLInputElement).placeholder).toBe('1')
        expect((field('ends at in wet') as HTMLInputElement).placeholder).toBe('5')
        await type('rate in wet', '8')
        expect(harness.sent.at(-1)).toEqual({
            kind: 'scenario',
            id: 'wet',
            name: 'wet',
            note: '',
            on: ['dry'],
            place: 2,
            setting: { parameters: { p: 8 } },
        })
        await type('rate in dry', '')
        expect(harness.sent.at(-1)).toMatchObject({ id: 'dry', setting: { parameters: {}, time: { end: 5 } } })
        const count = harness.sent.length
        await type('rate in dry', 'lots')
        expect(harness.sent).toHaveLength(count)
        await pick('What dry builds on', 'wet')
        expect(harness.sent.at(-1)).toMatchObject({ id: 'dry', on: ['wet'] })
        await pick('Add a row', 'time: method')
        expect(harness.host.querySelector('[role="combobox"][aria-label="method in dry"]')).not.toBeNull()
    })

    it('begins a scenario with what is tried', async () => {
        fill()
        useRuns().leave('p', 9)
        await show(ScenarioStage)
        button('New scenario from the present setting')?.click()
        expect(harness.sent.at(-1)).toMatchObject({ kind: 'scenario', name: 'Scenario 1', setting: { parameters: { p: 9 } } })
    })
})

describe('a trail', () => {
    it('opens step by step, marks loops, and keeps what it said', async () => {
        fill()
        useView().trail = 's'
        const ask = vi.spyOn(api, 'trail').mockImplementation((_, q) =>
            Promise.resolve({
                element: q.element,
                time: 1,
                value: 4,
                rate: 1,
                rest: 0,
                causes:
                    q.element === 's'
                        ? [{ cause: 'a', change: 1 }]
                        : [
                              { cause: 's', change: 0.6 },
                              { cause: 'p', change: -0.2 },
                              { cause: 'time', change: 0.1 },
                          ],
            }),
        )
        await useRuns().refresh()
        await show(TrailStage)
        await settle()
        expect(harness.host.textContent).toContain('its causes add up to that')
        button('Open need')?.click()
        await settle()
        expect(ask).toHaveBeenCalledTimes(2)
        expect(harness.host.textContent).toContain('closes a loop')
        expect(harness.host.textContent).toContain('time itself')
        expect(button('Open rate')).toBeUndefined()
        await pick('Which way', 'What follows from')
        expect(ask.mock.lastCall?.[1]).toMatchObject({ towards: 'effects' })
    })
})

describe('the logbook', () => {
    it('tells what was changed before each run and goes back to a setting', async () => {
        fill()
        const logged = (id: number, more: Partial<LoggedRun>): LoggedRun => ({
            id,
            revision: 0,
            settings: {},
            scenario: '',
            starred: false,
            comment: '',
            made: '2031-04-01T10:00:00Z',
            edits: [],
            setting: [],
            ...more,
        })
        vi.useFakeTimers()
        vi.spyOn(api, 'logbook').mockResolvedValue([
            logged(2, { settings: { parameters: { p: 5 } }, setting: ['rate: 3 → 5'], edits: ['Renamed `x`'] }),
            logged(1, {}),
        ])
        vi.spyOn(api, 'changes').mockResolvedValue([])
        const remark = vi.spyOn(api, 'remark').mockResolvedValue([logged(2, { starred: true })])
        await show(LogbookStage)
        await vi.advanceTimersByTimeAsync(300)
        vi.useRealTimers()
        await settle()
        expect(harness.host.textContent).toContain('Renamed `x`')
        expect(harness.host.textContent).toContain('the baseline of revision 0')
        button('Go back to it')?.click()
        await settle()
        expect(useRuns().setting).toEqual({ parameters: { p: 5 } })
        harness.host.querySelector<HTMLButtonElement>('li .icon-button')?.click()
        await settle()
        expect(remark).toHaveBeenCalledWith('', 2, { starred: true })
        expect(useCourses().called).toEqual([])
    })
})
