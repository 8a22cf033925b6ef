import { studyStore } from './studyStore'
import { ref, watch } from 'vue'
import type { Plot, Thing } from '@/api/types'
import { api } from '@/api/client'
import { MOST_LINES, useLook } from './look'
import { useModel } from './model'
import { useRuns } from './runs'
import { useView } from './view'

/** So many elements are picked out of very many. */
export const PICKED = 10
type Pick = 'greatest' | 'least'

/** Which elements of things with very many have the greatest or least value at the end, for plots that show those. */
export const useRanked = studyStore('ranked', () => {
    const model = useModel()
    const look = useLook()
    const runs = useRuns()
    const view = useView()
    /** By thing and pick, the keys of its lines, and what they were asked for. */
    const found = ref<Record<string, { keys: string[]; of: string }>>({})
    const asking = new Set<string>()

    const isMany = (thing: Thing) => (look.extended[thing.id]?.along?.size ?? 0) > MOST_LINES
    const question = () => `${model.model.meaning} ${JSON.stringify(runs.setting)} ${JSON.stringify(view.look)}`

    async function ask(thing: Thing, pick: Pick) {
        const name = `${thing.id} ${pick}`
        const of = question()
        if (found.value[name]?.of === of || asking.has(`${name} ${of}`)) {
            return
        }
        asking.add(`${name} ${of}`)
        try {
            const looked = Object.fromEntries((thing.along?.over ?? []).map((d) => [d, look.at(d)]).filter(([, at]) => at))
            const { keys } = await api.ranked(model.id, thing.id, runs.ref, pick, looked, PICKED)
            if (of === question()) {
                found.value = { ...found.value, [name]: { keys, of } }
                runs.needColumns(`ranked ${name}`, keys)
            }
        } catch {
            // The first ones are shown until it can be told.
        }
        asking.delete(`${name} ${of}`)
    }

    /** The things of the model; those of which a plot picks some with just these. */
    function elementsFor(plot: Plot): Record<string, Thing> {
        const pick = plot.options?.pick
        if (!pick) {
            return look.elements
        }
        const picked = plot.of.flatMap((id) => {
            const thing = look.extended[id]
            const keys = found.value[`${id} ${pick}`]?.keys
            if (!thing?.along || !keys?.length || !isMany(thing)) {
                return []
            }
            const parts = keys.map((key) => ({ key, name: look.partOf(key) }))
            return [[id, { ...thing, along: { ...thing.along, parts, picked: `${keys.length} ${pick}` } }] as const]
        })
        return { ...look.elements, ...Object.fromEntries(picked) }
    }

    /** Keeps what a plot picks up to date. */
    function follow(plot: () => Plot) {
        watch(
            [() => plot().options?.pick, () => plot().of, () => runs.shown, () => view.look],
            () => {
                const { of, options } = plot()
                for (const thing of options?.pick && runs.shown && !runs.held ? of.map((id) => look.extended[id]) : []) {
                    if (thing && isMany(thing) && options?.pick) {
                        void ask(thing, options.pick)
                    }
                }
            },
            { immediate: true },
        )
    }

    return { elementsFor, follow, isMany }
})
