<script setup lang="ts">
import { computed } from 'vue'
import type { FitPicture } from '@/api/types'
import { scaleFor, share, ticksOf } from '@/charts/scale'
import ErrorShares from '@/places/data/ErrorShares.vue'
import { short, shownUnit, tickWords } from '@/ui/numbers'

/** In which way a series is missed: its errors in their shares, what was measured against the run, and the figures. */
type Fitness = NonNullable<FitPicture['runs'][number]['series'][number]['counted']>
const { counted, held, points, name, unit } = defineProps<{
    counted: Fitness
    held: Fitness | null
    points: { measured: number; simulated: number; counts: boolean }[]
    name: string
    unit: string
}>()
const [SIDE, LEFT, FOOT] = [150, 40, 20]
const scale = computed(() => {
    const all = points.flatMap((p) => [p.measured, p.simulated])
    return scaleFor([Math.min(...all), Math.max(...all)], { zero: true }, 3)
})
const x = (v: number) => LEFT + share(scale.value, v) * SIDE
const y = (v: number) => 6 + (1 - share(scale.value, v)) * SIDE
const ticks = computed(() => {
    const values = ticksOf(scale.value)
    const words = tickWords(values, unit)
    return values.map((v, i) => ({ v, words: words[i] }))
})
const figures = computed(() => {
    const size = (v: number | null | undefined) => (v === null || v === undefined ? '–' : short(v, { unit }))
    const plain = (v: number | null | undefined) => (v === null || v === undefined ? '–' : short(v, { digits: 2 }))
    return [
        { words: 'values', of: (f: Fitness) => String(f.n) },
        { words: 'R²', of: (f: Fitness) => plain(f.r2) },
        { words: 'as a rule (RMSE)', of: (f: Fitness) => size(f.rmse) },
        { words: 'mean size (MAE)', of: (f: Fitness) => size(f.mae) },
        { words: 'mean error', of: (f: Fitness) => size(f.mean_error) },
        { words: 'each like the one before', of: (f: Fitness) => plain(f.autocorrelation) },
    ]
})
</script>

<template>
    <details>
        <summary class="soft">How {{ name }} is missed</summary>
        <div class="misses">
            <figure>
                <svg
                    :width="LEFT + SIDE + 22"
                    :height="SIDE + FOOT + 10"
                    role="img"
                    :aria-label="`Measured values of ${name} up, the run across: on the line they are met`"
                >
                    <g v-for="t in ticks" :key="t.v">
                        <line class="grid" :x1="LEFT" :x2="LEFT + SIDE" :y1="y(t.v)" :y2="y(t.v)" />
                        <text :x="LEFT - 6" :y="y(t.v) + 4" text-anchor="end">{{ t.words }}</text>
                        <text :x="x(t.v)" :y="SIDE + FOOT" text-anchor="middle">{{ t.words }}</text>
                    </g>
                    <line class="met" :x1="x(scale.low)" :y1="y(scale.low)" :x2="x(scale.high)" :y2="y(scale.high)" />
                    <circle v-for="(p, i) in points" :key="i" :cx="x(p.simulated)" :cy="y(p.measured)" r="3" :class="{ held: !p.counts }" />
                </svg>
                <figcaption class="soft">measured up, run across{{ shownUnit(unit) ? `, in ${shownUnit(unit)}` : '' }}</figcaption>
            </figure>
            <ErrorShares v-if="counted.bias !== null" class="shares" :fit="counted" />
            <table>
                <thead v-if="held">
                    <tr>
                        <td />
                        <th scope="col">counts</th>
                        <th scope="col">held back</th>
                    </tr>
                </thead>
                <tbody>
                    <tr v-for="f in figures" :key="f.words">
                        <th scope="row">{{ f.words }}</th>
                        <td>{{ f.of(counted) }}</td>
                        <td v-if="held">{{ f.of(held) }}</td>
                    </tr>
                </tbody>
            </table>
        </div>
    </details>
</template>

<style scoped>
details {
    padding-left: 52px;
    font-size: 13px;
}
summary {
    min-height: 24px;
    align-content: center;
    cursor: pointer;
}
.misses {
    display: flex;
    flex-wrap: wrap;
    gap: 12px 26px;
    margin: 6px 0 10px;
}
figure {
    margin: 0;
}
.shares {
    flex: 1 1 220px;
    max-width: 280px;
}
svg {
    display: block;
}
text {
    font-size: 11px;
    fill: var(--ink-soft);
}
.grid {
    stroke: var(--hairline);
}
.met {
    stroke: var(--ink);
    stroke-dasharray: 3 3;
}
circle {
    fill: var(--hue);
    stroke: var(--hue);
    stroke-width: 1.4;
}
circle.held {
    fill: var(--paper);
}
table {
    align-self: start;
    border-collapse: collapse;
}
th,
td {
    padding: 2px 0 2px 14px;
    text-align: right;
    font-weight: 400;
    font-variant-numeric: tabular-nums;
}
tbody th {
    padding-left: 0;
    text-align: left;
    color: var(--ink-soft);
}
thead th {
    color: var(--ink-soft);
}
</style>
