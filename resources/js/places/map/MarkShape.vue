<script setup lang="ts">
import type { Mark } from './mark'

/** A link with its marks. Where it stands tells colours and weight by `--stroke`, `--wide` and, for what is open, `--ground`. */
defineProps<{ mark: Mark }>()
</script>

<template>
    <g class="mark-shape">
        <path :d="mark.line" />
        <path :d="mark.head" />
        <path v-for="(swell, i) in mark.swells" :key="i" :d="swell.path" :class="swell.open ? 'open' : 'full'" class="swell" />
        <text v-if="mark.swells.length === 1 && mark.swells[0]?.open" :x="mark.middle.x" :y="mark.middle.y">?</text>
    </g>
</template>

<style scoped>
path {
    fill: none;
    stroke: var(--stroke, var(--line));
    stroke-width: var(--wide, 1.8);
    stroke-linejoin: round;
    stroke-linecap: round;
    pointer-events: none;
}
.full {
    fill: var(--stroke, var(--line));
}
.open {
    fill: var(--ground, var(--paper));
}
text {
    font-size: 12px;
    font-weight: 700;
    text-anchor: middle;
    dominant-baseline: central;
    fill: var(--ink);
    pointer-events: none;
}
</style>
