<script setup lang="ts">
import { Activity, ArrowLeftToLine, ArrowRightToLine, CopyPlus, GitBranch, LogIn, LogOut, Spline, SquarePen } from '@lucide/vue'
import { computed, ref } from 'vue'
import type { Thing } from '@/api/types'
import { sizeOf } from './shapes'
import type { PullKind } from './usePull'

const { thing, tracked, plotted, zoom, below } = defineProps<{ thing: Thing, tracked: boolean, plotted: boolean, zoom: number, below: boolean }>()
const emit = defineEmits<{ pull: [kind: PullKind, event: PointerEvent], reach: [kind: PullKind], say: [], track: [], why: [] }>()

interface Action { key: string, words: string, icon: unknown, pull?: PullKind, run: () => void }

/** Between the middles of two buttons, and between the nearest button and the thing, in pixels of the window. */
const STEP = 35
const CLEAR = 27
/** How much the row bends around the thing. */
const BEND = 0.0016
/** What stands under a gate, a stock and a capsule, and the height of a small plot, in pixels of the sheet. */
const under: Partial<Record<Thing['kind'], number>> = { flow: 36, stock: 0 }
const VALUE = 18
const PLOT = 32

const actions = computed<Action[]>(() => {
    const stock = thing.kind === 'stock'
    const pointed = thing.kind === 'curve' || thing.kind === 'series'
    const list: (Action | false)[] = [
        stock && { key: 'inflow', words: 'Pull an inflow', icon: LogIn, pull: 'inflow', run: () => { emit('reach', 'inflow') } },
        thing.kind === 'flow' && { key: 'from', words: 'Move its start', icon: ArrowLeftToLine, pull: 'from', run: () => { emit('reach', 'from') } },
        !pointed && { key: 'say', words: stock ? 'Give its initial value (Enter)' : thing.kind === 'parameter' ? 'Give its value (Enter)' : thing.kind === 'flow' ? 'Give this flow’s formula (Enter)' : 'Give its formula (Enter)', icon: SquarePen, run: () => { emit('say') } },
        thing.kind !== 'curve' && { key: 'track', words: tracked ? 'Hide its track' : 'Show its track', icon: Activity, run: () => { emit('track') } },
        thing.kind !== 'curve' && thing.kind !== 'parameter' && thing.kind !== 'series' && { key: 'why', words: 'Why does it change? Follow the causes', icon: GitBranch, run: () => { emit('why') } },
        { key: 'echo', words: 'Pull an echo: the same thing once more', icon: CopyPlus, pull: 'echo', run: () => { emit('reach', 'echo') } },
        { key: 'link', words: 'Pull a link', icon: Spline, pull: 'link', run: () => { emit('reach', 'link') } },
        thing.kind === 'flow' && { key: 'to', words: 'Move its end', icon: ArrowRightToLine, pull: 'to', run: () => { emit('reach', 'to') } },
        stock && { key: 'outflow', words: 'Pull an outflow', icon: LogOut, pull: 'outflow', run: () => { emit('reach', 'outflow') } },
    ]
    return list.filter((a): a is Action => a !== false)
})

/** A bent row above the thing, or below it where there is no room: its name and value, and the ribbons at its sides, stay in sight. */
function place(i: number): { left: number, top: number } {
    const count = actions.value.length
    const x = (i - (count - 1) / 2) * STEP
    const half = sizeOf(thing.kind, thing.name).height / 2 * zoom + (below ? (under[thing.kind] ?? VALUE) + (plotted ? PLOT : 0) : 0) * zoom
    const y = half + CLEAR + BEND * ((count - 1) / 2 * STEP) ** 2 - BEND * x * x
    return { left: x - 15, top: (below ? y : -y) - 15 }
}
/** What the pointed or focused button does stands beside the row, in words. */
const told = ref('')
const wordsAt = computed(() => {
    const tops = actions.value.map((_, i) => place(i).top)
    return below ? Math.max(...tops) + 36 : Math.min(...tops) - 30
})

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
        <button v-for="(action, i) in actions" :key="action.key" type="button" :style="{ left: `${place(i).left}px`, top: `${place(i).top}px` }" :aria-label="action.words" @pointerenter="told = action.words" @pointerleave="told = ''" @focus="told = action.words" @blur="told = ''" @pointerdown.stop="press(action, $event)" @click.stop="click(action, $event)" @keydown.enter.stop @keydown.space.stop>
            <component :is="action.icon" :size="16" :stroke-width="1.5" />
        </button>
        <span v-if="told" class="told" role="tooltip" :style="{ top: `${wordsAt}px` }">{{ told }}</span>
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
.told {
    position: absolute;
    padding: 2px 9px;
    border-radius: 7px;
    background: var(--ink);
    color: var(--paper);
    font-size: 13px;
    white-space: nowrap;
    transform: translateX(-50%);
    pointer-events: none;
}
</style>
