import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick, ref } from 'vue'
import type { Kind, Thing } from '@/api/types'
import type { Pull } from '@/canvas/usePull'
import { endId, flowOfEnd, useSheet } from '@/canvas/useSheet'
import { useSheetKeys } from '@/canvas/useSheetKeys'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { usePage } from '@/stores/page'
import { useView } from '@/stores/view'

beforeEach(() => {
    HTMLCanvasElement.prototype.getContext = () => null
    window.matchMedia = vi.fn().mockReturnValue({ matches: false })
    localStorage.clear()
    setActivePinia(createPinia())
})

function fill(
    things: Partial<Thing>[],
    placements: Record<string, object> = {},
    links: { from: string; to: string; kind: 'now' | 'start' | 'unused' }[] = [],
) {
    const model = useModel()
    const all = things.map(
        (t) => ({ name: t.id, written: t.id, formula: '1', unit: '', note: '', kind: 'auxiliary' as Kind, ...t }) as Thing,
    )
    model.model = {
        ...model.model,
        order: all.map((t) => t.id),
        elements: Object.fromEntries(all.map((t) => [t.id, t])),
        placements: placements as never,
        links,
    }
}

describe('things as nodes and edges', () => {
    it('a thing stands with its middle where it is placed', () => {
        fill([{ id: 's', kind: 'stock' }], { s: { at: { x: 200, y: 100 } } })
        expect(useSheet().nodes.value).toMatchObject([{ id: 's', type: 'stock', position: { x: 138, y: 64 }, width: 124, height: 72 }])
    })

    it('a flow has a gate, and a horizon for each end that is outside', () => {
        fill(
            [
                { id: 's', kind: 'stock' },
                { id: 'f', kind: 'flow', from: null, to: 's' },
                { id: 'g', kind: 'flow', from: null, to: null },
            ],
            { s: { at: { x: 300, y: 100 } }, f: { at: { x: 200, y: 120 } }, g: { at: { x: 0, y: 0 }, source: { x: -90, y: 5 } } },
        )
        const { nodes, edges } = useSheet()
        expect(nodes.value.map((n) => n.id)).toEqual(['s', 'f', 'f~source', 'g', 'g~source', 'g~target'])
        expect(edges.value.map((e) => [e.id, e.source, e.target])).toEqual([
            ['ribbon:f', 'f~source', 's'],
            ['ribbon:g', 'g~source', 'g~target'],
        ])
        const middle = (id: string) => {
            const n = nodes.value.find((one) => one.id === id)
            return n && { x: n.position.x + 7, y: n.position.y + 15 }
        }
        // Without a place of its own the outside lies opposite the stock.
        expect(middle('f~source')).toEqual({ x: 100, y: 140 })
        expect(middle('g~source')).toEqual({ x: -90, y: 5 })
        expect(middle('g~target')).toEqual({ x: 90, y: -5 })
        expect(flowOfEnd(endId('f', 'source'))).toBe('f')
    })

    it('links carry how they act, and those to nowhere are not drawn', () => {
        fill([{ id: 'a' }, { id: 'b' }], {}, [
            { from: 'a', to: 'b', kind: 'start' },
            { from: 'gone', to: 'b', kind: 'now' },
            { from: 'b', to: 'a', kind: 'unused' },
        ])
        expect(useSheet().edges.value.map((e) => [e.source, e.target, (e.data as { kind: string }).kind])).toEqual([
            ['a', 'b', 'start'],
            ['b', 'a', 'unused'],
        ])
    })
})

