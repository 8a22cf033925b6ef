<script setup lang="ts">
import { useResizeObserver } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import type { Plot } from '@/api/types'
import { useCourses } from '@/stores/courses'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import { indexAt } from '@/ui/times'
import { short, shownUnit } from '@/ui/numbers'
import { heatColours, heatRows, heatScale, MOST_ROWS, paintHeat } from './heat'
import { spoken } from './plotParts'
import { useColours } from './useColours'
import { inFullOfAll } from './words'

/** Elements by time as colours, of one run: the run of the day. In a track it hangs under the ruler and shows the ruler’s times. */
const { plot, track = false } = defineProps<{ plot: Plot; track?: boolean }>()
const model = useModel()
const runs = useRuns()
const courses = useCourses()
const look = useLook()
const view = useView()
const { colour, painted } = useColours()
const canvas = ref<HTMLCanvasElement>()
const size = ref({ width: 0, height: 0 })

const NAME = 14
const partsOf = (thing: Parameters<typeof look.linesOf>[0]) => look.linesOf(thing, MOST_ROWS).parts
const things = computed(() => plot.of.map((id) => look.elements[id]).filter((t) => t !== undefined))
const all = computed(() => things.value.reduce((n, t) => n + (t.along?.size ?? 1), 0))
const keys = computed(() => things.value.flatMap((t) => (t.along ? partsOf(t).map((p) => p.key) : [])).slice(0, MOST_ROWS))
watch(
    () => keys.value.join(' '),
    () => {
        runs.needColumns(`heat ${plot.id}`, keys.value)
    },
    { immediate: true },
)
onBeforeUnmount(() => {
    runs.needColumns(`heat ${plot.id}`, [])
})
const rows = computed(() => heatRows(plot, runs.shown, look.elements, partsOf).slice(0, MOST_ROWS))
const scale = computed(() => heatScale(rows.value, plot))
const run = computed(() => courses.list()[0]?.name ?? '')
const span = computed<[number, number]>(() =>
    track
        ? (view.span ?? [model.model.time.start, model.model.time.end])
        : [plot.options?.from ?? model.model.time.start, plot.options?.to ?? model.model.time.end],
)
const unit = computed(() => (scale.value.own ? '' : (rows.value[0]?.unit ?? '')))
const ends = computed(() =>
    scale.value.own
        ? ['least of each', 'most of each']
        : [short(scale.value.low, { unit: unit.value }), short(scale.value.high, { unit: unit.value })],
)
const gradient = computed(() => {
    void painted.value
    const of = heatColours(colour)
    const low =
        !scale.value.own && scale.value.low < 0 && scale.value.high > 0 ? scale.value.low / Math.max(-scale.value.low, scale.value.high) : 0
    const high = low < 0 ? scale.value.high / Math.max(-scale.value.low, scale.value.high) : 1
    return `linear-gradient(90deg, ${[0, 0.25, 0.5, 0.75, 1].map((s) => of(low + s * (high - low))).join(', ')})`
})
/** Names of rows, as many as there is room for. */
const named = computed(() => {
    const tall = size.value.height / Math.max(1, rows.value.length)
    const every = Math.max(1, Math.ceil(NAME / Math.max(0.1, tall)))
    return rows.value.map((row, i) => ({ row, y: (i + 0.5) * tall, i })).filter(({ i }) => i % every === 0)
})

function draw() {
    const node = canvas.value
    const context = node?.getContext('2d')
    if (!node || !context || !rows.value.length || !size.value.width) {
        return
    }
    const ratio = window.devicePixelRatio || 1
    node.width = Math.round(size.value.width * ratio)
    node.height = Math.round(size.value.height * ratio)
    context.setTransform(ratio, 0, 0, ratio, 0, 0)
    paintHeat(context, { ...size.value, from: span.value[0], to: span.value[1] }, rows.value, scale.value, heatColours(colour))
}
useResizeObserver(
    () => canvas.value?.parentElement,
    ([entry]) => {
        size.value = { width: entry?.contentRect.width ?? 0, height: entry?.contentRect.height ?? 0 }
    },
)
watch([rows, scale, span, size, painted], draw, { flush: 'post' })

