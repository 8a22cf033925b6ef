import { nextTick } from 'vue'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it } from 'vitest'
import { KEY_ACTS, keyWord, useKeys } from '@/stores/keys'

const pressed = (key: string, more: KeyboardEventInit = {}) => new KeyboardEvent('keydown', { key, ...more })

describe('single keys', () => {
    beforeEach(() => {
        localStorage.clear()
        setActivePinia(createPinia())
    })

    it('are told apart: no two do the same', () => {
        expect(new Set(KEY_ACTS.map((a) => a.usual)).size).toBe(KEY_ACTS.length)
        const keys = useKeys()
        for (const act of KEY_ACTS) {
            expect(keys.actOf(pressed(act.usual))).toBe(act.name)
        }
    })

    it('do nothing together with others', () => {
        const keys = useKeys()
        for (const more of [{ ctrlKey: true }, { metaKey: true }, { altKey: true }]) {
            expect(keys.actOf(pressed('s', more))).toBeUndefined()
        }
        expect(keys.actOf(pressed('S', { shiftKey: true }))).toBe('stock')
        expect(keys.actOf(pressed('x'))).toBeUndefined()
    })

    it('change, and stay so in this browser', async () => {
        const keys = useKeys()
        expect(keys.change('stock', 'w')).toEqual({ changed: true, sentence: 'W: add a stock.' })
        expect([keys.actOf(pressed('w')), keys.actOf(pressed('s')), keys.isUsual]).toEqual(['stock', undefined, false])
        await nextTick()
        setActivePinia(createPinia())
        expect(useKeys().actOf(pressed('w'))).toBe('stock')
        useKeys().reset()
        await nextTick()
        expect([useKeys().word('stock'), useKeys().isUsual, localStorage.getItem('merry-orbit:keys')]).toEqual(['S', true, '{}'])
    })

    it('are exchanged with whoever has the wanted one, so that none is lost', () => {
        const keys = useKeys()
        expect(keys.change('stock', 'a').sentence).toBe('A: add a stock. “add an auxiliary” takes S.')
        expect([keys.word('stock'), keys.word('auxiliary')]).toEqual(['A', 'S'])
        expect(keys.change('stock', 's').sentence).toBe('S: add a stock. “add an auxiliary” takes A.')
        expect(keys.isUsual).toBe(true)
    })

    it('can be switched off, and given anew', () => {
        const keys = useKeys()
        expect(keys.change('play', '')).toEqual({ changed: true, sentence: 'No key: play and pause.' })
        expect([keys.word('play'), keys.actOf(pressed(' '))]).toEqual(['', undefined])
        expect(keys.change('play', 's').sentence).toBe('S: play and pause. “add a stock” has no key now.')
        expect(keys.change('play', 's')).toEqual({ changed: false, sentence: 'S it is.' })
    })

    it('leave those alone that mean the same everywhere', () => {
        const keys = useKeys()
        for (const key of ['Enter', 'Escape', 'Tab', 'Delete', 'ArrowLeft']) {
            expect(keys.change('stock', key)).toMatchObject({ changed: false })
        }
        expect(keys.isUsual).toBe(true)
    })

    it('come back as usual from a store that makes no sense', () => {
        for (const text of ['{', '[]', '{"stock":7,"fly":"x"}', 'null']) {
            localStorage.setItem('merry-orbit:keys', text)
            setActivePinia(createPinia())
            expect(useKeys().isUsual).toBe(true)
        }
    })

    it('are written as they stand on the keyboard', () => {
        expect([keyWord(' '), keyWord('s'), keyWord('F2'), keyWord('[')]).toEqual(['Space', 'S', 'F2', '['])
    })
})
