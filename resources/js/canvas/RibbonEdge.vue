<script setup lang="ts">
import { useVueFlow, type GraphNode } from '@vue-flow/core'
import { computed } from 'vue'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import { middleOfNode, sizeOfNode } from './nodes'
import { borderToward, polyline, ribbonOutline, ribbonSpine, ribbonWidth } from './shapes'

const props = defineProps<{ sourceNode: GraphNode; targetNode: GraphNode; data: { id: string } }>()
const model = useModel()
const runs = useRuns()
const view = useView()
const { findNode } = useVueFlow()

const value = computed(() => runs.drawn(props.data.id) ?? 0)
const width = computed(() => ribbonWidth(value.value, runs.flowScale[model.model.elements[props.data.id]?.unit ?? ''] ?? 0))
const place = computed(() => model.model.placements[props.data.id])
const spine = computed(() => {
    const gate = findNode(props.data.id)
    if (!gate) {
        return []
    }
    const through = middleOfNode(gate)
    return ribbonSpine(
        borderToward(middleOfNode(props.sourceNode), sizeOfNode(props.sourceNode), place.value?.bendIn ?? through, 1),
        through,
        borderToward(middleOfNode(props.targetNode), sizeOfNode(props.targetNode), place.value?.bendOut ?? through, 2),
        place.value?.bendIn,
        place.value?.bendOut,
    )
})
</script>

<template>
    <g v-if="spine.length" class="ribbon">
        <path :d="ribbonOutline(spine, width, value < 0)" class="body" />
        <path :d="polyline(spine)" class="grain" :class="{ drifting: view.playing && value !== 0, back: value < 0 }" />
    </g>
</template>

<style scoped>
.body {
    fill: var(--ribbon-tint);
    stroke: var(--ribbon);
    stroke-width: 1.2;
    stroke-linejoin: round;
}
.grain {
    fill: none;
    stroke: var(--ribbon);
    stroke-width: 1;
    stroke-dasharray: 5 7;
    opacity: 0.75;
}
.drifting {
    animation: drift 0.7s linear infinite;
}
.drifting.back {
    animation-direction: reverse;
}
@keyframes drift {
    to {
        stroke-dashoffset: -12;
    }
}
</style>
