import { computed, ref, shallowRef, watch } from 'vue'
import { uncertain } from '@/api/uncertain'
import type { Bands, Lying } from '@/api/types'
import { scaleFor, type Scale } from '@/charts/scale'
import { useEnsembles } from '@/stores/ensembles'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { outcomeWords } from '../outcomes'

/** Milliseconds between two questions while the playhead or the limit moves. */
const PAUSE = 60

/** What is seen of many runs: one variable over time, and one of its numbers. */
export function useSpread() {
    const model = useModel()
    const look = useLook()
    const view = useView()
    const ensembles = useEnsembles()
    /** The id of the outcome at the side; empty for the moment of the playhead. */
    const outcome = ref('')
    /** How many lie above this is told; null before somebody says. */
    const above = ref<number | null>(null)
    const shown = computed(() => ensembles.shown)
    const of = computed(() => {
        const columns = shown.value?.columns ?? []
        return columns.includes(ensembles.of) ? ensembles.of : (columns[0] ?? '')
    })
    const name = computed(() => look.nameOf(of.value) ?? '')
    const unit = computed(() => model.model.elements[look.ownerOf(of.value)]?.unit ?? '')
    const side = computed(() => {
        const found = shown.value?.outcomes.find((o) => o.id === outcome.value)
        return found ? { ...found, ...outcomeWords(found, model, look) } : null
    })
    /** Whether the number at the side lies on the axis of the variable. */
    const shares = computed(() => !side.value || (side.value.key === of.value && side.value.kind !== 'peak' && side.value.kind !== 'total'))

    const bands = shallowRef<Bands | null>(null)
    /** Those of the other settings, by ensemble. */
    const others = shallowRef<Record<string, Bands>>({})
    const lying = shallowRef<Lying | null>(null)
    const trouble = ref('')
    let mine = 0
    watch(
        [() => shown.value?.id, () => ensembles.all.map((e) => e.done).join(), of],
        async () => {
            const ticket = ++mine
            const now = shown.value
            if (!now || !of.value || now.done === 0) {
                bands.value = now ? bands.value : null
                return
            }
            try {
                const key = of.value
                const beside = ensembles.all.filter((e) => e.id !== now.id && e.columns.includes(key) && e.done > 0)
                const [own, ...rest] = await Promise.all([now, ...beside].map((e) => uncertain.bands(model.id, e.id, key)))
                if (ticket === mine) {
                    bands.value = own ?? null
                    others.value = Object.fromEntries(beside.map((e, i) => [e.id, rest[i] as Bands]))
                    trouble.value = ''
                }
            } catch (error) {
                trouble.value = (error as Error).message
            }
        },
        { immediate: true },
    )

    let timer = 0
    let asking = false
    let again = false
    async function ask() {
        const now = shown.value
        if (!now || !of.value || now.done === 0) {
            lying.value = null
            return
        }
        if (asking) {
            again = true
            return
        }
        asking = true
        try {
            lying.value = await uncertain.lying(model.id, now.id, {
                ...(side.value ? { outcome: side.value.id } : { of: of.value, time: view.playhead }),
                ...(above.value === null ? {} : { above: above.value }),
            })
        } catch (error) {
            trouble.value = (error as Error).message
        }
        asking = false
        if (again) {
            again = false
            void ask()
        }
    }
    watch(
        [() => shown.value?.id, () => shown.value?.done, of, () => side.value?.id, () => (side.value ? 0 : view.playhead), above],
        () => {
            window.clearTimeout(timer)
            timer = window.setTimeout(() => void ask(), PAUSE)
        },
        { immediate: true },
    )
    watch([of, () => side.value?.id], () => {
        above.value = null
    })

    const known = (values: readonly (number | null)[] | undefined) => (values ?? []).filter((v): v is number => v !== null)
    const scale = computed<Scale>(() => {
        const all = [bands.value, ...Object.values(others.value)].flatMap((b) =>
            b
                ? [
                      ...known(b.percentiles['5']),
                      ...known(b.percentiles['95']),
                      ...known(b.central),
                      ...b.singles.flatMap((s) => known(s.values)),
                  ]
                : [],
        )
        return scaleFor([Math.min(...all), Math.max(...all)], { zero: true }, 6)
    })
    /** Of the number at the side, where it has an axis of its own. */
    const sideScale = computed<Scale>(() =>
        shares.value ? scale.value : scaleFor([lying.value?.min ?? 0, lying.value?.max ?? 1], { zero: false }, 6),
    )

    return { shown, of, name, unit, outcome, side, shares, above, bands, others, lying, trouble, scale, sideScale }
}

export type Spread = ReturnType<typeof useSpread>
