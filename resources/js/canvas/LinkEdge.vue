<script setup lang="ts">
import type { GraphNode } from '@vue-flow/core'
import { computed } from 'vue'
import type { CausalLink } from '@/api/types'
import { linkShape } from './shapes'

const props = defineProps<{ sourceNode: GraphNode, targetNode: GraphNode, data: { kind: CausalLink['kind'] } }>()

const middle = (n: GraphNode) => ({ x: n.computedPosition.x + n.dimensions.width / 2, y: n.computedPosition.y + n.dimensions.height / 2 })
const size = (n: GraphNode) => ({ width: n.dimensions.width, height: n.dimensions.height, round: n.type === 'gate' })
const shape = computed(() => linkShape(middle(props.sourceNode), size(props.sourceNode), middle(props.targetNode), size(props.targetNode)))
</script>

<template>
    <g class="link" :class="data.kind">
        <path :d="shape.path" class="line" />
        <path :d="shape.head" class="head" />
        <text v-if="data.kind === 'unused'" :x="shape.label.x" :y="shape.label.y - 5" text-anchor="middle">not used yet</text>
    </g>
</template>

<style scoped>
.line {
    fill: none;
    stroke: var(--ink-soft);
    stroke-width: 1.1;
}
.head {
    fill: var(--ink-soft);
}
.start .line {
    stroke-dasharray: 1.5 4;
    stroke-linecap: round;
    stroke-width: 1.5;
}
.unused .line {
    stroke: var(--ochre);
    stroke-dasharray: 7 5;
}
.unused .head {
    fill: var(--ochre);
}
text {
    font-size: 12px;
    fill: var(--ochre);
    paint-order: stroke;
    stroke: var(--paper);
    stroke-width: 4px;
}
</style>
