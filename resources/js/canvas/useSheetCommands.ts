import { watch } from 'vue'
import type { Kind } from '@/api/types'
import { useView } from '@/stores/view'
import type { Arrangement } from '@/ui/arrange'

interface Acts {
    add: (kind: Kind) => void
    arrange: (how: Arrangement) => void
    /** By the word that the rest of the page asks with. */
    named: Record<string, () => void>
}

/** What is asked of the sheet from elsewhere: by the outline, by commands. */
export function useSheetCommands({ add, arrange, named }: Acts) {
    const view = useView()
    watch(
        () => view.wanted,
        (kind) => {
            if (kind) {
                view.wanted = ''
                add(kind)
            }
        },
    )
    watch(
        () => view.asked,
        (asked) => {
            if (!asked) {
                return
            }
            view.asked = ''
            const act = named[asked]
            if (act) {
                act()
            } else {
                arrange(asked as Arrangement)
            }
        },
        { immediate: true },
    )
}
