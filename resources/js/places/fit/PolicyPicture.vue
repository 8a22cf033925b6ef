<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Calibrated } from '@/api/types'
import { apart } from '@/charts/endNames'
import { bandPath, linePath, usePlayheadPull } from '@/charts/plane'
import { scaleFor, share } from '@/charts/scale'
import TimeAxis from '@/charts/TimeAxis.vue'
import ValueAxis from '@/charts/ValueAxis.vue'
import { shownUnit } from '@/ui/numbers'

type Found = NonNullable<Calibrated['found']>
/** A variable as it was, and with the policy: under uncertainty the middle, and 9 in 10 runs. */
const {
    best,
    before,
    name,
    unit,
    marks,
    other = 'before',
} = defineProps<{
    best: Found['courses']['best'][number]
    before: Found['courses']['best'][number] | undefined
    name: string
    unit: string
    /** Limits that lie on its axis. */ marks: Found['limits']
    /** What it is drawn beside. */ other?: string
}>()
const box = ref<HTMLElement>()
const { width } = useElementSize(box, { width: 640, height: 200 })
const [LEFT, RIGHT, TOP, PLANE, FOOT] = [52, 112, 8, 150, 22]
const wide = computed(() => Math.max(80, width.value - LEFT - RIGHT))
const span = computed<[number, number]>(() => [best.times[0] ?? 0, best.times.at(-1) ?? 1])
const known = (values: readonly (number | null)[] | undefined) => (values ?? []).filter((v): v is number => v !== null)
const scale = computed(() => {
    const all = [best, before].flatMap((c) => [...known(c?.percentiles['5']), ...known(c?.percentiles['95'])])
    const limits = marks.map((m) => m.number)
    return scaleFor([Math.min(...all, ...limits), Math.max(...all, ...limits)], { zero: true })
})
const x = (t: number) => LEFT + ((t - span.value[0]) / (span.value[1] - span.value[0] || 1)) * wide.value
const y = (v: number) => TOP + (1 - share(scale.value, v)) * PLANE
const line = (c: typeof best | undefined) => linePath({ x, y }, c?.times ?? [], c?.percentiles['50'] ?? [])
const area = (c: typeof best | undefined) =>
    (c?.runs ?? 0) > 1 ? bandPath({ x, y }, c?.times ?? [], c?.percentiles['5'] ?? [], c?.percentiles['95'] ?? []) : ''
const names = computed(() => {
    const wanted = [
        { words: 'with it', strong: true, at: known(best.percentiles['50']).at(-1) },
        { words: other, strong: false, at: known(before?.percentiles['50']).at(-1) },
        ...marks.map((m) => ({ words: m.least ? 'at least' : 'at most', strong: false, at: m.number })),
    ].flatMap((n) => (n.at === undefined ? [] : [{ ...n, y: y(n.at) }]))
    const placed = apart(
        wanted.map((n) => n.y),
        15,
        TOP + PLANE,
    )
    return wanted.map((n, i) => ({ ...n, y: placed[i] ?? n.y }))
})
const { press, drag } = usePlayheadPull(() => ({ span: span.value, left: LEFT, width: wide.value }))
const spoken = computed(() => `${name}: ${other}, and with the policy${best.runs > 1 ? `, in ${best.runs} runs` : ''}`)
</script>

<template>
    <figure>
        <figcaption>
            <b>{{ name }}</b>
            <span class="soft"
                >{{ shownUnit(unit) ? `in ${shownUnit(unit)}` : ''
                }}{{ best.runs > 1 ? `${shownUnit(unit) ? ', ' : ''}middle of ${best.runs} runs, and 9 in 10` : '' }}</span
            >
        </figcaption>
        <div ref="box">
            <svg :width="width" :height="TOP + PLANE + FOOT" role="img" :aria-label="spoken" @pointerdown="press" @pointermove="drag">
                <ValueAxis :scale="scale" :unit="unit" :left="LEFT" :width="wide" :y="y" />
                <path class="wide was" :d="area(before)" />
                <path class="wide" :d="area(best)" />
                <line v-for="m in marks" :key="m.number" class="limit" :x1="LEFT" :x2="LEFT + wide" :y1="y(m.number)" :y2="y(m.number)" />
                <path class="before" :d="line(before)" />
                <path class="best" :d="line(best)" />
                <text v-for="n in names" :key="n.words" class="name" :class="{ strong: n.strong }" :x="LEFT + wide + 8" :y="n.y + 4">
                    {{ n.words }}
                </text>
                <TimeAxis :span="span" :left="LEFT" :width="wide" :top="TOP" :foot="TOP + PLANE" />
            </svg>
        </div>
    </figure>
</template>

<style scoped>
figure {
    margin: 0 0 10px;
}
figcaption {
    display: flex;
    align-items: baseline;
    gap: 6px;
}
figcaption .soft {
    font-size: 13px;
}
svg {
    display: block;
    cursor: ew-resize;
    touch-action: none;
}
.name {
    font-size: 12px;
    fill: var(--ink);
}
.strong {
    font-weight: 700;
}
path {
    fill: none;
}
.wide {
    fill: color-mix(in srgb, var(--basin) 20%, transparent);
}
.wide.was {
    fill: color-mix(in srgb, var(--line) 14%, transparent);
}
.before {
    stroke: var(--ink);
    stroke-width: 1.4;
    stroke-dasharray: 2 3;
}
.best {
    stroke: var(--ink);
    stroke-width: 2;
}
.limit {
    stroke: var(--ochre);
    stroke-dasharray: 5 4;
}
</style>
