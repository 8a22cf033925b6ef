import { onBeforeUnmount, watch } from 'vue'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'

/** Seconds for the whole span at normal speed. */
const SPAN = 12

/** Keeps the playhead within the span, and moves it while playing. */
export function usePlayhead() {
    const model = useModel()
    const view = useView()
    let frame = 0
    let last = 0

    watch([() => model.model.time.start, () => model.model.time.end], ([start, end]) => {
        view.playhead = Math.min(end, Math.max(start, view.playhead))
    })

    function tick(now: number) {
        const { start, end } = model.model.time
        const still = window.matchMedia('(prefers-reduced-motion: reduce)').matches
        // Without motion, playing goes in steps.
        if (!still || now - last > 500) {
            const next = view.playhead + (((end - start) * Math.min(1, (now - last) / 1000)) / SPAN) * view.speed
            view.playhead = next >= end ? end : next
            view.playing = next < end
            last = now
        }
        frame = view.playing ? requestAnimationFrame(tick) : 0
    }

    watch(
        () => view.playing,
        (playing) => {
            if (playing && !frame) {
                if (view.playhead >= model.model.time.end) {
                    view.playhead = model.model.time.start
                }
                last = performance.now()
                frame = requestAnimationFrame(tick)
            }
        },
    )
    onBeforeUnmount(() => {
        cancelAnimationFrame(frame)
        view.playing = false
    })
}
