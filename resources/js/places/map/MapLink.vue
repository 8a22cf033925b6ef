<script setup lang="ts">
import type { GraphNode } from '@vue-flow/core'
import { computed } from 'vue'
import { MOST_ROUTED } from './bows'
import { hullOf } from './hull'
import { markOf } from './mark'
import MarkShape from './MarkShape.vue'
import { useMap } from './useMap'

/** A causal link with the marks of the map: how it acts, how strongly, whether late, and where people stand on it. */
const props = defineProps<{ sourceNode: GraphNode; targetNode: GraphNode; data: { link: string; bow: number } }>()
const map = useMap()

const link = computed(() => map.linkOf.get(props.data.link))
/** The line follows a hull in steps, not with every pixel: drawn anew where an end came to another step; in very big maps, never. */
const near = (id: string) => (map.links.length > MOST_ROUTED ? 0 : Math.round(map.levelOf(id) * 8) / 8)
const levels = [computed(() => near(props.sourceNode.id)), computed(() => near(props.targetNode.id))] as const
const afloat = ({ id, computedPosition: { x, y } }: GraphNode, level: number) => {
    const hull = map.hulls.get(id) ?? hullOf('')
    return { at: { x: x + hull.width / 2, y: y + hull.height / 2 }, hull, level }
}
const mark = computed(() => {
    const [from, to] = [afloat(props.sourceNode, levels[0].value), afloat(props.targetNode, levels[1].value)]
    return link.value ? markOf(from, to, props.data.bow, link.value) : undefined
})
const step = computed(() => map.steps.get(props.data.link))
const isNow = computed(() => step.value !== undefined && step.value === map.walked?.step)
const ACTS = { '+': 'acts the same way on', '-': 'acts turned over on', '?': 'acts on, which way is open,' } as const
const said = computed(() =>
    link.value
        ? `${map.nameOf(link.value.from)} ${ACTS[link.value.sign]} ${map.nameOf(link.value.to)}${link.value.late ? ', late' : ''}`
        : '',
)
</script>

<template>
    <g
        v-if="link && mark"
        class="map-link"
        role="img"
        :aria-label="said"
        :class="[link.strength, { picked: map.picked === link.id, lit: step !== undefined, now: isNow }]"
        @click.stop="map.pick(link.id)"
    >
        <title>{{ said }}</title>
        <path v-if="isNow" :d="mark.way" class="glow" />
        <path :d="mark.way" class="reach" />
        <MarkShape :mark="mark" />
        <g v-if="step !== undefined" class="step" :transform="`translate(${mark.begin.x} ${mark.begin.y})`">
            <circle r="9.5" />
            <text text-anchor="middle" dominant-baseline="central">{{ step }}</text>
        </g>
    </g>
</template>

<style scoped>
.map-link {
    --stroke: var(--line);
    --wide: 1.8;
}
.weak {
    --wide: 1.1;
}
.strong {
    --wide: 3;
}
.reach {
    fill: none;
    stroke: transparent;
    stroke-width: 16;
    pointer-events: stroke;
    cursor: pointer;
}
.map-link:hover {
    --stroke: var(--ink-soft);
}
.picked,
.picked:hover {
    --stroke: var(--ink);
}
.lit,
.lit:hover {
    --stroke: var(--ember);
}
.glow {
    fill: none;
    stroke: var(--ember);
    stroke-opacity: 0.16;
    stroke-width: 26;
    stroke-linecap: round;
    pointer-events: none;
}
.step circle {
    fill: var(--paper);
    stroke: var(--ember);
    stroke-width: 1.6;
}
.step text {
    font-size: 12px;
    font-weight: 700;
    fill: var(--ember);
}
.now .step circle {
    fill: var(--ember);
}
.now .step text {
    fill: var(--paper);
}
</style>
