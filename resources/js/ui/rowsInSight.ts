import { useVirtualizer } from '@tanstack/vue-virtual'
import { computed, type Ref } from 'vue'

interface Options {
    /** How high a row is, in pixels. */ row: number
    /** Rows that are drawn above and below those in sight. */ around: number
    /** How much is in sight before the box is measured. */ room: number
}

/** Only the rows of a long table that are in sight, and how much room those above and below take. */
export function useRowsInSight<T>(box: Ref<HTMLElement | null>, rows: () => readonly T[], { row, around, room }: Options) {
    const list = useVirtualizer(
        computed(() => ({
            count: rows().length,
            getScrollElement: () => box.value,
            estimateSize: () => row,
            overscan: around,
            initialRect: { width: 300, height: room },
        })),
    )
    const inSight = computed(() =>
        list.value.getVirtualItems().flatMap(({ index, start, end }) => {
            const one = rows()[index]
            return one === undefined ? [] : [{ row: one, index, start, end }]
        }),
    )
    const above = computed(() => inSight.value[0]?.start ?? 0)
    const below = computed(() => Math.max(0, list.value.getTotalSize() - (inSight.value.at(-1)?.end ?? 0)))
    /** Brings a row into the middle of the box. */
    function to(index: number) {
        list.value.scrollToIndex(index, { align: 'center' })
    }
    return { inSight, above, below, to }
}
