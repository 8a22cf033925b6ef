import { ref, shallowRef, watch } from 'vue'
import { uncertain } from '@/api/uncertain'
import type { Distribution } from '@/api/types'
import { useModel } from '@/stores/model'

const known = new Map<string, Distribution>()

/** A distribution as the engine reads it; while it is being shaped the last one stays until the next is there. */
export function useLaw(law: () => string) {
    const model = useModel()
    const read = shallowRef<Distribution | null>(null)
    const refusal = ref('')
    let under = false
    let next = ''

    async function look(text: string) {
        next = text
        if (under) {
            return
        }
        under = true
        while (next) {
            const asked: string = next
            next = ''
            try {
                const found = known.get(asked) ?? (await uncertain.distribution(model.id, { law: asked }))
                known.set(asked, found)
                read.value = found
                refusal.value = ''
            } catch (error) {
                refusal.value = (error as Error).message
            }
        }
        under = false
    }
    watch(
        law,
        (text) => {
            if (text) {
                void look(text)
            }
        },
        { immediate: true },
    )
    return { read, refusal }
}
