import { createPinia, setActivePinia, type Pinia } from 'pinia'
import { controls } from '@/ui/controls'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { type App, type Component, createApp, nextTick } from 'vue'
import { api, ProblemError } from '@/api/client'
import type { Edit, Thing } from '@/api/types'
import CurveField from '@/card/CurveField.vue'
import FlowRules from '@/card/FlowRules.vue'
import HealthCheck from '@/card/HealthCheck.vue'
import StockRules from '@/card/StockRules.vue'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'

let pinia: Pinia
let app: App | undefined
let host: HTMLElement

beforeEach(() => {
    HTMLCanvasElement.prototype.getContext = () => null
    window.matchMedia = vi.fn().mockReturnValue({ matches: false, addEventListener: vi.fn(), removeEventListener: vi.fn() })
    localStorage.clear()
    pinia = createPinia()
    setActivePinia(pinia)
    host = document.createElement('div')
    document.body.append(host)
})
afterEach(() => {
    app?.unmount()
    host.remove()
    vi.restoreAllMocks()
})

/** Shows a part of the card; what it would send to the engine is gathered. */
function show(component: Component, thing: Partial<Thing>, others: Partial<Thing>[] = [], refusal = '') {
    const model = useModel()
    const full = (t: Partial<Thing>) =>
        ({ id: 'x', name: 'x', written: 'x', kind: 'stock', formula: '', unit: '', note: '', ...t }) as Thing
    const all = [full(thing), ...others.map(full)]
    model.model = { ...model.model, order: all.map((t) => t.id), elements: Object.fromEntries(all.map((t) => [t.id, t])) }
    const sent: Edit[] = []
    const take = (edit: Edit) => {
        sent.push(edit)
        return refusal ? Promise.reject(new ProblemError(422, 'curve.points', refusal, {})) : Promise.resolve()
    }
    vi.spyOn(model, 'edit').mockImplementation(take as never)
    vi.spyOn(model, 'attempt').mockImplementation(take as never)
    app = createApp(component, { thing: all[0] })
    app.use(pinia)
    app.use(controls)
    app.mount(host)
    return sent
}

async function write(selector: string, value: string) {
    const field = host.querySelector<HTMLInputElement | HTMLTextAreaElement>(selector)
    if (!field) {
        throw new Error(`There is no ${selector}`)
    }
    field.value = value
    field.dispatchEvent(new Event('input'))
    field.dispatchEvent(new Event('change'))
    await nextTick()
    await nextTick()
}

async function check(index: number, checked: boolean) {
    const box = host.querySelectorAll<HTMLInputElement>('input[type=checkbox]')[index]
    if (!box) {
        throw new Error('There is no such box')
    }
    box.checked = checked
    box.dispatchEvent(new Event('change'))
    await nextTick()
}

describe('the points of a curve', () => {
    const curve: Partial<Thing> = {
        id: 'c',
        kind: 'curve',
        name: 'bend',
        written: 'bend',
        points: [
            [0, 1],
            [10, 0.5],
        ],
        path: [
            [0, 1],
            [10, 0.5],
        ],
        between: 'straight',
        beyond: 'held',
        inputUnit: '',
    }

    it('are shown as a table and as a picture with a text alternative', () => {
        show(CurveField, curve)
        expect(host.querySelector('textarea')?.value).toBe('0\t1\n10\t0.5')
        expect(host.querySelector('svg')?.getAttribute('aria-label')).toBe('bend: 2 points from x = 0 to 10')
        // From the upper left to the lower right, within the frame; zero is in sight.
        const [x1, y1, x2, y2] = (
            host
                .querySelector('path')
                ?.getAttribute('d')
                ?.match(/[\d.]+/g) ?? []
        ).map(Number) as [number, number, number, number]
        expect([x1 > 0, x2 < 300, x1 < x2, y1 > 0, y1 < y2, y2 < 170]).toEqual([true, true, true, true, true, true])
        expect(host.querySelectorAll('circle')).toHaveLength(2)
        expect(host.textContent).toContain('bend(input)')
    })

    it.each([
        [
            'with spaces',
            '0 2\n5 3',
            [
                [0, 2],
                [5, 3],
            ],
        ],
        [
            'with tabs, from a spreadsheet',
            '0\t2\r\n5\t3\n\n',
            [
                [0, 2],
                [5, 3],
            ],
        ],
        [
            'with commas',
            '0, 2\n1e1; -3.5',
            [
                [0, 2],
                [10, -3.5],
            ],
        ],
        ['none at all', '  ', []],
    ])('are read %s', async (_, text, points) => {
        const sent = show(CurveField, curve)
        await write('textarea', text)
        expect(sent).toEqual([{ kind: 'curve', id: 'c', points }])
    })

    it.each([
        ['0 2\n5', 'Line 2'],
        ['0 2\nfive 3', 'Line 2'],
        ['1 2 3', 'Line 1'],
    ])('%j is no table, and the line is named', async (text, line) => {
        const sent = show(CurveField, curve)
        await write('textarea', text)
        expect(sent).toEqual([])
        expect(host.querySelector('[role=alert]')?.textContent).toContain(`${line} is no pair of numbers`)
        expect(host.querySelector('textarea')?.value).toBe(text)
    })

    it('that the engine refuses stay, with its sentence', async () => {
        show(CurveField, curve, [], 'The x values must increase.')
        await write('textarea', '3 1\n2 1')
        expect(host.querySelector('[role=alert]')?.textContent).toBe('The x values must increase.')
        expect(host.querySelector('textarea')?.value).toBe('3 1\n2 1')
    })

    it('of a series are times and values, without a unit of the input', () => {
        show(CurveField, { ...curve, kind: 'series', name: 'rain', written: 'rain' })
        expect(host.textContent).toContain('Times and values')
        expect(host.textContent).toContain('at(rain, time - 1)')
        expect(host.querySelector('[id^=input-unit]')).toBeNull()
    })
})

