<script setup lang="ts">
import { computed, onBeforeUnmount, watch } from 'vue'
import type { Measure } from '@/api/types'
import { useCourses } from '@/stores/courses'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import { linesOf } from './lines'
import { scaleOf, share } from './scale'

/** A variable in the shown runs, small. */
const {
    element,
    width = 150,
    height = 42,
    measure = 'value',
} = defineProps<{ element: string; width?: number; height?: number; measure?: Measure }>()
const model = useModel()
const look = useLook()
const courses = useCourses()
const runs = useRuns()
const view = useView()
const MOST = 160

const plot = computed(() => ({ id: 'small', of: [element], options: { measure } }))
/** One element along dimensions is drawn like a thing of its own. */
const elements = computed(() => {
    const owner = look.elements[look.ownerOf(element)]
    return owner && owner.id !== element ? { [element]: { ...owner, id: element, along: undefined } } : look.elements
})
const lines = computed(() => linesOf(plot.value, courses.list(measure), elements.value))
const scale = computed(() => scaleOf(lines.value, { zero: true }))
const x = (t: number) => ((t - model.model.time.start) / (model.model.time.end - model.model.time.start)) * width
const y = (v: number) => 2 + (1 - share(scale.value, v)) * (height - 4)
const paths = computed(() =>
    lines.value.map((line) => {
        const stride = Math.max(1, Math.ceil(line.times.length / MOST))
        let path = ''
        for (let i = 0; i < line.times.length; i += stride) {
            const at = y(line.values[i] as number)
            path += Number.isFinite(at) ? `${path ? 'L' : 'M'}${x(line.times[i] as number).toFixed(1)} ${at.toFixed(1)}` : ''
        }
        return { ...line, path }
    }),
)
watch(
    () => element,
    (key, was) => {
        if (was !== undefined) {
            runs.needColumns(`small ${was}`, [])
        }
        runs.needColumns(`small ${key}`, look.ownerOf(key) === key ? [] : [key])
    },
    { immediate: true },
)
onBeforeUnmount(() => {
    runs.needColumns(`small ${element}`, [])
})
watch(
    [() => element, () => courses.others, () => courses.loaded, () => measure],
    () => {
        void courses.bring([element], measure)
    },
    { immediate: true },
)
</script>

<template>
    <svg :width="width" :height="height" class="small" aria-hidden="true">
        <path v-if="scale.low <= 0 && scale.high >= 0" :d="`M0 ${y(0)}H${width}`" class="zero" />
        <path :d="`M${x(view.playhead)} 0V${height}`" class="now" />
        <path
            v-for="p in paths"
            :key="p.key"
            :d="p.path"
            fill="none"
            :stroke="`var(${p.colour})`"
            :stroke-width="p.width * 0.8"
            :stroke-dasharray="p.dash.join(' ')"
        />
    </svg>
</template>

<style scoped>
.small {
    display: block;
    flex: none;
}
.zero {
    stroke: var(--hairline);
}
.now {
    stroke: var(--ember);
    stroke-width: 1;
}
</style>
