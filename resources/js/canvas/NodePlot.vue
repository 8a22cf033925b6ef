<script setup lang="ts">
import { computed } from 'vue'
import type { Thing } from '@/api/types'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'

const { thing, width = 92, height = 26 } = defineProps<{ thing: Thing; width?: number; height?: number }>()
const model = useModel()
const runs = useRuns()
const view = useView()

/** More points than this are not seen on so small a plot. */
const MOST = 90

const scale = computed(() => {
    const [low, high] = runs.range(runs.sheet, thing.id)
    const bottom = Math.min(0, low)
    const top = Math.max(0, high)
    return { bottom, span: top - bottom || 1 }
})
const y = (value: number) => height - 2 - ((value - scale.value.bottom) / scale.value.span) * (height - 4)
const line = computed(() => {
    const column = runs.sheet?.values.get(thing.id)
    const times = runs.sheet?.times
    if (!column || !times?.length) {
        const steady = runs.sheet?.steady[thing.id]
        return steady === undefined ? '' : `M0 ${y(steady)}H${width}`
    }
    const { start, end } = model.model.time
    const stride = Math.max(1, Math.floor(column.length / MOST))
    let path = ''
    for (let i = 0; i < column.length; i += stride) {
        path += `${i ? 'L' : 'M'}${(((times[i] as number) - start) / (end - start)) * width} ${y(column[i] as number)}`
    }
    return path
})
const now = computed(() => {
    const value = runs.onSheet(thing.id)
    const { start, end } = model.model.time
    return value === undefined ? undefined : { x: ((view.playhead - start) / (end - start)) * width, y: y(value) }
})
</script>

<template>
    <svg class="node-plot" :width="width" :height="height" aria-hidden="true">
        <path :d="`M0 ${y(0)}H${width}`" class="zero" />
        <path :d="line" class="course" />
        <circle v-if="now" :cx="now.x" :cy="now.y" r="2.5" class="now" />
    </svg>
</template>

<style scoped>
.node-plot {
    display: block;
    overflow: visible;
    background: color-mix(in srgb, var(--paper) 80%, transparent);
}
.zero {
    stroke: var(--hairline);
}
.course {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.3;
}
.now {
    fill: var(--ember);
}
</style>