describe('rules of stocks and flows', () => {
    it('a stock is kept above zero, and travels', async () => {
        const sent = show(StockRules, { id: 's', neverNegative: false, travel: '' })
        await check(0, true)
        await write('#travel-s', 'way / 2')
        expect(sent).toEqual([
            { kind: 'stock', id: 's', neverNegative: true },
            { kind: 'stock', id: 's', travel: 'way / 2' },
        ])
    })

    it('what is wrong with a travel time is said beneath it', () => {
        const model = useModel()
        model.model = {
            ...model.model,
            problems: [
                {
                    code: 'name.unknown',
                    sentence: 'Nothing is called `wy`.',
                    element: 's',
                    field: 'travel',
                    from: 0,
                    length: 2,
                    severity: 'wrong',
                },
            ],
        }
        show(StockRules, { id: 's', travel: 'wy' })
        expect(host.querySelector('.trouble')?.textContent).toBe('Nothing is called wy.')
    })

    it('a flow has a turn only where others take from the same limited stock', async () => {
        const stock: Partial<Thing> = { id: 's', name: 'lens', kind: 'stock', neverNegative: true }
        const sent = show(FlowRules, { id: 'f', kind: 'flow', from: 's', to: null, oneWay: false, priority: null }, [
            stock,
            { id: 'g', kind: 'flow', from: 's', to: null },
        ])
        expect(host.textContent).toContain('Its turn to take from lens')
        await check(0, true)
        await write('input[type=number]', '2')
        await write('input[type=number]', '')
        expect(sent).toEqual([
            { kind: 'flow', id: 'f', oneWay: true },
            { kind: 'flow', id: 'f', priority: 2 },
            { kind: 'flow', id: 'f', priority: null },
        ])
    })

    it.each([
        ['alone', { neverNegative: true }, []],
        ['from a stock without limits', { neverNegative: false }, [{ id: 'g', kind: 'flow' as const, from: 's', to: null }]],
    ])('a flow %s has none', (_, rule, rivals) => {
        show(FlowRules, { id: 'f', kind: 'flow', from: 's', to: null }, [{ id: 's', kind: 'stock', ...rule }, ...rivals])
        expect(host.querySelector('input[type=number]')).toBeNull()
    })
})

describe('the check of the step', () => {
    const press = async () => {
        host.querySelector<HTMLButtonElement>('.button')?.click()
        await vi.waitFor(() => {
            expect(host.querySelector('.button')?.textContent).toContain('Check the step')
        })
        await nextTick()
    }

    it('says its verdict, and its rows lead to their things', async () => {
        vi.spyOn(api, 'health').mockResolvedValue({
            verdict: 'poor',
            sentence: 'The step is too long.',
            differences: [
                { element: 'x', name: 'kelp', what: 'stock', difference: 0.0345 },
                { element: 'f', name: 'grazing', what: 'accumulated flow', difference: 0 },
            ],
        })
        show(HealthCheck, {})
        await press()
        expect(host.querySelector('.poor')?.textContent).toBe('The step is too long.')
        expect([...host.querySelectorAll('.row')].map((r) => r.textContent)).toEqual(['kelp3.5 %', 'grazing in all0 %'])
        host.querySelector<HTMLElement>('.row')?.click()
        expect(useView().selected).toBe('x')
    })

    it('says why it cannot be made', async () => {
        vi.spyOn(api, 'health').mockRejectedValue(new ProblemError(422, 'run.limit', 'Choose a longer step.', {}))
        show(HealthCheck, {})
        await press()
        expect(host.querySelector('[role=alert]')?.textContent).toBe('Choose a longer step.')
    })
})
