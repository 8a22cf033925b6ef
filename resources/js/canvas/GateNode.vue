<script setup lang="ts">
import { useVueFlow } from '@vue-flow/core'
import { computed } from 'vue'
import DimensionBeads from './DimensionBeads.vue'
import NameField from './NameField.vue'
import NodePlot from './NodePlot.vue'
import { middleOfNode } from './nodes'
import ProblemMark from './ProblemMark.vue'
import TalkMark from './TalkMark.vue'
import { endId } from './useSheet'
import { useThing } from './useThing'

const { id, above = false } = defineProps<{ id: string; /** Whether its words stand above it. */ above?: boolean }>()
const { said, view, naming, tint, plotted, gripped, thing, value, selected, problem, missing, shown } = useThing(() => id)
const { findNode } = useVueFlow()

/** The way the chevron points: along the ribbon, and back when the flow is negative. */
const angle = computed(() => {
    const ends = [thing.value?.from ?? endId(id, 'source'), thing.value?.to ?? endId(id, 'target')].map((end) => findNode(end))
    const [a, b] = ends.map((n) => n && middleOfNode(n))
    return a && b ? (Math.atan2(b.y - a.y, b.x - a.x) * 180) / Math.PI + ((value.value ?? 0) < 0 ? 180 : 0) : 0
})
</script>

<template>
    <div v-if="thing" class="gate" :class="{ selected, missing }" :style="tint" @dblclick.stop="view.naming = id">
        <svg width="26" height="26" viewBox="0 0 26 26" aria-hidden="true">
            <circle cx="13" cy="13" r="12" />
            <path d="m11 8 5 5-5 5" :transform="`rotate(${angle} 13 13)`" />
        </svg>
        <span class="below" :class="{ above }">
            <b class="thing-name">{{ thing.name }}</b>
            <i v-if="gripped" class="plum-rail" title="Taken by hand" />
            <small>{{ shown }}</small>
            <NodePlot v-if="plotted" :thing="thing" />
        </span>
        <ProblemMark v-if="problem" :problem="problem" />
        <TalkMark v-if="said" :count="said" />
        <DimensionBeads v-if="thing.along" :thing="thing" plain />
        <NameField v-if="naming" :thing="thing" />
    </div>
</template>

<style scoped>
.gate {
    position: relative;
    width: 26px;
    height: 26px;
}
circle {
    fill: var(--tint, var(--card));
    stroke: var(--ink);
    stroke-width: 1.5;
}
.missing circle {
    stroke-dasharray: 4 3;
}
path {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.6;
}
.selected::before {
    content: '';
    pointer-events: none;
    position: absolute;
    inset: -5px;
    border: 2px solid var(--ember);
    border-radius: 50%;
}
.below {
    position: absolute;
    left: 50%;
    top: 29px;
    display: grid;
    justify-items: center;
    width: max-content;
    max-width: 170px;
    transform: translateX(-50%);
    text-align: center;
    line-height: 1.2;
}
.below.above {
    top: auto;
    bottom: 29px;
}
b {
    max-width: 170px;
    padding: 0 3px;
    border-radius: 4px;
    background: color-mix(in srgb, var(--paper) 78%, transparent);
    font-weight: 400;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
small {
    padding: 0 3px;
    border-radius: 4px;
    background: color-mix(in srgb, var(--paper) 78%, transparent);
    font-size: 12.5px;
    color: var(--ink-soft);
    white-space: nowrap;
}
</style>
