import { Activity, ArrowLeftToLine, ArrowRightToLine, CopyPlus, GitBranch, LogIn, LogOut, Spline, SquarePen } from '@lucide/vue'
import type { Component } from 'vue'
import type { Thing } from '@/api/types'
import type { PullKind } from './usePull'

/** A button of the ring: one that begins a pull, or one that acts at once. */
export interface RingAction {
    key: string
    words: string
    icon: Component
    pull?: PullKind
}

/** What the ring of a thing offers, in the order of its buttons. */
export function actionsOf(thing: Thing, tracked = false): RingAction[] {
    const stock = thing.kind === 'stock'
    const pointed = thing.kind === 'curve' || thing.kind === 'series'
    const list: (RingAction | false)[] = [
        stock && { key: 'inflow', words: 'Pull an inflow', icon: LogIn, pull: 'inflow' },
        thing.kind === 'flow' && { key: 'from', words: 'Move its start', icon: ArrowLeftToLine, pull: 'from' },
        !pointed && {
            key: 'say',
            words: stock
                ? 'Give its initial value (Enter)'
                : thing.kind === 'parameter'
                  ? 'Give its value (Enter)'
                  : thing.kind === 'flow'
                    ? 'Give this flow’s formula (Enter)'
                    : 'Give its formula (Enter)',
            icon: SquarePen,
        },
        thing.kind !== 'curve' && { key: 'track', words: tracked ? 'Hide its track' : 'Show its track', icon: Activity },
        thing.kind !== 'curve' &&
            thing.kind !== 'parameter' &&
            thing.kind !== 'series' && { key: 'why', words: 'Why does it change? Follow the causes', icon: GitBranch },
        { key: 'echo', words: 'Pull an echo: the same thing once more', icon: CopyPlus, pull: 'echo' },
        { key: 'link', words: 'Pull a link', icon: Spline, pull: 'link' },
        thing.kind === 'flow' && { key: 'to', words: 'Move its end', icon: ArrowRightToLine, pull: 'to' },
        stock && { key: 'outflow', words: 'Pull an outflow', icon: LogOut, pull: 'outflow' },
    ]
    return list.filter((a): a is RingAction => a !== false)
}
