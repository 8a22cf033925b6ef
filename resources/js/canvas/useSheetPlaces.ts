import type { VueFlowStore } from '@vue-flow/core'
import { nextTick, watch } from 'vue'
import { useView } from '@/stores/view'

/** Until the nodes of the other sheet are there, in milliseconds. */
const SETTLED = 20

/** Where one left a sheet, one finds it again. */
export function useSheetPlaces(flow: VueFlowStore, { fit, jump }: { fit: () => unknown; jump: (node: string) => unknown }) {
    const view = useView()
    const places = new Map<string, { x: number; y: number; zoom: number }>()

    function arrive(sheet: string) {
        const known = places.get(sheet)
        if (known) {
            void flow.setViewport(known)
        } else {
            fit()
        }
        if (view.node) {
            jump(view.node)
        }
    }

    watch(
        () => view.sheet,
        (now, before) => {
            places.set(before, { ...flow.viewport.value })
            void nextTick(() => window.setTimeout(arrive, SETTLED, now))
        },
    )
}
