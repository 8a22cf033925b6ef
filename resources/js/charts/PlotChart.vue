<script setup lang="ts">
import { BarChart, LineChart, ScatterChart } from 'echarts/charts'
import {
    AriaComponent,
    GraphicComponent,
    GridComponent,
    LegendComponent,
    MarkAreaComponent,
    MarkLineComponent,
    TitleComponent,
    TooltipComponent,
} from 'echarts/components'
import { init, use, type ECharts } from 'echarts/core'
import { LabelLayout } from 'echarts/features'
import { CanvasRenderer, SVGRenderer } from 'echarts/renderers'
import { useResizeObserver } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import type { Plot, Thing } from '@/api/types'
import { useCourses, type Course } from '@/stores/courses'
import { useModel } from '@/stores/model'
import { useRanked } from '@/stores/ranked'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import { endNames } from './endNames'
import { linesOf, valueAt } from './lines'
import { markedThings } from './marks'
import { laidOver } from './laidOver'
import { optionsOf } from './options'
import { scaledLines } from './overTimePlot'
import { phasePaths } from './phasePlot'
import { planeOf, spoken } from './plotParts'
import { unseen } from './scale'
import { useColours } from './useColours'
import { useTimeMarks } from './useTimeMarks'
import { measureWords, titleOf } from './words'

use([
    LineChart,
    BarChart,
    ScatterChart,
    GridComponent,
    TooltipComponent,
    TitleComponent,
    LegendComponent,
    MarkLineComponent,
    MarkAreaComponent,
    GraphicComponent,
    AriaComponent,
    LabelLayout,
    CanvasRenderer,
    SVGRenderer,
])

const {
    plot,
    given = undefined,
    headed = true,
    at = undefined,
} = defineProps<{
    plot: Plot
    /** Runs to plot instead of those of the day. */ given?: Course[]
    /** Whether its title stands above it. */ headed?: boolean
    /** The moment it shows, instead of the playhead. */ at?: number
}>()
const model = useModel()
const ranked = useRanked()
const runs = useRuns()
const courses = useCourses()
const view = useView()
const { colour, painted } = useColours()
const host = ref<HTMLElement>()
const size = ref({ width: 0, height: 0 })
let chart: ECharts | undefined

const options = computed(() => plot.options ?? {})
const now = computed(() => at ?? view.playhead)
const measure = computed(() => options.value.measure ?? 'value')
const list = computed(() => [...(given ?? courses.list(measure.value)), ...laidOver(plot, model.model)])
const elements = computed(() => ranked.elementsFor(plot))
ranked.follow(() => plot)
const lines = computed(() => linesOf(plot, list.value, elements.value))
const things = computed(() => plot.of.map((id) => elements.value[id]).filter((t): t is Thing => t !== undefined))
const described = computed(() => titleOf(plot, things.value, model.model.time.unit))
/** Its own name first, then what it shows; who looks at it must not have to guess. */
const title = computed(() => (plot.name && plot.name !== described.value ? `${plot.name} – ${described.value}` : described.value))
const withLines = computed(() => list.value.filter((c) => lines.value.some((l) => l.course === c.key)))
const shownRuns = computed(() => withLines.value.filter((c) => !c.drawn).map((c) => c.name))
/** Reference modes are no runs: what is feared is told as such. */
const laidWords = computed(() => {
    const kinds = [...new Set(withLines.value.filter((c) => c.drawn).map((c) => c.name))]
    return kinds.length ? `, with what is ${kinds.join(', ')}` : ''
})
const subtitle = computed(
    () =>
        `${shownRuns.value.length > 4 ? `${shownRuns.value.length} runs` : shownRuns.value.join(', ')}${laidWords.value}${plot.kind === 'histogram' ? `, ${model.moment(model.model.time.start)} to ${model.moment(model.model.time.end, false)}` : ''}`,
)
const summary = computed(
    () =>
        `${title.value}: ${lines.value
            .map(
                (l) =>
                    `${l.name} ${spoken(valueAt(l, model.model.time.start), l.unit)} at the start, ${spoken(valueAt(l, now.value), l.unit)} at ${model.moment(now.value)}, ${spoken(valueAt(l, model.model.time.end), l.unit)} at the end`,
            )
            .slice(0, 8)
            .join('; ')}`,
)
const span = computed(() => [options.value.from ?? model.model.time.start, options.value.to ?? model.model.time.end] as const)
const { marks } = useTimeMarks(
    span,
    computed(() => planeOf({ ...size.value } as never).width),
)
const setting = computed(() => ({
    ...size.value,
    time: model.model.time,
    playhead: now.value,
    colour,
    marks: marks.value,
    moment: model.moment,
}))

