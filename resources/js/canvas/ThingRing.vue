<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Thing } from '@/api/types'
import { actionsOf, type RingAction } from './ringActions'
import { buttonAt, HALF, type RingSpot } from './ringSpot'
import type { PullKind } from './usePull'

const { thing, tracked, clear, spot } = defineProps<{
    thing: Thing
    tracked: boolean
    /** From its middle to the end of what must stay in sight. */ clear: number
    spot: RingSpot
}>()
const emit = defineEmits<{ pull: [kind: PullKind, event: PointerEvent]; reach: [kind: PullKind]; say: []; track: []; why: [] }>()

const actions = computed(() => actionsOf(thing, tracked))

/** A bent row above the thing or below it: its name and value, and the ribbons at its sides, stay in sight. */
function place(i: number): { left: number; top: number } {
    const at = buttonAt(i, actions.value.length, clear, spot)
    return { left: at.x - HALF, top: at.y - HALF }
}
/** What the pointed or focused button does stands beside the row, in words. */
const told = ref('')
const wordsAt = computed(() => {
    const tops = actions.value.map((_, i) => place(i).top)
    return spot.below ? Math.max(...tops) + 36 : Math.min(...tops) - 30
})

function press(action: RingAction, event: PointerEvent) {
    if (action.pull) {
        // The pull ends where the pointer is let go, or with the next click; see SheetCanvas.
        event.preventDefault()
        emit('pull', action.pull, event)
    }
}

function click(action: RingAction, event: MouseEvent) {
    if (action.pull && event.detail === 0) {
        emit('reach', action.pull)
    } else if (action.key === 'say') {
        emit('say')
    } else if (action.key === 'track') {
        emit('track')
    } else if (action.key === 'why') {
        emit('why')
    }
}
</script>

<template>
    <div class="ring" role="toolbar" :aria-label="`Actions of ${thing.name}`">
        <button
            v-for="(action, i) in actions"
            :key="action.key"
            type="button"
            :style="{ left: `${place(i).left}px`, top: `${place(i).top}px` }"
            :aria-label="action.words"
            @pointerenter="told = action.words"
            @pointerleave="told = ''"
            @focus="told = action.words"
            @blur="told = ''"
            @pointerdown.stop="press(action, $event)"
            @click.stop="click(action, $event)"
            @keydown.enter.stop
            @keydown.space.stop
        >
            <component :is="action.icon" :size="16" :stroke-width="1.5" />
        </button>
        <span v-if="told" class="told" role="tooltip" :style="{ top: `${wordsAt}px`, left: `${spot.aside}px` }">{{ told }}</span>
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
