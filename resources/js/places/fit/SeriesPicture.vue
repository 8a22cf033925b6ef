<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref, useId } from 'vue'
import type { FitPicture, OpenResult } from '@/api/types'
import { apart } from '@/charts/endNames'
import { bandPath, linePath, usePlayheadPull } from '@/charts/plane'
import { scaleFor, share } from '@/charts/scale'
import TimeAxis from '@/charts/TimeAxis.vue'
import ValueAxis from '@/charts/ValueAxis.vue'
import { useModel } from '@/stores/model'
import { counted, short, shownUnit, withUnit } from '@/ui/numbers'
import MissesPart from './MissesPart.vue'

/** A series with the runs that are to come near to it, and below how much each point is missed by the nearest. */
const { series, runs, name, unit, column, of, nearest, was, band, size } = defineProps<{
    series: FitPicture['series'][number]
    runs: FitPicture['runs']
    name: string
    unit: string
    /** What it is called in its table. */ column: string
    /** Where its colour stands among the others. */ of: number
    /** What the run that came nearest is called. */ nearest: string
    /** And the one of the model as it is. */ was: string
    /** How large its errors are, where they are not known: as they were estimated. */ size: number | undefined
    /** Where runs lie with what the data leave open. */ band: OpenResult['bands'][number] | undefined
}>()
const model = useModel()
const box = ref<HTMLElement>()
const { width } = useElementSize(box, { width: 640, height: 300 })
const hatch = useId()
const [LEFT, RIGHT, TOP, PLANE, GAP, MISSES, FOOT] = [52, 112, 8, 168, 14, 54, 22]
const HUES = ['--basin', '--plum', '--ribbon', '--run-3', '--run-1', '--run-5']
const hue = computed(() => HUES[of % HUES.length] ?? '--basin')
const wide = computed(() => Math.max(80, width.value - LEFT - RIGHT))
const tall = TOP + PLANE + GAP + MISSES + FOOT

/** To the end of what was measured, and a little on: beyond it nothing is compared. */
const span = computed<[number, number]>(() => {
    const { start, end } = model.model.time
    const last = Math.max(...series.points.map((p) => p.time))
    // What is left open is told of what is to come, too.
    return [start, band ? end : Math.min(end, last + 0.04 * (last - start))]
})
const x = (t: number) => LEFT + ((t - span.value[0]) / (span.value[1] - span.value[0] || 1)) * wide.value
const own = (run: FitPicture['runs'][number]) => run.series.find((s) => s.evidence === series.evidence)
const before = computed(() => runs.find((r) => r.kind === 'before'))
const best = computed(() => runs.find((r) => r.kind === 'best'))
const earlier = computed(() => runs.filter((r) => r.kind === 'earlier'))
const courseOf = (run: FitPicture['runs'][number] | undefined) =>
    (run ? (own(run)?.course ?? []) : []).filter(([t]) => (t ?? Infinity) <= span.value[1]) as [number, number][]
/** As it is known, or as it was estimated. */
const errorOf = (p: { error: number | null }) => p.error ?? size ?? 0
const errorWords = computed(() =>
    series.points.some((p) => p.error) ? ' ± one error' : size ? ` ± one error, estimated as ${withUnit(size, unit, { digits: 2 })}` : '',
)
const scale = computed(() => {
    const points = series.points.flatMap((p) => [p.value - errorOf(p), p.value + errorOf(p)])
    const lines = [before.value, best.value].flatMap((r) => courseOf(r).map(([, v]) => v))
    // A first run far off does not press all that counts together.
    const most = 2.5 * Math.max(...points.map(Math.abs))
    const sides = [...(band?.percentiles['5'] ?? []), ...(band?.percentiles['95'] ?? [])].filter((v): v is number => v !== null)
    const all = [...points, ...sides, ...lines.filter((v) => Math.abs(v) <= most)]
    return scaleFor([Math.min(...all), Math.max(...all)], { zero: true })
})
const y = (v: number) => TOP + (1 - share(scale.value, v)) * PLANE
const line = (course: [number, number][]) =>
    linePath(
        { x, y },
        course.map(([t]) => t),
        course.map(([, v]) => v),
    )
