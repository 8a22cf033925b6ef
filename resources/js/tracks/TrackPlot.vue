<script setup lang="ts">
import { Grid3x3, Maximize2, X } from '@lucide/vue'
import { useResizeObserver } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import type { Plot, PlotOptions as Options, Thing } from '@/api/types'
import { endNames } from '@/charts/endNames'
import HeatMap from '@/charts/HeatMap.vue'
import { nearest, pointAt, paint, valueAt, type Line } from '@/charts/lines'
import { bandsOf, markedThings } from '@/charts/marks'
import { laidOver } from '@/charts/laidOver'
import { scaledLines } from '@/charts/overTimePlot'
import { spoken } from '@/charts/plotParts'
import PlotOptions from '@/charts/PlotOptions.vue'
import { share as shareOf, ticksOf, type Scale } from '@/charts/scale'
import { axisWords, measureWords } from '@/charts/words'
import { useColours } from '@/charts/useColours'
import { useCourses } from '@/stores/courses'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useRanked } from '@/stores/ranked'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import { full, short, shownUnit, tickWords } from '@/ui/numbers'

const {
    plot,
    saved,
    tall = 82,
} = defineProps<{
    plot: Plot
    /** Whether it was chosen, and is not just there by itself. */ saved: boolean
    /** Its height in pixels. */ tall?: number
}>()
const model = useModel()
const look = useLook()
const ranked = useRanked()
const runs = useRuns()
const courses = useCourses()
const view = useView()
const { colour, painted } = useColours()
const canvas = ref<HTMLCanvasElement>()
const TOP = 8
const FOOT = 6
/** Between two names at the ends of lines. */
const GAP = 14

const elements = computed(() => ranked.elementsFor(plot))
ranked.follow(() => plot)
const things = computed(() => plot.of.map((id) => elements.value[id]).filter((t): t is Thing => t !== undefined))
const first = computed(() => things.value[0])
const options = computed(() => plot.options ?? {})
const isHeat = computed(() => plot.kind === 'heat')
const heat = ref<InstanceType<typeof HeatMap>>()
const measure = computed(() => options.value.measure ?? 'value')
const scaled = computed(() => scaledLines(plot, [...courses.list(measure.value), ...laidOver(plot, model.model)], elements.value))
const lines = computed(() => scaled.value.lines)
const scales = computed(() => scaled.value.scales)
const scale = computed<Scale>(() => scaled.value.axes[0]?.scale ?? { low: 0, high: 1, log: false, step: 1 })
/** A track hangs under the ruler and shows the ruler’s times, whatever its plot is on the stage. */
const span = computed<[number, number]>(() => view.span ?? [model.model.time.start, model.model.time.end])
const waits = computed(() => {
    const cause = first.value ? model.model.waiting[first.value.id] : undefined
    return cause ? look.elements[cause]?.name : undefined
})
/** What stands beside the name: the line’s own value, as it is measured. */
const value = computed(() => (first.value && things.value.length === 1 ? reading(first.value.id) : undefined))
const unitOfLine = computed(() => lines.value[0]?.unit ?? '')
/** What the line of a thing says at the playhead, as it is measured. */
function reading(id: string) {
    const line = lines.value.find((l) => l.element === id && l.main)
    return line && valueAt(line, view.playhead)
}
const height = computed(() => tall - TOP - FOOT)
const x = (t: number) => (t - span.value[0]) / (span.value[1] - span.value[0])

/** Where the lines of the run of the day stand at the playhead. */
const dots = computed(() =>
    lines.value
        .map((line, i) => ({ line, i }))
        .filter(({ line }) => line.main)
        .map(({ line, i }) => {
            const v = valueAt(line, view.playhead)
            return v === undefined ? undefined : { key: line.key, x: x(view.playhead), y: 1 - shareOf(scales.value[i] ?? scale.value, v) }
        })
        .filter((d) => d !== undefined)
        .filter((d) => d.y >= -0.02 && d.y <= 1.02 && d.x >= 0 && d.x <= 1),
)

