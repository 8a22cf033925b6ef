import type { Edge, Node, VueFlowStore } from '@vue-flow/core'
import { computed, onScopeDispose, reactive, ref, watch, type Ref } from 'vue'

/** Up to so many things all are drawn: to find out which are in sight takes more than it saves. */
const FEW = 400
/** So much around the window is drawn too, as a share of it on each side, so that a move finds it there. */
const MARGIN = 0.6
/** So many are drawn in one frame. */
const AT_ONCE = 40

interface Region {
    left: number
    top: number
    right: number
    bottom: number
}

/**
 * Which nodes and edges of a large sheet lie in or near the window. All of them have their place on the canvas, but only these
 * are drawn; whoever asks for one is told when that changes, and nobody else.
 */
export function useNearby(nodes: Ref<Node[]>, edges: Ref<Edge[]>, { viewport, dimensions }: VueFlowStore, pictured: Ref<boolean>) {
    const near = reactive(new Set<string>())
    const many = computed(() => nodes.value.length > FEW)
    /** Whether the first that are near are still being drawn. */
    const filling = ref(false)
    let waiting: string[] = []
    let frame = 0
    let region: Region | undefined
    let zoom = 0

    /** The window on the sheet, with a margin around it. */
    function window(margin: number): Region {
        const { x, y, zoom: z } = viewport.value
        const { width, height } = dimensions.value
        return {
            left: (-x - margin * width) / z,
            top: (-y - margin * height) / z,
            right: (-x + (1 + margin) * width) / z,
            bottom: (-y + (1 + margin) * height) / z,
        }
    }

    const box = (n: Node): Region => ({
        left: n.position.x,
        top: n.position.y,
        right: n.position.x + Number(n.width),
        bottom: n.position.y + Number(n.height),
    })
    const meet = (a: Region, b: Region) => a.left < b.right && a.right > b.left && a.top < b.bottom && a.bottom > b.top

    function renew() {
        if (!many.value || pictured.value) {
            region = undefined
            waiting = []
            filling.value = false
            near.clear()
            return
        }
        const seen = window(MARGIN)
        region = seen
        zoom = viewport.value.zoom
        const boxes = new Map(nodes.value.map((n) => [n.id, box(n)]))
        const now = new Set([...boxes].filter(([, b]) => meet(b, seen)).map(([id]) => id))
        for (const edge of edges.value) {
            const [a, b] = [boxes.get(edge.source), boxes.get(edge.target)]
            if (
                a &&
                b &&
                meet(
                    {
                        left: Math.min(a.left, b.left),
                        top: Math.min(a.top, b.top),
                        right: Math.max(a.right, b.right),
                        bottom: Math.max(a.bottom, b.bottom),
                    },
                    seen,
                )
            ) {
                now.add(edge.id)
            }
        }
        // Where nothing is drawn yet the picture stays meanwhile.
        const empty = near.size === 0
        for (const id of near) {
            if (!now.has(id)) {
                near.delete(id)
            }
        }
        waiting = [...now].filter((id) => !near.has(id))
        filling.value = empty && waiting.length > 0
        fill()
    }

    function fill() {
        cancelAnimationFrame(frame)
        waiting.splice(0, AT_ONCE).forEach((id) => near.add(id))
        filling.value &&= waiting.length > 0
        if (waiting.length) {
            frame = requestAnimationFrame(fill)
        }
    }

    watch([nodes, edges, pictured], renew, { immediate: true })
    onScopeDispose(() => {
        cancelAnimationFrame(frame)
    })
    watch(
        [viewport, dimensions],
        () => {
            if (pictured.value) {
                return
            }
            const seen = window(0)
            const left =
                !region || seen.left < region.left || seen.top < region.top || seen.right > region.right || seen.bottom > region.bottom
            if (left || viewport.value.zoom > 1.6 * zoom) {
                renew()
            }
        },
        { deep: true },
    )

    return { many, filling, isNear: (id: string) => !many.value || near.has(id) }
}
