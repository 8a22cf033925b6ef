<script setup lang="ts">
import { computed } from 'vue'
import { outline, spanOf } from './laws'
import { useLaw } from './useLaw'

/** A distribution at a glance: its density, and a stroke at its middle. */
const { law } = defineProps<{ law: string }>()
const { read } = useLaw(() => law)
const WIDTH = 66
const HEIGHT = 24
const drawn = computed(() => {
    if (!read.value) {
        return null
    }
    const span = spanOf(read.value)
    const middle = ((read.value.percentiles['50'] as number) - span[0]) / (span[1] - span[0])
    return { d: outline(read.value, span, WIDTH, HEIGHT - 2), middle: middle * WIDTH, single: read.value.family === 'discrete' }
})
</script>

<template>
    <svg class="law-curve" :width="WIDTH" :height="HEIGHT" aria-hidden="true">
        <g v-if="drawn" transform="translate(0 2)">
            <path :d="drawn.d" :class="{ single: drawn.single }" />
            <line :x1="drawn.middle" :x2="drawn.middle" y1="0" :y2="HEIGHT - 2" class="middle" />
        </g>
        <line x1="0" :x2="WIDTH" :y1="HEIGHT - 0.5" :y2="HEIGHT - 0.5" class="foot" />
    </svg>
</template>

<style scoped>
.law-curve {
    flex: none;
    overflow: visible;
}
path {
    fill: color-mix(in srgb, var(--ribbon) 22%, transparent);
    stroke: var(--ribbon);
    stroke-width: 1.2;
}
path.single {
    stroke-width: 2.4;
}
.middle {
    stroke: var(--ink);
    stroke-width: 1.6;
}
.foot {
    stroke: var(--hairline);
}
</style>
