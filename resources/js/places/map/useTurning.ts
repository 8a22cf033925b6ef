import { useRafFn } from '@vueuse/core'
import { ref, watch } from 'vue'

/** Beats in a second. */
const SPEED = 6

/** A playhead that runs through so many beats once; without motion it stands at the end at once. */
export function useTurning(beats: () => number) {
    const beat = ref(0)
    const playing = ref(false)
    const { pause, resume } = useRafFn(
        ({ delta }) => {
            beat.value = Math.min(beats(), beat.value + (SPEED * Math.min(500, delta)) / 1000)
            playing.value = beat.value < beats()
        },
        { immediate: false },
    )
    watch(playing, (now) => {
        if (!now) {
            pause()
        } else if (window.matchMedia('(prefers-reduced-motion: reduce)').matches) {
            beat.value = beats()
            playing.value = false
        } else {
            beat.value = beat.value >= beats() ? 0 : beat.value
            resume()
        }
    })
    return { beat, playing }
}
