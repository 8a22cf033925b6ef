import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import { api } from '@/api/client'
import type { FileFormat, Level, LogLine } from '@/api/types'
import { download } from '@/ui/download'
import { useNotices } from './notices'

/** Studies as files, with what the format could not hold; what fails says so. */
export const useExports = defineStore('exports', () => {
    const notices = useNotices()
    const lost = shallowRef<{ name: string; log: LogLine[] } | null>(null)
    const busy = ref(false)

    /** With members that come and go one by one, or taken together at a level. */
    async function exportStudy(study: string, format: FileFormat, level: Level['level'] = 'members') {
        if (busy.value) {
            return
        }
        busy.value = true
        try {
            const { name, content } = await api.studyFile(study, format, level)
            download(name, content)
            const log = await api.losses(study, format, level)
            if (log.length) {
                lost.value = { name, log }
            } else {
                notices.say(`Exported as ${name}.`)
            }
        } catch (error) {
            notices.trouble(`It could not be exported: ${(error as Error).message}`)
        }
        busy.value = false
    }

    return { lost, busy, exportStudy }
})
