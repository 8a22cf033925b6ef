<script setup lang="ts">
import { ref } from 'vue'
import type { Point } from '@/api/types'

/** Small handles that can be dragged, moved with the arrow keys, or taken away with Delete or a double click. */
const { handles } = defineProps<{ handles: { key: string; words: string; at: Point; set: boolean }[]; zoom: number }>()
const emit = defineEmits<{ move: [key: string, dx: number, dy: number, done: boolean]; straighten: [key: string] }>()

const ARROWS: Record<string, [number, number]> = { ArrowLeft: [-10, 0], ArrowRight: [10, 0], ArrowUp: [0, -10], ArrowDown: [0, 10] }
const held = ref('')
let from = { x: 0, y: 0 }

function press(key: string, event: PointerEvent) {
    held.value = key
    from = { x: event.clientX, y: event.clientY }
    ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
}
function drag(event: PointerEvent, zoom: number, done: boolean) {
    const [dx, dy] = [(event.clientX - from.x) / zoom, (event.clientY - from.y) / zoom]
    if (held.value && (!done || Math.hypot(dx, dy) > 2)) {
        emit('move', held.value, dx, dy, done)
    }
    if (done) {
        held.value = ''
    }
}
function key(name: string, event: KeyboardEvent) {
    const by = ARROWS[event.key]
    if (by) {
        emit('move', name, by[0], by[1], true)
    } else if (event.key === 'Delete' || event.key === 'Backspace') {
        emit('straighten', name)
    } else {
        return
    }
    event.preventDefault()
    event.stopPropagation()
}
</script>

<template>
    <button
        v-for="h in handles"
        :key="h.key"
        type="button"
        class="bend"
        :class="{ set: h.set, held: held === h.key }"
        :style="{ left: `${h.at.x - 12}px`, top: `${h.at.y - 12}px` }"
        :aria-label="h.words"
        :title="`${h.words}: drag it, or use the arrow keys; double-click or Delete straightens`"
        @pointerdown.stop.prevent="press(h.key, $event)"
        @pointermove="drag($event, zoom, false)"
        @pointerup.stop="drag($event, zoom, true)"
        @dblclick.stop="emit('straighten', h.key)"
        @mousedown.stop
        @click.stop
        @keydown="key(h.key, $event)"
    >
        <i />
    </button>
</template>

<style scoped>
.bend {
    position: absolute;
    display: grid;
    place-items: center;
    width: 24px;
    height: 24px;
    border-radius: 50%;
    cursor: move;
    touch-action: none;
    z-index: 13;
}
i {
    width: 9px;
    height: 9px;
    border: 1.5px solid var(--ink);
    border-radius: 2px;
    background: var(--card);
    transform: rotate(45deg);
}
.set i {
    background: var(--ink);
}
.bend:hover i,
.held i {
    border-color: var(--ember);
}
</style>
