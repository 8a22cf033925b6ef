import { useFileDialog } from '@vueuse/core'
import { ref } from 'vue'
import { useData } from './useData'

/** Files with tables, chosen or dropped onto something. */
export function useTableDrop() {
    const data = useData()
    const over = ref(false)
    const { open, onChange } = useFileDialog({ accept: '.csv,.tsv,.txt,.xlsx,.ods,.json', multiple: false, reset: true })
    function take(files: FileList | null | undefined) {
        const file = files?.[0]
        if (file) {
            void data.drop(file.name, file)
        }
    }
    onChange(take)
    const onto = {
        dragover: (event: DragEvent) => {
            event.preventDefault()
            over.value = true
        },
        dragleave: () => {
            over.value = false
        },
        drop: (event: DragEvent) => {
            event.preventDefault()
            over.value = false
            take(event.dataTransfer?.files)
        },
    }
    return { over, onto, choose: () => open() }
}
