import type { Point } from '@/api/types'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { useMap } from './useMap'

const WAYS: Record<string, Point> = {
    ArrowLeft: { x: -1, y: 0 },
    ArrowRight: { x: 1, y: 0 },
    ArrowUp: { x: 0, y: -1 },
    ArrowDown: { x: 0, y: 1 },
}
/** How far Ctrl and an arrow move. */
const NUDGE = 20

/** The keyboard on the map. */
export function useMapKeys(acts: { fit: () => void; type: (letter: string) => void }) {
    const map = useMap()
    const model = useModel()
    const view = useView()

    /** To the factor that lies most that way, along a link if there is one. */
    function travel(way: Point) {
        const from = map.spots[view.selected ?? '']
        if (!from) {
            const first = map.factors[0]
            if (first) {
                map.select(first.id)
            }
            return
        }
        const linked = new Set(map.links.flatMap((l) => (l.from === view.selected ? [l.to] : l.to === view.selected ? [l.from] : [])))
        let best: { id: string; far: number } | undefined
        for (const [id, at] of Object.entries(map.spots)) {
            const [dx, dy] = [at.x - from.x, at.y - from.y]
            const along = dx * way.x + dy * way.y
            const aside = Math.abs(dx * way.y - dy * way.x)
            if (id !== view.selected && along > 0 && aside < 2.2 * along) {
                const far = along + 2 * aside + (linked.has(id) ? 0 : 700)
                if (!best || far < best.far) {
                    best = { id, far }
                }
            }
        }
        if (best) {
            map.select(best.id)
        }
    }
    function nudge(way: Point) {
        const spots: Record<string, Point> = {}
        for (const id of view.selection) {
            const at = map.spots[id]
            if (at) {
                spots[id] = { x: at.x + way.x * NUDGE, y: at.y + way.y * NUDGE }
            }
        }
        if (Object.keys(spots).length) {
            void model.attempt({ kind: 'map-move', spots })
        }
    }
    function remove() {
        if (map.picked) {
            void map.dropLink(map.picked)
        } else if (view.selection.length) {
            void model.remove(view.selection)
        }
    }

    function key(event: KeyboardEvent) {
        const target = event.target as HTMLElement
        if (target.closest('input, textarea, button')) {
            return
        }
        const way = WAYS[event.key]
        const control = event.ctrlKey || event.metaKey
        if (way && map.walked && !control && (event.key === 'ArrowLeft' || event.key === 'ArrowRight')) {
            map.stepTo(map.walked.step + way.x)
        } else if (way) {
            ;(control ? nudge : travel)(way)
        } else if (event.key === 'Delete' || event.key === 'Backspace') {
            remove()
        } else if (event.key === 'F2' && view.selected) {
            view.naming = view.selected
        } else if (event.key === 'Enter' && view.selected) {
            view.card = true
            document.querySelector<HTMLElement>('.factor-card input, .factor-card button')?.focus()
        } else if (event.key === 'Escape') {
            map.select()
            void map.walk(null)
        } else if (event.key === ' ') {
            map.playing = !map.playing
        } else {
            return
        }
        event.preventDefault()
    }

    /** A letter goes to the line wherever no text is typed; with a factor selected, signs push it. */
    function anywhere(event: KeyboardEvent, stage: HTMLElement | undefined) {
        const target = event.target as HTMLElement
        const free = target === document.body || (stage?.contains(target) === true && !target.closest('input, textarea, button'))
        if (!free || event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey || event.key.length !== 1) {
            return
        }
        if (map.factor && (event.key === '+' || event.key === '-')) {
            map.push(map.factor.id, event.key === '+' ? 1 : -1)
        } else if (map.factor && event.key === '=') {
            ;(map.handOn(map.factor.id)?.hold ? map.letGo : map.hold)(map.factor.id)
        } else if (event.key === '0') {
            acts.fit()
        } else if (/[\p{L}"]/u.test(event.key)) {
            acts.type(event.key)
        } else {
            return
        }
        event.preventDefault()
    }

    return { key, anywhere }
}
