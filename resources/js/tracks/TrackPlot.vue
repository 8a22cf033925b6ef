<script setup lang="ts">
import { LineChart } from 'echarts/charts'
import { GridComponent } from 'echarts/components'
import { init, use, type ECharts } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import { X } from '@lucide/vue'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import type { Run } from '@/api/client'
import type { Thing } from '@/api/types'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import { full, niceAbove, short, shownUnit } from '@/ui/numbers'

use([LineChart, GridComponent, CanvasRenderer])

const { thing } = defineProps<{ thing: Thing }>()
const model = useModel()
const runs = useRuns()
const view = useView()
const host = ref<HTMLElement>()
let chart: ECharts | undefined
let observer: ResizeObserver | undefined

/** Zero is always in sight; the top is a round number and includes the run before the dial was taken. */
const axis = computed(() => {
    const ranges = [runs.range(runs.shown, thing.id), ...runs.before ? [runs.range(runs.before, thing.id)] : []]
    const top = niceAbove(Math.max(...ranges.map((r) => r[1])))
    const bottom = -niceAbove(-Math.min(...ranges.map((r) => r[0])))
    return top === bottom ? { low: 0, high: 1 } : { low: bottom, high: top }
})
const value = computed(() => runs.value(thing.id))
const plotted = computed(() => runs.known(thing.id))
const waits = computed(() => {
    const cause = model.model.waiting[thing.id]
    return cause ? model.model.elements[cause]?.name : undefined
})
/** Where the value at the playhead stands, as shares of the plot. */
const dot = computed(() => {
    const { low, high } = axis.value
    const { start, end } = model.model.time
    return value.value === undefined ? null : { x: (view.playhead - start) / (end - start), y: 1 - (value.value - low) / (high - low) }
})
/** Where the line ends, for its name. */
const endAt = computed(() => {
    const column = runs.shown?.values.get(thing.id)
    const last = column ? column[column.length - 1] : runs.shown?.steady[thing.id]
    return last === undefined ? 0.5 : Math.min(0.9, Math.max(0.1, 1 - (last - axis.value.low) / (axis.value.high - axis.value.low)))
})

function points(run: Run): [number, number][] {
    const column = run.values.get(thing.id)
    const steady = run.steady[thing.id]
    return Array.from(run.times, (t, i) => [t, column ? column[i] as number : steady as number])
}

let colours: Record<string, string> = {}
/** A token's colour; asked for once per theme, for asking makes the browser settle all styles. */
function colour(name: string): string {
    return colours[name] ??= getComputedStyle(document.documentElement).getPropertyValue(name).trim()
}

function draw() {
    if (!chart) {
        return
    }
    const line = (run: Run, stroke: string, dash: string | number[], z: number) => ({ type: 'line' as const, data: points(run), showSymbol: false, silent: true, z, sampling: 'minmax' as const, lineStyle: { color: stroke, width: dash === 'solid' ? 2 : 1.4, type: dash } })
    const { start, end } = model.model.time
    chart.setOption({
        animation: false,
        grid: { left: 0, right: 0, top: 8, bottom: 6 },
        xAxis: { type: 'value', min: start, max: end, show: false },
        yAxis: { type: 'value', min: axis.value.low, max: axis.value.high, show: false },
        series: plotted.value ? [
            ...runs.before ? [line(runs.before, colour('--line'), [4, 4], 1)] : [],
            ...runs.shown ? [line(runs.shown, colour('--ink'), 'solid', 2)] : [],
        ] : [],
    }, { replaceMerge: ['series'] })
}

onMounted(() => {
    if (!host.value) {
        return
    }
    chart = init(host.value, null, { renderer: 'canvas' })
    observer = new ResizeObserver(() => { chart?.resize() })
    observer.observe(host.value)
    draw()
})
onBeforeUnmount(() => {
    observer?.disconnect()
    chart?.dispose()
})
watch([() => runs.shown, () => runs.before, axis, () => model.model.time, plotted], draw)
watch(() => view.theme, () => {
    requestAnimationFrame(() => {
        colours = {}
        draw()
    })
})
</script>

