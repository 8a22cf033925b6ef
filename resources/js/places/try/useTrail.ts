import { studyStore } from '@/stores/studyStore'
import { ref } from 'vue'
import type { RunRef } from '@/api/types'

/** A run by its name, as a finding keeps it. */
export interface NamedRun {
    name: string
    ref: RunRef
}

/** What is asked on the trail besides what and of which runs: kept apart from its stage, so that it is there again when one comes back. */
export const useTrail = studyStore('trail', () => {
    const towards = ref<'causes' | 'effects'>('causes')
    /** A difference at the moment, or gathered from the start up to it. */
    const over = ref<'moment' | 'time'>('moment')
    const stopAtStocks = ref(false)
    /** Paths that are open, as ids joined by `>`. */
    const open = ref(new Set<string>())
    /** Runs that a finding brought: `kept-run` and `kept-base` as keys. */
    const brought = ref<{ run?: NamedRun; base?: NamedRun }>({})

    function begin(element: string) {
        open.value = new Set(element ? [element] : [])
    }

    return { towards, over, stopAtStocks, open, brought, begin }
})