/** Names at the ends of the lines, each in a place of its own; only as many as there is room for. */
const named = computed(() => {
    const room = { height: tall - 16, gap: GAP, most: Math.max(2, Math.floor((tall - 4) / GAP)), from: span.value[0], to: span.value[1] }
    let found = endNames(lines.value, scales.value, room)
    if (found.rest.length) {
        // The foot is for saying how many more there are.
        found = endNames(lines.value, scales.value, { ...room, foot: GAP })
    }
    return { ends: found.names.map((n) => ({ ...n, y: n.y + 8 })), rest: found.rest }
})
const bands = computed(() => bandsOf(options.value, courses.list(measure.value), look.elements))
const yOf = (v: number) => `calc(${TOP}px + (100% - ${TOP + FOOT}px) * ${Math.min(1, Math.max(0, 1 - shareOf(scale.value, v)))})`
/** Words at the top hang down, those at the foot stand up. */
const shareAt = (v: number) => Math.min(1, Math.max(0, 1 - shareOf(scale.value, v)))
const inSight = (v: number) => v >= Math.min(scale.value.low, scale.value.high) && v <= scale.value.high
/** The axis: its ends, in words of which no two are the same, and the round numbers between where there is room. */
const axis = computed(() => {
    const ticks = ticksOf(scale.value)
    const most = Math.max(2, Math.floor(height.value / 24))
    const some = ticks.length > most ? [ticks[0], ticks[ticks.length - 1]].filter((t) => t !== undefined) : ticks
    const unit = lines.value[0]?.unit ?? ''
    const words = scale.value.log ? some.map((t) => short(t, { unit })) : tickWords(some, unit)
    return some.map((t, i) => ({ at: t, words: words[i] ?? '' }))
})
const unitWords = computed(() =>
    measure.value === 'value'
        ? first.value?.unit === '1'
            ? 'a plain number'
            : shownUnit(first.value?.unit ?? '') || 'no unit yet'
        : axisWords(first.value?.unit ?? '', measure.value),
)

watch(
    [() => plot.of, measure, () => courses.others, () => courses.loaded, () => runs.tried],
    () => {
        void courses.bring([...plot.of, ...markedThings(options.value)], measure.value)
    },
    { immediate: true },
)

const lifted = ref('')
const pointer = ref<{ x: number; y: number; time: number } | null>(null)
/** So far beside a measured point it is still meant, in time: eight pixels. */
const reach = () => (8 / Math.max(1, size)) * (span.value[1] - span.value[0])
const brushed = computed(() => {
    const line = lines.value.find((l) => l.key === lifted.value)
    if (!line || !pointer.value) {
        return undefined
    }
    const point = line.dots ? pointAt(line, pointer.value.time, reach()) : undefined
    // What was measured was so at a moment of its own.
    return point
        ? { line, value: point.value, at: `, ${model.moment(point.time)}` }
        : { line, value: valueAt(line, pointer.value.time), at: '' }
})

function draw() {
    const node = canvas.value
    const context = node?.getContext('2d')
    if (!node || !context) {
        return
    }
    const ratio = window.devicePixelRatio || 1
    const width = size
    if (node.width !== Math.round(width * ratio) || node.height !== Math.round(height.value * ratio)) {
        node.width = Math.round(width * ratio)
        node.height = Math.round(height.value * ratio)
    }
    context.setTransform(ratio, 0, 0, ratio, 0, 0)
    paint(
        context,
        width,
        height.value,
        lines.value,
        scales.value,
        span.value[0],
        span.value[1],
        colour,
        lifted.value || undefined,
        options.value.stacked === true,
    )
}

let size = 0
useResizeObserver(
    () => canvas.value?.parentElement,
    ([entry]) => {
        size = entry?.contentRect.width ?? 0
        draw()
    },
)
watch([lines, scales, span, lifted, painted, height], draw, { flush: 'post' })

// A drag over the plot picks a part of time; a press without one moves the playhead.
const pressed = ref<number | null>(null)
const picked = ref<[number, number] | null>(null)
function timeAt(event: PointerEvent) {
    const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
    const s = Math.min(1, Math.max(0, (event.clientX - box.left) / box.width))
    return { time: span.value[0] + s * (span.value[1] - span.value[0]), x: event.clientX - box.left, y: event.clientY - box.top - TOP }
}
function move(event: PointerEvent) {
    const at = timeAt(event)
    pointer.value = at
    if (pressed.value !== null) {
        picked.value =
            Math.abs(x(at.time) - x(pressed.value)) * size > 6 ? [Math.min(at.time, pressed.value), Math.max(at.time, pressed.value)] : null
        return
    }
    lifted.value = nearest(lines.value, scales.value, at.time, at.y, height.value, { reach: reach() })?.key ?? ''
}
function press(event: PointerEvent) {
    if (event.button === 0) {
        pressed.value = timeAt(event).time
        ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
    }
}
function lift(event: PointerEvent) {
    if (picked.value) {
        view.span = picked.value
    } else if (pressed.value !== null) {
        view.playing = false
        view.playhead = timeAt(event).time
    }
    pressed.value = null
    picked.value = null
}
function leave() {
    lifted.value = ''
    pointer.value = null
}

