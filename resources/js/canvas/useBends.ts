import type { VueFlowStore } from '@vue-flow/core'
import { computed, ref } from 'vue'
import type { Placement, Point } from '@/api/types'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { middleOfNode, sizeOfNode } from './nodes'
import { borderToward, linkShape } from './shapes'
import { endId } from './useSheet'

/** Where the handle of a leg without a bend stands, as a share of the way from the gate to the border of its end. */
const FAR = 0.8

/** Bends of the picked link, or of the selected flow: where their handles are, and what moving them does. */
export function useBends({ findNode, edges }: VueFlowStore, onStage: (p: Point) => Point) {
    const model = useModel()
    const view = useView()
    /** Where a drag began, to be moved from. */
    const origin = ref<{ key: string; at: Point } | null>(null)

    function middleOf(id: string): Point | undefined {
        const node = findNode(id)
        return node && middleOfNode(node)
    }

    const linkEdge = computed(() => edges.value.find((e) => (e.data as { key?: string } | undefined)?.key === view.link))

    function linkMiddle() {
        const edge = linkEdge.value
        const from = edge && findNode(edge.source)
        const to = edge && findNode(edge.target)
        if (!from || !to) {
            return undefined
        }
        const a = middleOfNode(from)
        const b = middleOfNode(to)
        const { by, bow } = edge.data as { by?: Point; bow?: number }
        return { shape: linkShape(a, sizeOfNode(from), b, sizeOfNode(to), by, bow), straight: { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 } }
    }

    /** The bends of the selected flow, or the middles of its legs where it has none. */
    function flowBends(): Record<'bendIn' | 'bendOut', { at: Point; set: boolean }> | undefined {
        const flow = view.selected && view.node === view.selected ? model.model.elements[view.selected] : undefined
        const place = flow && model.model.placements[flow.id]
        const gate = flow && middleOf(flow.id)
        if (flow?.kind !== 'flow' || !place || !gate) {
            return undefined
        }
        const edge = edges.value.find((e) => e.id === `ribbon:${flow.id}`)
        const leg = (end: string | undefined, bend: Point | undefined) => {
            const node = findNode(end ?? '')
            const far = node ? borderToward(middleOfNode(node), sizeOfNode(node), gate, 0) : gate
            // Near the far end, clear of the ring around the gate.
            return { at: bend ?? { x: gate.x + FAR * (far.x - gate.x), y: gate.y + FAR * (far.y - gate.y) }, set: bend !== undefined }
        }
        return {
            bendIn: leg(edge?.source ?? endId(flow.id, 'source'), place.bendIn),
            bendOut: leg(edge?.target ?? endId(flow.id, 'target'), place.bendOut),
        }
    }

    const handles = computed(() => {
        if (view.link) {
            const link = linkMiddle()
            return link
                ? [
                      {
                          key: 'link',
                          words: 'Bend of the link',
                          at: onStage(link.shape.middle),
                          set: model.model.bends[view.link] !== undefined,
                      },
                  ]
                : []
        }
        const bends = flowBends()
        return bends
            ? (['bendIn', 'bendOut'] as const).map((key) => ({
                  key,
                  words: key === 'bendIn' ? 'Bend before the gate' : 'Bend behind the gate',
                  at: onStage(bends[key].at),
                  set: bends[key].set,
              }))
            : []
    })

    function startOf(key: string): Point | undefined {
        return key === 'link' ? linkMiddle()?.shape.middle : flowBends()?.[key as 'bendIn' | 'bendOut'].at
    }

    /** Shows the bend at a new place, and keeps it when the drag is done. */
    function move(key: string, dx: number, dy: number, done: boolean) {
        if (origin.value?.key !== key) {
            const at = startOf(key)
            origin.value = at ? { key, at } : null
        }
        const at = origin.value?.at
        if (!at) {
            return
        }
        const to = { x: Math.round(at.x + dx), y: Math.round(at.y + dy) }
        if (key === 'link') {
            const straight = linkMiddle()?.straight ?? to
            setLink({ x: Math.round(to.x - straight.x), y: Math.round(to.y - straight.y) }, done)
        } else if (view.selected) {
            setFlow(view.selected, { [key]: to }, done)
        }
        if (done) {
            origin.value = null
        }
    }

    function setLink(by: Point | null, done: boolean) {
        const [from = '', to = ''] = view.link.split('>')
        const bends = { ...model.model.bends }
        if (by) {
            bends[view.link] = by
        } else {
            Reflect.deleteProperty(bends, view.link)
        }
        model.model = { ...model.model, bends }
        if (done) {
            void model.attempt({ kind: 'bend', from, to, by })
        }
    }

    function setFlow(id: string, bends: Partial<Placement>, done: boolean) {
        const place = { ...(model.model.placements[id] as Placement), ...bends }
        if (done) {
            void model.place({ [id]: place })
        } else {
            model.model = { ...model.model, placements: { ...model.model.placements, [id]: place } }
        }
    }

    function straighten(key: string) {
        if (key === 'link') {
            setLink(null, true)
        } else if (view.selected) {
            setFlow(view.selected, { [key]: undefined }, true)
        }
    }

    /** Picks one link of the selected thing after the other. */
    function pickNext() {
        const thing = view.selected ?? view.link.split('>')[1]
        const list = edges.value
            .filter((e) => e.type === 'link' && (e.data as { key: string }).key.split('>').includes(thing ?? ''))
            .map((e) => (e.data as { key: string }).key)
        if (list.length) {
            const next = list[(list.indexOf(view.link) + 1) % list.length] as string
            view.select()
            view.link = next
        }
    }

    return {
        handles,
        move,
        straighten,
        pickNext,
        nudge: (dx: number, dy: number) => {
            move('link', dx, dy, true)
        },
    }
}
