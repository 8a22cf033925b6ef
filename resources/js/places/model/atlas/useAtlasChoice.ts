import { studyStore } from '@/stores/studyStore'
import { reactive, ref } from 'vue'

export const ATLAS_KINDS = ['stock', 'flow', 'auxiliary', 'parameter', 'curve', 'series'] as const

/** What the atlas shows: kept while one looks elsewhere, so that coming back finds it again. */
export const useAtlasChoice = studyStore('atlas', () => {
    const filter = reactive({
        search: '',
        steps: 0,
        way: 'both' as 'both' | 'up' | 'down',
        hideLoose: false,
        kinds: new Set<string>(ATLAS_KINDS),
    })
    const by = ref<'sheets' | 'groups' | 'causes'>('sheets')
    /** Whether something was chosen here already. */
    const begun = ref(false)

    return { filter, by, begun }
})
