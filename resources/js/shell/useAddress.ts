import { refDebounced } from '@vueuse/core'
import { computed, onBeforeUnmount, watch } from 'vue'
import { useRouter } from 'vue-router'
import { placeOf, stageOf } from '@/places'
import { useDrafts } from '@/stores/drafts'
import { useModel } from '@/stores/model'
import { useView, type Looked } from '@/stores/view'
import { addressOf, isStep, lookedIn } from './address'

/** A playhead that moves is told when it rests, and so is what is picked, one after the other. In milliseconds. */
const REST = 300
const LATER = 450

/**
 * Keeps the address of the page and what the window shows the same: going somewhere makes a step that the browser’s back
 * and forward know, picking something changes the step one is at.
 */
export function useAddress(study: string) {
    const router = useRouter()
    const route = router.currentRoute
    const model = useModel()
    const view = useView()
    const drafts = useDrafts()
    const moment = refDebounced(
        computed(() => view.playhead),
        REST,
    )
    const here = computed<Looked>(() => ({
        place: view.place,
        stage: view.stage,
        sheet: view.sheet,
        selection: view.selection,
        plot: view.plot,
        trail: view.trail,
        run: view.run,
        against: view.against,
        look: view.look,
        moment: moment.value,
    }))
    const fullPath = (looked: Looked) => router.resolve(addressOf(study, looked)).fullPath
    let last: Looked | undefined
    let timer = 0
    /** Where the page itself goes to at the moment; one after the other. */
    let own = ''
    let going: Promise<unknown> = Promise.resolve()

    function go(looked: Looked, how: 'push' | 'replace') {
        going = going.then(async () => {
            own = fullPath(looked)
            // A step that cannot be made must not hold up those after it.
            await router[how](own).catch(() => undefined)
            own = ''
        })
    }

    function tell(now: Looked) {
        const before = last
        const step = before !== undefined && isStep(before, now)
        const due = timer !== 0
        window.clearTimeout(timer)
        timer = 0
        last = now
        if (step) {
            if (due) {
                go(before, 'replace')
            }
            go(now, 'push')
        } else if (fullPath(now) !== route.value.fullPath) {
            timer = window.setTimeout(() => {
                timer = 0
                go(now, 'replace')
            }, LATER)
        }
    }

    /** Shows what the address says, as far as it is there. */
    function arrive() {
        const { place, stage } = route.value.params as Record<string, string>
        const told = lookedIn(place ?? '', stage ?? '', route.value.query)
        const known = (id: string) => model.model.elements[id] !== undefined || model.model.echoes[id] !== undefined
        // What is more of a map than of a model opens as one.
        const factors = model.all.length - model.things.length
        const where = placeOf(told.place || (factors > model.things.length ? 'map' : ''))
        const selection = told.selection?.filter(known) ?? view.selection
        const first = selection[0]
        const defined = first === undefined ? '' : (model.model.echoes[first]?.sheet ?? model.sheetOf(first))
        view.arrive({
            place: where.name,
            stage: stageOf(where, told.stage ?? view.left[where.name] ?? '').name,
            sheet: told.sheet || defined || (told.stage === undefined ? view.sheet : model.firstSheet),
            selection,
        })
        const plot = told.plot ?? view.plot
        view.plot = model.model.plots[plot] || model.model.tracks.some((t) => t.id === plot) || drafts.find(plot) ? plot : ''
        view.trail = told.trail ?? view.trail
        view.run = told.run ?? view.run
        view.against = told.against ?? view.against
        view.look = told.look ?? view.look
        if (told.moment !== undefined) {
            const { start, end } = model.model.time
            view.playhead = Math.min(end, Math.max(start, told.moment))
        }
        last = undefined
    }

    function canGo() {
        const { back, forward } = router.options.history.state as { back?: string | null; forward?: string | null }
        const within = (path?: string | null) => path?.startsWith(`/studies/${study}/`) === true
        view.way = {
            ...(within(back)
                ? {
                      back: () => {
                          router.back()
                      },
                  }
                : {}),
            ...(within(forward)
                ? {
                      ahead: () => {
                          router.forward()
                      },
                  }
                : {}),
        }
    }

    const stop = router.afterEach((to, _, failure) => {
        canGo()
        if (!failure && to.fullPath !== own && to.params.study === study && model.loaded && to.fullPath !== fullPath(here.value)) {
            window.clearTimeout(timer)
            timer = 0
            arrive()
            tell(here.value)
        }
    })
    onBeforeUnmount(() => {
        stop()
        window.clearTimeout(timer)
    })
    watch(
        here,
        (now) => {
            if (model.loaded) {
                tell(now)
            }
        },
        { flush: 'post' },
    )

    /** To be called when the model is there. */
    function begin() {
        arrive()
        canGo()
        tell(here.value)
    }

    return { begin }
}
