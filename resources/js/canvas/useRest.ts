import { useEventListener } from '@vueuse/core'
import { onScopeDispose, ref } from 'vue'

/** A short rest of the pointer on a thing, and how long it may be away from it and its ring until that goes; in milliseconds. */
const REST = 550
const AWAY = 450

/**
 * On which thing the pointer rests. What shows there stays while the pointer is on it, and goes with Esc, with the pointer's
 * leaving, or with the next press.
 */
export function useRest(blocked: (node: string) => boolean) {
    const resting = ref('')
    let timer = 0

    function after(wait: number, node: string) {
        window.clearTimeout(timer)
        timer = window.setTimeout(() => {
            resting.value = node && !blocked(node) ? node : ''
        }, wait)
    }
    const enter = (node: string) => {
        after(REST, node)
    }
    const leave = () => {
        after(AWAY, '')
    }
    const stay = () => {
        window.clearTimeout(timer)
    }
    function dismiss() {
        window.clearTimeout(timer)
        resting.value = ''
    }

    function escape(event: KeyboardEvent) {
        if (event.key === 'Escape') {
            // Only this: what is selected stays so.
            event.stopPropagation()
            dismiss()
        }
    }
    useEventListener(() => (resting.value ? window : undefined), 'keydown', escape, { capture: true })
    onScopeDispose(dismiss)

    return { resting, enter, leave, stay, dismiss }
}
