<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import type { Field } from '@/ui/controls'
import { hullOf, hullPaths, reachOf } from './hull'
import { useMap } from './useMap'

/** A factor on its waterline: it rides high when there is more of it than usual, and lies low when there is less. */
const { id } = defineProps<{ id: string }>()
const map = useMap()
const model = useModel()
const view = useView()
const field = ref<Field>()
const draft = ref('')

const name = computed(() => map.nameOf(id))
const hull = computed(() => map.hulls.get(id) ?? hullOf(''))
const level = computed(() => map.levelOf(id))
const paths = computed(() => hullPaths(hull.value, level.value))
/** The name stands in the middle of what is seen of it. */
const middle = computed(() => {
    const { up, down } = reachOf(hull.value.height, level.value)
    return (down - up) / 2
})
const hand = computed(() => map.handOn(id))
const chosen = computed(() => view.selection.includes(id))
const onLoop = computed(() => map.walked?.path.includes(id))
const naming = computed(() => view.naming === id)

watch(naming, (now) => {
    if (now) {
        draft.value = name.value
        void nextTick(() => {
            field.value?.$el.focus()
            field.value?.$el.select()
        })
    }
})
function keep() {
    if (naming.value) {
        view.naming = ''
        if (draft.value.trim() && draft.value.trim() !== name.value) {
            void model.attempt({ kind: 'rename', id, name: draft.value })
        }
    }
}
</script>

<template>
    <div class="hull" :class="{ chosen, lit: onLoop }" :style="{ width: `${hull.width}px`, height: `${hull.height}px` }">
        <svg :width="hull.width" :height="hull.height" :viewBox="`${-hull.width / 2} ${-hull.height / 2} ${hull.width} ${hull.height}`">
            <path :d="paths.whole" class="body" />
            <path :d="paths.deck" class="deck" />
            <path :d="`M${-hull.width / 2 - 12} 0H${-hull.width / 2 + 1}M${hull.width / 2 - 1} 0H${hull.width / 2 + 12}`" class="water" />
            <path :d="paths.whole" class="edge" />
            <g v-if="!naming" class="name">
                <text
                    v-for="(line, i) in hull.lines"
                    :key="i"
                    :y="middle + (i - (hull.lines.length - 1) / 2) * 18"
                    text-anchor="middle"
                    dominant-baseline="central"
                >
                    {{ line }}
                </text>
            </g>
            <g v-if="hand" class="hand" :transform="`translate(0 ${reachOf(hull.height, level).down + 7})`">
                <path :d="`M${-hull.width / 4} 0H${hull.width / 4}`" />
                <path v-if="!hand.hold" :d="hand.by > 0 ? 'M-5 9L0 3L5 9' : 'M-5 3L0 9L5 3'" />
            </g>
        </svg>
        <InputText
            v-if="naming"
            ref="field"
            v-model="draft"
            class="field"
            aria-label="Name of the factor"
            maxlength="120"
            @keydown.stop
            @keydown.enter="keep"
            @keydown.escape="view.naming = ''"
            @blur="keep"
            @pointerdown.stop
        />
    </div>
</template>

<style scoped>
.hull {
    position: relative;
    cursor: grab;
}
svg {
    display: block;
    overflow: visible;
}
.body {
    fill: var(--card);
}
.deck {
    fill: var(--basin-tint);
}
.edge,
.water {
    fill: none;
    stroke: var(--line);
    stroke-width: 1.4;
}
.name text {
    font-size: 16px;
    fill: var(--ink);
}
.hull:hover .edge {
    stroke: var(--ink);
}
.chosen .edge,
.chosen .water {
    stroke: var(--ink);
    stroke-width: 2.4;
}
.chosen .name text,
.lit .name text {
    font-weight: 700;
}
.lit .edge,
.lit .water {
    stroke: var(--ember);
    stroke-width: 2.2;
}
.hand path {
    fill: none;
    stroke: var(--plum);
    stroke-width: 2.6;
    stroke-linecap: round;
    stroke-linejoin: round;
}
.field {
    position: absolute;
    left: -6px;
    right: -6px;
    top: calc(50% - 16px);
    height: 32px;
    text-align: center;
}
</style>
