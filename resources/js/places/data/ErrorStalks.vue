<script setup lang="ts">
import { computed } from 'vue'
import type { Fit } from '@/api/types'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { short, shownUnit } from '@/ui/numbers'

/** Simulated minus measured, point by point: above the line the run is too high. */
const { fit, unit } = defineProps<{ fit: Fit; unit: string }>()
const model = useModel()
const view = useView()
const [WIDE, TALL, LEFT] = [262, 110, 44]
const most = computed(() => Math.max(...fit.errors.map(([, e]) => Math.abs(e)), 1e-300))
const span = computed(() => [model.model.time.start, model.model.time.end] as const)
const x = (t: number) => LEFT + ((t - span.value[0]) / (span.value[1] - span.value[0] || 1)) * (WIDE - LEFT - 6)
const y = (e: number) => TALL / 2 - (e / most.value) * (TALL / 2 - 9)
const words = computed(
    () =>
        `Run minus measured${unit ? `, in ${shownUnit(unit)}` : ''}: ${fit.errors.length} points, mean ${short(fit.mean_error ?? 0, { unit })}, largest ${short(most.value, { unit })}.`,
)
</script>

<template>
    <figure>
        <figcaption>
            <b>Run minus measured{{ shownUnit(unit) ? `, in ${shownUnit(unit)}` : '' }}</b>
            <span class="soft">mean {{ short(fit.mean_error ?? 0, { unit }) }}, dashed</span>
        </figcaption>
        <svg :viewBox="`0 0 ${WIDE} ${TALL}`" role="img" :aria-label="words">
            <text :x="LEFT - 6" :y="y(most)" class="tick">{{ short(most, { unit }) }}</text>
            <text :x="LEFT - 6" :y="y(0)" class="tick">0</text>
            <text :x="LEFT - 6" :y="y(-most)" class="tick">{{ short(-most, { unit }) }}</text>
            <path :d="`M${LEFT} ${y(0)}H${WIDE}`" class="zero" />
            <path :d="`M${LEFT} ${y(fit.mean_error ?? 0)}H${WIDE}`" class="mean" />
            <g v-for="([t, e], i) in fit.errors" :key="i">
                <path :d="`M${x(t)} ${y(0)}V${y(e)}`" class="stalk" />
                <circle v-if="fit.errors.length <= 120" :cx="x(t)" :cy="y(e)" r="3">
                    <title>{{ model.moment(t) }}: {{ short(e, { unit }) }}</title>
                </circle>
            </g>
            <path :d="`M${x(view.playhead)} 0V${TALL}`" class="now" />
        </svg>
    </figure>
</template>

<style scoped>
figure {
    margin: 0;
}
figcaption {
    display: flex;
    justify-content: space-between;
    gap: 8px;
    font-size: 13px;
}
svg {
    display: block;
    width: 100%;
    margin-top: 4px;
}
.tick {
    font-size: 11px;
    text-anchor: end;
    dominant-baseline: central;
    fill: var(--ink-soft);
}
path {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1;
}
.mean {
    stroke-dasharray: 4 3;
}
.now {
    stroke: var(--ember);
    stroke-width: 1.4;
}
circle {
    fill: var(--card);
    stroke: var(--ink);
    stroke-width: 1.4;
}
</style>