const area = (low: string, high: string) => {
    const times = (band?.times ?? []).filter((t) => t <= span.value[1])
    return bandPath({ x, y }, times, band?.percentiles[low] ?? [], band?.percentiles[high] ?? [])
}
const held = computed(() => {
    const times = series.points.filter((p) => !p.counts).map((p) => p.time)
    const counted = series.points.filter((p) => p.counts).map((p) => p.time)
    const from = times.filter((t) => t > Math.max(...counted))
    const first = Math.max(...counted)
    return from.length
        ? { from: (first + Math.min(...from)) / 2, to: Math.min(span.value[1], Math.max(...from) + 0.01 * (span.value[1] - span.value[0])) }
        : null
})
const r2 = (run: FitPicture['runs'][number] | undefined) => {
    const value = run ? own(run)?.counted?.r2 : undefined
    return value === null || value === undefined ? '' : `R² ${value.toFixed(value > 0.99 && value < 1 ? 3 : 2).replace('-', '−')}`
}
/** Names stand at the ends of what they name, and none lies on another. */
const names = computed(() => {
    const end = (run: FitPicture['runs'][number] | undefined) => courseOf(run).at(-1)?.[1]
    const wanted = [
        { words: best.value ? nearest : '', note: r2(best.value), at: end(best.value), strong: true },
        { words: was, note: r2(before.value), at: end(before.value), strong: false },
    ].flatMap((n) => (n.words && n.at !== undefined ? [{ ...n, y: Math.min(TOP + PLANE - 14, Math.max(TOP + 8, y(n.at))) }] : []))
    const placed = apart(
        wanted.map((n) => n.y),
        32,
        TOP + PLANE - 12,
    )
    return wanted.map((n, i) => ({ ...n, y: placed[i] ?? n.y }))
})

const shownRun = computed(() => best.value ?? before.value)
const misses = computed(() =>
    (shownRun.value ? (own(shownRun.value)?.misses ?? []) : []).flatMap(([t, m], i) =>
        m === null || m === undefined || t === null || t === undefined ? [] : [{ t, m, counts: series.points[i]?.counts ?? true }],
    ),
)
const reach = computed(() => Math.max(1e-300, ...misses.value.map(({ m }) => Math.abs(m))))
const zero = TOP + PLANE + GAP + MISSES / 2
const missed = (m: number) => zero - (m / reach.value) * (MISSES / 2 - 5)
const told = computed(() => {
    const s = shownRun.value ? own(shownRun.value) : undefined
    return {
        rmse: s?.counted?.rmse ?? null,
        held: s?.held?.rmse ?? null,
        sentence: s?.counted?.sentence ?? '',
    }
})
const shownCounted = computed(() => (shownRun.value ? (own(shownRun.value)?.counted ?? null) : null))
const shownHeld = computed(() => (shownRun.value ? (own(shownRun.value)?.held ?? null) : null))
const met = computed(() =>
    (shownRun.value ? (own(shownRun.value)?.misses ?? []) : []).flatMap(([, miss], i) => {
        const p = series.points[i]
        return p && miss !== null && miss !== undefined ? [{ measured: p.value, simulated: p.value - miss, counts: p.counts }] : []
    }),
)
const spoken = computed(
    () =>
        `${name}, ${counted(series.points.length, 'measured value')}. ` +
        (best.value ? `Before ${r2(before.value)}, ${nearest} ${r2(best.value)}.` : `The model as it is: ${r2(before.value)}.`),
)
const { press, drag } = usePlayheadPull(() => ({ span: span.value, left: LEFT, width: wide.value }))
</script>

