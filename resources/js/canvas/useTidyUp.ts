import type { Edge, Node } from '@vue-flow/core'
import { nextTick, type Ref } from 'vue'
import type { Placement, Point } from '@/api/types'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useView } from '@/stores/view'

/** Names and values stand around a thing; so much room is kept for them. */
const AROUND = { gate: { width: 120, height: 44 }, other: { width: 0, height: 18 } }

/** Lays out the sheet, or what is selected, anew. */
export function useTidyUp(nodes: Ref<Node[]>, edges: Ref<Edge[]>, fit: () => Promise<unknown>) {
    const model = useModel()
    const notices = useNotices()
    const view = useView()
    const ownerOf = (id: string) => id.split('~')[0] ?? ''

    function joins() {
        return edges.value.flatMap((e) => {
            if (e.type !== 'ribbon') {
                return [{ from: e.source, to: e.target }]
            }
            const gate = (e.data as { id: string }).id
            return [
                { from: e.source, to: gate, strong: true },
                { from: gate, to: e.target, strong: true },
            ]
        })
    }

    function boxOf(node: Node) {
        const { width, height } = node.type === 'gate' ? AROUND.gate : AROUND.other
        return { id: node.id, width: Math.max(Number(node.width), width), height: Number(node.height) + height }
    }

    /** Where things go that were laid out, their upper left corner staying where it was. */
    function placed(inside: Node[], middles: Record<string, Point>): Record<string, Placement> {
        const known = new Set(inside.map((n) => n.id))
        const left = Math.min(...inside.map((n) => n.position.x))
        const top = Math.min(...inside.map((n) => n.position.y))
        const places: Record<string, Placement> = {}
        for (const [id, at] of Object.entries(middles)) {
            const [thing, end] = id.split('~') as [string, 'source' | 'target' | undefined]
            const to = { x: Math.round(left + at.x), y: Math.round(top + at.y) }
            const was = places[thing] ?? { ...(model.model.placements[thing] ?? { at: to }) }
            places[thing] = end ? { ...was, [end]: to } : { ...was, at: to, bendIn: undefined, bendOut: undefined }
            if (!known.has(thing)) {
                Reflect.deleteProperty(places, thing)
            }
        }
        return places
    }

    return async () => {
        const chosen = new Set(view.selection.length > 1 ? view.selection : nodes.value.map((n) => n.id))
        const inside = nodes.value.filter((n) => chosen.has(n.id) || (n.type === 'outside' && chosen.has(ownerOf(n.id))))
        if (inside.length < 2) {
            return
        }
        const { tidy } = await import('./tidy')
        try {
            const middles = await tidy(inside.map(boxOf), joins())
            if (await model.place(placed(inside, middles))) {
                notices.say('Tidied up.', { words: 'Undo', run: () => void model.step('undo') })
                await nextTick()
                void fit()
            }
        } catch (error) {
            notices.trouble(`This could not be laid out: ${(error as Error).message}`)
        }
    }
}
