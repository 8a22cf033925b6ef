<script setup lang="ts">
import { computed } from 'vue'

/** A string of beads: one for each element of a dimension, filled where the window looks. Beyond eight a count says it. */
const { size, at = undefined } = defineProps<{
    size: number
    /** Which one is looked at, from 0; undefined for all of them. */
    at?: number
}>()

const MOST = 8
const STEP = 6.4
const beads = computed(() => (size <= MOST ? Array.from({ length: size }, (_, i) => i) : []))
</script>

<template>
    <svg
        v-if="beads.length"
        class="beads"
        :width="beads.length * STEP"
        height="7"
        :viewBox="`0 0 ${beads.length * STEP} 7`"
        aria-hidden="true"
    >
        <path :d="`M0 3.5H${beads.length * STEP}`" />
        <circle v-for="i in beads" :key="i" :cx="STEP / 2 + i * STEP" cy="3.5" r="2.5" :class="{ filled: at === undefined || at === i }" />
    </svg>
    <span v-else class="count" aria-hidden="true">{{ at === undefined ? size : `${at + 1}/${size}` }}</span>
</template>

<style scoped>
.beads {
    flex: none;
    overflow: visible;
}
path {
    stroke: var(--ink-soft);
    stroke-width: 0.8;
}
circle {
    fill: var(--card);
    stroke: var(--ink);
    stroke-width: 1;
}
circle.filled {
    fill: var(--ink);
}
.count {
    flex: none;
    padding: 0 5px;
    border: 1px solid var(--ink-soft);
    border-radius: 7px;
    background: var(--card);
    font: 11px/13px var(--mono);
    color: var(--ink);
}
</style>