<template>
    <figure>
        <figcaption>
            <b>{{ name }}</b>
            <span class="soft"
                ><template v-if="shownUnit(unit)">in {{ shownUnit(unit) }}, </template>{{ column }}{{ errorWords }}</span
            >
        </figcaption>
        <div ref="box" :style="{ '--hue': `var(${hue})` }">
            <svg :width="width" :height="tall" role="img" :aria-label="spoken" @pointerdown="press" @pointermove="drag">
                <defs>
                    <pattern :id="hatch" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
                        <line x1="0" y1="0" x2="0" y2="7" class="hatch" />
                    </pattern>
                    <clipPath :id="`${hatch}-plane`"><rect :x="LEFT" :y="TOP - 4" :width="wide" :height="PLANE + 8" /></clipPath>
                </defs>
                <g v-if="held">
                    <rect
                        :x="x(held.from)"
                        :y="TOP"
                        :width="x(held.to) - x(held.from)"
                        :height="PLANE + GAP + MISSES"
                        :fill="`url(#${hatch})`"
                    />
                    <text v-if="x(held.to) - x(held.from) > 70" class="on" :x="x(held.from) + 6" :y="TOP + 12">held back</text>
                </g>
                <ValueAxis :scale="scale" :unit="unit" :left="LEFT" :width="wide" :y="y" />
                <g :clip-path="`url(#${hatch}-plane)`">
                    <path v-if="band" class="wide" :d="area('5', '95')"><title>9 in 10 runs</title></path>
                    <path v-if="band" class="half" :d="area('25', '75')"><title>half of the runs</title></path>
                    <path v-for="(r, i) in band ? [] : earlier" :key="i" class="earlier" :d="line(courseOf(r))">
                        <title>an earlier best</title>
                    </path>
                    <path class="before" :class="{ alone: !best }" :d="line(courseOf(before))" />
                    <path v-if="best" class="best" :d="line(courseOf(best))" />
                </g>
                <g v-for="(p, i) in series.points" :key="i" :class="{ held: !p.counts }" class="point">
                    <line v-if="errorOf(p)" :x1="x(p.time)" :x2="x(p.time)" :y1="y(p.value - errorOf(p))" :y2="y(p.value + errorOf(p))" />
                    <circle :cx="x(p.time)" :cy="y(p.value)" r="3.6">
                        <title>{{ model.moment(p.time) }}: {{ withUnit(p.value, unit) }}{{ p.counts ? '' : ', held back' }}</title>
                    </circle>
                </g>
                <g v-for="(n, i) in names" :key="i">
                    <text class="name" :class="{ strong: n.strong }" :x="LEFT + wide + 8" :y="n.y + 2">{{ n.words }}</text>
                    <text :x="LEFT + wide + 8" :y="n.y + 16">{{ n.note }}</text>
                </g>
                <text :x="LEFT - 7" :y="missed(reach) + 4" text-anchor="end">{{ short(reach, { unit, digits: 2 }) }}</text>
                <text :x="LEFT - 7" :y="missed(-reach) + 4" text-anchor="end">{{ short(-reach, { unit, digits: 2 }) }}</text>
                <line class="zero" :x1="LEFT" :x2="LEFT + wide" :y1="zero" :y2="zero" />
                <g v-for="m in misses" :key="m.t" class="point miss" :class="{ held: !m.counts }">
                    <line :x1="x(m.t)" :x2="x(m.t)" :y1="zero" :y2="missed(m.m)" />
                    <circle :cx="x(m.t)" :cy="missed(m.m)" r="2.6">
                        <title>{{ model.moment(m.t) }}: measured minus run {{ short(m.m, { unit }) }}</title>
                    </circle>
                </g>
                <text class="name" :x="LEFT + wide + 8" :y="zero - 8">missed by</text>
                <text :x="LEFT + wide + 8" :y="zero + 6">{{ withUnit(told.rmse, unit, { digits: 2 }) }}</text>
                <text v-if="told.held !== null" :x="LEFT + wide + 8" :y="zero + 20">
                    held back {{ short(told.held, { unit, digits: 2 }) }}
                </text>
                <TimeAxis :span="span" :left="LEFT" :width="wide" :top="TOP" :foot="tall - FOOT" />
            </svg>
        </div>
        <p v-if="told.sentence" class="soft">
            {{ best ? `Of the ${nearest}` : 'Of the model as it is' }}, the misses are:
            {{ told.sentence.charAt(0).toLowerCase() + told.sentence.slice(1) }}
        </p>
        <MissesPart
            v-if="shownCounted"
            :counted="shownCounted"
            :held="shownHeld"
            :points="met"
            :name="name"
            :unit="unit"
            :style="{ '--hue': `var(${hue})` }"
        />
    </figure>
</template>

<style scoped>
figure {
    margin: 0 0 14px;
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
text {
    font-size: 12px;
    fill: var(--ink-soft);
}
.name {
    fill: var(--ink);
}
.on {
    stroke: var(--paper);
    stroke-width: 3;
    paint-order: stroke;
}
.name.strong {
    font-weight: 700;
}
.zero {
    stroke: var(--ink);
}
.hatch {
    stroke: var(--hairline);
    stroke-width: 1.6;
}
path {
    fill: none;
}
.wide {
    fill: color-mix(in srgb, var(--hue) 14%, transparent);
}
.half {
    fill: color-mix(in srgb, var(--hue) 30%, transparent);
}
.earlier {
    stroke: var(--line);
    stroke-width: 1;
    opacity: 0.7;
}
.before {
    stroke: var(--ink);
    stroke-width: 1.4;
    stroke-dasharray: 2 3;
}
.before.alone {
    stroke-width: 2;
    stroke-dasharray: none;
}
.best {
    stroke: var(--ink);
    stroke-width: 2;
}
.point line {
    stroke: var(--hue);
    stroke-width: 1.2;
}
.point circle {
    fill: var(--hue);
    stroke: var(--hue);
    stroke-width: 1.4;
}
.held circle {
    fill: var(--card);
}
p {
    padding-left: 52px;
    font-size: 13px;
}
</style>
