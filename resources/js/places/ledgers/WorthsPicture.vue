<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { apart } from '@/charts/endNames'
import { bandPath, linePath, usePlayheadPull } from '@/charts/plane'
import { scaleFor, share } from '@/charts/scale'
import TimeAxis from '@/charts/TimeAxis.vue'
import ValueAxis from '@/charts/ValueAxis.vue'
import { useLedgers } from '@/stores/ledgers'
import { useLook } from '@/stores/look'
import { useRuns } from '@/stores/runs'
import { short, shownUnit } from '@/ui/numbers'
import { groundOf } from './grounds'
import { stacked } from './stacked'

/** What all are worth over time, above and below nothing: one side's gain is the other's loss, and together they are the real things. */
const ledgers = useLedgers()
const runs = useRuns()
const look = useLook()
const box = ref<HTMLElement>()
const { width } = useElementSize(box, { width: 800, height: 340 })
const [LEFT, RIGHT, TOP, PLANE, FOOT] = [56, 190, 10, 280, 22]
const wide = computed(() => Math.max(120, width.value - LEFT - RIGHT))
const times = computed(() => [...(runs.shown?.times ?? [])])
const pages = computed(() => ledgers.books?.pages ?? [])
const unit = computed(() => ledgers.unit)
const courses = computed(() =>
    pages.value.map((p) => {
        const key = look.drawnKey(p.worth)
        const column = runs.shown?.values.get(key)
        const steady = runs.shown?.steady[key] ?? NaN
        return times.value.map((_, i) => column?.[i] ?? steady)
    }),
)
const isOpen = computed(() => ledgers.books?.claims.some((c) => !c.holder) ?? false)
const stack = computed(() => stacked(courses.value))
const scale = computed(() => scaleFor([Math.min(0, ...stack.value.lows), Math.max(0, ...stack.value.highs)], { zero: true }))
const span = computed<[number, number]>(() => [times.value[0] ?? 0, times.value.at(-1) ?? 1])
const x = (t: number) => LEFT + ((t - span.value[0]) / (span.value[1] - span.value[0] || 1)) * wide.value
const y = (v: number) => TOP + (1 - share(scale.value, v)) * PLANE
const areas = computed(() =>
    stack.value.bands.map((b, i) => ({
        path: bandPath({ x, y }, times.value, b.low, b.high),
        ground: groundOf(i),
        name: pages.value[i]?.name ?? '',
    })),
)
const together = computed(() => linePath({ x, y }, times.value, stack.value.sum))
const names = computed(() => {
    const last = times.value.length - 1
    const wanted = stack.value.bands.map((b, i) => ({
        words: `${pages.value[i]?.name ?? ''} ${short(courses.value[i]?.[last], { unit: unit.value })}`,
        strong: false,
        y: y(((b.low[last] ?? 0) + (b.high[last] ?? 0)) / 2),
    }))
    const all = [
        ...wanted,
        { words: `together ${short(stack.value.sum[last], { unit: unit.value })}`, strong: true, y: y(stack.value.sum[last] ?? 0) },
    ]
    const placed = apart(
        all.map((n) => n.y),
        15,
        TOP + PLANE,
    )
    return all.map((n, i) => ({ ...n, y: placed[i] ?? n.y }))
})
const { press, drag } = usePlayheadPull(() => ({ span: span.value, left: LEFT, width: wide.value }))
const spoken = computed(() => `What all are worth over time, at the end ${names.value.map((n) => n.words).join(', ')}`)
</script>

<template>
    <figure>
        <figcaption>
            <b>Net worths</b>
            <span class="soft">
                {{ shownUnit(unit) ? `in ${shownUnit(unit)}, ` : '' }}above 0 who owns more than they owe, below who owes more; together
                what nobody owes{{ isOpen ? ', less what nobody holds yet' : '' }}</span
            >
        </figcaption>
        <div ref="box">
            <svg :width="width" :height="TOP + PLANE + FOOT" role="img" :aria-label="spoken" @pointerdown="press" @pointermove="drag">
                <path v-for="a in areas" :key="a.name" class="area" :style="{ fill: a.ground }" :d="a.path">
                    <title>{{ a.name }}</title>
                </path>
                <ValueAxis :scale="scale" :unit="unit" :left="LEFT" :width="wide" :y="y" />
                <line class="zero" :x1="LEFT" :x2="LEFT + wide" :y1="y(0)" :y2="y(0)" />
                <path class="together" :d="together" />
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
    margin: 0;
    padding: 12px 14px;
    border: 1px solid var(--line);
    border-radius: 6px;
    background: var(--card);
}
figcaption {
    display: flex;
    flex-wrap: wrap;
    align-items: baseline;
    gap: 0 8px;
    margin-bottom: 6px;
}
svg {
    display: block;
    cursor: ew-resize;
    touch-action: none;
}
.area {
    stroke: var(--card);
    stroke-width: 1;
}
.zero {
    stroke: var(--ink);
    stroke-width: 1.5;
}
.together {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.6;
    stroke-dasharray: 2 3;
}
.name {
    font-size: 12px;
    fill: var(--ink);
}
.strong {
    font-weight: 700;
}
.soft {
    font-size: 13px;
    color: var(--ink-soft);
}
</style>
