import { computed, shallowRef } from 'vue'

/** Milliseconds between two looks at how far runs are, and after a look that failed. */
const POLL = 400
const POLL_AGAIN = 2000

interface Followed {
    id: string
    finished: boolean
    stopped: boolean
}

/** What workers make, looked at again and again as long as more is to come. */
export function useFollowed<T extends Followed>(stateOf: (id: string) => Promise<T>) {
    const all = shallowRef<T[]>([])
    const isBusy = (e: T) => !e.finished && !e.stopped
    const busy = computed(() => all.value.some(isBusy))
    let timer = 0

    function put(one: T) {
        all.value = all.value.map((e) => (e.id === one.id ? one : e))
    }
    function follow(after = POLL) {
        window.clearTimeout(timer)
        if (!busy.value) {
            return
        }
        timer = window.setTimeout(() => {
            const asked = all.value.filter(isBusy).map(async (e) => {
                put(await stateOf(e.id))
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
