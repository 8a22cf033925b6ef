<script setup lang="ts">
import { computed } from 'vue'
import DimensionBeads from './DimensionBeads.vue'
import NameField from './NameField.vue'
import NodePlot from './NodePlot.vue'
import ProblemMark from './ProblemMark.vue'
import TalkMark from './TalkMark.vue'
import { sizeOf, surfaceOf } from './shapes'
import { useThing } from './useThing'

const { id, node = id, echo = false } = defineProps<{ id: string; node?: string; echo?: boolean }>()
const { said, runs, view, naming, tint, plotted, gripped, thing, selected, problem, missing, shown, several } = useThing(
    () => id,
    () => node,
)

const size = computed(() => sizeOf('stock', thing.value?.name ?? ''))
/** Corners 4 above and 14 below, in the shape's own pixels. */
const basin = computed(() => {
    const { width: w, height: h } = size.value
    return `M4 .75H${w - 4}A3.25 3.25 0 0 1 ${w - 0.75} 4V${h - 14}A13.25 13.25 0 0 1 ${w - 14} ${h - 0.75}H14A13.25 13.25 0 0 1 .75 ${h - 14}V4A3.25 3.25 0 0 1 4 .75Z`
})
const surface = computed(() => {
    const { width: w, height: h } = size.value
    const y = surfaceOf(h, runs.level(id))
    const wave = (from: number) => `Q${from + w / 8} ${y - 3} ${from + w / 4} ${y}T${from + w / 2} ${y}`
    return { line: `M0 ${y}${wave(0)}T${w * 0.75} ${y}T${w} ${y}`, area: `M0 ${y}${wave(0)}T${w * 0.75} ${y}T${w} ${y}V${h}H0Z` }
})
</script>

<template>
    <div v-if="thing" class="stock" :class="{ selected, missing, echo }" :style="tint" @dblclick.stop="view.naming = id">
        <svg :width="size.width" :height="size.height" aria-hidden="true">
            <defs>
                <clipPath :id="`basin-${node}`"><path :d="basin" /></clipPath>
            </defs>
            <path :d="basin" class="ground" />
            <g v-if="!missing && runs.known(id)" :clip-path="`url(#basin-${node})`">
                <path :d="surface.area" class="water" />
                <path :d="surface.line" class="surface" />
            </g>
            <path :d="basin" class="wall" />
            <path v-if="echo" :d="`M2 -4H${size.width - 2}`" class="wall" />
        </svg>
        <strong class="thing-name">{{ thing.name }}</strong>
        <i v-if="gripped" class="plum-rail" title="Taken by hand" />
        <span class="value" :title="shown">{{ several ?? shown }}</span>
        <NodePlot v-if="plotted && !echo" :thing="thing" class="plot" />
        <ProblemMark v-if="problem && !echo" :problem="problem" />
        <TalkMark v-if="said && !echo" :count="said" />
        <DimensionBeads v-if="thing.along" :thing="thing" />
        <NameField v-if="naming" :thing="thing" />
    </div>
</template>

<style scoped>
.stock {
    --halo: color-mix(in srgb, var(--basin-tint) 60%, var(--card));

    position: relative;
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    align-content: center;
    justify-items: center;
    width: 100%;
    height: 100%;
    text-align: center;
}
svg {
    position: absolute;
    inset: 0;
    overflow: visible;
}
.ground {
    fill: var(--tint, var(--card));
}
.water {
    fill: var(--basin-tint);
}
.surface {
    fill: none;
    stroke: var(--basin);
    stroke-width: 1.4;
}
.wall {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.5;
}
.missing .wall {
    stroke-dasharray: 5 4;
}
.selected::before {
    content: '';
    pointer-events: none;
    position: absolute;
    inset: -6px;
    border: 2px solid var(--ember);
    border-radius: 8px 8px 18px 18px;
}
strong,
.value {
    position: relative;
    max-width: calc(100% - 8px);
    padding: 0 4px;
    border-radius: 5px;
    /* The water line strikes through no name. */
    background: color-mix(in srgb, var(--halo) 86%, transparent);
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
strong {
    font-size: 14px;
}
.value {
    font-size: 13px;
    color: var(--ink-soft);
}
.plot {
    position: absolute;
    top: calc(100% + 5px);
    left: 50%;
    transform: translateX(-50%);
}
</style>
