<script setup lang="ts">
import type { GraphNode } from '@vue-flow/core'
import { computed } from 'vue'
import type { CausalLink, Point } from '@/api/types'
import { useEffects } from '@/stores/effects'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { middleOfNode, sizeOfNode } from './nodes'
import { linkShape, linkWeight } from './shapes'

const props = defineProps<{
    sourceNode: GraphNode
    targetNode: GraphNode
    data: { key: string; kind: CausalLink['kind']; sign?: string | null; late?: boolean; by?: Point; bow?: number }
}>()
const effects = useEffects()
const view = useView()
const model = useModel()

const size = (n: GraphNode) => ({ ...sizeOfNode(n), round: n.type === 'gate', words: n.type === 'gate' })
const shape = computed(() =>
    linkShape(
        middleOfNode(props.sourceNode),
        size(props.sourceNode),
        middleOfNode(props.targetNode),
        size(props.targetNode),
        props.data.by,
        props.data.bow,
    ),
)
const sign = computed(() => effects.signOf(props.data.key, props.data.sign).replace('-', '−'))
/** How much of its target's value it makes at the playhead, where that is to be seen. */
const share = computed(() => (view.strengths ? effects.at[props.data.key]?.share : undefined))

/** Links are announced by the names they join. */
const said = computed(() => {
    const [from, to] = props.data.key.split('>').map((id) => model.model.elements[id]?.name ?? '')
    return `Link from ${from} to ${to}${props.data.kind === 'unused' ? ', not used yet' : ''}`
})

function pick() {
    view.select()
    view.link = props.data.key
}
</script>

<template>
    <g
        class="link"
        role="img"
        :aria-label="said"
        :class="[data.kind, { picked: view.link === data.key, weighed: view.strengths }]"
        :style="share === undefined ? {} : { '--share': share, '--weight': `${linkWeight(share)}px` }"
        @click.stop="pick"
    >
        <title>{{ said }}</title>
        <path :d="shape.path" class="reach" />
        <path :d="shape.path" class="line" />
        <path :d="shape.head" class="head" />
        <path v-if="data.late" :d="shape.strokes" class="late" />
        <g v-if="sign" class="sign">
            <circle :cx="shape.sign.x" :cy="shape.sign.y" r="6.5" />
            <text :x="shape.sign.x" :y="shape.sign.y" text-anchor="middle" dominant-baseline="central">{{ sign }}</text>
        </g>
        <text v-if="data.kind === 'unused'" class="words" :x="shape.label.x" :y="shape.label.y - 5" text-anchor="middle">not used yet</text>
    </g>
</template>

<style scoped>
.reach {
    fill: none;
    stroke: transparent;
    stroke-width: 12;
    pointer-events: stroke;
    cursor: pointer;
}
.line,
.late {
    fill: none;
    stroke: var(--ink-soft);
    stroke-width: 1.1;
}
.head {
    fill: var(--ink-soft);
}
.weighed .line {
    stroke-width: var(--weight, 0.6px);
    stroke: color-mix(in srgb, var(--ink) calc(25% + 75% * var(--share, 0)), var(--paper));
}
.link:hover .line,
.picked .line {
    stroke: var(--ink);
    stroke-width: 2;
}
.picked .head,
.link:hover .head {
    fill: var(--ink);
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
.sign circle {
    fill: var(--paper);
    stroke: var(--ink-soft);
    stroke-width: 1;
}
.sign text {
    font-size: 12px;
    font-weight: 700;
    fill: var(--ink);
}
.words {
    font-size: 12px;
    fill: var(--ochre);
    paint-order: stroke;
    stroke: var(--paper);
    stroke-width: 4px;
}
</style>
