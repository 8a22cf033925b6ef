import { useView } from '@/stores/view'

/** Values at times; null where nothing is known. */
type Values = readonly (number | null | undefined)[]

/** What a small picture is drawn on: where a time and a value stand. */
export interface Plane {
    x: (t: number) => number
    y: (v: number) => number
}

const spot = ({ x, y }: Plane, t: number, v: number) => `${x(t).toFixed(1)} ${y(v).toFixed(1)}`

/** A course, with gaps where nothing is known. */
export function linePath(plane: Plane, times: readonly number[], values: Values): string {
    let gap = true
    return times
        .map((t, i) => {
            const v = values[i]
            if (v === null || v === undefined) {
                gap = true
                return ''
            }
            const word = `${gap ? 'M' : 'L'}${spot(plane, t, v)}`
            gap = false
            return word
        })
        .join('')
}

/** What lies between two courses; nothing where either is not known. */
export function bandPath(plane: Plane, times: readonly number[], lows: Values, highs: Values): string {
    const both = times.flatMap((t, i) => {
        const [low, high] = [lows[i], highs[i]]
        return low === null || high === null || low === undefined || high === undefined ? [] : [[t, low, high] as const]
    })
    const up = both.map(([t, , high]) => spot(plane, t, high))
    const down = [...both].reverse().map(([t, low]) => spot(plane, t, low))
    return both.length ? `M${up.join('L')}L${down.join('L')}Z` : ''
}

/** The playhead goes where the pointer presses and pulls in a picture that shows this span of time, so far from its left, so wide. */
export function usePlayheadPull(shows: () => { span: readonly [number, number]; left: number; width: number }) {
    const view = useView()
    function timeAt(across: number) {
        const { span, left, width } = shows()
        return span[0] + Math.min(1, Math.max(0, (across - left) / width)) * (span[1] - span[0])
    }
    let pulled = false
    function moveTo(event: PointerEvent) {
        const box = (event.currentTarget as Element).getBoundingClientRect()
        view.playhead = timeAt(event.clientX - box.left)
    }
    function press(event: PointerEvent) {
        pulled = true
        view.playing = false
        ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
        moveTo(event)
    }
    function drag(event: PointerEvent) {
        if (event.buttons === 1 && pulled) {
            moveTo(event)
        }
    }
    return { press, drag }
}
