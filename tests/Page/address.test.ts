import { beforeEach, describe, expect, it, vi } from 'vitest'
import { createApp, defineComponent, h, nextTick } from 'vue'
import { createPinia, setActivePinia, type Pinia } from 'pinia'
import { createRouter, createWebHistory, type Router } from 'vue-router'
import { addressOf, isStep, lookedIn } from '@/shell/address'
import { useAddress } from '@/shell/useAddress'
import { useModel } from '@/stores/model'
import { useView, type Looked } from '@/stores/view'
import { aThing, things } from './make'

const USUAL: Looked = {
    place: 'model',
    stage: 'sheet',
    sheet: 'one',
    selection: [],
    plot: '',
    trail: '',
    run: 'shown',
    against: '',
    look: {},
    moment: 50,
}

describe('the words of an address', () => {
    it('tell what is not usual, and of a stage what belongs to it', () => {
        expect(addressOf('s1', USUAL)).toEqual({ path: '/studies/s1/model/sheet', query: { sheet: 'one', at: '50' } })
        const trail = {
            ...USUAL,
            place: 'try',
            stage: 'trail',
            sheet: 'two',
            selection: ['a', 'b'],
            plot: 'p',
            trail: 'a',
            against: 'baseline',
            moment: 1 / 3,
        }
        expect(addressOf('s1', trail).query).toEqual({ sheet: 'two', thing: 'a,b', trail: 'a', against: 'baseline', at: '0.333333' })
    })

    it('are read back as they were told', () => {
        for (const stage of ['sheet', 'plot', 'trail', 'values']) {
            const looked: Looked = { ...USUAL, stage, sheet: 'two', selection: ['a', 'b'], moment: 12.5 }
            if (stage === 'plot') {
                looked.plot = 'p1'
            }
            if (stage === 'trail') {
                Object.assign(looked, { trail: 'a', run: 'kept:3', against: 'baseline' })
            }
            const { query } = addressOf('s1', looked)
            const untold = stage === 'plot' || stage === 'trail' ? {} : { plot: '', trail: '', run: 'shown', against: '' }
            expect({ ...USUAL, ...untold, ...lookedIn(looked.place, stage, query) }).toEqual(looked)
        }
    })

    it('tell where the window looks along dimensions', () => {
        const look = { terrace: '*sum', age: 'seed', bay: '' }
        const { query } = addressOf('s1', { ...USUAL, look })
        expect(query.look).toBe('terrace:*sum,age:seed')
        expect(lookedIn('model', 'sheet', query).look).toEqual({ terrace: '*sum', age: 'seed' })
        expect(lookedIn('model', 'sheet', { look: 'terrace,:x,age:' }).look).toEqual({})
    })

    it('without a stage are only the place, and nonsense is nothing', () => {
        expect(lookedIn('try', '', {})).toEqual({ place: 'try' })
        expect(lookedIn('try', '', { at: 'soon', thing: ['a', 'b'], sheet: null })).toEqual({ place: 'try' })
        expect(lookedIn('try', 'values', { at: '' })).toEqual({ place: 'try', stage: 'values', sheet: '', selection: [], look: {} })
    })

    it('change by a step only when one goes somewhere', () => {
        expect(isStep(USUAL, { ...USUAL, selection: ['a'], moment: 3, run: 'kept:1' })).toBe(false)
        expect(isStep(USUAL, { ...USUAL, stage: 'atlas' })).toBe(true)
        expect(isStep(USUAL, { ...USUAL, sheet: 'two' })).toBe(true)
        const plots = { ...USUAL, place: 'try', stage: 'plot' }
        expect(isStep(plots, { ...plots, plot: 'p1' })).toBe(false)
        expect(isStep({ ...plots, plot: 'p1' }, { ...plots, plot: 'p2' })).toBe(true)
        expect(isStep({ ...plots, trail: 'a' }, { ...plots, trail: 'b' })).toBe(false)
    })
})

