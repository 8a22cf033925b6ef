import type { ComputedRef, InjectionKey, Ref } from 'vue'
import type { RunRef, TrailAnswer } from '@/api/types'

/** Causes that are no things of the model; see core/Experiment/Instant.php and RunDifference.php. */
export const CAUSES: Record<string, string> = {
    time: 'time itself',
    memory: 'what it remembers',
    formula: 'another formula, curve or hand',
    start: 'another start',
    others: 'all others together',
}

/** Below this part of the largest a cause is no more than rounding. */
export const LITTLE = 1e-6

/** What all nodes of a trail share. */
export interface Trail {
    run: ComputedRef<RunRef>
    base: ComputedRef<RunRef | undefined>
    /** Whether small plots show differences from the baseline, so that one sees where runs part. */
    parting: ComputedRef<boolean>
    towards: Ref<'causes' | 'effects'>
    over: Ref<'moment' | 'time'>
    time: ComputedRef<number>
    stopAtStocks: Ref<boolean>
    /** Changes when every node has to ask again. */
    question: ComputedRef<string>
    /** Paths that are open, as ids joined by `>`. */
    open: Ref<Set<string>>
    toggle: (key: string) => void
    told: (key: string, answer: TrailAnswer) => void
}

export const asTrail: InjectionKey<Trail> = Symbol('trail')