const isOver = computed(() => plot.kind === undefined || plot.kind === 'lines')
const GAP = 16
/** The name of the time axis stands below the names of lines. */
const AXIS_NAME = 10
/** Names beside the plane: at the ends of lines over time, else one below the other. */
const names = computed(() => {
    const plane = planeOf(setting.value)
    if (!isOver.value && plot.kind !== 'phase') {
        return { list: [], rest: '' }
    }
    if (plot.kind === 'phase') {
        const { paths } = phasePaths(plot, list.value, elements.value)
        return {
            list: paths.map((p, i) => ({
                key: p.key,
                words: p.name,
                full: p.name,
                colour: p.colour,
                dash: p.dash,
                top: plane.top + 4 + i * 18,
            })),
            rest: '',
        }
    }
    const { lines: all, scales } = scaledLines(plot, list.value, elements.value)
    const found = endNames(all, scales, {
        height: plane.height,
        foot: AXIS_NAME,
        gap: GAP,
        most: Math.max(2, Math.floor((plane.height - AXIS_NAME) / GAP)),
        from: span.value[0],
        to: span.value[1],
    })
    return {
        list: found.names.map((n) => ({
            key: n.full,
            words: n.words,
            full: n.full,
            colour: n.lines[0]?.colour ?? '--ink',
            dash: n.lines[0]?.dash ?? [],
            top: plane.top + n.y - 9,
        })),
        rest: found.rest.map((l) => l.name).join(', '),
    }
})
/** What a logarithmic axis cannot show is said. */
const hidden = computed(() => {
    if (!options.value.log || !isOver.value) {
        return ''
    }
    const { lines: all, scales } = scaledLines(plot, list.value, elements.value)
    const none = all.length > 0 && scales.every((s) => !s.log)
    const counts = all
        .map((l, i) => unseen([l], scales[i] as never))
        .reduce((a, b) => ({ notPositive: a.notPositive + b.notPositive, below: a.below + b.below }), { notPositive: 0, below: 0 })
    const said = [
        counts.notPositive ? `${counts.notPositive} saved values at or below zero` : '',
        counts.below ? `${counts.below} below the foot of the axis` : '',
    ].filter(Boolean)
    return none
        ? 'Nothing here is above zero, so the axis is not logarithmic.'
        : said.length
          ? `Not shown on a logarithmic axis: ${said.join(', ')}.`
          : ''
})

/** As long as it has no room nothing is drawn: the observer says when it has. */
function draw() {
    if (!host.value?.clientWidth || !host.value.clientHeight || !lines.value.length) {
        return
    }
    chart ??= init(host.value, null, { renderer: 'canvas' })
    chart.setOption(optionsOf(plot, list.value, elements.value, setting.value), { notMerge: true })
}
function measureHost() {
    size.value = { width: host.value?.clientWidth ?? 0, height: host.value?.clientHeight ?? 0 }
}
useResizeObserver(host, () => {
    chart?.resize()
    measureHost()
    draw()
})
onMounted(() => {
    measureHost()
    draw()
})
onBeforeUnmount(() => {
    window.clearTimeout(later)
    chart?.dispose()
})
/** While a dial is held the tracks come first. */
let later = 0
watch(
    [() => plot, list, now, painted, () => model.model.time, marks],
    () => {
        window.clearTimeout(later)
        if (runs.held) {
            later = window.setTimeout(draw, 30)
        } else {
            draw()
        }
    },
    { flush: 'post' },
)
watch(
    [() => plot.of, measure, () => courses.others, () => courses.loaded, () => runs.tried],
    () => {
        if (!given) {
            void courses.bring([...plot.of, ...markedThings(options.value)], measure.value)
        }
    },
    { immediate: true },
)