describe('keys on the sheet', () => {
    function keys() {
        const stage = document.createElement('div')
        const pull = ref<Pull | null>(null)
        const acts = {
            pull,
            add: vi.fn(),
            finish: vi.fn(),
            cancel: vi.fn(),
            remove: vi.fn(),
            travel: vi.fn(),
            nudge: vi.fn(),
            pickLink: vi.fn(),
            bend: vi.fn(),
            echo: vi.fn(),
            track: vi.fn(),
            fit: vi.fn(),
            fitSelection: vi.fn(),
            held: { c: vi.fn() },
        }
        const { key } = useSheetKeys(ref(stage), acts)
        const press = (name: string, more: KeyboardEventInit = {}, target: HTMLElement = stage) => {
            const event = new KeyboardEvent('keydown', { key: name, cancelable: true, ...more })
            Object.defineProperty(event, 'target', { value: target })
            key(event)
            return event.defaultPrevented
        }
        return { acts, press, pull }
    }

    it('add, travel, move, and delete', () => {
        const { acts, press } = keys()
        useView().select('a')
        expect([
            press('s'),
            press('A'),
            press('p'),
            press('c'),
            press('t'),
            press('ArrowLeft'),
            press('ArrowDown', { ctrlKey: true }),
            press('Delete'),
        ]).toEqual(Array(8).fill(true))
        expect(acts.add.mock.calls).toEqual([['stock'], ['auxiliary'], ['parameter'], ['curve']])
        expect(acts.travel).toHaveBeenCalledWith(-1, 0, false)
        expect(acts.nudge).toHaveBeenCalledWith(['a'], 0, 10)
        expect(acts.remove).toHaveBeenCalledOnce()
        expect(acts.track).toHaveBeenCalledOnce()
    })

    it('leave other keys, shortcuts and fields alone', () => {
        const { acts, press } = keys()
        expect([
            press('x'),
            press('s', { ctrlKey: true }),
            press('s', { metaKey: true }),
            press('ArrowLeft', { altKey: true }),
            press('s', {}, document.createElement('input')),
        ]).toEqual([false, false, false, false, false])
        expect(acts.add).not.toHaveBeenCalled()
    })

    it('open the formula and the name of what is selected, and go back to rest', () => {
        const { press } = keys()
        const view = useView()
        press('Enter')
        expect(view.saying).toBe('')
        view.select('a')
        press('Enter')
        expect(view.saying).toBe('a')
        press('Escape')
        expect(view.selection).toEqual([])
        expect(view.saying).toBe('')
        view.select('a')
        press('F2')
        expect(view.naming).toBe('a')
    })

    it('end or give up a pull', () => {
        const { acts, press, pull } = keys()
        pull.value = { kind: 'link', thing: 'a', node: 'a', to: { x: 0, y: 0 } }
        press('Enter')
        press('Escape')
        expect(acts.finish).toHaveBeenCalledOnce()
        expect(acts.cancel).toHaveBeenCalledOnce()
    })

    it('keep what is typed before the name field is there', () => {
        const { acts, press } = keys()
        const view = useView()
        view.adding = true
        for (const letter of 'sap') {
            press(letter)
        }
        press('Shift')
        expect(view.typedAhead).toBe('sap')
        expect(acts.add).not.toHaveBeenCalled()
    })
})

describe('what is looked at', () => {
    it('a selection elsewhere closes the open formula', () => {
        const view = useView()
        view.select('a')
        view.saying = 'a'
        view.select('a')
        expect(view.saying).toBe('a')
        view.select('b', 'c')
        expect(view.saying).toBe('')
        expect(view.selected).toBeUndefined()
    })

    it('the theme follows the system until it is chosen', async () => {
        window.matchMedia = vi.fn().mockReturnValue({ matches: true })
        setActivePinia(createPinia())
        expect(usePage().theme).toBe('dark')
        usePage().changeTheme()
        await nextTick()
        setActivePinia(createPinia())
        expect(usePage().theme).toBe('light')
    })
})

describe('notices', () => {
    it('go by themselves after ten seconds, and never pile up', () => {
        vi.useFakeTimers()
        const notices = useNotices()
        for (let i = 0; i < 6; i++) {
            notices.say(`number ${i}`)
        }
        expect(notices.all.map((n) => n.words)).toEqual(['number 3', 'number 4', 'number 5'])
        notices.trouble('trouble')
        expect(notices.all.at(-1)?.tone).toBe('trouble')
        vi.advanceTimersByTime(10_001)
        expect(notices.all).toEqual([])
        vi.useRealTimers()
    })
})
