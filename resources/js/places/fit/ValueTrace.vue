<script setup lang="ts">
import { computed } from 'vue'
import type { Calibrated } from '@/api/types'
import { short, shownUnit, withUnit } from '@/ui/numbers'

/** What the best choice comes to, as more runs are made. */
const { search } = defineProps<{ search: Calibrated }>()
const [WIDE, TALL, LEFT, FOOT] = [204, 130, 52, 18]
const path = computed(() => (search.walks[0]?.path ?? []).map(([runs, value]) => [runs ?? 0, value ?? 0] as const))
const ends = computed(() => {
    const values = path.value.map(([, v]) => v)
    const [low, high] = [Math.min(...values), Math.max(...values)]
    return { low, high, size: high - low || Math.abs(high) || 1 }
})
const runs = computed(() => Math.max(1, search.runs))
const x = (n: number) => LEFT + (n / runs.value) * (WIDE - LEFT - 8)
const y = (v: number) => 8 + (1 - (v - ends.value.low) / ends.value.size) * (TALL - 10 - FOOT)
const line = computed(
    () =>
        path.value.map(([n, v], i) => (i ? `H${x(n).toFixed(1)}V${y(v).toFixed(1)}` : `M${x(n).toFixed(1)} ${y(v).toFixed(1)}`)).join('') +
        `H${x(runs.value).toFixed(1)}`,
)
const told = computed(() =>
    path.value.length
        ? `${search.runs.toLocaleString()} runs; the best that keeps all limits comes to ${withUnit(path.value.at(-1)?.[1], search.unit)}.`
        : `${search.runs.toLocaleString()} runs; no choice keeps all limits so far.`,
)
</script>

<template>
    <section>
        <h3>The best so far</h3>
        <p class="soft">of choices that keep all limits{{ shownUnit(search.unit) ? `, in ${shownUnit(search.unit)}` : '' }}</p>
        <svg v-if="path.length" :viewBox="`0 0 ${WIDE} ${TALL}`" role="img" :aria-label="told">
            <line class="grid" :x1="LEFT" :x2="LEFT" y1="4" :y2="TALL - FOOT" />
            <text :x="LEFT - 6" :y="y(ends.high) + 4" text-anchor="end">{{ short(ends.high, { unit: search.unit }) }}</text>
            <text v-if="ends.high > ends.low" :x="LEFT - 6" :y="y(ends.low) + 4" text-anchor="end">
                {{ short(ends.low, { unit: search.unit }) }}
            </text>
            <path :d="line" />
            <circle :cx="x(runs)" :cy="y(path.at(-1)?.[1] ?? 0)" r="3" :class="{ made: search.finished }" />
            <text :x="LEFT" :y="TALL - 3">0</text>
            <text :x="WIDE - 8" :y="TALL - 3" text-anchor="end">{{ runs.toLocaleString() }} runs</text>
        </svg>
        <p role="status">{{ told }}</p>
    </section>
</template>

<style scoped>
@import './trace.css';

path {
    stroke-width: 1.4;
}
</style>
