import type { Thing } from '@/api/types'
import { useModel } from './model'
import { studyStore } from './studyStore'

/** The values of parameters by elements. */
export const useTables = studyStore('tables', () => {
    const model = useModel()
    const tableOf = (id: string) => Object.values(model.model.tables ?? {}).find((t) => t.of === id)

    /** Ids of elements in the order of the dimensions, with commas, to the value that is given for them. */
    const valuesOf = (id: string) => new Map((tableOf(id)?.values ?? []).map(([at, value]) => [at.join(','), value]))

    /** The edit that gives some of the elements other values; NaN leaves one to the value elsewhere. */
    function editFor(thing: Thing, changes: ReadonlyMap<string, number>) {
        const values = [...changes].map(([at, value]) => [at.split(','), Number.isNaN(value) ? null : value] as [string[], number | null])
        return values.length ? ({ kind: 'values', id: thing.id, values } as const) : undefined
    }

    async function write(thing: Thing, changes: ReadonlyMap<string, number>): Promise<boolean> {
        const edit = editFor(thing, changes)
        return edit ? model.attempt(edit) : true
    }

    return { valuesOf, editFor, write }
})