<template>
    <section class="track" :aria-label="`Track of ${thing.name}`">
        <div class="label-column">
            <button type="button" class="who" :title="thing.name" @click="view.select(thing.id)">{{ thing.name }}</button>
            <strong :title="value === undefined ? '' : full(value)">{{ plotted ? short(value) : '' }}</strong>
            <span class="soft">{{ thing.unit === '1' ? 'dimensionless' : shownUnit(thing.unit) || 'no unit yet' }}</span>
            <button type="button" class="icon-button" :aria-label="`Take the track of ${thing.name} away`" title="Take this track away" @click="model.attempt({ kind: 'track', id: thing.id, shown: false })"><X :size="14" :stroke-width="1.6" /></button>
        </div>
        <div class="plot">
            <div ref="host" class="chart" :role="plotted ? 'img' : undefined" :aria-label="plotted ? `${thing.name} over time, from ${short(axis.low)} to ${short(axis.high)}` : undefined" />
            <template v-if="plotted">
                <span class="top">{{ short(axis.high) }}</span>
                <span v-if="axis.low < 0" class="bottom">{{ short(axis.low) }}</span>
                <i class="zero" :style="{ top: `calc(8px + (100% - 14px) * ${axis.high / (axis.high - axis.low)})` }" />
                <i v-if="dot" class="dot" :style="{ left: `${dot.x * 100}%`, top: `calc(8px + (100% - 14px) * ${dot.y})` }" />
            </template>
            <p v-else class="waits soft">{{ waits ? (waits === thing.name ? `Waits for its own ${thing.kind === 'stock' ? 'initial value' : 'formula'}` : `Waits for ${waits}`) : '' }}</p>
        </div>
        <span v-if="plotted" class="end" :style="{ top: `${endAt * 100}%` }">{{ runs.before ? 'dial' : 'baseline' }}</span>
    </section>
</template>

<style scoped>
.track {
    position: relative;
    display: grid;
    contain: strict;
    grid-template-columns: var(--label) 1fr;
    height: 82px;
    padding-right: var(--line-end);
    border-bottom: 1px solid var(--hairline);
}
.label-column {
    display: grid;
    grid-template-columns: 1fr auto;
    align-content: start;
    gap: 0 10px;
    padding: 9px 14px 0 16px;
    min-width: 0;
}
.who {
    font-weight: 700;
    text-align: left;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
.who:hover {
    text-decoration: underline;
    text-underline-offset: 3px;
}
.soft {
    font-size: 13px;
}
.label-column .icon-button {
    justify-self: end;
    width: 24px;
    height: 24px;
    margin-right: -6px;
    opacity: 0;
}
.track:hover .icon-button,
.icon-button:focus-visible {
    opacity: 1;
}
.plot {
    position: relative;
    min-width: 0;
}
.chart {
    position: absolute;
    inset: 0;
}
.top,
.bottom {
    position: absolute;
    left: 4px;
    top: 1px;
    padding: 0 3px;
    font-size: 12px;
    color: var(--ink-soft);
    background: color-mix(in srgb, var(--card) 75%, transparent);
    border-radius: 4px;
}
.bottom {
    top: auto;
    bottom: 1px;
}
.zero {
    position: absolute;
    left: 0;
    right: 0;
    height: 1px;
    background: var(--hairline);
}
.dot {
    position: absolute;
    width: 9px;
    height: 9px;
    margin: -4.5px;
    border: 1.5px solid var(--card);
    border-radius: 50%;
    background: var(--ember);
    z-index: 3;
}
.waits {
    position: absolute;
    inset: 0 auto 0 24px;
    display: grid;
    align-items: center;
}
.end {
    position: absolute;
    right: 0;
    width: calc(var(--line-end) - 8px);
    transform: translateY(-50%);
    font-size: 13px;
}
</style>
