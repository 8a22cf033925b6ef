import type { Edge, Node, VueFlowStore } from '@vue-flow/core'
import { computed, ref, type Ref } from 'vue'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { useNearby } from './useNearby'

/** Beyond so many things a sheet is one picture from afar. */
const MANY = 200
/** What is painted small is hit as if it were so high, in pixels of the screen. */
const LEAST_HIT = 10
/** Below these zooms names but of stocks, and below the other values and small plots, are left out. */
const FAR = 0.42
const MIDDLE = 0.68

/** How much of the sheet is drawn as shapes: from afar a large one is a picture, and of a huge one only what is near is there. */
export function usePicture(nodes: Ref<Node[]>, edges: Ref<Edge[]>, flow: VueFlowStore) {
    const model = useModel()
    const view = useView()
    const detail = computed(() => (flow.viewport.value.zoom < FAR ? 'far' : flow.viewport.value.zoom < MIDDLE ? 'half' : 'near'))
    const pictured = computed(() => detail.value === 'far' && nodes.value.length > MANY)
    const { isNear, many, filling } = useNearby(nodes, edges, flow, pictured)
    const isDrawn = (node: string, thing?: string) => (!pictured.value && isNear(node)) || view.naming === thing

    /** The thing of a huge painted sheet at a place on the screen; of others the shapes themselves are asked. */
    function nodeAt(event: MouseEvent): Node | undefined {
        if (!pictured.value || !many.value) {
            return undefined
        }
        const at = flow.screenToFlowCoordinate({ x: event.clientX, y: event.clientY })
        const least = LEAST_HIT / flow.viewport.value.zoom
        const off = (n: Node) => ({
            x: Math.abs(n.position.x + Number(n.width) / 2 - at.x),
            y: Math.abs(n.position.y + Number(n.height) / 2 - at.y),
        })
        const far = (n: Node) => Math.hypot(off(n).x, off(n).y)
        return nodes.value
            .filter(
                (n) =>
                    n.type !== 'outside' &&
                    off(n).x < Math.max(least, Number(n.width)) / 2 &&
                    off(n).y < Math.max(least, Number(n.height)) / 2,
            )
            .sort((a, b) => far(a) - far(b))[0]
    }

    /** The name of what is pointed at there. */
    const pointed = ref('')
    function point(event: MouseEvent) {
        pointed.value = model.model.elements[(nodeAt(event)?.data as { thing?: string } | undefined)?.thing ?? '']?.name ?? ''
    }

    return { detail, pictured, painted: computed(() => pictured.value || filling.value), many, isDrawn, nodeAt, point, pointed }
}
