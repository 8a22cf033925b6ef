import { computed, type ShallowRef } from 'vue'
import type { Run } from '@/api/client'
import { indexAt } from '@/ui/times'
import { useLook } from './look'
import { useModel } from './model'
import { useView } from './view'

interface Runs {
    shown: ShallowRef<Run | null>
    /** What sheet and outline show. */
    sheet: ShallowRef<Run | null>
    /** The baseline, while something is tried. */
    before: ShallowRef<Run | null>
}

/** What runs say at the playhead, and between which bounds they move. */
export function runValues({ shown, sheet, before }: Runs) {
    const model = useModel()
    const view = useView()
    const look = useLook()

    /** Where in the saved moments of a run the playhead stands: the one at or before it, and how far to the next. */
    function positionIn(times: Float64Array | undefined) {
        if (!times?.length) {
            return { index: 0, share: 0 }
        }
        const now = view.playhead
        const low = indexAt(times, now)
        const here = times[low] as number
        const next = times[low + 1]
        return { index: low, share: next === undefined ? 0 : Math.min(1, Math.max(0, (now - here) / (next - here))) }
    }
    const position = computed(() => positionIn(shown.value?.times))

    /** The value of a thing, or of a column; undefined where a thing shows more than one. */
    function at(run: Run | null, id: string): number | undefined {
        const key = look.keyOf(id)
        return key === undefined ? undefined : ofColumn(run, key)
    }

    function ofColumn(run: Run | null, id: string): number | undefined {
        const column = run?.values.get(id)
        // After a run has stopped there are no values.
        const last = run?.fault || run?.ended || run?.stopped ? run.span[1] : undefined
        if (typeof last === 'number' && view.playhead > last + 1e-9 * Math.max(1, Math.abs(last))) {
            return undefined
        }
        if (!column) {
            return run?.now[id] ?? run?.steady[id]
        }
        const { index, share } = run === shown.value ? position.value : positionIn(run?.times)
        const here = column[index]
        const next = column[index + 1]
        return here === undefined || next === undefined || share === 0 ? here : here + share * (next - here)
    }

    const extremes = new WeakMap<Float64Array, [number, number]>()
    function range(run: Run | null, id: string): [number, number] {
        const key = look.keyOf(id)
        if (key === undefined) {
            const bounds = look.boundKeys(id)
            const [low, high] = bounds
                ? bounds.map((k) => rangeOf(run, k))
                : [rangeOf(run, look.drawnKey(id)), rangeOf(run, look.drawnKey(id))]
            return [low?.[0] ?? 0, high?.[1] ?? 0]
        }
        return rangeOf(run, key)
    }

    function rangeOf(run: Run | null, id: string): [number, number] {
        const column = run?.values.get(id)
        if (!column) {
            const value = run?.steady[id] ?? 0
            return [value, value]
        }
        let known = extremes.get(column)
        if (!known) {
            known = [Infinity, -Infinity]
            for (const value of run?.lows?.get(id) ?? column) {
                if (value < known[0]) known[0] = value
            }
            for (const value of run?.highs?.get(id) ?? column) {
                if (value > known[1]) known[1] = value
            }
            extremes.set(column, known)
        }
        return known
    }

    /** How large a variable gets: beside that, rounding is told as about 0. */
    function size(id: string): number {
        const [low, high] = range(shown.value, id)
        return Math.max(Math.abs(low), Math.abs(high))
    }

    /** The run whose extremes give the scales: they stay while a dial moves. */
    const measure = computed(() => before.value ?? shown.value)

    /** Zero to the largest level, which stays while a dial moves. */
    function level(id: string): number {
        const key = look.drawnKey(id)
        const top = Math.max(rangeOf(measure.value, key)[1], 0)
        const value = ofColumn(sheet.value, key)
        return value === undefined || top <= 0 ? 0 : Math.min(1, Math.max(0, value / top))
    }

    /** By unit, the largest flow of the run: flows of one unit share a scale. */
    const flowScale = computed(() => {
        const scale: Record<string, number> = {}
        for (const thing of model.things) {
            if (thing.kind === 'flow') {
                const [low, high] = rangeOf(measure.value, look.drawnKey(thing.id))
                scale[thing.unit] = Math.max(scale[thing.unit] ?? 0, Math.abs(low), Math.abs(high))
            }
        }
        return scale
    })

    /** What the shape of a thing is drawn by: its value, or that of all its elements together. */
    const drawn = (id: string) => ofColumn(sheet.value, look.drawnKey(id))
    /** The least and the greatest of its elements, where each is looked at. */
    function spread(id: string): [number, number] | undefined {
        const [low, high] = (look.boundKeys(id) ?? []).map((key) => ofColumn(sheet.value, key))
        return low === undefined || high === undefined ? undefined : [low, high]
    }

    return {
        at,
        ofColumn,
        drawn,
        spread,
        range,
        size,
        level,
        flowScale,
        value: (id: string) => at(shown.value, id),
        onSheet: (id: string) => at(sheet.value, id),
    }
}
