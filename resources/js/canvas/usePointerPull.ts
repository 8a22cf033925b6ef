import type { VueFlowStore } from '@vue-flow/core'
import type { Ref } from 'vue'
import type { Point, Thing } from '@/api/types'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import type { Pull, PullKind } from './usePull'

/** Nearer than this, letting go is the first of two clicks and not the end of a drag. */
const STILL = 8

interface Hooks {
    pull: Ref<Pull | null>
    begin: (kind: PullKind, thing: string, to: Point) => void
    finish: (target: Thing | undefined, point: Point) => Promise<void>
    cancel: () => void
}

/** A pull by pointer: it ends where the pointer is let go after a way, or else with the next press. */
export function usePointerPull(
    { screenToFlowCoordinate }: VueFlowStore,
    stage: Ref<HTMLElement | undefined>,
    { pull, begin, finish, cancel }: Hooks,
) {
    const model = useModel()
    const view = useView()
    let stop = () => {}

    const placeOf = (e: PointerEvent) => screenToFlowCoordinate({ x: e.clientX, y: e.clientY })

    function thingUnder(e: { clientX: number; clientY: number }): Thing | undefined {
        for (const element of document.elementsFromPoint(e.clientX, e.clientY)) {
            const node = element.closest<HTMLElement>('.vue-flow__node')?.dataset.id
            const id = model.model.echoes[node ?? '']?.element ?? node
            if (id && model.model.elements[id]) {
                return model.model.elements[id]
            }
        }
        return undefined
    }

    function startPull(kind: PullKind, event: PointerEvent) {
        if (!view.selected) {
            return
        }
        stop()
        begin(kind, view.selected, placeOf(event))
        const move = (e: PointerEvent) => {
            if (pull.value) {
                pull.value.to = placeOf(e)
            }
        }
        const end = (e: PointerEvent) => {
            stop()
            void finish(thingUnder(e), placeOf(e))
        }
        const release = (e: PointerEvent) => {
            if (Math.hypot(e.clientX - event.clientX, e.clientY - event.clientY) >= STILL) {
                end(e)
            }
        }
        const press = (e: PointerEvent) => {
            if (stage.value?.contains(e.target as Node)) {
                e.preventDefault()
                e.stopPropagation()
                end(e)
            } else {
                stop()
                cancel()
            }
        }
        stop = () => {
            window.removeEventListener('pointermove', move)
            window.removeEventListener('pointerup', release)
            window.removeEventListener('pointerdown', press, true)
        }
        window.addEventListener('pointermove', move)
        window.addEventListener('pointerup', release)
        // Not for the press that is under way.
        window.setTimeout(() => {
            if (pull.value) window.addEventListener('pointerdown', press, true)
        })
    }

    return {
        startPull,
        stopPull: () => {
            stop()
        },
        thingUnder,
    }
}
