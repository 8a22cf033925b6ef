import { computed } from 'vue'
import type { Point, Thing } from '@/api/types'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { useRest } from './useRest'

interface Around {
    /** Where the middle of a node is on the stage. */
    placeOf: (node: string | undefined) => Point | undefined
    /** Whether something goes on in which no ring may come up. */
    busy: () => boolean
    /** Whether one is too far away for a ring by mere rest. */
    far: () => boolean
}

/** The ring: around what is selected, or around what the pointer rests on. */
export function useRing({ placeOf, busy, far }: Around) {
    const model = useModel()
    const view = useView()
    const rest = useRest(
        (node) =>
            node === view.node ||
            view.selection.length > 1 ||
            node.includes('~') ||
            far() ||
            busy() ||
            Boolean(view.naming || view.saying || view.adding),
    )
    const node = computed(() => rest.resting.value || view.node)

    const ringThing = computed<Thing | undefined>(() => {
        const echo = model.model.echoes[node.value ?? '']
        const thing = model.model.elements[echo?.element ?? node.value ?? '']
        // The echo of a flow has no ends to move, and what a ledger makes is filled there.
        return thing && echo && (thing.kind === 'flow' || thing.made) ? { ...thing, kind: 'auxiliary' } : thing
    })
    const ringAt = computed(() => (ringThing.value && !view.naming && !busy() ? placeOf(node.value) : undefined))

    /** What is chosen on the ring is done with its thing, which is selected then. */
    function withRing(act: (thing: Thing) => void) {
        const thing = ringThing.value
        const chosen = node.value
        rest.dismiss()
        if (thing && chosen) {
            if (view.node !== chosen) {
                view.select(chosen)
            }
            act(thing)
        }
    }

    return { rest, ringNode: node, ringThing, ringAt, withRing }
}
