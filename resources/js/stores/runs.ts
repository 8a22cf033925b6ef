import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, ConnectionError, ProblemError, type Run } from '@/api/client'
import { LARGE, useModel } from './model'
import { useView } from './view'

const REST = 1500

/** The run that the window shows. It follows every edit and every dial; an answer to an older question is never shown. */
export const useRuns = defineStore('runs', () => {
    const model = useModel()
    const view = useView()
    const shown = shallowRef<Run | null>(null)
    /** The run before a dial was taken, to compare with while it moves. */
    const before = shallowRef<Run | null>(null)
    const dials = ref<Record<string, number>>({})
    const running = ref(false)
    const refusal = ref('')
    let again = false
    /** The revision that the run under way, or the one shown, is at least of. */
    let asked = -1

    /** Of a large model only what is in sight is asked for at once; the rest follows when nothing else is to be done. */
    function wanted(): string[] | undefined {
        if (model.things.length < LARGE) {
            return undefined
        }
        const seen = model.things.filter((t) => model.sheetOf(t.id) === view.sheet).map((t) => t.id)
        const echoed = Object.values(model.model.echoes).filter((e) => e.sheet === view.sheet).map((e) => e.element)
        const stocks = model.things.filter((t) => t.kind === 'stock').slice(0, 160).map((t) => t.id)
        return [...new Set([...seen, ...echoed, ...stocks, ...model.model.tracks, ...view.selectedThings])]
    }

    let filling = 0
    function fillLater() {
        window.clearTimeout(filling)
        filling = window.setTimeout(() => {
            const run = shown.value
            if (!run || run.whole || running.value || Object.keys(dials.value).length) {
                return
            }
            void api.run(model.id, {}, true).then((whole) => {
                // Only what belongs to the same revision fills the gaps.
                if (shown.value === run && whole.revision === run.revision) {
                    shown.value = whole
                }
            }, () => undefined)
        }, REST)
    }

    async function refresh() {
        if (running.value) {
            again = true
            return
        }
        running.value = true
        do {
            again = false
            asked = Math.max(model.revision, model.written)
            const steady = Object.keys(dials.value).length === 0
            try {
                const run = await api.run(model.id, dials.value, steady, wanted())
                shown.value = run
                refusal.value = ''
                if (steady) {
                    before.value = null
                }
            } catch (error) {
                if (error instanceof ProblemError) {
                    refusal.value = error.message
                } else if (error instanceof ConnectionError) {
                    window.setTimeout(() => { void refresh() }, 2000)
                }
            }
            // `again` is set by calls that came while this one waited.
        } while (again as boolean)
        running.value = false
        fillLater()
    }

    /** Runs what is newer than the run that is shown or under way. */
    function follow(force: boolean) {
        if (force || asked < Math.max(model.revision, model.written)) {
            void refresh()
        }
    }
    watch(() => model.written, () => { follow(false) })

    function turn(id: string, value: number) {
        before.value ??= shown.value
        dials.value = { ...dials.value, [id]: value }
        void refresh()
    }

    function release(id: string) {
        dials.value = Object.fromEntries(Object.entries(dials.value).filter(([key]) => key !== id))
    }

    function clear() {
        asked = -1
        shown.value = null
        before.value = null
        dials.value = {}
        refusal.value = ''
    }

    /** Where in the saved moments the playhead stands: the one at or before it, and how far to the next. */
    const position = computed(() => {
        const times = shown.value?.times
        if (!times?.length) {
            return { index: 0, share: 0 }
        }
        const now = view.playhead
        let low = 0
        let high = times.length - 1
        while (low < high) {
            const middle = (low + high + 1) >> 1
            if ((times[middle] as number) <= now) {
                low = middle
            } else {
                high = middle - 1
            }
        }
        const here = times[low] as number
        const next = times[low + 1]
        return { index: low, share: next === undefined ? 0 : Math.min(1, Math.max(0, (now - here) / (next - here))) }
    })

    function at(run: Run | null, id: string): number | undefined {
        const column = run?.values.get(id)
        if (!column) {
            return run?.steady[id]
        }
        const { index, share } = position.value
        const here = column[index]
        const next = column[index + 1]
        return here === undefined || next === undefined || share === 0 ? here : here + share * (next - here)
    }

    const extremes = new WeakMap<Float64Array, [number, number]>()
    function range(run: Run | null, id: string): [number, number] {
        const column = run?.values.get(id)
        if (!column) {
            const value = run?.steady[id] ?? 0
            return [value, value]
        }
        let known = extremes.get(column)
        if (!known) {
            known = [Infinity, -Infinity]
            for (const value of column) {
                if (value < known[0]) known[0] = value
                if (value > known[1]) known[1] = value
            }
            extremes.set(column, known)
        }
        return known
    }

    /** Zero to the largest level, which stays while a dial moves. */
    function level(id: string): number {
        const top = Math.max(range(before.value ?? shown.value, id)[1], 0)
        const value = at(shown.value, id)
        return value === undefined || top <= 0 ? 0 : Math.min(1, Math.max(0, value / top))
    }

    /** By unit, the largest flow of the run: flows of one unit share a scale. */
    const flowScale = computed(() => {
        const scale: Record<string, number> = {}
        for (const thing of model.things) {
            if (thing.kind === 'flow') {
                const [low, high] = range(before.value ?? shown.value, thing.id)
                scale[thing.unit] = Math.max(scale[thing.unit] ?? 0, Math.abs(low), Math.abs(high))
            }
        }
        return scale
    })

    return { shown, before, dials, running, refusal, refresh, follow, turn, release, clear, at, range, level, flowScale, value: (id: string) => at(shown.value, id), known: (id: string) => shown.value !== null && (shown.value.values.has(id) || id in shown.value.steady) }
})
