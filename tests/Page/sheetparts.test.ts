import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Edge, Node, VueFlowStore } from '@vue-flow/core'
import { effectScope, h, nextTick, ref, shallowRef, type Component, type EffectScope } from 'vue'
import { api, ConnectionError, ProblemError } from '@/api/client'
import type { Thing } from '@/api/types'
import NameField from '@/canvas/NameField.vue'
import { useNearby } from '@/canvas/useNearby'
import { useRest } from '@/canvas/useRest'
import CurveField from '@/card/CurveField.vue'
import ThingCard from '@/card/ThingCard.vue'
import { useNamePreview } from '@/card/useNamePreview'
import KeysDialog from '@/shell/KeysDialog.vue'
import { useKeys } from '@/stores/keys'
import { useView } from '@/stores/view'
import { harness } from './harness'
import { aThing } from './make'

let scope: EffectScope
beforeEach(() => {
    harness.begin()
    scope = effectScope()
    vi.useFakeTimers()
})
afterEach(() => {
    scope.stop()
    vi.useRealTimers()
    harness.end()
})
const inScope = <T>(make: () => T) => scope.run(make) as T

describe('the rest of the pointer on a thing', () => {
    const escape = () => {
        const event = new KeyboardEvent('keydown', { key: 'Escape', bubbles: true, cancelable: true })
        const heard = vi.fn()
        window.addEventListener('keydown', heard, { once: true })
        document.body.dispatchEvent(event)
        window.removeEventListener('keydown', heard)
        return heard.mock.calls.length > 0
    }

    it('counts after a while, and not when the pointer only passes', () => {
        const rest = inScope(() => useRest(() => false))
        rest.enter('a')
        vi.advanceTimersByTime(300)
        expect(rest.resting.value).toBe('')
        rest.leave()
        rest.enter('b')
        vi.advanceTimersByTime(600)
        expect(rest.resting.value).toBe('b')
    })

    it('lasts while the pointer is on what came up, and a little longer', () => {
        const rest = inScope(() => useRest(() => false))
        rest.enter('a')
        vi.advanceTimersByTime(600)
        rest.leave()
        vi.advanceTimersByTime(200)
        rest.stay()
        vi.advanceTimersByTime(5000)
        expect(rest.resting.value).toBe('a')
        rest.leave()
        vi.advanceTimersByTime(500)
        expect(rest.resting.value).toBe('')
    })

    it('ends with Esc, which does nothing else then', async () => {
        const rest = inScope(() => useRest(() => false))
        expect(escape()).toBe(true)
        rest.enter('a')
        vi.advanceTimersByTime(600)
        await nextTick()
        expect(escape()).toBe(false)
        expect(rest.resting.value).toBe('')
        await nextTick()
        expect(escape()).toBe(true)
    })

    it('does not count where something else goes on', () => {
        const busy = ref(true)
        const rest = inScope(() => useRest((node) => busy.value || node === 'selected'))
        rest.enter('a')
        vi.advanceTimersByTime(600)
        expect(rest.resting.value).toBe('')
        busy.value = false
        rest.enter('selected')
        vi.advanceTimersByTime(600)
        expect(rest.resting.value).toBe('')
    })
})

