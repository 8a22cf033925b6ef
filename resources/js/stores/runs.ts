import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { api, ConnectionError, ProblemError, type Run } from '@/api/client'
import { useModel } from './model'
import { useView } from './view'

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

    async function refresh() {
        if (running.value) {
            again = true
            return
        }
        running.value = true
        do {
            again = false
            const steady = Object.keys(dials.value).length === 0
            try {
                const run = await api.run(model.id, dials.value, steady)
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
    }

    function turn(id: string, value: number) {
        before.value ??= shown.value
        dials.value = { ...dials.value, [id]: value }
        void refresh()
    }

    function release(id: string) {
        dials.value = Object.fromEntries(Object.entries(dials.value).filter(([key]) => key !== id))
    }

    function clear() {
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

    return { shown, before, dials, running, refusal, refresh, turn, release, clear, at, range, level, flowScale, value: (id: string) => at(shown.value, id), known: (id: string) => shown.value !== null && (shown.value.values.has(id) || id in shown.value.steady) }
})
