import { onScopeDispose, ref, shallowRef, watch } from 'vue'
import { api } from '@/api/client'
import type { TableRows } from '@/api/types'
import { useModel } from '@/stores/model'
import { useData } from './useData'

/** Rows that are asked for at once. */
const PIECE = 200

/** So long a table has to rest before its rows are asked for, in milliseconds. */
const REST = 60

/** Rows of a long table, which come in pieces as they are seen. */
export function useRowPieces(what: () => { asItCame?: boolean; after: number }) {
    const data = useData()
    const model = useModel()
    const head = shallowRef<TableRows | null>(null)
    const pieces = shallowRef(new Map<number, TableRows['rows']>())
    const trouble = ref('')
    let turn = 0
    watch(
        () => [data.table, JSON.stringify(what())] as const,
        () => {
            turn++
            pieces.value = new Map()
        },
    )

    async function ask(piece: number) {
        const read = data.table
        const mine = turn
        if (!read || pieces.value.has(piece)) {
            return
        }
        pieces.value = new Map(pieces.value).set(piece, [])
        try {
            const got = await api.tableRows(model.id, read.content, { ...data.asked(), ...what(), from: piece * PIECE, count: PIECE })
            if (mine === turn) {
                head.value = got
                pieces.value = new Map(pieces.value).set(piece, got.rows)
                trouble.value = ''
            }
        } catch (error) {
            trouble.value = (error as Error).message
        }
    }
    let resting = 0
    /** What is only passed by is not asked for. */
    function see(first: number, last: number) {
        window.clearTimeout(resting)
        resting = window.setTimeout(
            () => {
                for (let piece = Math.floor(first / PIECE); piece <= Math.floor(last / PIECE); piece++) {
                    void ask(piece)
                }
            },
            head.value ? REST : 0,
        )
    }
    onScopeDispose(() => {
        window.clearTimeout(resting)
    })
    const row = (i: number) => pieces.value.get(Math.floor(i / PIECE))?.[i % PIECE]
    return { head, trouble, see, row }
}
