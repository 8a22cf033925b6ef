import { studyStore } from '@/stores/studyStore'
import { KINDS } from '@/ui/kinds'
import { reactive, ref } from 'vue'

/** What the atlas shows: kept while one looks elsewhere, so that coming back finds it again. */
export const useAtlasChoice = studyStore('atlas', () => {
    const filter = reactive({
        search: '',
        steps: 0,
        way: 'both' as 'both' | 'up' | 'down',
        hideLoose: false,
        kinds: new Set<string>(KINDS),
    })
    const by = ref<'sheets' | 'groups' | 'causes'>('sheets')
    /** Whether something was chosen here already. */
    const begun = ref(false)

    return { filter, by, begun }
})