describe('what lies near the window', () => {
    /** So many things in rows of fifty, 100 apart, each linked to the first. */
    function sheet(count: number) {
        const nodes = shallowRef<Node[]>(
            Array.from(
                { length: count },
                (_, i) => ({ id: `n${i}`, position: { x: 100 * (i % 50), y: 100 * Math.floor(i / 50) }, width: 50, height: 20 }) as Node,
            ),
        )
        const edges = shallowRef<Edge[]>(nodes.value.slice(1).map((n) => ({ id: `e${n.id}`, source: 'n0', target: n.id }) as Edge))
        const viewport = ref({ x: 0, y: 0, zoom: 1 })
        const pictured = ref(false)
        const near = inScope(() =>
            useNearby(nodes, edges, { viewport, dimensions: ref({ width: 500, height: 300 }) } as unknown as VueFlowStore, pictured),
        )
        const drawn = () => nodes.value.filter((n) => near.isNear(n.id)).map((n) => n.id)
        return { near, nodes, edges, viewport, pictured, drawn }
    }
    const settled = async () => {
        await nextTick()
        vi.advanceTimersByTime(1000)
    }

    it('is everything on a small sheet', () => {
        const { near, drawn } = sheet(400)
        expect([drawn().length, near.many.value, near.isNear('anything')]).toEqual([400, false, true])
    })

    it('is what is in the window and a margin, however far the sheet goes', async () => {
        const { near, viewport, drawn } = sheet(2000)
        await settled()
        const expected = (left: number) => (i: number) =>
            100 * (i % 50) < left + 800 && 100 * (i % 50) + 50 > left - 300 && 100 * Math.floor(i / 50) < 480
        const ids = (test: (i: number) => boolean) =>
            Array.from({ length: 2000 }, (_, i) => i)
                .filter(test)
                .map((i) => `n${i}`)
        expect(drawn()).toEqual(ids(expected(0)))
        // A little move changes nothing; one beyond the margin does.
        viewport.value = { x: -250, y: 0, zoom: 1 }
        await settled()
        expect(drawn()).toEqual(ids(expected(0)))
        viewport.value = { x: -2000, y: 0, zoom: 1 }
        await settled()
        expect(drawn()).toEqual(ids(expected(2000)))
        // A link across the window is drawn, though both its ends lie outside; one that passes by is not.
        expect(near.isNear('en49')).toBe(true)
        expect(near.isNear('en3')).toBe(false)
    })

    it('comes in portions, and goes at once when the sheet is a picture', async () => {
        const { near, pictured, drawn } = sheet(2000)
        expect([near.filling.value, drawn().length, near.isNear('en3')]).toEqual([true, 40, false])
        await settled()
        expect([near.filling.value, drawn().length, near.isNear('en3')]).toEqual([false, 40, true])
        pictured.value = true
        await nextTick()
        expect([near.filling.value, drawn()]).toEqual([false, []])
    })
})

describe('a name while it is typed', () => {
    const formula = { element: 'b', name: 'b', was: 'a * 2', now: 'lens * 2' }

    it('tells which formulas follow, once the typing rests', async () => {
        const asked = vi.spyOn(api, 'preview').mockResolvedValue([formula])
        const name = ref('a')
        const { followers } = inScope(() => useNamePreview(() => aThing('a'), name))
        for (const text of ['l', 'le', 'lens']) {
            name.value = text
            await nextTick()
            vi.advanceTimersByTime(100)
        }
        await vi.advanceTimersByTimeAsync(300)
        expect(asked.mock.calls.map((c) => c[1])).toEqual([{ kind: 'rename', id: 'a', name: 'lens' }])
        expect(followers.value).toEqual([formula])
        name.value = 'a '
        await nextTick()
        expect(followers.value).toEqual([])
    })

    it('says at once why it cannot be, and keeps silent when nobody answers', async () => {
        const name = ref('a')
        const { refusal } = inScope(() => useNamePreview(() => aThing('a'), name))
        for (const [error, sentence] of [
            [new ProblemError(422, 'name.taken', 'Names are unique.', {}), 'Names are unique.'],
            [new ConnectionError(), ''],
            [new ProblemError(500, 'trouble', 'Oh.', {}), ''],
        ] as const) {
            vi.spyOn(api, 'preview').mockRejectedValue(error)
            name.value = `b${sentence.length}${error.message.length}`
            await nextTick()
            await vi.advanceTimersByTimeAsync(300)
            expect(refusal.value).toBe(sentence)
        }
    })

    it('is not answered by what was asked for an older one', async () => {
        const answers: ((list: (typeof formula)[]) => void)[] = []
        vi.spyOn(api, 'preview').mockImplementation(
            () =>
                new Promise((resolve) => {
                    answers.push(resolve)
                }),
        )
        const name = ref('a')
        const { followers } = inScope(() => useNamePreview(() => aThing('a'), name))
        for (const text of ['one', 'two']) {
            name.value = text
            await nextTick()
            await vi.advanceTimersByTimeAsync(300)
        }
        answers[1]?.([{ ...formula, now: 'two * 2' }])
        answers[0]?.([{ ...formula, now: 'one * 2' }])
        await vi.advanceTimersByTimeAsync(1)
        expect(followers.value.map((f) => f.now)).toEqual(['two * 2'])
    })

    it('says on the sheet how many follow', async () => {
        vi.spyOn(api, 'preview').mockResolvedValue([formula, { ...formula, element: 'c' }])
        useView().naming = 'a'
        await harness.show(NameField, { thing: aThing('a') })
        const input = harness.host.querySelector('input') as HTMLInputElement
        input.value = 'lens'
        input.dispatchEvent(new Event('input'))
        await nextTick()
        await vi.advanceTimersByTimeAsync(300)
        await nextTick()
        expect(harness.host.querySelector('[role=status]')?.textContent).toBe('2 formulas follow')
    })
})

