<script setup lang="ts">
import { useVueFlow } from '@vue-flow/core'
import { computed } from 'vue'
import { flowOfEnd } from './useSheet'

const { id } = defineProps<{ id: string }>()
const { findNode } = useVueFlow()

/** The arc opens away from the ribbon, like a horizon. */
const angle = computed(() => {
    const me = findNode(id)
    const gate = findNode(flowOfEnd(id))
    if (!me || !gate) {
        return 0
    }
    return (
        (Math.atan2(me.computedPosition.y + 15 - gate.computedPosition.y - 13, me.computedPosition.x + 7 - gate.computedPosition.x - 13) *
            180) /
        Math.PI
    )
})
</script>

<template>
    <svg width="14" height="30" viewBox="0 0 14 30" :style="{ transform: `rotate(${angle}deg)` }" role="img" aria-label="outside">
        <path d="M5 4Q13 15 5 26" />
    </svg>
</template>

<style scoped>
path {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.6;
    stroke-linecap: round;
}
</style>
