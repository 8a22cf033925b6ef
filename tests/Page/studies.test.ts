import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { createApp, defineComponent, h, nextTick, ref } from 'vue'
import { api } from '@/api/client'
import StudyStores from '@/shell/StudyStores.vue'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useRuns } from '@/stores/runs'
import { useTracks } from '@/stores/tracks'
import { useView } from '@/stores/view'
import { aRun, aThing, things } from './make'

beforeEach(() => {
    window.matchMedia = vi.fn().mockReturnValue({ matches: false })
    localStorage.clear()
    setActivePinia(createPinia())
    vi.restoreAllMocks()
})

interface Stores {
    model: ReturnType<typeof useModel>
    view: ReturnType<typeof useView>
    runs: ReturnType<typeof useRuns>
    tracks: ReturnType<typeof useTracks>
    notices: ReturnType<typeof useNotices>
}

/** A page with windows of these studies side by side, and the stores that each has. */
function page(...studies: string[]) {
    const found: Record<string, Stores> = {}
    const shown = ref(studies)
    const Inside = defineComponent({
        props: { study: { type: String, required: true } },
        setup(props) {
            // Runs first: the stores it asks for are made by it.
            const runs = useRuns()
            found[props.study] = { runs, tracks: useTracks(), model: useModel(), view: useView(), notices: useNotices() }
            return () => h('i')
        },
    })
    const pinia = createPinia()
    const app = createApp(() => shown.value.map((study) => h(StudyStores, { study, key: study }, () => h(Inside, { study }))))
    app.use(pinia).mount(document.createElement('div'))
    return { found, shown, app, pinia }
}

describe('two studies in one page', () => {
    it('have models, runs and views of their own, and one list of notices', async () => {
        const {
            found: { one, two },
            app,
        } = page('one', 'two')
        if (!one || !two) {
            throw new Error('Not there.')
        }
        const ask = vi.spyOn(api, 'run').mockImplementation((id) => Promise.resolve(aRun({ kelp: [id === 'm1' ? 1 : 2] })))
        one.model.id = 'm1'
        two.model.id = 'm2'
        one.model.model = { ...one.model.model, order: ['kelp'], elements: things(aThing('kelp', { kind: 'stock' })) }
        one.view.select('kelp')
        one.view.playhead = 3
        await Promise.all([one.runs.refresh(), two.runs.refresh()])
        expect([one.runs.value('kelp'), two.runs.value('kelp')]).toEqual([1, 2])
        expect(ask.mock.calls.map((c) => [c[0], c[1].at])).toEqual([
            ['m1', 3],
            ['m2', 0],
        ])
        expect([two.model.things, two.view.selection, one.tracks.shown.length, two.tracks.shown.length]).toEqual([[], [], 1, 0])
        one.notices.say('Deleted.')
        expect(two.notices.all.map((n) => n.words)).toEqual(['Deleted.'])
        app.unmount()
    })

    it('send edits to their own model, whichever is busy', async () => {
        const {
            found: { one, two },
            app,
        } = page('one', 'two')
        if (!one || !two) {
            throw new Error('Not there.')
        }
        let answer: (news: never) => void = () => {}
        const sent = vi.spyOn(api, 'edit').mockImplementation((id) =>
            id === 'm1'
                ? new Promise((resolve) => {
                      answer = resolve
                  })
                : Promise.resolve({ revision: 1, since: -1, done: [] } as never),
        )
        one.model.id = 'm1'
        two.model.id = 'm2'
        const slow = one.model.edit({ kind: 'title', name: 'A' })
        await two.model.edit({ kind: 'title', name: 'B' })
        expect([one.model.pending.length, two.model.pending.length, two.model.revision]).toEqual([1, 0, 1])
        answer({ revision: 7, since: -1, done: [] } as never)
        await slow
        expect([one.model.revision, two.model.revision]).toEqual([7, 1])
        expect(sent.mock.calls.map((c) => c[0])).toEqual(['m1', 'm2'])
        app.unmount()
    })

    it('leave nothing behind when they are closed, and begin anew', async () => {
        const { found, shown, pinia, app } = page('one', 'two')
        found.one?.view.select('kelp')
        shown.value = ['two']
        await nextTick()
        expect(Object.keys(pinia.state.value).filter((key) => key.startsWith('one/'))).toEqual([])
        shown.value = ['one', 'two']
        await nextTick()
        expect(found.one?.view.selection).toEqual([])
        app.unmount()
    })

    it('an edit under way when the window closes is done with; one that waits is kept for the next window', async () => {
        const {
            found: { one },
            app,
        } = page('one')
        if (!one) {
            throw new Error('Not there.')
        }
        let answer: (news: never) => void = () => {}
        const sent = vi.spyOn(api, 'edit').mockImplementation(
            () =>
                new Promise((resolve) => {
                    answer = resolve
                }),
        )
        one.model.id = 'm1'
        void one.model.edit({ kind: 'title', name: 'A' })
        void one.model.edit({ kind: 'title', name: 'B' })
        one.model.close()
        app.unmount()
        answer({ revision: 1, since: -1, done: [] } as never)
        await new Promise((resolve) => {
            setTimeout(resolve)
        })
        expect(sent).toHaveBeenCalledTimes(1)
        const kept = Object.entries(localStorage)
            .filter(([key]) => key.includes('m1'))
            .map(([, text]) => text as string)
            .join()
        expect([kept.includes('"B"'), kept.includes('"A"')]).toEqual([true, false])
    })
})
