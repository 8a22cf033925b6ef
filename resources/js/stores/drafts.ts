import { useStorage } from '@vueuse/core'
import { studyStore } from './studyStore'
import type { Plot } from '@/api/types'
import { newId } from '@/ui/ids'
import { useModel } from './model'

const BEGIN = 'draft-'

/** Plots that are not kept in the study yet: they stay in this browser until they are kept or thrown away. */
export const useDrafts = studyStore('drafts', () => {
    const model = useModel()
    const all = useStorage<Plot[]>(() => `merry-orbit:drafts:${model.id}`, [])
    const store = (now: Plot[]) => {
        all.value = now
    }

    const find = (id: string) => all.value.find((d) => d.id === id)
    /** A new draft, empty or of some variables; its id is returned. */
    function make(from: Partial<Plot> = {}): string {
        const id = `${BEGIN}${newId()}`
        store([...all.value, { of: [], kind: 'lines', ...from, id, pin: undefined }])
        return id
    }
    const put = (plot: Plot) => {
        store(all.value.map((d) => (d.id === plot.id ? plot : d)))
    }
    const drop = (id: string) => {
        store(all.value.filter((d) => d.id !== id))
    }

    return { all, find, make, put, drop, isDraft: (id: string) => id.startsWith(BEGIN) }
})
