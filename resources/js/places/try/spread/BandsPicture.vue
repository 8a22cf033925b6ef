<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Bands } from '@/api/types'
import { lookOf } from '@/charts/lines'
import { bandPath, linePath, usePlayheadPull } from '@/charts/plane'
import { share, type Scale } from '@/charts/scale'
import TimeAxis from '@/charts/TimeAxis.vue'
import ValueAxis from '@/charts/ValueAxis.vue'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { short, withUnit } from '@/ui/numbers'
import { settled } from '@/card/laws'

/** A variable over time in many runs: bands, single runs, and the run in the middle. */
const { bands, others, scale, name, unit, runs, limited } = defineProps<{
    bands: Bands
    others: { name: string; look: number; bands: Bands }[]
    scale: Scale
    name: string
    unit: string
    /** How many there are to be. */ runs: number
    /** Whether the limit is one of the variable’s values. */ limited: boolean
}>()
const above = defineModel<number | null>('above', { required: true })
const model = useModel()
const view = useView()
const box = ref<HTMLElement>()
const { width, height } = useElementSize(box, { width: 600, height: 300 })
const LEFT = 52
const RIGHT = 118
const TOP = 8
const FOOT = 22
const span = computed<[number, number]>(() => view.span ?? [model.model.time.start, model.model.time.end])
const plane = computed(() => ({ width: Math.max(60, width.value - LEFT - RIGHT), height: Math.max(40, height.value - TOP - FOOT) }))
const x = (t: number) => LEFT + ((t - span.value[0]) / (span.value[1] - span.value[0])) * plane.value.width
const y = (v: number) => TOP + (1 - share(scale, v)) * plane.value.height

const line = (times: number[], values: readonly (number | null)[]) => linePath({ x, y }, times, values)
const area = (b: Bands, low: string, high: string) => bandPath({ x, y }, b.times, b.percentiles[low] ?? [], b.percentiles[high] ?? [])
const last = (values: readonly (number | null)[] | undefined) => [...(values ?? [])].reverse().find((v): v is number => v !== null)
/** Names stand at the ends of what they name, and none lies on another. */
const names = computed(() => {
    const b = bands
    const middle = (one: string, other: string) => {
        const [low, high] = [last(b.percentiles[one]), last(b.percentiles[other])]
        return low === undefined || high === undefined ? undefined : (low + high) / 2
    }
    const wanted = [
        { words: 'middle run', at: last(b.central), strong: true, colour: '--ink', title: 'the run with every input at its median' },
        { words: 'half of all runs', at: middle('50', '75'), strong: false, colour: '--ink', title: 'between the percentiles 25 and 75' },
        { words: '9 in 10 runs', at: middle('75', '95'), strong: false, colour: '--ink', title: 'between the percentiles 5 and 95' },
        { words: 'mean', at: last(b.mean), strong: false, colour: '--ink-soft', title: 'the mean of all runs' },
        ...(b.singles.length
            ? [{ words: `${b.singles.length} single runs`, at: last(b.percentiles['5']), strong: false, colour: '--ink-soft', title: '' }]
            : []),
        ...others.map((o) => ({
            words: o.name,
            at: last(o.bands.percentiles['50']),
            strong: false,
            colour: lookOf(o.look).colour,
            title: `${o.name}: median, and 9 in 10 between the thin lines`,
        })),
    ]
        .flatMap((n) => (n.at === undefined ? [] : [{ ...n, y: y(n.at) }]))
        .sort((a, b) => a.y - b.y)
    wanted.forEach((n, i) => {
        n.y = Math.max(n.y, (wanted[i - 1]?.y ?? -20) + 15)
    })
    const over = Math.max(0, (wanted.at(-1)?.y ?? 0) - (TOP + plane.value.height))
    return wanted.map((n) => ({ ...n, y: n.y - over }))
})
const dash = (look: number) => lookOf(look).dash.join(' ') || undefined

const spoken = computed(() => {
    const p = (k: string) => withUnit(last(bands.percentiles[k]), unit)
    return `${name} in ${bands.runs} of ${runs} runs: at the end half of them lie between ${p('25')} and ${p('75')}, 9 in 10 between ${p('5')} and ${p('95')}; the middle run ends at ${withUnit(last(bands.central), unit)}`
})

