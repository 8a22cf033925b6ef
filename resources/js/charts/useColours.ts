import { onScopeDispose, ref, watch } from 'vue'
import { usePage } from '@/stores/page'

/** Tokens as colours for what is painted; asked for once per theme, for asking makes the browser settle all styles. */
export function useColours() {
    const page = usePage()
    let known: Record<string, string> = {}
    /** Counts up when the theme has changed and its colours are there. */
    const painted = ref(0)
    let frame = 0
    watch(
        () => page.theme,
        () => {
            frame = requestAnimationFrame(() => {
                known = {}
                painted.value++
            })
        },
    )
    onScopeDispose(() => {
        cancelAnimationFrame(frame)
    })
    return {
        painted,
        colour: (token: string) => (known[token] ??= getComputedStyle(document.documentElement).getPropertyValue(token).trim() || '#777'),
    }
}
