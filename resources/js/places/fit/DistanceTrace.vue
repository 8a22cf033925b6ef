<script setup lang="ts">
import { computed } from 'vue'
import type { Calibrated } from '@/api/types'
import { counted, short } from '@/ui/numbers'
import { searches } from './names'

/** How far off the nearest run of each search is, as more are made. */
const { fit } = defineProps<{ fit: Calibrated }>()
const [WIDE, TALL, LEFT, FOOT] = [204, 172, 40, 18]
/** The first is a run like any other: it may be beyond all measure. */
const MOST = 1e4
const walks = computed(() => searches(fit).filter((w) => w.path.length))
const steps = computed(() => walks.value.map((w) => w.path.map(([runs, off]) => [runs ?? 0, off ?? 0] as const)))
const least = computed(() => Math.min(...steps.value.flat().map(([, off]) => off)))
const most = computed(() => Math.max(...steps.value.flat().map(([, off]) => Math.min(off, least.value * MOST))))
const decades = computed(() => {
    const from = Math.floor(Math.log10(Math.max(least.value, 1e-300)))
    const to = Math.max(from + 1, Math.ceil(Math.log10(Math.max(most.value, 1e-300))))
    return {
        from,
        to,
        marks: Array.from({ length: to - from + 1 }, (_, i) => from + i).filter((_, i) => i % Math.ceil((to - from) / 4) === 0),
    }
})
const runs = computed(() => Math.max(1, ...searches(fit).map((w) => w.runs)))
const x = (n: number) => LEFT + (n / runs.value) * (WIDE - LEFT - 8)
const y = (off: number) => {
    const { from, to } = decades.value
    const part = (Math.log10(Math.max(off, 10 ** from)) - from) / (to - from)
    return 6 + (1 - Math.min(1, part)) * (TALL - 6 - FOOT)
}
const line = (path: (readonly [number, number])[], until: number) =>
    path.map(([n, off], i) => (i ? `H${x(n).toFixed(1)}V${y(off).toFixed(1)}` : `M${x(n).toFixed(1)} ${y(off).toFixed(1)}`)).join('') +
    `H${x(until).toFixed(1)}`
const ended = computed(() => searches(fit).filter((w) => w.made).length)
const words = computed(() =>
    fit.known
        ? 'mean square of the misses, in errors: 1 is as near as errors allow'
        : 'mean square of the misses, against the swing of what was measured',
)
const told = computed(() => {
    const all = searches(fit).length
    const best = fit.best ? `; the nearest is off by ${short(fit.best.distance)}` : ''
    return `${ended.value === all ? (all === 1 ? 'The search' : `All ${all} searches`) : `${ended.value} of ${counted(all, 'search', 'searches')}`} ended${best}.`
})
</script>

<template>
    <section>
        <h3>How far off</h3>
        <p class="soft">{{ words }}</p>
        <svg v-if="walks.length" :viewBox="`0 0 ${WIDE} ${TALL}`" role="img" :aria-label="`${words}. ${told}`">
            <g v-for="d in decades.marks" :key="d">
                <line class="grid" :x1="LEFT" :x2="WIDE - 8" :y1="y(10 ** d)" :y2="y(10 ** d)" />
                <text :x="LEFT - 6" :y="y(10 ** d) + 4" text-anchor="end">{{ short(10 ** d) }}</text>
            </g>
            <g v-for="(w, i) in walks" :key="w.name">
                <path :d="line(steps[i] ?? [], w.runs)" :class="{ made: w.made }" />
                <circle :cx="x(w.runs)" :cy="y(steps[i]?.at(-1)?.[1] ?? 1)" :r="w.made ? 3 : 2.6" :class="{ made: w.made }" />
            </g>
            <text :x="LEFT" :y="TALL - 3">0</text>
            <text :x="WIDE - 8" :y="TALL - 3" text-anchor="end">{{ counted(runs, 'run') }} each</text>
        </svg>
        <p role="status">{{ told }}</p>
    </section>
</template>

<style scoped>
@import './trace.css';

path {
    stroke-width: 1;
    opacity: 0.55;
}
path.made {
    opacity: 0.9;
}
</style>
