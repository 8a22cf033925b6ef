import { onBeforeUnmount, onMounted, ref, type Ref } from 'vue'

/** The size of an element, as it changes. */
export function useElementSize(element: Ref<HTMLElement | undefined>) {
    const width = ref(0)
    const height = ref(0)
    const observer = new ResizeObserver(([entry]) => {
        width.value = entry?.contentRect.width ?? 0
        height.value = entry?.contentRect.height ?? 0
    })
    onMounted(() => { if (element.value) observer.observe(element.value) })
    onBeforeUnmount(() => { observer.disconnect() })
    return { width, height }
}
