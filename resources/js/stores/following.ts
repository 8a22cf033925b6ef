import { computed, shallowRef } from 'vue'
import { uncertain } from '@/api/uncertain'
import type { Ensemble } from '@/api/types'

/** Milliseconds between two looks at how far runs are, and after a look that failed. */
const POLL = 400
const POLL_AGAIN = 2000

/** Many runs that are looked at again and again as long as more are to come. */
export function useFollowed(study: () => string) {
    const all = shallowRef<Ensemble[]>([])
    const isBusy = (e: Ensemble) => !e.finished && !e.stopped
    const busy = computed(() => all.value.some(isBusy))
    let timer = 0

    function put(one: Ensemble) {
        all.value = all.value.map((e) => (e.id === one.id ? one : e))
    }
    function follow(after = POLL) {
        window.clearTimeout(timer)
        if (!busy.value) {
            return
        }
        timer = window.setTimeout(() => {
            const asked = all.value.filter(isBusy).map(async (e) => {
                put(await uncertain.state(study(), e.id))
            })
            void Promise.all(asked).then(
                () => {
                    follow()
                },
                () => {
                    // A look that failed is made up for by the next.
                    follow(POLL_AGAIN)
                },
            )
        }, after)
    }
    return { all, busy, put, follow }
}
