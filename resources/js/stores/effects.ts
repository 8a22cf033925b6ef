import { studyStore } from './studyStore'
import { ref, shallowRef, watch } from 'vue'
import { api } from '@/api/client'
import type { Effects } from '@/api/types'
import { useLook } from './look'
import { useModel } from './model'
import { LARGE } from './outbox'
import { useRuns } from './runs'
import { useView } from './view'

/** Rest after a run or a move of the playhead before the engine is asked how links act. */
const REST = 350

/** Signs that only the run can tell, and how strongly links act at the playhead. */
export const useEffects = studyStore('effects', () => {
    const model = useModel()
    const runs = useRuns()
    const view = useView()
    const look = useLook()
    const signs = shallowRef<Record<string, string>>({})
    const at = shallowRef<NonNullable<Effects['at']>>({})
    const asking = ref(false)
    let timer = 0
    let asked = ''

    async function ask() {
        const open = model.model.links.some((l) => l.sign === null)
        const question = `${model.id} ${model.model.meaning} ${JSON.stringify(runs.setting)} ${view.strengths ? `${view.playhead} ${JSON.stringify(look.single)}` : ''}`
        if ((!open && !view.strengths) || !runs.shown || question === asked || runs.held) {
            return
        }
        asked = question
        asking.value = true
        try {
            const answer = await api.effects(model.id, runs.ref, look.single, view.strengths ? view.playhead : undefined)
            if (question === asked) {
                signs.value = answer.signs ?? signs.value
                at.value = answer.at ?? {}
            }
        } catch {
            // Signs that are not known are not shown; the next run asks again.
            asked = ''
        }
        asking.value = false
    }

    watch([() => runs.shown, () => runs.setting, () => view.strengths, () => (view.strengths ? [view.playhead, look.single] : 0)], () => {
        window.clearTimeout(timer)
        // What takes the engine long is not asked between two edits.
        timer = window.setTimeout(
            () => {
                void ask()
            },
            model.things.length > LARGE ? 5 * REST : REST,
        )
    })

    /** The sign of a link, from its formula or from the run. */
    function signOf(key: string, known: string | null | undefined): string {
        return known ?? signs.value[key] ?? ''
    }

    return { signs, at, asking, signOf }
})