/** The plot as a drawing of its own, with title and source; light, as for paper. */
function drawing(): string {
    const width = 960
    const height = 560
    const off = init(null, null, { renderer: 'svg', ssr: true, width, height })
    const was = document.documentElement.dataset.theme
    document.documentElement.dataset.theme = 'light'
    const paper = (token: string) => getComputedStyle(document.documentElement).getPropertyValue(token).trim()
    const tokens = [
        '--ink',
        '--ink-soft',
        '--line',
        '--hairline',
        '--ember',
        '--card',
        '--brick',
        ...Array.from({ length: 8 }, (_, i) => `--run-${i}`),
    ]
    const known = Object.fromEntries(tokens.map((t) => [t, paper(t)]))
    document.documentElement.dataset.theme = was
    const source = `${model.model.name}, revision ${model.revision} · ${shownRuns.value.join(', ')}${laidWords.value} · Merry Orbit`
    off.setOption({
        ...optionsOf(plot, list.value, elements.value, {
            ...setting.value,
            width,
            height,
            colour: (t) => known[t] ?? '#000',
            title: title.value,
            source,
        }),
        backgroundColor: '#ffffff',
    })
    const svg = off.renderToSVGString()
    off.dispose()
    return svg
}
defineExpose({ drawing, lines, title })
</script>

<template>
    <div class="plot-chart">
        <h3 v-if="headed && lines.length" class="title" :title="title">
            {{ title }} <small v-if="subtitle" class="soft">{{ subtitle }}</small>
        </h3>
        <div v-show="lines.length" class="plane">
            <div ref="host" class="host" role="img" :aria-label="summary" />
            <span
                v-for="n in names.list"
                :key="n.key"
                class="end"
                :style="{ top: `${n.top}px`, color: `var(${n.colour === '--line' ? '--ink-soft' : n.colour})` }"
                :title="n.full"
                ><svg v-if="!isOver" width="16" height="8" aria-hidden="true">
                    <line
                        x1="0"
                        x2="16"
                        y1="4"
                        y2="4"
                        stroke="currentColor"
                        stroke-width="2"
                        :stroke-dasharray="n.dash.join(' ') || undefined"
                    /></svg
                >{{ n.words }}</span
            >
            <span v-if="names.rest" class="end rest soft" :title="names.rest">and {{ names.rest.split(', ').length }} more</span>
        </div>
        <p v-if="hidden" class="hidden soft" role="note">{{ hidden }}</p>
        <p v-if="!lines.length" class="none soft">
            {{
                measure.startsWith('difference')
                    ? `Nothing to show as ${measureWords(measure)} yet: keep a run, show a scenario or turn a dial.`
                    : plot.of.length
                      ? 'It is shown as soon as it can be computed.'
                      : 'Add a variable to see its course.'
            }}
        </p>
    </div>
</template>

<style scoped>
.plot-chart {
    display: grid;
    grid-template-rows: auto minmax(0, 1fr) auto;
    min-height: 0;
    height: 100%;
}
.title {
    grid-row: 1;
    padding: 0 12px 2px;
    font-size: 14.5px;
    font-weight: 700;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
.title small {
    display: block;
    font-size: 12.5px;
    font-weight: 400;
    overflow: hidden;
    text-overflow: ellipsis;
}
.plane {
    grid-row: 2;
    position: relative;
    min-height: 0;
}
.host {
    position: absolute;
    inset: 0;
}
.end {
    position: absolute;
    right: 0;
    width: 158px;
    font-size: 12.5px;
    line-height: 18px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
.end svg {
    margin-right: 6px;
}
.end.rest {
    bottom: 8px;
}
.hidden {
    grid-row: 3;
    padding: 0 14px 4px;
    font-size: 12.5px;
}
.none {
    grid-row: 2;
    display: grid;
    place-items: center;
    height: 100%;
    padding: 0 40px;
    text-align: center;
}
</style>
