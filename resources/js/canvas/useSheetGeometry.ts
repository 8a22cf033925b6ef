import type { VueFlowStore } from '@vue-flow/core'
import type { Ref } from 'vue'
import type { Point } from '@/api/types'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'

/** Where things lie on the sheet and on the stage, and which one is next in a direction. */
export function useSheetGeometry({ findNode, viewport, screenToFlowCoordinate, setViewport }: VueFlowStore, stage: Ref<HTMLElement | undefined>) {
    const model = useModel()
    const view = useView()

    /** From a place on the sheet to one on the stage. */
    const onStage = (p: Point): Point => ({ x: p.x * viewport.value.zoom + viewport.value.x, y: p.y * viewport.value.zoom + viewport.value.y })

    function middleOf(id: string): Point | undefined {
        const node = findNode(id)
        return node ? { x: node.computedPosition.x + node.dimensions.width / 2, y: node.computedPosition.y + node.dimensions.height / 2 } : undefined
    }

    const middleOfSelected = () => view.selected ? middleOf(view.selected) : undefined

    /** A free spot near the selection, or in the middle of what is seen. */
    function freeSpot(): Point {
        const box = stage.value?.getBoundingClientRect()
        const beside = middleOfSelected()
        const start = beside ? { x: beside.x, y: beside.y + 110 } : screenToFlowCoordinate({ x: (box?.left ?? 0) + (box?.width ?? 0) / 2, y: (box?.top ?? 0) + (box?.height ?? 0) / 2 })
        const taken = Object.values(model.model.placements).map((p) => p.at)
        for (let i = 0; i < 40; i++) {
            const spot = { x: start.x + (i % 5) * 150 * (i % 2 ? 1 : -1), y: start.y + Math.floor(i / 5) * 90 }
            if (taken.every((t) => Math.abs(t.x - spot.x) > 140 || Math.abs(t.y - spot.y) > 70)) {
                return spot
            }
        }
        return start
    }

    /** Moves the sheet just so far that a thing is in sight. */
    function reveal(id: string) {
        const middle = middleOf(id)
        const box = stage.value
        if (!middle || !box) {
            return
        }
        const at = onStage(middle)
        const by = { x: Math.max(0, 70 - at.x) + Math.min(0, box.clientWidth - 70 - at.x), y: Math.max(0, 60 - at.y) + Math.min(0, box.clientHeight - 90 - at.y) }
        if (by.x || by.y) {
            void setViewport({ x: viewport.value.x + by.x, y: viewport.value.y + by.y, zoom: viewport.value.zoom })
        }
    }

    /** To the nearest thing that lies in a direction. */
    function travel(dx: number, dy: number) {
        const here = middleOfSelected()
        if (!here) {
            const first = model.things[0]
            if (first) {
                view.select(first.id)
            }
            return
        }
        let best: { id: string, cost: number } | undefined
        for (const thing of model.things) {
            const there = middleOf(thing.id)
            if (!there || thing.id === view.selected) {
                continue
            }
            const along = (there.x - here.x) * dx + (there.y - here.y) * dy
            const aside = Math.abs((there.x - here.x) * dy) + Math.abs((there.y - here.y) * dx)
            if (along > 4 && (!best || along + 2 * aside < best.cost)) {
                best = { id: thing.id, cost: along + 2 * aside }
            }
        }
        if (best) {
            view.select(best.id)
            reveal(best.id)
        }
    }

    return { onStage, middleOf, freeSpot, reveal, travel }
}
