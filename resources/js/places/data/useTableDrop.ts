import { useFileDialog } from '@vueuse/core'
import { ref } from 'vue'
import { useView } from '@/stores/view'
import { useAreas } from './useAreas'
import { useData } from './useData'

/** Files with tables, chosen or dropped onto something. */
export function useTableDrop() {
    const data = useData()
    const areas = useAreas()
    const view = useView()
    const over = ref(false)
    const { open, onChange } = useFileDialog({ accept: '.csv,.tsv,.txt,.xlsx,.ods,.json,.geojson', multiple: false, reset: true })
    /** A map of areas is no table. */
    async function sort(file: File) {
        const isJson = /\.(?:geo)?json$/i.test(file.name)
        const start = isJson ? await file.slice(0, 5_000).text() : ''
        if (/\.geojson$/i.test(file.name) || /"type"\s*:\s*"Feature/.test(start)) {
            await areas.drop(file.name, file)
        } else {
            view.go({ place: 'data', stage: 'data', selection: view.selection })
            await data.drop(file.name, file)
        }
    }
    function take(files: FileList | null | undefined) {
        const file = files?.[0]
        if (file) {
            void sort(file)
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
