<script setup lang="ts">
import { computed } from 'vue'
import { comings } from '@/stores/comings'
import { useMembers } from '@/stores/members'
import { counted } from '@/ui/numbers'

/** On the time ruler: when members came, above, and when they left, beneath. */
const { part, width } = defineProps<{ part: readonly [number, number]; width: number }>()
const members = useMembers()
const x = (t: number) => ((t - part[0]) / (part[1] - part[0])) * width
/** What falls on one pixel is one stroke. */
const strokes = (events: { time: number }[]) => [
    ...new Set(events.filter((e) => e.time >= part[0] && e.time <= part[1]).map((e) => Math.round(x(e.time)))),
]
const marks = computed(() => {
    const told = members.muster
    const { came, left } = told ? comings(told) : { came: [], left: [] }
    return {
        came: strokes(came),
        left: strokes(left),
        words: `${counted(came.length, 'entry', 'entries')}, ${counted(left.length, 'exit')}`,
    }
})
</script>

<template>
    <svg v-if="marks.came.length || marks.left.length" :width="width" height="8" role="img" :aria-label="marks.words">
        <title>{{ marks.words }}</title>
        <path class="came" :d="marks.came.map((at) => `M${at}.5 0v3.5`).join('')" />
        <path class="left" :d="marks.left.map((at) => `M${at}.5 4.5v3.5`).join('')" />
    </svg>
</template>

<style scoped>
svg {
    position: absolute;
    top: 0;
    left: 0;
}
path {
    stroke-width: 1;
}
.came {
    stroke: var(--basin);
}
.left {
    stroke: var(--brick);
}
</style>