/** Tracks that are there by themselves become chosen ones when something is changed about them. */
function keep(now: Plot) {
    void model.attempt({ kind: 'plot-put', track: true, plot: now })
}
function change(now: Options) {
    keep({ ...plot, options: now })
}
function drop(event: DragEvent) {
    const id = event.dataTransfer?.getData('application/x-merry-orbit-thing')
    if (id && look.elements[id] && !plot.of.includes(id)) {
        keep({ ...plot, of: [...plot.of, id] })
    }
}
function take(id: string) {
    if (plot.of.length > 1) {
        keep({ ...plot, of: plot.of.filter((o) => o !== id) })
    } else {
        void model.attempt({ kind: 'discard', what: 'track', id: plot.id })
    }
}
function enlarge() {
    view.plot = plot.id
    view.go({ place: 'try', stage: 'plot', selection: view.selection })
}
const said = (line: Line) =>
    `${things.value.length > 1 || !first.value ? '' : `${first.value.name}, `}${line.name}${measureWords(measure.value) ? `, ${measureWords(measure.value)}` : ''}`
const summary = computed(
    () =>
        `${things.value.map((t) => t.name).join(', ')} over time${measureWords(measure.value) ? `, ${measureWords(measure.value)}` : ''}, from ${spoken(scale.value.low, unitOfLine.value)} to ${spoken(scale.value.high, unitOfLine.value)}. At ${model.moment(view.playhead)}: ${lines.value
            .filter((l) => l.main)
            .map(
                (l) =>
                    `${things.value.length > 1 || first.value?.along ? `${l.subject} ` : ''}${spoken(valueAt(l, view.playhead), l.unit)}`,
            )
            .join(', ')}`,
)
const stopped = computed(() =>
    runs.shown?.fault && view.playhead > (runs.shown.times.at(-1) ?? Infinity)
        ? `stopped at ${short(runs.shown.fault.time, { digits: 6, unit: 'year' })}`
        : '',
)
</script>

