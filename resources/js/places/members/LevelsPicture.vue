<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Levels } from '@/api/types'
import { apart } from '@/charts/endNames'
import { bandPath, linePath, usePlayheadPull } from '@/charts/plane'
import { scaleFor, share } from '@/charts/scale'
import TimeAxis from '@/charts/TimeAxis.vue'
import ValueAxis from '@/charts/ValueAxis.vue'
import { LEVELS } from './levels'

/** One number as single members, classes and one aggregate give it; where nine in ten runs of single members lie is tinted. */
const { told } = defineProps<{ told: Levels }>()
const box = ref<HTMLElement>()
const { width } = useElementSize(box, { width: 700, height: 320 })
const [LEFT, RIGHT, TOP, PLANE, FOOT] = [54, 150, 12, 230, 22]
const wide = computed(() => Math.max(160, width.value - LEFT - RIGHT))
const all = computed(() => told.levels.flatMap((l) => [...l.values, ...l.low, ...l.high]).filter((v): v is number => v !== null))
const scale = computed(() => scaleFor([Math.min(...all.value), Math.max(...all.value)], { zero: true }))
const span = computed<[number, number]>(() => [told.times[0] ?? 0, told.times.at(-1) ?? 1])
const x = (t: number) => LEFT + ((t - span.value[0]) / (span.value[1] - span.value[0] || 1)) * wide.value
const y = (v: number) => TOP + (1 - share(scale.value, v)) * PLANE
const band = computed(() => {
    const members = told.levels.find((l) => l.level === 'members')
    return members ? bandPath({ x, y }, told.times, members.low, members.high) : ''
})
const lines = computed(() =>
    told.levels
        .filter((l) => l.values.length)
        .map((l) => ({
            ...LEVELS[l.level],
            level: l.level,
            path: linePath({ x, y }, told.times, l.values),
            last: l.values.at(-1) ?? null,
        })),
)
const names = computed(() => {
    const there = lines.value.flatMap((l) => (l.last === null ? [] : [{ words: l.words, colour: l.colour, y: y(l.last) }]))
    const placed = apart(
        there.map((n) => n.y),
        16,
        TOP + PLANE,
    )
    return there.map((n, i) => ({ ...n, y: placed[i] ?? n.y }))
})
const { press, drag } = usePlayheadPull(() => ({ span: span.value, left: LEFT, width: wide.value }))
const spoken = computed(() => `${told.name} by ${lines.value.map((l) => l.words).join(', ')}. ${told.sentences.join(' ')}`)
</script>

<template>
    <div ref="box">
        <svg :width="width" :height="TOP + PLANE + FOOT" role="img" :aria-label="spoken" @pointerdown="press" @pointermove="drag">
            <path class="band" :d="band" />
            <ValueAxis :scale="scale" :unit="told.unit" :left="LEFT" :width="wide" :y="y" />
            <path
                v-for="l in lines"
                :key="l.level"
                class="line"
                :style="{ stroke: `var(${l.colour})` }"
                :stroke-dasharray="l.dash"
                :d="l.path"
            />
            <text v-for="n in names" :key="n.words" class="name" :style="{ fill: `var(${n.colour})` }" :x="LEFT + wide + 8" :y="n.y + 4">
                {{ n.words }}
            </text>
            <TimeAxis :span="span" :left="LEFT" :width="wide" :top="TOP" :foot="TOP + PLANE" />
        </svg>
    </div>
</template>

<style scoped>
svg {
    display: block;
    cursor: ew-resize;
    touch-action: none;
}
.band {
    fill: var(--slate);
}
.line {
    fill: none;
    stroke-width: 2;
}
.name {
    font-size: 13px;
    font-weight: 700;
}
</style>
