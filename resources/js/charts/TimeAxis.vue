<script setup lang="ts">
import { computed } from 'vue'
import { useView } from '@/stores/view'
import { useTimeMarks } from './useTimeMarks'

/** Times at the foot of a small picture, and the moment of the playhead through all of it. */
const { span, left, width, top, foot } = defineProps<{
    span: [number, number]
    left: number
    width: number
    /** From where to where the playhead goes. */ top: number
    foot: number
}>()
const view = useView()
const { marks } = useTimeMarks(
    computed(() => span),
    computed(() => width),
)
const x = (t: number) => left + ((t - span[0]) / (span[1] - span[0] || 1)) * width
</script>

<template>
    <g v-for="m in marks" :key="m.time">
        <line class="mark" :x1="x(m.time)" :x2="x(m.time)" :y1="foot" :y2="foot + (m.words ? 6 : 3)" />
        <text v-if="m.words" :x="x(m.time) + 3" :y="foot + 16">{{ m.words }}</text>
    </g>
    <line
        v-if="view.playhead >= span[0] && view.playhead <= span[1]"
        class="now"
        :x1="x(view.playhead)"
        :x2="x(view.playhead)"
        :y1="top"
        :y2="foot"
    />
</template>

<style scoped>
.mark {
    stroke: var(--line);
}
text {
    font-size: 12px;
    fill: var(--ink-soft);
}
.now {
    stroke: var(--ember);
    stroke-width: 1.8;
}
</style>
