import { useStorage } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { uncertain } from '@/api/uncertain'
import type { Nudged } from '@/api/types'
import { keyOf } from '@/stores/ensembles'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { outcomeWords } from '../outcomes'

/** What takes longer than this is not done again by itself. */
const SOON = 1500
const PAUSE = 250

/** What each input does when it alone goes down and up. */
export function useNudge() {
    const model = useModel()
    const look = useLook()
    const runs = useRuns()
    const wish = useStorage(() => `merry-orbit:nudge:${model.id}`, { by: 0.1 as number, initials: false, curves: false })
    /** The id of the outcome that bars and strips are of. */
    const outcome = ref('')
    const told = shallowRef<Nudged | null>(null)
    const trouble = ref('')
    const busy = ref(false)
    const older = ref(false)
    let took = 0
    let again = false

    const at = computed(() => {
        const found = told.value?.outcomes.findIndex((o) => o.id === outcome.value) ?? -1
        return Math.max(0, found)
    })
    const chosen = computed(() => told.value?.outcomes[at.value] ?? null)
    const what = computed(() => (chosen.value ? outcomeWords(chosen.value, model, look) : { words: '', unit: '' }))
    const own = computed(() => Object.values(model.model.outcomes ?? {}).find((o) => o.id === outcome.value))
    const of = computed(() => (own.value ? keyOf(own.value) : (chosen.value?.key ?? '')))

    async function ask() {
        if (busy.value) {
            again = true
            return
        }
        busy.value = true
        do {
            again = false
            const begun = performance.now()
            try {
                told.value = await uncertain.nudge(model.id, {
                    run: runs.ref,
                    // 0 stands for the range of each dial.
                    by: wish.value.by || null,
                    kinds: ['parameter', ...(wish.value.initials ? ['initial'] : []), ...(wish.value.curves ? ['curve'] : [])],
                    ...(of.value ? { of: of.value } : {}),
                })
                trouble.value = ''
                older.value = false
            } catch (error) {
                trouble.value = (error as Error).message
            }
            took = performance.now() - begun
        } while (again as boolean)
        busy.value = false
    }
    let timer = 0
    function soon() {
        window.clearTimeout(timer)
        timer = window.setTimeout(
            () => {
                if (!runs.held) {
                    void ask()
                }
            },
            told.value ? PAUSE : 0,
        )
    }
    // What is asked otherwise is answered; what the model has become, by itself only where that is soon done.
    watch([() => JSON.stringify([wish.value, model.model.outcomes ?? {}, model.model.muted ?? {}]), of], soon, { immediate: true })
    watch(
        () => JSON.stringify([model.model.meaning, runs.setting]),
        () => {
            if (took > SOON) {
                older.value = true
            } else {
                soon()
            }
        },
    )
    return { wish, outcome, told, trouble, busy, older, at, what, chosen, ask }
}