function limitAt(event: PointerEvent) {
    const top = box.value?.getBoundingClientRect().top ?? 0
    const part = 1 - Math.min(1, Math.max(0, (event.clientY - top - TOP) / plane.value.height))
    above.value = settled(scale.low + part * (scale.high - scale.low), scale.high - scale.low)
}
const { press, drag } = usePlayheadPull(() => ({ span: span.value, left: LEFT, width: plane.value.width }))
let gripped = false
function grip(event: PointerEvent) {
    gripped = true
    ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
    limitAt(event)
}
function pull(event: PointerEvent) {
    if (event.buttons === 1 && gripped) {
        limitAt(event)
    }
}
function step(event: KeyboardEvent) {
    const way = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1, PageUp: 10, PageDown: -10 }[event.key]
    if (way !== undefined && above.value !== null) {
        event.preventDefault()
        const size = scale.high - scale.low
        above.value = settled(above.value + (way * size) / 100, size)
    }
}
</script>

<template>
    <div ref="box" class="bands">
        <svg :width="width" :height="height" role="img" :aria-label="spoken" @pointerdown="press" @pointermove="drag">
            <ValueAxis :scale="scale" :unit="unit" :left="LEFT" :width="plane.width" :y="y" />
            <path class="wide" :d="area(bands, '5', '95')" />
            <path class="half" :d="area(bands, '25', '75')" />
            <path class="edge" :d="line(bands.times, bands.percentiles['5'] ?? [])" />
            <path class="edge" :d="line(bands.times, bands.percentiles['95'] ?? [])" />
            <path v-for="s in bands.singles" :key="s.run" class="single" :d="line(bands.times, s.values)" />
            <path class="mean" :d="line(bands.times, bands.mean)" />
            <g v-for="o in others" :key="o.name" :style="{ stroke: `var(${lookOf(o.look).colour})` }">
                <path class="other" :d="line(o.bands.times, o.bands.percentiles['50'] ?? [])" :stroke-dasharray="dash(o.look)" />
                <path class="other thin" :d="line(o.bands.times, o.bands.percentiles['5'] ?? [])" />
                <path class="other thin" :d="line(o.bands.times, o.bands.percentiles['95'] ?? [])" />
            </g>
            <path class="central" :d="line(bands.times, bands.central)" />
            <line v-if="limited && above !== null" class="limit" :x1="LEFT" :x2="LEFT + plane.width" :y1="y(above)" :y2="y(above)" />
            <line class="axis" :x1="LEFT" :x2="LEFT" :y1="TOP" :y2="TOP + plane.height" />
            <TimeAxis :span="span" :left="LEFT" :width="plane.width" :top="TOP" :foot="TOP + plane.height" />
            <text
                v-for="n in names"
                :key="n.words"
                class="name"
                :class="{ strong: n.strong }"
                :x="LEFT + plane.width + 8"
                :y="n.y + 4"
                :style="{ fill: `var(${n.colour})` }"
            >
                <title v-if="n.title">{{ n.title }}</title>
                {{ n.words }}
            </text>
        </svg>
        <Button
            v-if="limited && above !== null"
            role="slider"
            class="chip limit-chip"
            :style="{ top: `${y(above) - 11}px` }"
            :aria-label="`Limit of ${name}`"
            aria-orientation="vertical"
            :aria-valuenow="above"
            :aria-valuemin="scale.low"
            :aria-valuemax="scale.high"
            :aria-valuetext="withUnit(above, unit)"
            title="Drag it: how many runs lie above is told at the right"
            @pointerdown="grip"
            @pointermove="pull"
            @keydown="step"
        >
            {{ short(above, { unit }) }}
        </Button>
    </div>
</template>

<style scoped>
.bands {
    position: relative;
    min-width: 0;
    min-height: 0;
    overflow: hidden;
}
svg {
    display: block;
    position: absolute;
    inset: 0;
    cursor: ew-resize;
    touch-action: none;
}
.name {
    font-size: 12.5px;
}
.name.strong {
    font-weight: 700;
}
.axis {
    stroke: var(--line);
}
path {
    fill: none;
}
.wide {
    fill: color-mix(in srgb, var(--basin) 13%, transparent);
}
.half {
    fill: color-mix(in srgb, var(--basin) 32%, transparent);
}
.edge {
    stroke: var(--basin);
    stroke-width: 1;
}
.single {
    stroke: var(--ink-soft);
    stroke-width: 0.8;
    opacity: 0.55;
}
.mean {
    stroke: var(--ink-soft);
    stroke-width: 1.4;
    stroke-dasharray: 1.5 3;
}
.central {
    stroke: var(--ink);
    stroke-width: 2;
}
.other {
    stroke-width: 1.6;
}
.other.thin {
    stroke-width: 0.9;
    opacity: 0.75;
}
.limit {
    stroke: var(--ink);
    stroke-dasharray: 2 4;
}
.limit-chip {
    position: absolute;
    left: 2px;
    min-width: 44px;
    padding: 1px 5px;
    border: 1.4px solid var(--ink);
    background: var(--card);
    font-size: 12px;
    font-weight: 700;
    cursor: ns-resize;
    touch-action: none;
}
</style>
