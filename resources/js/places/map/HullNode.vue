<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import type { Field } from '@/ui/controls'
import { hullOf, reachOf } from './hull'
import HullShape from './HullShape.vue'
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
/** As fine as is seen: half a pixel. */
const level = computed(() => Math.round(map.levelOf(id) * 40) / 40)
const group = computed(() => model.groupOf.get(id))
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
            <title>{{ group ? `${name} · ${group.name}` : name }}</title>
            <HullShape :hull="naming ? { ...hull, lines: [] } : hull" :level="level" />
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
.hull:hover {
    --edge: var(--ink);
}
.chosen,
.chosen:hover {
    --edge: var(--ink);
    --edge-wide: 2.4;
}
.lit,
.lit:hover {
    --edge: var(--ember);
    --edge-wide: 2.2;
}
.chosen,
.lit {
    --weight: 700;
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