describe('what is being typed on a card', () => {
    /** Shows a part of a card, types into one of its fields, and changes something else about the thing. */
    async function typed(part: Component, label: string, before: Thing, after: Thing, text: string): Promise<string> {
        const thing = shallowRef(before)
        await harness.show({ render: () => h(part, { thing: thing.value }) })
        const field = harness.host.querySelector<HTMLInputElement | HTMLTextAreaElement>(label) as HTMLInputElement
        field.value = text
        field.dispatchEvent(new Event('input'))
        await nextTick()
        thing.value = after
        await nextTick()
        const { value } = field
        harness.leave()
        return value
    }
    const curve = aThing('c', {
        kind: 'curve',
        formula: '',
        points: [
            [0, 1],
            [1, 2],
        ],
        between: 'straight',
        beyond: 'held',
    })
    const stock = aThing('s', { kind: 'stock' })

    it('stays when the thing changes elsewhere meanwhile', async () => {
        vi.spyOn(api, 'preview').mockResolvedValue([])
        expect(
            await typed(
                CurveField,
                'textarea',
                curve,
                {
                    ...curve,
                    name: 'shade',
                    points: [
                        [0, 1],
                        [1, 2],
                    ],
                },
                '0 0',
            ),
        ).toBe('0 0')
        expect(await typed(ThingCard, 'textarea.name', stock, { ...stock, unit: 't' }, 'lens')).toBe('lens')
        expect(await typed(ThingCard, 'input[aria-label=Unit], #unit-s', stock, { ...stock, name: 'lens' }, 'm^3')).toBe('m^3')
    })

    it('gives way to what was written elsewhere into the same field', async () => {
        vi.spyOn(api, 'preview').mockResolvedValue([])
        expect(
            await typed(
                CurveField,
                'textarea',
                curve,
                {
                    ...curve,
                    points: [
                        [0, 5],
                        [1, 2],
                    ],
                },
                '0 0',
            ),
        ).toBe('0\t5\n1\t2')
        expect(await typed(ThingCard, 'textarea.name', stock, { ...stock, name: 'lagoon' }, 'lens')).toBe('lagoon')
    })
})

describe('the list of keys', () => {
    const press = (key: string, more: KeyboardEventInit = {}) =>
        document.querySelector('.columns')?.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }))
    const told = () => document.querySelector('p[role=status]')?.textContent ?? ''
    const at = (words: string) =>
        [...document.querySelectorAll<HTMLElement>('button')].find((b) => b.getAttribute('aria-label')?.startsWith(words))

    it('takes the next key for an act, but not one with Ctrl, nor Esc', async () => {
        vi.useRealTimers()
        useView().over = 'keys'
        await harness.show(KeysDialog)
        await harness.settle()
        at('Change the key for: add a stock.')?.click()
        await nextTick()
        expect(told()).toContain('Press the key for “add a stock”')
        press('Shift')
        press('w', { ctrlKey: true })
        await nextTick()
        expect(told()).toContain('A single key, please')
        press('Enter')
        await nextTick()
        expect(told()).toContain('means the same everywhere')
        press('w')
        await nextTick()
        expect([useKeys().word('stock'), told()]).toEqual(['W', 'W: add a stock.'])
        at('Change the key for: add a stock.')?.click()
        await nextTick()
        press('Escape')
        press('x')
        await nextTick()
        expect(useKeys().word('stock')).toBe('W')
        at('No key for: play and pause')?.click()
        await nextTick()
        expect(useKeys().word('play')).toBe('')
        ;[...document.querySelectorAll('button')].find((b) => b.textContent?.includes('As usual'))?.click()
        expect(useKeys().isUsual).toBe(true)
    })
})
