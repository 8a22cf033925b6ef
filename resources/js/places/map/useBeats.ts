import { onBeforeUnmount, watch } from 'vue'
import { useMap } from './useMap'

/** Beats in a second. */
const SPEED = 4
/** Without motion, playing goes in steps. */
const STILL = 400

/** Moves the playhead of the sketch while it is played. */
export function useBeats() {
    const map = useMap()
    let frame = 0
    let last = 0

    function tick(now: number) {
        if (!map.playing) {
            frame = 0
            return
        }
        const still = window.matchMedia('(prefers-reduced-motion: reduce)').matches
        if (!still || now - last > STILL) {
            const next = map.beat + (SPEED * Math.min(1000, now - last)) / 1000
            map.beat = Math.min(map.beats, still ? Math.round(next) : next)
            map.playing = map.playing && map.beat < map.beats
            last = now
        }
        frame = map.playing ? requestAnimationFrame(tick) : 0
    }
    watch(
        () => map.playing,
        (playing) => {
            if (playing && !frame) {
                if (map.beat >= map.beats) {
                    map.beat = 0
                }
                last = performance.now()
                frame = requestAnimationFrame(tick)
            }
        },
    )
    onBeforeUnmount(() => {
        cancelAnimationFrame(frame)
        map.playing = false
    })
}