describe('the address of a window', () => {
    let pinia: Pinia
    let router: Router

    beforeEach(() => {
        vi.useFakeTimers()
        window.matchMedia = vi.fn().mockReturnValue({ matches: false })
        localStorage.clear()
        pinia = createPinia()
        setActivePinia(pinia)
    })

    async function pass(milliseconds = 0) {
        await nextTick()
        await vi.advanceTimersByTimeAsync(milliseconds + 20)
        await nextTick()
        await vi.advanceTimersByTimeAsync(20)
    }

    async function window_(address: string) {
        window.history.replaceState(null, '', address)
        router = createRouter({
            history: createWebHistory(),
            routes: [
                { path: '/', component: { render: () => null } },
                { path: '/studies/:study/:place?/:stage?', component: { render: () => null } },
            ],
        })
        const model = useModel()
        const view = useView()
        model.model = {
            ...model.model,
            sheets: [
                { id: 'one', name: 'One' },
                { id: 'two', name: 'Two' },
            ],
            order: ['a', 'b'],
            elements: things(aThing('a'), aThing('b')),
            placements: { b: { at: { x: 0, y: 0 }, sheet: 'two' } },
        }
        model.loaded = true
        let begin = () => {}
        const app = createApp(
            defineComponent({
                setup() {
                    begin = useAddress('s1').begin
                    return () => h('i')
                },
            }),
        )
        app.use(pinia).use(router)
        await router.push(address)
        app.mount(document.createElement('div'))
        begin()
        await pass(600)
        return { view, app }
    }
    const at = () => window.location.pathname + window.location.search

    it('is what is shown, and what is shown is the address', async () => {
        const { view, app } = await window_('/studies/s1/try/trail?trail=a&thing=b&at=20&against=baseline')
        expect([view.place, view.stage, view.trail, view.selection, view.playhead, view.against, view.sheet]).toEqual([
            'try',
            'trail',
            'a',
            ['b'],
            20,
            'baseline',
            'two',
        ])
        view.select('a')
        view.playhead = 30
        await pass(1000)
        expect(at()).toBe('/studies/s1/try/trail?sheet=two&thing=a&trail=a&against=baseline&at=30')
        app.unmount()
    })

    it('goes back and forward by steps, with what was picked at each', async () => {
        const { view, app } = await window_('/studies/s1')
        expect([view.place, view.stage, view.way.back]).toEqual(['model', 'sheet', undefined])
        view.select('a')
        await nextTick()
        view.goTo('b')
        await pass()
        expect(at()).toBe('/studies/s1/model/sheet?sheet=two&thing=b&at=0')
        view.go({ place: 'try', stage: 'values' })
        await pass()
        view.way.back?.()
        await pass(50)
        expect([view.place, view.sheet, view.selection]).toEqual(['model', 'two', ['b']])
        view.way.back?.()
        await pass(50)
        expect([view.sheet, view.selection, view.way.back]).toEqual(['one', ['a'], undefined])
        view.way.ahead?.()
        await pass(50)
        expect(view.sheet).toBe('two')
        await pass(1000)
        expect(at()).toBe('/studies/s1/model/sheet?sheet=two&thing=b&at=0')
        expect(view.way.ahead).toBeDefined()
        app.unmount()
    })

    it('of a place alone shows it as it was left, and what is gone is not looked for', async () => {
        const { view, app } = await window_('/studies/s1/try/logbook?thing=gone,a&plot=gone')
        expect([view.stage, view.selection]).toEqual(['logbook', ['a']])
        await router.push('/studies/s1/model')
        await pass(600)
        expect([view.place, view.stage, view.selection]).toEqual(['model', 'sheet', ['a']])
        await router.push('/studies/s1/try')
        await pass(600)
        expect([view.place, view.stage]).toEqual(['try', 'logbook'])
        await router.push('/studies/s1/nowhere/nothing')
        await pass(600)
        expect(at()).toBe('/studies/s1/model/sheet?sheet=one&at=0')
        app.unmount()
    })
})
