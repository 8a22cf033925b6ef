<script setup lang="ts">
import { computed } from 'vue'
import type { Point } from '@/api/types'
import DialField from '@/card/DialField.vue'
import FormulaField from '@/card/FormulaField.vue'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { shapeOf } from './shapes'

/** The formula of a thing, opened beside it on the sheet. */
const { room, place, zoom } = defineProps<{ room: HTMLElement | undefined; place: (node?: string) => Point | undefined; zoom: number }>()
const model = useModel()
const view = useView()

/** Its size, and how far it keeps from the edges and from its thing. */
const [WIDTH, HEIGHT, EDGE] = [340, 120, 8]
const [NAME, NAME_OF_FLOW] = [22, 44]

/** What is given by points is given on its card. */
const thing = computed(() => {
    const found = model.model.elements[view.saying]
    return found?.points ? undefined : found
})
const at = computed(() => {
    const middle = thing.value && (place(view.node) ?? place(thing.value.id))
    if (!middle || !thing.value || !room) {
        return undefined
    }
    const below = (shapeOf(thing.value).height / 2) * zoom + (thing.value.kind === 'flow' ? NAME_OF_FLOW : NAME)
    return {
        width: `${WIDTH}px`,
        left: `${Math.min(Math.max(EDGE, middle.x - WIDTH / 2), room.clientWidth - WIDTH - EDGE)}px`,
        top: `${Math.min(middle.y + below, room.clientHeight - HEIGHT)}px`,
    }
})
</script>

<template>
    <div v-if="thing && at" class="saying" :style="at" @keydown.stop @dblclick.stop>
        <FormulaField :key="thing.id" :thing="thing" autofocus @done="view.saying = ''" />
        <DialField v-if="thing.kind === 'parameter' && typeof thing.value === 'number'" :thing="thing" compact class="on-the-spot" />
    </div>
</template>

<style scoped>
.saying {
    position: absolute;
    padding: 10px;
    border: 1px solid var(--line);
    border-radius: 12px;
    background: var(--card);
    box-shadow: var(--shadow);
    z-index: 25;
}
.on-the-spot {
    padding: 18px 10px 10px;
}
</style>
