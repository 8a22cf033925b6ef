import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { diagnosticsOf, unitsOf } from '@/card/formulaEditor'
import { useTyped } from '@/card/useTyped'
import { newId } from '@/ui/ids'
import { usePull } from '@/canvas/usePull'
import { api } from '@/api/client'
import type { Problem } from '@/api/types'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { aThing } from './make'

const problem = (from: number | null, length: number | null): Problem => ({
    code: 'x',
    sentence: 'Not so.',
    element: 'a',
    field: 'formula',
    from,
    length,
    severity: 'wrong',
})

describe('places in formulas', () => {
    it('are counted in characters by the engine and in UTF-16 units by the browser', () => {
        expect(unitsOf('"𝛼" + rian', 4)).toBe(5)
        expect(diagnosticsOf('"𝛼" + rian', [problem(6, 4)])).toMatchObject([{ from: 7, to: 11, message: 'Not so.' }])
    })

    it('never lie outside the text', () => {
        expect(diagnosticsOf('ab', [problem(5, 9)])).toMatchObject([{ from: 2, to: 2 }])
        expect(diagnosticsOf('ab', [problem(null, null)])).toEqual([])
    })
})

describe('drafts', () => {
    beforeEach(() => {
        localStorage.clear()
        window.matchMedia = vi.fn().mockReturnValue({ matches: false })
        setActivePinia(createPinia())
        useModel().id = 'm1'
    })

    it('are kept per model and thing until they say what is given anyway', () => {
        const drafts = useTyped()
        drafts.keep('a', '2 * (', '2')
        expect(drafts.of('a')).toBe('2 * (')
        expect(drafts.of('b')).toBeNull()
        useModel().id = 'm2'
        expect(drafts.of('a')).toBeNull()
        useModel().id = 'm1'
        drafts.keep('a', ' 2 ', '2')
        expect(drafts.of('a')).toBeNull()
        drafts.keep('a', '3', '2')
        drafts.drop('a')
        expect(drafts.of('a')).toBeNull()
    })
})

describe('pulling out of a ring', () => {
    beforeEach(() => {
        window.matchMedia = vi.fn().mockReturnValue({ matches: false })
        setActivePinia(createPinia())
        const model = useModel()
        const stock = (id: string) => aThing(id, { kind: 'stock' })
        model.model = {
            ...model.model,
            order: ['s', 't', 'p'],
            elements: { s: stock('s'), t: stock('t'), p: { ...stock('p'), kind: 'parameter' } },
            placements: { s: { at: { x: 0, y: 0 } }, t: { at: { x: 200, y: 100 } } },
        }
        vi.spyOn(api, 'edit').mockImplementation((_, { base }) => Promise.resolve({ since: base, revision: base + 1, done: [] }))
    })

    afterEach(() => {
        vi.restoreAllMocks()
    })

    const sent = () => vi.mocked(api.edit).mock.calls.map((c) => c[2][0]?.edit)

    it('an outflow to empty paper goes outside, where it was let go', async () => {
        const { begin, finish } = usePull()
        begin('outflow', 's', { x: 0, y: 0 })
        await finish(undefined, { x: 240.4, y: 20 })
        expect(sent()).toMatchObject([
            { kind: 'add', element: 'flow', from: 's', to: null, placement: { at: { x: 148, y: 12 }, target: { x: 240, y: 20 } } },
        ])
        expect(sent()[0]).toMatchObject({ id: useView().naming })
    })

    it('an inflow from another stock joins the two', async () => {
        const { begin, finish } = usePull()
        begin('inflow', 's', { x: 0, y: 0 })
        await finish(useModel().model.elements.t, { x: 190, y: 90 })
        expect(sent()).toMatchObject([{ from: 't', to: 's', placement: { at: { x: 100, y: 50 } } }])
        expect(sent()[0]).not.toHaveProperty('placement.source')
    })

    it('a flow onto itself is nothing, and what is no stock counts as outside', async () => {
        const { begin, finish } = usePull()
        begin('outflow', 's', { x: 0, y: 0 })
        await finish(useModel().model.elements.s, { x: 5, y: 5 })
        expect(sent()).toEqual([])
        begin('outflow', 's', { x: 0, y: 0 })
        await finish(useModel().model.elements.p, { x: 50, y: 50 })
        expect(sent()).toMatchObject([{ from: 's', to: null }])
    })

    it('a link joins two things, and makes the other end on empty paper', async () => {
        const { begin, finish, pull, cancel } = usePull()
        begin('link', 'p', { x: 0, y: 0 })
        await finish(useModel().model.elements.s, { x: 0, y: 0 })
        begin('link', 'p', { x: 0, y: 0 })
        await finish(undefined, { x: 70, y: 80 })
        expect(sent()).toMatchObject([
            { kind: 'connect', from: 'p', to: 's' },
            { kind: 'add', element: 'auxiliary' },
            { kind: 'connect', from: 'p' },
        ])
        begin('link', 'p', { x: 0, y: 0 })
        cancel()
        expect(pull.value).toBeNull()
        await finish(useModel().model.elements.s, { x: 0, y: 0 })
        expect(sent()).toHaveLength(3)
    })

    it('new ids fit the engine and differ', () => {
        const ids = Array.from({ length: 500 }, newId)
        expect(new Set(ids).size).toBe(500)
        expect(ids.every((id) => /^[a-z][a-z0-9-]{0,39}$/.test(id))).toBe(true)
    })
})