<template>
    <section
        class="track"
        :style="{ height: `${tall}px` }"
        :aria-label="`Track of ${things.map((t) => t.name).join(', ')}`"
        @dragover.prevent
        @drop.prevent.stop="drop"
    >
        <div class="label-column">
            <template v-if="things.length === 1 && first">
                <button type="button" class="who" :title="first.name" @click="view.select(first.id)">{{ first.name }}</button>
                <strong v-if="isHeat" class="parts">{{ heat?.counted }}</strong>
                <strong v-else-if="first.along && first.along.size !== 1" class="parts">{{
                    first.along.size > first.along.parts.length
                        ? `${first.along.picked ?? `first ${first.along.parts.length}`} of ${first.along.size}`
                        : `${first.along.size} lines`
                }}</strong>
                <strong v-else :title="value === undefined ? stopped : `${full(value, unitOfLine)} ${shownUnit(unitOfLine)}`">{{
                    lines.length ? short(value, { unit: unitOfLine, size: runs.size(first.id) }) : ''
                }}</strong>
                <span class="soft unit" :title="unitWords">{{ stopped || unitWords }}</span>
                <span v-if="isHeat && heat" class="scale soft"
                    >{{ heat.ends[0] }}<i :style="{ background: heat.gradient }" />{{ heat.ends[1] }}</span
                >
                <span v-if="first.along?.looked" class="soft unit" :title="runs.untold(first.id)">{{
                    runs.untold(first.id) ?? first.along.looked
                }}</span>
            </template>
            <ul v-else class="several">
                <li v-for="t in things" :key="t.id">
                    <i :style="{ background: `var(${lines.find((l) => l.element === t.id)?.colour ?? '--ink'})` }" /><button
                        type="button"
                        class="who"
                        :title="t.name"
                        @click="view.select(t.id)"
                    >
                        {{ t.name }}</button
                    ><b class="read"
                        >{{ short(reading(t.id), { unit: lines.find((l) => l.element === t.id)?.unit, size: runs.size(t.id) }) }}
                        <small class="soft">{{ measure === 'value' ? shownUnit(t.unit) : '' }}</small></b
                    ><button type="button" class="icon-button tiny" :aria-label="`Take ${t.name} out of this track`" @click="take(t.id)">
                        <X :size="11" :stroke-width="1.8" />
                    </button>
                </li>
                <li v-if="measure !== 'value'" class="soft">{{ measureWords(measure) }}</li>
            </ul>
            <span class="tools">
                <PlotOptions
                    track
                    :options="options"
                    :unit="first?.unit"
                    :several="things.length > 1"
                    :many="things.some(ranked.isMany)"
                    :title="`How the track of ${first?.name ?? ''} is shown`"
                    @change="change"
                />
                <button
                    v-if="isHeat || things.some((t) => t.along && t.along.size > 1)"
                    type="button"
                    class="icon-button"
                    :aria-pressed="isHeat"
                    :aria-label="isHeat ? 'Show lines' : 'Show a heat map'"
                    :title="isHeat ? 'Show lines' : 'Show a heat map: elements by time'"
                    @click="keep({ ...plot, kind: isHeat ? 'lines' : 'heat' })"
                >
                    <Grid3x3 :size="14" :stroke-width="1.6" />
                </button>
                <button
                    type="button"
                    class="icon-button"
                    :aria-label="`Enlarge the track of ${first?.name ?? ''}`"
                    title="Enlarge to the stage"
                    @click="enlarge"
                >
                    <Maximize2 :size="14" :stroke-width="1.6" />
                </button>
                <button
                    v-if="saved"
                    type="button"
                    class="icon-button"
                    :aria-label="`Take the track of ${first?.name ?? ''} away`"
                    title="Take this track away"
                    @click="model.attempt({ kind: 'discard', what: 'track', id: plot.id })"
                >
                    <X :size="14" :stroke-width="1.6" />
                </button>
            </span>
        </div>
        <div class="plot" @pointermove="move" @pointerdown="press" @pointerup="lift" @pointerleave="leave" @dblclick="view.span = null">
            <HeatMap v-if="isHeat" ref="heat" :plot="plot" track class="heat" />
            <canvas v-else ref="canvas" :role="lines.length ? 'img' : undefined" :aria-label="lines.length ? summary : undefined" />
            <template v-if="lines.length && !isHeat">
                <i
                    v-for="p in options.periods ?? []"
                    :key="`p${p.from}`"
                    class="period"
                    :style="{
                        left: `${Math.max(0, x(p.from)) * 100}%`,
                        width: `${Math.max(0, Math.min(1, x(p.until)) - Math.max(0, x(p.from))) * 100}%`,
                    }"
                    :title="p.name"
                    ><em>{{ p.name }}</em></i
                >
                <template v-for="(b, i) in bands.bands" :key="`b${i}`">
                    <i v-if="b.to === undefined && inSight(b.at)" class="across" :style="{ top: yOf(b.at) }"
                        ><em>{{ b.name }}</em></i
                    >
                    <i
                        v-else-if="b.to !== undefined"
                        class="band"
                        :style="{ top: yOf(Math.max(b.at, b.to)), bottom: `calc(100% - ${yOf(Math.min(b.at, b.to))})` }"
                        ><em>{{ b.name }}</em></i
                    >
                </template>
                <span
                    v-for="tick in axis"
                    :key="tick.at"
                    class="tick"
                    :style="{ top: yOf(tick.at), transform: `translateY(${-10 - 80 * shareAt(tick.at)}%)` }"
                    >{{ tick.words }}</span
                >
                <i v-if="!scale.log && scale.low <= 0 && scale.high >= 0" class="zero" :style="{ top: yOf(0) }" />
                <i
                    v-for="dot in dots"
                    :key="dot.key"
                    class="dot"
                    :style="{ left: `${dot.x * 100}%`, top: `calc(${TOP}px + (100% - ${TOP + FOOT}px) * ${dot.y})` }"
                />
            </template>
            <p v-else-if="!isHeat" class="waits soft">
                {{
                    waits && first
                        ? waits === first.name
                            ? `Waits for its own ${first.kind === 'stock' ? 'initial value' : 'formula'}`
                            : `Waits for ${waits}`
                        : measure.startsWith('difference')
                          ? 'Nothing differs from the baseline yet: keep a run, show a scenario or turn a dial.'
                          : ''
                }}
            </p>
            <i v-if="picked" class="picked" :style="{ left: `${x(picked[0]) * 100}%`, width: `${(x(picked[1]) - x(picked[0])) * 100}%` }" />
            <span
                v-if="brushed && pointer"
                class="brush"
                :class="{ flip: pointer.x > size - 180 }"
                :style="{ left: `${pointer.x}px`, top: `${Math.min(tall - 26, Math.max(2, pointer.y - 18))}px` }"
                >{{ said(brushed.line) }}{{ brushed.at }}
                <b
                    >{{ short(brushed.value, { unit: brushed.line.unit, size: runs.size(brushed.line.element) }) }}
                    {{ shownUnit(brushed.line.unit) }}</b
                ></span
            >
        </div>
        <template v-if="lines.length && !isHeat">
            <span
                v-for="end in named.ends"
                :key="end.full"
                class="end"
                :class="{ lifted: end.lines.some((l) => l.key === lifted) }"
                :style="{
                    top: `${end.y}px`,
                    color: `var(${end.lines[0]?.colour === '--line' ? '--ink-soft' : (end.lines[0]?.colour ?? '--ink')})`,
                }"
                :title="end.full"
                @pointerenter="lifted = end.lines[0]?.key ?? ''"
                @pointerleave="lifted = ''"
                >{{ end.words }}</span
            >
            <span v-if="named.rest.length" class="soft more" :title="named.rest.map((l) => l.name).join(', ')"
                >and {{ named.rest.length }} more</span
            >
        </template>
    </section>
</template>

<style scoped src="./TrackPlot.css"></style>
