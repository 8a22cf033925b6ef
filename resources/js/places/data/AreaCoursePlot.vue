<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { short, shownUnit } from '@/ui/numbers'
import type { AreaCourse } from './areas'

/** The course of one area over the time of the study, in each run that is seen; what was measured as points. */
const { name, unit, lines } = defineProps<{
    name: string
    unit: string
    lines: readonly { name: string; course: AreaCourse; measured: boolean; dash: string }[]
}>()
const model = useModel()
const view = useView()
const box = ref<HTMLElement>()
const { width } = useElementSize(box, { width: 600, height: 110 })
const HEIGHT = 104
const LEFT = 52
const RIGHT = 96
const span = computed<[number, number]>(() => view.span ?? [model.model.time.start, model.model.time.end])
const limits = computed(() => {
    const all = lines.flatMap((l) => Array.from(l.course.values)).filter((v) => Number.isFinite(v))
    const [low, high] = [Math.min(0, ...all), Math.max(...all, 0)]
    return low < high ? ([low, high] as const) : ([0, 1] as const)
})
const x = (t: number) => LEFT + ((t - span.value[0]) / (span.value[1] - span.value[0])) * (width.value - LEFT - RIGHT)
const y = (v: number) => 12 + (1 - (v - limits.value[0]) / (limits.value[1] - limits.value[0])) * (HEIGHT - 30)
const inside = (t: number) => t >= span.value[0] - 1e-9 && t <= span.value[1] + 1e-9
const drawn = computed(() =>
    lines.map((l) => {
        const points = Array.from(l.course.times, (t, i) => [t, l.course.values[i] ?? NaN] as const).filter(
            ([t, v]) => inside(t) && Number.isFinite(v),
        )
        const last = points.at(-1)
        return {
            ...l,
            points: points.map(([t, v]) => [x(t), y(v)] as const),
            d: points.map(([t, v], i) => `${i ? 'L' : 'M'}${x(t).toFixed(1)} ${y(v).toFixed(1)}`).join(''),
            end: last ? { x: x(last[0]), y: y(last[1]) } : null,
        }
    }),
)
/** Names at the ends do not lie on each other. */
const names = computed(() => {
    const sorted = drawn.value
        .flatMap((l) => (l.end ? [{ name: l.name, x: width.value - RIGHT + 8, y: l.end.y }] : []))
        .sort((a, b) => a.y - b.y)
    sorted.forEach((n, i) => {
        n.y = Math.max(n.y, (sorted[i - 1]?.y ?? -20) + 14)
    })
    return sorted
})
const spoken = computed(
    () =>
        `${name}, ${shownUnit(unit)}: ${lines.map((l) => `${l.name} from ${short(l.course.values[0], { unit })} to ${short(l.course.values[l.course.values.length - 1], { unit })}`).join('; ')}`,
)
</script>

<template>
    <div ref="box" class="course">
        <svg :width="width" :height="HEIGHT" role="img" :aria-label="spoken">
            <text :x="LEFT - 6" :y="y(limits[1]) + 4" text-anchor="end">{{ short(limits[1], { unit }) }}</text>
            <text :x="LEFT - 6" :y="y(limits[0]) + 4" text-anchor="end">{{ short(limits[0], { unit }) }}</text>
            <line class="zero" :x1="LEFT" :x2="width - RIGHT" :y1="y(0)" :y2="y(0)" />
            <template v-for="l in drawn" :key="l.name">
                <template v-if="l.measured">
                    <circle v-for="(p, i) in l.points" :key="i" class="dot" :cx="p[0]" :cy="p[1]" r="3" />
                </template>
                <path v-else class="line" :d="l.d" :stroke-dasharray="l.dash" />
            </template>
            <text v-for="n in names" :key="n.name" :x="n.x" :y="n.y + 4">{{ n.name }}</text>
            <line v-if="inside(view.playhead)" class="now" :x1="x(view.playhead)" :x2="x(view.playhead)" y1="4" :y2="HEIGHT - 14" />
            <text :x="LEFT" :y="HEIGHT - 2">{{ model.moment(span[0]) }}</text>
            <text :x="width - RIGHT" :y="HEIGHT - 2" text-anchor="end">{{ model.moment(span[1]) }}</text>
        </svg>
    </div>
</template>

<style scoped>
.course {
    min-width: 0;
}
text {
    font-size: 12px;
    fill: var(--ink-soft);
}
.line {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.8;
}
.zero {
    stroke: var(--hairline);
}
.dot {
    fill: var(--card);
    stroke: var(--ink);
    stroke-width: 1.4;
}
.now {
    stroke: var(--ember);
    stroke-width: 1.6;
}
</style>
