import { shallowRef } from 'vue'
import { people, type Since } from '@/api/people'
import { useModel } from './model'
import { studyStore } from './studyStore'

/** What others did in the open study since one was last there. */
export const useSince = studyStore('since', () => {
    const model = useModel()
    const since = shallowRef<Since | null>(null)

    async function visit() {
        const told = await people.visit(model.id).catch(() => null)
        since.value = told && (told.changes.length || told.comments) ? told : null
    }
    function dismiss() {
        since.value = null
    }

    return { since, visit, dismiss }
})
