<script setup lang="ts">
import { computed } from 'vue'

/** Votes as strokes, five to a bundle; very many are told by their number alone. */
const { count } = defineProps<{ count: number }>()
const MOST = 40
const bundles = computed(() => {
    const shown = Math.min(count, MOST)
    return Array.from({ length: Math.ceil(shown / 5) }, (_, i) => Math.min(5, shown - 5 * i))
})
</script>

<template>
    <span class="tally" role="img" :aria-label="`${count} votes`">
        <svg v-for="(n, i) in bundles" :key="i" width="46" height="30" viewBox="0 0 46 30" aria-hidden="true">
            <path v-for="k in Math.min(n, 4)" :key="k" :d="`M${k * 9 - 3} 3V27`" />
            <path v-if="n === 5" d="M0 22L42 8" />
        </svg>
    </span>
</template>

<style scoped>
.tally {
    display: flex;
    gap: 10px;
    flex-wrap: wrap;
}
path {
    stroke: var(--ink);
    stroke-width: 2.4;
    stroke-linecap: round;
}
</style>
