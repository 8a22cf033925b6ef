<script setup lang="ts">
import { ChevronDown, ChevronUp } from '@lucide/vue'
import { computed } from 'vue'
import type { Thing } from '@/api/types'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import TimeRuler from './TimeRuler.vue'
import TrackPlot from './TrackPlot.vue'
import { usePlayhead } from './usePlayhead'

const MOST = 6

const model = useModel()
const runs = useRuns()
const view = useView()
usePlayhead()

/** Chosen tracks; as long as none is chosen, the stocks. */
const tracks = computed(() => {
    const chosen = model.model.tracks.map((id) => model.model.elements[id]).filter((t): t is Thing => t !== undefined)
    return chosen.length ? chosen : model.things.filter((t) => t.kind === 'stock').slice(0, MOST)
})
const share = computed(() => (view.playhead - model.model.time.start) / (model.model.time.end - model.model.time.start))
const stopped = computed(() => runs.shown?.fault ? (runs.shown.fault.time - model.model.time.start) / (model.model.time.end - model.model.time.start) : null)
</script>

<template>
    <section class="tracks" aria-label="Tracks">
        <TimeRuler />
        <button type="button" class="icon-button fold" :aria-label="view.tracks ? 'Fold the tracks' : 'Show the tracks'" :aria-expanded="view.tracks" @click="view.tracks = !view.tracks"><ChevronDown v-if="view.tracks" :size="16" :stroke-width="1.5" /><ChevronUp v-else :size="16" :stroke-width="1.5" /></button>
        <div v-if="view.tracks" class="list">
            <div class="inner">
                <TrackPlot v-for="thing in tracks" :key="thing.id" :thing="thing" />
                <p v-if="!tracks.length" class="none soft">Plots appear here by themselves as soon as there is a stock that can be computed.</p>
                <i v-if="tracks.length" class="now" :style="{ left: `calc(var(--label) + (100% - var(--label) - var(--line-end)) * ${share})` }" />
                <i v-if="stopped !== null" class="stopped" :style="{ left: `calc(var(--label) + (100% - var(--label) - var(--line-end)) * ${stopped})` }" title="The run stopped here" />
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
.fold {
    position: absolute;
    right: 10px;
    top: 2px;
    height: 26px;
}
.list {
    height: 166px;
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
