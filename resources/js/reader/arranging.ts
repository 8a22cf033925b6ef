import Sortable from 'sortablejs'
import { onBeforeUnmount, watch, type Ref } from 'vue'

/** What whoever writes a page does with its blocks where they stand. */
export interface Arranging {
    /** Puts a block before another one, or last. */
    move: (id: string, before: string | null) => unknown
    /** How many of twelve columns it takes. */
    widen: (id: string, width: number) => unknown
}

const COLUMNS = 12
const LEAST = 3

/** Lets blocks be dragged to another place of their grid by what is marked `data-grip`. */
export function useArranging(grid: Ref<HTMLElement | undefined>, arranging: () => Arranging | undefined) {
    let sortable: Sortable | undefined
    const end = () => {
        sortable?.destroy()
        sortable = undefined
    }
    watch(
        [grid, () => arranging() !== undefined],
        ([element, wanted]) => {
            end()
            if (element && wanted) {
                sortable = Sortable.create(element, {
                    animation: 140,
                    handle: '[data-grip]',
                    draggable: '[data-block]',
                    // The same with a mouse and with a finger.
                    forceFallback: true,
                    onEnd({ item, oldIndex = 0, newIndex = 0 }) {
                        if (oldIndex === newIndex) {
                            return
                        }
                        const next = item.nextElementSibling as HTMLElement | null
                        const { block: id = '' } = item.dataset
                        const before = next?.dataset.block ?? null
                        // Where things stand follows from the page as it is written: what was moved by hand goes back until then.
                        const others = [...element.querySelectorAll<HTMLElement>('[data-block]')].filter((e) => e !== item)
                        element.insertBefore(item, others[oldIndex] ?? null)
                        arranging()?.move(id, before)
                    },
                })
            }
        },
        { immediate: true, flush: 'post' },
    )
    onBeforeUnmount(end)
}

/** Pulls the right edge of a block: its width follows in columns, and is kept when it is let go. */
export function widen(event: PointerEvent, id: string, arranging: Arranging) {
    const edge = event.currentTarget as HTMLElement
    const block = edge.closest<HTMLElement>('[data-block]')
    const grid = block?.parentElement
    if (!block || !grid) {
        return
    }
    event.preventDefault()
    edge.setPointerCapture(event.pointerId)
    const from = block.getBoundingClientRect().left
    const column = grid.getBoundingClientRect().width / COLUMNS
    let width = 0
    const follow = (e: PointerEvent) => {
        width = Math.min(COLUMNS, Math.max(LEAST, Math.round((e.clientX - from) / column)))
        block.style.setProperty('--width', String(width))
    }
    edge.addEventListener('pointermove', follow)
    edge.addEventListener(
        'pointerup',
        () => {
            edge.removeEventListener('pointermove', follow)
            if (width) {
                arranging.widen(id, width)
            }
        },
        { once: true },
    )
}
