<script setup lang="ts">
import { Maximize2, X } from '@lucide/vue'
import { computed, ref } from 'vue'
import type { Plot } from '@/api/types'
import HeatMap from '@/charts/HeatMap.vue'
import PlotChart from '@/charts/PlotChart.vue'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'

/** Saved plots that stand on the sheet beside the structure. */
const { viewport } = defineProps<{ viewport: { x: number; y: number; zoom: number } }>()
const model = useModel()
const view = useView()
type Pinned = Plot & { pin: NonNullable<Plot['pin']> }
const plots = computed(() => Object.values(model.model.plots).filter((p): p is Pinned => p.pin?.sheet === view.sheet))
const moved = ref<{ id: string; x: number; y: number } | null>(null)
let begun = { x: 0, y: 0 }

const placeOf = (p: Pinned) => {
    const at = moved.value?.id === p.id ? moved.value : p.pin
    return {
        transform: `translate(${at.x * viewport.zoom + viewport.x}px, ${at.y * viewport.zoom + viewport.y}px) scale(${viewport.zoom})`,
    }
}
function press(p: Pinned, event: PointerEvent) {
    begun = { x: event.clientX, y: event.clientY }
    moved.value = { id: p.id, x: p.pin.x, y: p.pin.y }
    ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
}
function move(p: Pinned, event: PointerEvent) {
    if (moved.value) {
        moved.value = {
            id: p.id,
            x: Math.round(p.pin.x + (event.clientX - begun.x) / viewport.zoom),
            y: Math.round(p.pin.y + (event.clientY - begun.y) / viewport.zoom),
        }
    }
}
async function put(p: Pinned, x: number, y: number) {
    await model.attempt({ kind: 'plot-put', plot: { ...p, pin: { sheet: view.sheet, x, y } } })
    moved.value = null
}
function release(p: Pinned) {
    if (moved.value && (moved.value.x !== p.pin.x || moved.value.y !== p.pin.y)) {
        void put(p, moved.value.x, moved.value.y)
    } else {
        moved.value = null
    }
}
function key(p: Pinned, event: KeyboardEvent) {
    const steps: Record<string, [number, number]> = { ArrowLeft: [-10, 0], ArrowRight: [10, 0], ArrowUp: [0, -10], ArrowDown: [0, 10] }
    const by = steps[event.key]
    if (by) {
        event.preventDefault()
        void put(p, p.pin.x + by[0], p.pin.y + by[1])
    }
}
</script>

<template>
    <section
        v-for="p in plots"
        :key="p.id"
        class="pinned"
        :style="placeOf(p)"
        :aria-label="`Plot ${p.name}`"
        @keydown.stop
        @dblclick.stop
        @mousedown.stop
    >
        <header
            tabindex="0"
            title="Drag to move; arrows too"
            @pointerdown.stop="press(p, $event)"
            @pointermove="move(p, $event)"
            @pointerup="release(p)"
            @keydown="key(p, $event)"
        >
            <b>{{ p.name }}</b>
            <button
                type="button"
                class="icon-button"
                :aria-label="`Enlarge ${p.name}`"
                title="Enlarge to the stage"
                @pointerdown.stop
                @click="
                    () => {
                        view.plot = p.id
                        view.go({ place: 'try', stage: 'plot' })
                    }
                "
            >
                <Maximize2 :size="12" :stroke-width="1.8" />
            </button>
            <button
                type="button"
                class="icon-button"
                :aria-label="`Take ${p.name} off the sheet`"
                title="Take it off the sheet"
                @pointerdown.stop
                @click="model.attempt({ kind: 'plot-put', plot: { ...p, pin: undefined } })"
            >
                <X :size="12" :stroke-width="1.8" />
            </button>
        </header>
        <div class="chart"><HeatMap v-if="p.kind === 'heat'" :plot="p" /> <PlotChart v-else :plot="p" /></div>
    </section>
</template>

<style scoped>
.pinned {
    position: absolute;
    left: 0;
    top: 0;
    width: 400px;
    transform-origin: 0 0;
    border: 1px solid var(--hairline);
    border-radius: 10px;
    background: var(--card);
    z-index: 4;
}
header {
    display: flex;
    align-items: center;
    padding: 3px 4px 3px 10px;
    cursor: grab;
    touch-action: none;
}
header b {
    flex: 1;
    min-width: 0;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
header .icon-button {
    width: 24px;
    height: 24px;
}
.chart {
    height: 230px;
}
</style>
