import { useEventListener, useIntervalFn } from '@vueuse/core'
import { watch, type WatchSource } from 'vue'

/** Milliseconds between two questions while things happen, and after they have not for a while. */
const SOON = 1000
const LATER = 5000
const QUIET = 60_000

/**
 * Asks what is new: every second while things happen here or elsewhere, more rarely after a quiet minute, and at once when the window
 * is looked at again.
 */
export function useNews(ask: () => void, happenings: WatchSource[]) {
    let happened = Date.now()
    let asked = 0
    function tick() {
        const now = Date.now()
        const pace = now - happened < QUIET ? SOON : LATER
        // A timer is never quite on time.
        if (!document.hidden && now - asked > pace - SOON / 2) {
            asked = now
            ask()
        }
    }
    function noted() {
        happened = Date.now()
    }
    function lookedAt() {
        if (!document.hidden) {
            noted()
            asked = 0
            tick()
        }
    }
    watch(happenings, noted)
    useIntervalFn(tick, SOON)
    useEventListener(document, 'visibilitychange', lookedAt)
    useEventListener(window, 'focus', lookedAt)
    useEventListener(window, ['pointerdown', 'keydown'], noted, { capture: true, passive: true })
}
