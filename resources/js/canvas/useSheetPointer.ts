import type { NodeDragEvent, NodeMouseEvent, VueFlowStore } from '@vue-flow/core'
import { ref, type Ref } from 'vue'
import type { Kind, Point, Thing } from '@/api/types'
import { useModel } from '@/stores/model'
import { useTracks } from '@/stores/tracks'
import { useView } from '@/stores/view'
import type { usePull } from './usePull'
import type { useSheetDrag } from './useSheetDrag'

/** Two wishes of the pointer for a new thing lie at least so many milliseconds apart. */
const QUICK = 450
/** How much room the chooser of kinds needs, and how far a flow that stands alone reaches to each side. */
const CHOOSER = { width: 290, height: 215 }
const REACH = 110

interface Around {
    stage: Ref<HTMLElement | undefined>
    drag: ReturnType<typeof useSheetDrag>
    pulls: ReturnType<typeof usePull>
    /** What lies under the pointer in a sheet that is one picture. */
    nodeAt: (event: MouseEvent) => { id: string } | undefined
    thingUnder: (event: MouseEvent) => Thing | undefined
    dismiss: () => void
}

/** What presses, double presses and drags on the sheet do. */
export function useSheetPointer(flow: VueFlowStore, { stage, drag, pulls, nodeAt, thingUnder, dismiss }: Around) {
    const model = useModel()
    const tracks = useTracks()
    const view = useView()
    const chooser = ref<{ screen: Point; at: Point } | null>(null)
    let chosenAt = -QUICK

    const focus = () => stage.value?.focus({ preventScroll: true })

    /** Selects it besides, or not any more. */
    function toggle(id: string) {
        view.selection = view.selection.includes(id) ? view.selection.filter((s) => s !== id) : [...view.selection, id]
    }

    function press({ node, event }: NodeMouseEvent) {
        dismiss()
        const id = node.id.split('~')[0] as string
        if (event instanceof MouseEvent && event.shiftKey) {
            toggle(id)
        } else if (!view.naming || view.node !== id) {
            view.select(id)
        }
        if (!view.naming) {
            focus()
        }
    }

    function pressPaper(event: MouseEvent) {
        chooser.value = null
        const node = nodeAt(event)
        if (node && event.shiftKey) {
            toggle(node.id)
        } else {
            view.select(...(node ? [node.id] : []))
        }
        focus()
    }

    function openChooser(event: MouseEvent) {
        if (!(event.target as Element).closest('.vue-flow__pane') || nodeAt(event)) {
            return
        }
        const place = stage.value?.getBoundingClientRect()
        // The second press of a quick hand is no wish of its own.
        if (place && performance.now() - chosenAt > QUICK && !view.adding && !view.naming) {
            chooser.value = {
                screen: {
                    x: Math.min(event.clientX - place.left, place.width - CHOOSER.width),
                    y: Math.min(event.clientY - place.top, place.height - CHOOSER.height),
                },
                at: flow.screenToFlowCoordinate({ x: event.clientX, y: event.clientY }),
            }
        }
    }

    async function choose(kind: Kind, at = chooser.value?.at) {
        if (chooser.value) {
            chosenAt = performance.now()
        }
        chooser.value = null
        if (at) {
            const ends = { source: { x: at.x - REACH, y: at.y }, target: { x: at.x + REACH, y: at.y } }
            await pulls.add(kind, at, {}, kind === 'flow' ? ends : {})
        }
    }

    async function removeSelected() {
        if (view.link) {
            const [from = '', to = ''] = view.link.split('>')
            await model.attempt({ kind: 'disconnect', from, to })
            return
        }
        const ids = view.selection
        view.select()
        await model.remove(ids)
    }

    function dragStop(event: NodeDragEvent) {
        const places = drag.stop(event)
        const pointer = event.event instanceof MouseEvent ? event.event : undefined
        // What is let go over the tracks gets one, and stays where it was.
        const over = pointer && document.elementFromPoint(pointer.clientX, pointer.clientY)
        const plotted = model.model.elements[model.model.echoes[event.node.id]?.element ?? event.node.id]
        if (over?.closest('[data-drop="track"]') && plotted && plotted.kind !== 'curve') {
            drag.back()
            void tracks.show([plotted.id], true)
            return
        }
        const [id, end] = event.node.id.split('~')
        // An end that is let go on a stock holds there.
        const target = end && pointer ? thingUnder(pointer) : undefined
        if (id && end && target?.kind === 'stock') {
            void pulls.reattach(id, end === 'source' ? 'from' : 'to', target, { x: 0, y: 0 })
        } else if (Object.keys(places).length) {
            void model.place(places)
        }
    }

    return { chooser, press, pressPaper, openChooser, choose, removeSelected, dragStop }
}
