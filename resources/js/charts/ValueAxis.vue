<script setup lang="ts">
import { computed } from 'vue'
import { tickWords } from '@/ui/numbers'
import { ticksOf, type Scale } from './scale'

/** Round values at the left of a small picture, with a line across for each. */
const {
    scale,
    unit,
    left,
    width,
    y,
    words = undefined,
} = defineProps<{
    scale: Scale
    unit: string
    left: number
    width: number
    /** Of a value, within the picture. */ y: (v: number) => number
    /** What a value is called, where that is not its number. */ words?: (v: number) => string
}>()
const ticks = computed(() => {
    const values = ticksOf(scale)
    const numbers = tickWords(values, unit)
    return values.map((v, i) => ({ v, words: words ? words(v) : numbers[i] }))
})
</script>

<template>
    <g v-for="t in ticks" :key="t.v">
        <line :x1="left" :x2="left + width" :y1="y(t.v)" :y2="y(t.v)" />
        <text :x="left - 7" :y="y(t.v) + 4" text-anchor="end">{{ t.words }}</text>
    </g>
</template>

<style scoped>
line {
    stroke: var(--hairline);
}
text {
    font-size: 12px;
    fill: var(--ink-soft);
}
</style>