const pointed = ref<{ x: number; y: number; words: string; value: string }>()
function point(event: PointerEvent) {
    const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
    const [x, y] = [event.clientX - box.left, event.clientY - box.top]
    const row = rows.value[Math.floor((y / box.height) * rows.value.length)]
    const time = span.value[0] + (x / box.width) * (span.value[1] - span.value[0])
    const value = row?.values[indexAt(row.times, time)]
    pointed.value = row && {
        x,
        y,
        words: `${row.name}, ${model.moment(time)}`,
        value: `${short(value, { unit: row.unit })} ${shownUnit(row.unit)}`,
    }
}
const summary = computed(
    () =>
        `${things.value.map((t) => t.name).join(', ')}: a heat map of ${rows.value.length} rows over time. At ${model.moment(view.playhead)}: ${rows.value
            .slice(0, 12)
            .map((r) => `${r.name} ${spoken(runs.value(r.key), r.unit)}`)
            .join(', ')}`,
)
const x = computed(() => ((view.playhead - span.value[0]) / (span.value[1] - span.value[0])) * 100)
const counted = computed(() =>
    all.value > MOST_ROWS ? `first ${MOST_ROWS} of ${all.value}` : all.value === 1 ? '1 row' : `${all.value} rows`,
)
defineExpose({ gradient, ends, counted })
</script>

<template>
    <div class="heat" :class="{ bare: track }">
        <div v-if="!track" class="legend">
            <b>{{ [plot.name, things.map(inFullOfAll).join(', ')].filter(Boolean).join(' – ') }}</b>
            <span class="soft">{{ [run, all > MOST_ROWS ? counted : ''].filter(Boolean).join(', ') }}</span>
            <span class="soft end">{{ ends[0] }}</span><i :style="{ background: gradient }" /><span class="soft"
                >{{ ends[1] }} {{ shownUnit(unit) }}</span
            >
        </div>
        <div class="plane" @pointermove="point" @pointerleave="pointed = undefined">
            <canvas ref="canvas" role="img" :aria-label="summary" />
            <span v-for="{ row, y } in named" :key="row.key" class="name" :style="{ top: `${y}px` }" :title="row.name">{{ row.name }}</span>
            <i v-if="!track && x >= 0 && x <= 100" class="playhead" :style="{ left: `${x}%` }" />
            <span
                v-if="pointed"
                class="tip"
                :class="{ flip: pointed.x > size.width - 220, up: pointed.y > size.height - 40 }"
                :style="{ left: `${pointed.x}px`, top: `${pointed.y}px` }"
                >{{ pointed.words }} <b>{{ pointed.value }}</b></span
            >
        </div>
        <p v-if="!rows.length" class="soft none">Add something that extends over a dimension to see its elements by time.</p>
        <div v-else-if="!track" class="times">
            <span>{{ model.moment(span[0]) }}</span><span>{{ model.moment((span[0] + span[1]) / 2) }}</span
            ><span>{{ model.moment(span[1]) }}</span>
        </div>
    </div>
</template>

<style scoped>
.heat {
    display: flex;
    flex-direction: column;
    height: 100%;
    padding: 8px 16px;
}
.plane,
.times {
    margin-right: 154px;
}
.bare .plane {
    margin-right: 0;
}
.heat.bare {
    padding: 0;
}
.plane {
    position: relative;
    flex: 1;
    min-height: 0;
}
canvas {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
}
.name {
    position: absolute;
    left: calc(100% + 8px);
    max-width: 150px;
    transform: translateY(-50%);
    font-size: 12.5px;
    line-height: 14px;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
}
.bare .name {
    max-width: 86px;
    font-size: 12px;
}
.legend {
    display: flex;
    align-items: center;
    gap: 10px;
    margin-bottom: 8px;
}
.legend i {
    width: 130px;
    height: 12px;
    border: 1px solid var(--hairline);
}
.end {
    margin-left: auto;
}
.playhead {
    position: absolute;
    top: 0;
    bottom: 0;
    width: 1.6px;
    background: var(--ember);
}
.times {
    display: flex;
    justify-content: space-between;
    padding-top: 4px;
    font-size: 12.5px;
    color: var(--ink-soft);
}
.tip {
    position: absolute;
    z-index: 3;
    transform: translate(12px, 10px);
    padding: 2px 8px;
    border: 1px solid var(--line);
    border-radius: 7px;
    background: var(--card);
    font-size: 13px;
    white-space: nowrap;
    pointer-events: none;
}
.tip.flip {
    transform: translate(calc(-100% - 12px), 10px);
}
.tip.up {
    transform: translate(12px, calc(-100% - 6px));
}
.tip.flip.up {
    transform: translate(calc(-100% - 12px), calc(-100% - 6px));
}
.none {
    padding: 10px;
}
</style>
