import type { Ref } from 'vue'
import type { Kind } from '@/api/types'
import { keyOf, useKeys, type KeyName } from '@/stores/keys'
import { useMends } from '@/stores/mends'
import { useView } from '@/stores/view'
import type { Pull } from './usePull'

const ARROWS: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }

/** How far a thing moves with one press, in pixels of the sheet. */
const NUDGE = 10

interface Acts {
    pull: Ref<Pull | null>
    add: (kind: Kind) => void
    /** Ends a pull at the selected thing. */
    finish: () => void
    cancel: () => void
    remove: () => void
    /** To what lies in a direction; with `more` it is selected besides. */
    travel: (dx: number, dy: number, more: boolean) => void
    pickLink: () => void
    /** Moves the bend of the picked link. */
    bend: (dx: number, dy: number) => void
    echo: () => void
    /** Shows or hides the tracks of what is selected. */
    track: () => void
    fit: () => void
    fitSelection: () => void
    /** With the control key. */
    held: Record<string, () => void>
    nudge: (ids: string[], dx: number, dy: number) => void
}

/** What the keys do while the sheet itself has the focus; the list for people is in KeysDialog.vue. */
export function useSheetKeys(stage: Ref<HTMLElement | undefined>, acts: Acts) {
    const view = useView()
    const keys = useKeys()
    const mends = useMends()

    const singles: Partial<Record<KeyName, () => void>> = {
        stock: () => {
            acts.add('stock')
        },
        auxiliary: () => {
            acts.add('auxiliary')
        },
        parameter: () => {
            acts.add('parameter')
        },
        curve: () => {
            acts.add('curve')
        },
        series: () => {
            acts.add('series')
        },
        link: acts.pickLink,
        echo: acts.echo,
        track: acts.track,
        back: () => {
            view.way.back?.()
        },
        ahead: () => {
            view.way.ahead?.()
        },
        fit: acts.fit,
        selection: acts.fitSelection,
        rename: () => {
            view.naming = view.selected ?? ''
        },
        play: () => {
            view.playing = !view.playing
        },
    }

    const plain: Record<string, () => void> = {
        Enter: () => {
            if (acts.pull.value) {
                acts.finish()
            } else if (view.selected) {
                view.saying = view.selected
            }
        },
        Escape: () => {
            if (acts.pull.value) {
                acts.cancel()
            } else {
                view.select()
            }
        },
        Delete: acts.remove,
        Backspace: acts.remove,
    }

    /** A single key that came while something else had the focus. */
    function single(event: KeyboardEvent) {
        const known = keys.actOf(event)
        const act = known && singles[known]
        if (act && !view.naming && !view.saying) {
            stage.value?.focus({ preventScroll: true })
            act()
            event.preventDefault()
        }
    }

    function key(event: KeyboardEvent) {
        if (event.target !== stage.value || event.altKey) {
            return
        }
        const control = event.ctrlKey || event.metaKey
        if ((view.adding || view.naming || view.saying || mends.waiting) && event.key !== 'Escape') {
            // The name field is about to come: what is typed is meant for it.
            view.typeAhead(event)
            return
        }
        const arrow = ARROWS[event.key]
        const name = keyOf(event)
        const known = keys.actOf(event)
        const act = control ? acts.held[name] : (plain[name] ?? (known && singles[known]))
        if (arrow && view.link) {
            acts.bend(arrow[0] * NUDGE, arrow[1] * NUDGE)
        } else if (arrow && control) {
            acts.nudge(view.selection, arrow[0] * NUDGE, arrow[1] * NUDGE)
        } else if (arrow) {
            acts.travel(...arrow, event.shiftKey)
        } else if (act) {
            act()
        } else {
            return
        }
        event.preventDefault()
    }

    return { key, single }
}
