import type { VueFlowStore } from '@vue-flow/core'
import { ref, type Ref } from 'vue'
import { useView } from '@/stores/view'

/** Shift and a drag on empty paper select what the box touches, besides what is selected. */
export function useMarquee({ getNodes, viewport }: VueFlowStore, stage: Ref<HTMLElement | undefined>) {
    const view = useView()
    const box = ref<{ x: number; y: number; width: number; height: number }>()

    function press(event: MouseEvent) {
        const place = stage.value?.getBoundingClientRect()
        if (!event.shiftKey || event.button !== 0 || !place || !(event.target as Element).closest('.vue-flow__pane')) {
            return
        }
        event.stopPropagation()
        event.preventDefault()
        stage.value?.focus({ preventScroll: true })
        const before = [...view.selection]
        const from = { x: event.clientX - place.left, y: event.clientY - place.top }
        let moved = false
        const move = (e: MouseEvent) => {
            moved = true
            const to = { x: e.clientX - place.left, y: e.clientY - place.top }
            box.value = {
                x: Math.min(from.x, to.x),
                y: Math.min(from.y, to.y),
                width: Math.abs(to.x - from.x),
                height: Math.abs(to.y - from.y),
            }
            const { x, y, zoom } = viewport.value
            const low = { x: (box.value.x - x) / zoom, y: (box.value.y - y) / zoom }
            const high = { x: (box.value.x + box.value.width - x) / zoom, y: (box.value.y + box.value.height - y) / zoom }
            const inside = getNodes.value
                .filter(
                    (n) =>
                        !n.id.includes('~') &&
                        n.position.x < high.x &&
                        n.position.x + Number(n.width ?? 0) > low.x &&
                        n.position.y < high.y &&
                        n.position.y + Number(n.height ?? 0) > low.y,
                )
                .map((n) => n.id)
            view.selection = [...new Set([...before, ...inside])]
        }
        const end = () => {
            box.value = undefined
            window.removeEventListener('mousemove', move)
            window.removeEventListener('mouseup', end)
            // The click that ends the drag is none on the paper.
            if (moved)
                window.addEventListener(
                    'click',
                    (e) => {
                        e.stopPropagation()
                    },
                    { capture: true, once: true },
                )
        }
        window.addEventListener('mousemove', move)
        window.addEventListener('mouseup', end)
    }

    return { box, press }
}
