import { computed, type Ref } from 'vue'
import type { Thing } from '@/api/types'
import { literal, niceAbove } from '@/ui/numbers'

/** The range of a parameter’s dial in steps: of its own a slider knows no numbers finer than a hundredth. */
export function useDial(thing: () => Thing, value: Ref<number>) {
    const low = computed(() => thing().low ?? Math.min(0, 2 * (thing().value ?? 0)))
    const high = computed(() => thing().high ?? (niceAbove(2 * Math.abs(thing().value ?? 0)) || 1))
    const step = computed(() => thing().step ?? (high.value - low.value) / 200)
    const steps = computed(() => Math.max(1, Math.round((high.value - low.value) / step.value)))
    const position = computed(() => Math.min(steps.value, Math.max(0, (value.value - low.value) / step.value)))
    const at = (now: number) => Number(literal(Math.min(high.value, low.value + Math.round(now) * step.value)))
    return { low, high, step, steps, position, at }
}
