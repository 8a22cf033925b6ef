import { newId } from '@/ui/ids'
import { ref } from 'vue'
import type { Edit, Point, Thing } from '@/api/types'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { borderToward, OUTSIDE, sizeOf, type Size } from './shapes'

/** `from` and `to` move an end of a flow; `echo` makes a second appearance. */
export type PullKind = 'inflow' | 'outflow' | 'link' | 'echo' | 'from' | 'to'

export interface Pull {
    kind: PullKind
    thing: string
    node: string
    to: Point
}

const between = (a: Point, b: Point): Point => ({ x: Math.round((a.x + b.x) / 2), y: Math.round((a.y + b.y) / 2) })
const rounded = (p: Point): Point => ({ x: Math.round(p.x), y: Math.round(p.y) })

/** Pulling something out of a thing's ring: by dragging, or by one click on the ring and one where it should end. */
export function usePull() {
    const model = useModel()
    const view = useView()
    const pull = ref<Pull | null>(null)

    function begin(kind: PullKind, thing: string, to: Point) {
        pull.value = { kind, thing, node: view.node ?? thing, to }
    }

    async function add(element: Thing['kind'], at: Point, more: Record<string, unknown> = {}, placement: Record<string, unknown> = {}) {
        const id = newId()
        view.typedAhead = ''
        view.adding = true
        const added = await model.attempt({
            kind: 'add',
            id,
            element,
            placement: { at: rounded(at), sheet: view.sheet, ...placement },
            ...more,
        })
        view.adding = false
        if (!added) {
            return undefined
        }
        view.select(id)
        view.naming = id
        return id
    }

    const stockSize = (id: string) => sizeOf('stock', model.model.elements[id]?.name ?? '')
    /** The middle of what is seen of a ribbon: between the borders of its ends. */
    function gateBetween(a: Point, sizeA: Size, b: Point, sizeB: Size): Point {
        return between(borderToward(a, sizeA, b), borderToward(b, sizeB, a))
    }

    async function flow(kind: 'inflow' | 'outflow', stock: string, other: Thing | undefined, point: Point) {
        const at = model.model.echoes[view.node ?? '']?.at ?? model.model.placements[stock]?.at
        if (!at || other?.id === stock) {
            return
        }
        const end = other?.kind === 'stock' ? other.id : null
        const far = end ? (model.model.placements[end]?.at ?? point) : point
        const loose = end ? {} : { [kind === 'inflow' ? 'source' : 'target']: rounded(far) }
        await add(
            'flow',
            gateBetween(at, stockSize(stock), far, end ? stockSize(end) : OUTSIDE),
            kind === 'inflow' ? { from: end, to: stock } : { from: stock, to: end },
            loose,
        )
    }

    /** Moves one end of a flow to a stock, or to the outside. */
    async function reattach(id: string, end: 'from' | 'to', target: Thing | undefined, point: Point) {
        const flowing = model.model.elements[id]
        const place = model.model.placements[id]
        if (!flowing || !place) {
            return
        }
        const stock = target?.kind === 'stock' ? target.id : null
        const ends = { from: flowing.from ?? null, to: flowing.to ?? null, [end]: stock }
        const attach: Edit = { kind: 'attach', id, ...ends }
        const loose: Edit = { kind: 'move', placements: { [id]: { ...place, [end === 'from' ? 'source' : 'target']: rounded(point) } } }
        await model.together(
            stock ? [attach] : [attach, loose],
            `Moved the ${end === 'from' ? 'start' : 'end'} of \`${flowing.name}\` ${stock ? `to \`${target?.name}\`` : 'outside'}`,
        )
        view.select(id)
    }

    async function finish(target: Thing | undefined, point: Point) {
        const was = pull.value
        pull.value = null
        if (!was) {
            return
        }
        if (was.kind === 'echo') {
            const id = newId()
            if (await model.attempt({ kind: 'echo', id, element: was.thing, at: rounded(point), sheet: view.sheet })) {
                view.select(id)
            }
        } else if (was.kind === 'from' || was.kind === 'to') {
            await reattach(was.thing, was.kind, target, point)
        } else if (was.kind !== 'link') {
            await flow(was.kind, was.thing, target, point)
        } else if (target && target.id !== was.thing) {
            if (await model.attempt({ kind: 'connect', from: was.thing, to: target.id })) {
                view.select(target.id)
            }
        } else if (!target) {
            const id = await add('auxiliary', point)
            if (id) {
                await model.attempt({ kind: 'connect', from: was.thing, to: id })
            }
        }
    }

    function cancel() {
        pull.value = null
    }

    return { pull, begin, finish, cancel, add, reattach }
}
