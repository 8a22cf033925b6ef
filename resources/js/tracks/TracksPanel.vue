<script setup lang="ts">
import { ChevronDown, ChevronUp } from '@lucide/vue'
import { computed } from 'vue'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useTracks } from '@/stores/tracks'
import { useView } from '@/stores/view'
import TimeRuler from './TimeRuler.vue'
import TrackPlot from './TrackPlot.vue'
import { usePlayhead } from './usePlayhead'

/** A track is never lower than this, and takes what room there is up to that. */
const LOW = 82
const TALL = 180

const model = useModel()
const hung = useTracks()
const runs = useRuns()
const view = useView()
usePlayhead()

/** Chosen tracks; as long as none is chosen, the stocks. */
const chosen = computed(() => model.model.tracks.length > 0)
const tracks = computed(() => hung.shown)
const tall = computed(() => Math.min(TALL, Math.max(LOW, Math.floor(view.tracksHeight / Math.max(1, tracks.value.length)))))
// The edge between stage and tracks can be moved.
let begun: { y: number; height: number } | null = null
function grasp(event: PointerEvent) {
    begun = { y: event.clientY, height: view.tracksHeight }
    ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
}
function stretch(event: PointerEvent) {
    if (begun) {
        view.tracksHeight = begun.height + begun.y - event.clientY
    }
}
function stretchBy(event: KeyboardEvent) {
    const by = { ArrowUp: 20, ArrowDown: -20 }[event.key]
    if (by) {
        event.preventDefault()
        view.tracksHeight += by
    }
}
const span = computed(() => view.span ?? ([model.model.time.start, model.model.time.end] as const))
const shareOf = (t: number) => (t - span.value[0]) / (span.value[1] - span.value[0])
const share = computed(() => shareOf(view.playhead))
const stopped = computed(() => (runs.shown?.fault ? shareOf(runs.shown.fault.time) : null))

/** A thing that is dropped here gets a track of its own. */
function drop(event: DragEvent) {
    const id = event.dataTransfer?.getData('application/x-merry-orbit-thing')
    if (id && model.model.elements[id]) {
        void hung.show([id], true)
    }
}
</script>

<template>
    <section class="tracks" aria-label="Tracks" data-drop="track" @dragover.prevent @drop.prevent="drop">
        <TimeRuler />
        <i
            v-if="view.tracks"
            class="edge"
            tabindex="0"
            role="separator"
            aria-orientation="horizontal"
            aria-label="Height of the tracks"
            :aria-valuenow="view.tracksHeight"
            title="Drag to make the tracks higher or lower; arrows too"
            @pointerdown="grasp"
            @pointermove="stretch"
            @pointerup="begun = null"
            @keydown="stretchBy"
        />
        <button
            type="button"
            class="icon-button fold"
            :aria-label="view.tracks ? 'Fold the tracks' : 'Show the tracks'"
            :aria-expanded="view.tracks"
            @click="view.tracks = !view.tracks"
        >
            <ChevronDown v-if="view.tracks" :size="16" :stroke-width="1.5" /><ChevronUp v-else :size="16" :stroke-width="1.5" />
        </button>
        <button v-if="view.span" type="button" class="button whole" @click="view.span = null">Whole time</button>
        <div v-if="view.tracks" class="list" :style="{ height: `${view.tracksHeight}px` }">
            <div class="inner">
                <TrackPlot v-for="plot in tracks" :key="plot.id" :plot="plot" :saved="chosen" :tall="tall" />
                <p v-if="!tracks.length" class="none soft">
                    Plots appear here by themselves as soon as there is a stock that can be computed.
                </p>
                <i
                    v-if="tracks.length && share >= 0 && share <= 1"
                    class="now"
                    :style="{ left: `calc(var(--label) + (100% - var(--label) - var(--line-end)) * ${share})` }"
                />
                <i
                    v-if="stopped !== null && stopped >= 0 && stopped <= 1"
                    class="stopped"
                    :style="{ left: `calc(var(--label) + (100% - var(--label) - var(--line-end)) * ${stopped})` }"
                    title="The run stopped here"
                />
            </div>
        </div>
    </section>
</template>

<style scoped>
.tracks {
    position: relative;
    background: var(--card);
    --label: 232px;
}
.edge {
    position: absolute;
    top: -4px;
    left: 0;
    right: 0;
    height: 7px;
    z-index: 5;
    cursor: ns-resize;
    touch-action: none;
}
.edge:hover {
    background: color-mix(in srgb, var(--line) 40%, transparent);
}
.fold {
    position: absolute;
    right: 10px;
    top: 2px;
    height: 26px;
}
.whole {
    position: absolute;
    right: 44px;
    top: 3px;
    z-index: 2;
    min-height: 24px;
    padding: 0 10px;
    font-size: 12.5px;
}
.list {
    overflow-y: auto;
}
.inner {
    position: relative;
}
.none {
    display: grid;
    place-items: center;
    height: 150px;
}
.now,
.stopped {
    position: absolute;
    top: 0;
    bottom: 0;
    width: 1.5px;
    margin-left: -0.75px;
    background: var(--ember);
    pointer-events: none;
}
.stopped {
    background: none;
    border-left: 2px dotted var(--brick);
}
</style>
