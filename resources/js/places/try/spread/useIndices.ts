import { computed, ref, shallowRef, watch, type Ref } from 'vue'
import { uncertain } from '@/api/uncertain'
import type { Ensemble, InputIndices } from '@/api/types'
import { useFollowed } from '@/stores/following'
import { useEnsembles } from '@/stores/ensembles'
import { useModel } from '@/stores/model'

export type Way = 'indices' | 'morris'

/** How often the plan is laid over the inputs: base samples of Sobol indices, paths of Morris. */
export const SIZES: Record<Way, number[]> = { indices: [100, 250, 500, 1000, 2500], morris: [10, 20, 50, 100] }

/** Most runs of one ensemble. */
const MOST = 100_000

/** Runs that are made to see which inputs matter, under the setting of those that are shown. */
export function useIndices(way: Ref<Way>, shown: Ref<Ensemble>, outcome: Ref<string>) {
    const model = useModel()
    const ensembles = useEnsembles()
    const { all, busy, put, follow } = useFollowed((e) => uncertain.state(model.id, e))
    const size = ref<Record<Way, number>>({ indices: 250, morris: 20 })
    const asking = ref(false)
    const told = shallowRef<InputIndices | null>(null)
    const trouble = ref('')

    const inputs = computed(() => shown.value.inputs.length)
    const runsOf = (times: number) => times * (way.value === 'indices' ? inputs.value + 2 : inputs.value + 1)
    const sizes = computed(() => SIZES[way.value].filter((s) => runsOf(s) <= MOST))
    const chosen = computed(() => (sizes.value.includes(size.value[way.value]) ? size.value[way.value] : (sizes.value[0] ?? 0)))
    const made = computed(() => all.value.find((e) => e.purpose === way.value) ?? null)
    const older = computed(() => made.value !== null && ensembles.isOlder(made.value))

    const ofSame = (e: Ensemble) => e.scenario === shown.value.scenario && JSON.stringify(e.setting) === JSON.stringify(shown.value.setting)
    /** Those made last under the same setting, whatever was looked at since. */
    let asked = 0
    async function load() {
        const ticket = ++asked
        const last = await uncertain.last(model.id, way.value).catch((): Ensemble[] => [])
        if (ticket !== asked) {
            // Others were asked for, or made, meanwhile.
            return
        }
        const found = last.find(ofSame)
        all.value = [...all.value.filter((e) => e.purpose !== way.value && ofSame(e)), ...(found ? [found] : [])]
        follow()
    }
    watch([way, () => shown.value.id], () => void load(), { immediate: true })

    async function make() {
        asking.value = true
        asked++
        const one = await ensembles.said(() =>
            uncertain.make(model.id, {
                purpose: way.value,
                runs: runsOf(chosen.value),
                sample: 'latin',
                seed: shown.value.seed,
                scenarios: [shown.value.scenario],
                setting: shown.value.setting,
            }),
        )
        asking.value = false
        if (one) {
            all.value = [...all.value.filter((e) => e.purpose !== way.value), ...one]
            follow()
        }
    }
    const stop = () =>
        ensembles.said(async () => {
            if (made.value) {
                put(await uncertain.stop(model.id, made.value.id))
            }
        })

    let mine = 0
    watch(
        [() => made.value?.id, () => made.value?.done, outcome],
        async () => {
            const ticket = ++mine
            const now = made.value
            if (!now || now.done === 0) {
                told.value = null
                return
            }
            try {
                const answer = await uncertain.indices(model.id, now.id, outcome.value)
                if (ticket === mine) {
                    told.value = answer
                    trouble.value = ''
                }
            } catch (error) {
                told.value = null
                trouble.value = (error as Error).message
            }
        },
        { immediate: true },
    )

    return { size, sizes, chosen, runsOf, made, older, busy, asking, told, trouble, make, stop }
}
