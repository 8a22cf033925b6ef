import { studyStore } from './studyStore'
import { ref } from 'vue'
import type { Remedy } from '@/api/types'
import { useModel } from './model'

/** From the press until the value of what was added can be typed; longer nobody waits for a field. In milliseconds. */
const LONGEST = 3000

/** Mends a problem wherever it is told; what is added for it is shown and asks for its value at once. */
export const useMends = studyStore('mends', () => {
    const model = useModel()
    const added = ref('')
    const waiting = ref(false)

    async function mend(remedy: Remedy): Promise<boolean> {
        const add = remedy.edits.find((e) => e.kind === 'add')
        waiting.value = add !== undefined
        window.setTimeout(() => {
            waiting.value = false
        }, LONGEST)
        const done = await model.together(remedy.edits, remedy.words)
        if (done && add) {
            added.value = String(add.id)
        } else {
            waiting.value = false
        }
        return done
    }

    return { added, waiting, mend }
})

export const mendsOf = (one: { remedy?: Remedy | null; other?: Remedy | null }) =>
    [one.remedy, one.other].filter((r): r is Remedy => Boolean(r))
