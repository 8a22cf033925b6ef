<script setup lang="ts">
import { BarChart, LineChart, ScatterChart } from 'echarts/charts'
import { AriaComponent, GraphicComponent, GridComponent, LegendComponent, MarkLineComponent, TitleComponent, TooltipComponent } from 'echarts/components'
import { init, use, type ECharts } from 'echarts/core'
import { LabelLayout } from 'echarts/features'
import { CanvasRenderer, SVGRenderer } from 'echarts/renderers'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import type { Plot, Thing } from '@/api/types'
import { useCourses, type Course } from '@/stores/courses'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import { short } from '@/ui/numbers'
import { linesOf, valueAt } from './lines'
import { optionsOf } from './options'
import { useColours } from './useColours'

use([LineChart, BarChart, ScatterChart, GridComponent, TooltipComponent, TitleComponent, LegendComponent, MarkLineComponent, GraphicComponent, AriaComponent, LabelLayout, CanvasRenderer, SVGRenderer])

const { plot, given = undefined } = defineProps<{ plot: Plot, /** Runs to plot instead of those of the day. */ given?: Course[] }>()
const model = useModel()
const runs = useRuns()
const courses = useCourses()
const view = useView()
const { colour, painted } = useColours()
const host = ref<HTMLElement>()
let chart: ECharts | undefined
let observer: ResizeObserver | undefined

const measure = computed(() => plot.options?.measure ?? 'value')
const list = computed(() => given ?? courses.list(measure.value))
const lines = computed(() => linesOf(plot, list.value, model.model.elements))
const things = computed(() => plot.of.map((id) => model.model.elements[id]).filter((t): t is Thing => t !== undefined))
const summary = computed(() => `${plot.name || things.value.map((t) => t.name).join(', ')}: ${lines.value.map((l) => `${l.name} ${short(l.values[0])} at the start, ${short(valueAt(l, view.playhead))} at ${model.model.time.unit} ${short(view.playhead)}, ${short(l.values[l.values.length - 1])} at the end`).slice(0, 8).join('; ')}`)
const setting = () => ({ height: host.value?.clientHeight ?? 400, time: model.model.time, playhead: view.playhead, colour })

/** As long as it has no room nothing is drawn: the observer says when it has. */
function draw() {
    if (!host.value?.clientWidth || !host.value.clientHeight || !lines.value.length) {
        return
    }
    chart ??= init(host.value, null, { renderer: 'canvas' })
    chart.setOption(optionsOf(plot, list.value, model.model.elements, setting()), { notMerge: true })
}
onMounted(() => {
    if (host.value) {
        observer = new ResizeObserver(() => {
            chart?.resize()
            draw()
        })
        observer.observe(host.value)
        draw()
    }
})
onBeforeUnmount(() => {
    window.clearTimeout(later)
    observer?.disconnect()
    chart?.dispose()
})
/** While a dial is held the tracks come first. */
let later = 0
watch([() => plot, list, () => view.playhead, painted, () => model.model.time], () => {
    window.clearTimeout(later)
    if (runs.held) {
        later = window.setTimeout(draw, 30)
    } else {
        draw()
    }
})
watch([() => plot.of, measure, () => courses.others, () => courses.loaded, () => runs.tried], () => {
    if (!given) {
        void courses.bring(plot.of, measure.value)
    }
}, { immediate: true })

/** The plot as a drawing of its own, with title and source; light, as for paper. */
function drawing(): string {
    const width = 960
    const height = 560
    const off = init(null, null, { renderer: 'svg', ssr: true, width, height })
    const was = document.documentElement.dataset.theme
    document.documentElement.dataset.theme = 'light'
    const paper = (token: string) => getComputedStyle(document.documentElement).getPropertyValue(token).trim()
    const known = Object.fromEntries(['--ink', '--ink-soft', '--line', '--hairline', '--ember', '--card', ...Array.from({ length: 8 }, (_, i) => `--run-${i}`)].map((t) => [t, paper(t)]))
    document.documentElement.dataset.theme = was
    const title = plot.name || things.value.map((t) => t.name).join(', ')
    const source = `${model.model.name}, revision ${model.revision} · ${list.value.map((c) => c.name).join(', ')} · Merry Orbit`
    off.setOption({ ...optionsOf(plot, list.value, model.model.elements, { ...setting(), height, colour: (t) => known[t] ?? '#000', title, source }), backgroundColor: '#ffffff' })
    const svg = off.renderToSVGString()
    off.dispose()
    return svg
}
defineExpose({ drawing, lines })
</script>

<template>
    <div class="plot-chart">
        <div v-show="lines.length" ref="host" class="host" role="img" :aria-label="summary" />
        <p v-if="!lines.length" class="none soft">{{ measure.startsWith('difference') ? 'Nothing differs from the baseline yet: keep a run, show a scenario or turn a dial.' : 'Choose what to show, or wait for it to be computed.' }}</p>
    </div>
</template>

<style scoped>
.plot-chart {
    position: relative;
    min-height: 0;
    height: 100%;
}
.host {
    position: absolute;
    inset: 0;
}
.none {
    display: grid;
    place-items: center;
    height: 100%;
    padding: 0 40px;
    text-align: center;
}
</style>
