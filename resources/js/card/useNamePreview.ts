import { onScopeDispose, ref, watch, type Ref } from 'vue'
import { api, ProblemError } from '@/api/client'
import type { Rereading, Thing } from '@/api/types'
import { useModel } from '@/stores/model'

/** Rest while a name is typed, in milliseconds, before it is asked what it would do. */
const REST = 250

/** What the name that is being typed would change: the formulas that mention the thing, or why it cannot be called so. */
export function useNamePreview(thing: () => Thing, name: Ref<string>) {
    const model = useModel()
    const followers = ref<Rereading[]>([])
    const refusal = ref('')
    let timer = 0

    watch([() => thing().id, () => thing().name, name], () => {
        window.clearTimeout(timer)
        followers.value = []
        refusal.value = ''
        const typed = name.value.trim()
        const { id } = thing()
        if (!typed || typed === thing().name) {
            return
        }
        const isLate = () => name.value.trim() !== typed || thing().id !== id || thing().name === typed
        timer = window.setTimeout(() => {
            api.preview(model.id, { kind: 'rename', id, name: typed }).then(
                (list) => {
                    if (!isLate()) {
                        followers.value = list
                    }
                },
                (error: unknown) => {
                    // Without an answer one sees as much as before; the edit itself waits for the server.
                    if (!isLate() && error instanceof ProblemError && error.status === 422) {
                        refusal.value = error.message
                    }
                },
            )
        }, REST)
    })
    onScopeDispose(() => {
        window.clearTimeout(timer)
    })

    return { followers, refusal }
}
