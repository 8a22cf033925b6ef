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
    const by = ref<'parts' | 'sheets' | 'groups' | 'causes'>('sheets')
    /** Whether something was chosen here already. */
    const begun = ref(false)

    /** The part whose surroundings are looked at, by its key; empty for all. */
    const part = ref('')

    return { filter, by, begun, part }
})
