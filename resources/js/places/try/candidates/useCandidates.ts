import { computed, ref, shallowRef, watch } from 'vue'
import { uncertain } from '@/api/uncertain'
import type { Combined, Thing } from '@/api/types'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { newId } from '@/ui/ids'
import { rounded } from '@/ui/numbers'
import { outcomeWords } from '../outcomes'

/** So many combinations are run without being asked for; more are told with their number first. */
export const AT_ONCE = 200

const PAUSE = 200

/** What the values of a list begin with: the states of a switch, else a half, the value itself and half more. */
export function usualValues(thing: Thing): number[] {
    if (thing.choices?.length) {
        return thing.choices.map((c) => c.value)
    }
    const value = thing.value ?? 0
    return value === 0 ? [0, 1] : [rounded(value / 2), value, rounded(1.5 * value)].sort((a, b) => a - b)
}

/** Candidates of the study, and what all combinations of those that are ticked come to. */
export function useCandidates() {
    const model = useModel()
    const look = useLook()
    const runs = useRuns()
    const outcome = ref('')
    const told = shallowRef<Combined | null>(null)
    const trouble = ref('')
    const busy = ref(false)
    const older = ref(false)
    let again = false

    const all = computed(() => Object.values(model.model.candidates ?? {}).sort((a, b) => (a.place ?? 0) - (b.place ?? 0)))
    const count = computed(() => all.value.reduce((n, c) => n * Math.max(1, c.ticked?.length ?? 0), 1))
    const at = computed(() => Math.max(0, told.value?.outcomes.findIndex((o) => o.id === outcome.value) ?? 0))
    const chosen = computed(() => told.value?.outcomes[at.value] ?? null)
    const what = computed(() => (chosen.value ? outcomeWords(chosen.value, model, look) : { words: '', unit: '' }))

    async function run(many = false) {
        if (busy.value) {
            again = true
            return
        }
        busy.value = true
        do {
            again = false
            try {
                told.value = await uncertain.combine(model.id, {
                    run: runs.ref,
                    ...(many ? { many } : {}),
                    ...(chosen.value && model.model.elements[look.ownerOf(chosen.value.key)] ? { of: chosen.value.key } : {}),
                })
                trouble.value = ''
                older.value = false
            } catch (error) {
                trouble.value = (error as Error).message
            }
        } while (again as boolean)
        busy.value = false
    }
    let timer = 0
    watch(
        () => JSON.stringify([all.value, model.model.meaning, model.model.outcomes ?? {}, runs.setting, chosen.value?.key]),
        () => {
            window.clearTimeout(timer)
            if (!all.value.length) {
                told.value = null
            } else if (count.value > AT_ONCE) {
                older.value = told.value !== null
            } else {
                timer = window.setTimeout(() => void run(), told.value ? PAUSE : 0)
            }
        },
        { immediate: true },
    )

    const add = (thing: Thing) =>
        model.attempt({
            kind: 'put',
            part: 'candidates',
            id: newId(),
            fields: { of: thing.id, values: usualValues(thing), place: Math.max(0, ...all.value.map((c) => c.place ?? 0)) + 1 },
        })
    const put = (id: string, fields: Record<string, unknown>) => model.attempt({ kind: 'put', part: 'candidates', id, fields })
    const drop = (id: string) => model.attempt({ kind: 'drop', part: 'candidates', id })

    return { all, count, outcome, told, trouble, busy, older, at, chosen, what, run, add, put, drop }
}
