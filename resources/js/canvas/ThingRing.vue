<script setup lang="ts">
import { Activity, ArrowRightFromLine, ArrowRightToLine, CopyPlus, GitBranch, Spline, SquarePen } from '@lucide/vue'
import { computed } from 'vue'
import type { Thing } from '@/api/types'
import { sizeOf } from './shapes'
import type { PullKind } from './usePull'

const { thing, tracked, zoom, below } = defineProps<{ thing: Thing, tracked: boolean, zoom: number, below: boolean }>()
const emit = defineEmits<{ pull: [kind: PullKind, event: PointerEvent], reach: [kind: PullKind], say: [], track: [], why: [] }>()

interface Action { key: string, words: string, icon: unknown, pull?: PullKind, run: () => void }

const actions = computed<Action[]>(() => {
    const stock = thing.kind === 'stock'
    const pointed = thing.kind === 'curve' || thing.kind === 'series'
    const list: (Action | false)[] = [
        stock && { key: 'inflow', words: 'Pull an inflow', icon: ArrowRightToLine, pull: 'inflow', run: () => { emit('reach', 'inflow') } },
        !pointed && { key: 'say', words: stock ? 'Say how it starts (Enter)' : thing.kind === 'parameter' ? 'Give its value (Enter)' : 'Say its formula (Enter)', icon: SquarePen, run: () => { emit('say') } },
        thing.kind !== 'curve' && { key: 'track', words: tracked ? 'Take its track away' : 'Show its track', icon: Activity, run: () => { emit('track') } },
        thing.kind !== 'curve' && thing.kind !== 'parameter' && thing.kind !== 'series' && { key: 'why', words: 'Why does it change? Follow its causes', icon: GitBranch, run: () => { emit('why') } },
        thing.kind === 'flow' && { key: 'from', words: 'Move its start', icon: ArrowRightFromLine, pull: 'from', run: () => { emit('reach', 'from') } },
        { key: 'echo', words: 'Pull an echo: the same thing once more', icon: CopyPlus, pull: 'echo', run: () => { emit('reach', 'echo') } },
        { key: 'link', words: 'Pull a link', icon: Spline, pull: 'link', run: () => { emit('reach', 'link') } },
        thing.kind === 'flow' && { key: 'to', words: 'Move its end', icon: ArrowRightToLine, pull: 'to', run: () => { emit('reach', 'to') } },
        stock && { key: 'outflow', words: 'Pull an outflow', icon: ArrowRightFromLine, pull: 'outflow', run: () => { emit('reach', 'outflow') } },
    ]
    return list.filter((a): a is Action => a !== false)
})

/** Places on an arc over the upper half, clear of the ribbons at the sides; under the thing where there is no room above. */
function place(i: number): Record<string, string> {
    const count = actions.value.length
    const reach = thing.kind === 'stock' ? { x: Math.max(98, sizeOf('stock', thing.name).width / 2 * zoom + 30), y: 84 } : { x: thing.kind === 'flow' ? 116 : 84, y: thing.kind === 'flow' ? 88 : 66 }
    const angle = Math.PI * (0.5 + (count === 1 ? 0 : i / (count - 1) - 0.5) * (count <= 3 ? 0.62 : thing.kind === 'flow' ? 0.76 : 0.8))
    return { left: `${-Math.cos(angle) * reach.x - 15}px`, top: `${(below ? 1 : -1) * Math.sin(angle) * reach.y - 15}px` }
}

function press(action: Action, event: PointerEvent) {
    if (action.pull) {
        // The pull ends where the pointer is let go, or with the next click; see SheetCanvas.
        event.preventDefault()
        emit('pull', action.pull, event)
    }
}

function click(action: Action, event: MouseEvent) {
    if (!action.pull || event.detail === 0) {
        action.run()
    }
}
</script>

<template>
    <div class="ring" role="toolbar" :aria-label="`Actions of ${thing.name}`">
        <button v-for="(action, i) in actions" :key="action.key" type="button" :style="place(i)" :aria-label="action.words" :title="action.words" @pointerdown.stop="press(action, $event)" @click.stop="click(action, $event)" @keydown.enter.stop @keydown.space.stop>
            <component :is="action.icon" :size="16" :stroke-width="1.5" />
        </button>
    </div>
</template>

<style scoped>
.ring {
    position: absolute;
    width: 0;
    height: 0;
    z-index: 12;
}
button {
    position: absolute;
    display: grid;
    place-items: center;
    width: 30px;
    height: 30px;
    border: 1.3px solid var(--ink);
    border-radius: 50%;
    background: var(--card);
    touch-action: none;
}
button:hover {
    background: var(--ink);
    color: var(--paper);
}
</style>
