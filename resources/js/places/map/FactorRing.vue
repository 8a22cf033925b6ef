<script setup lang="ts">
import { ArrowDown, ArrowUp, Anchor, Pencil, Spline, Trash2 } from '@lucide/vue'
import { computed } from 'vue'
import type { Thing } from '@/api/types'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { hullOf, reachOf } from './hull'
import { useMap } from './useMap'

/** What can be done with a factor where it stands: an arc of buttons above it, clear of its name. */
const { factor, zoom, room } = defineProps<{ factor: Thing; zoom: number; /** From its waterline to the edge above. */ room: number }>()
const emit = defineEmits<{ link: [name: string] }>()
const map = useMap()
const model = useModel()
const view = useView()

const hand = computed(() => map.handOn(factor.id))
const acts = computed(() => [
    { key: 'link', words: 'Say what it acts on', icon: Spline, run: () => emit('link', factor.name) },
    { key: 'rename', words: 'Rename it', icon: Pencil, run: () => (view.naming = factor.id) },
    { key: 'up', words: 'Push it up', icon: ArrowUp, on: isPushed(1), run: () => map.push(factor.id, 1) },
    { key: 'down', words: 'Push it down', icon: ArrowDown, on: isPushed(-1), run: () => map.push(factor.id, -1) },
    {
        key: 'hold',
        words: hand.value?.hold ? 'Let it go' : 'Hold it where it is',
        icon: Anchor,
        on: hand.value?.hold === true,
        run: () => (hand.value?.hold ? map.letGo(factor.id) : map.hold(factor.id)),
    },
    { key: 'delete', words: 'Delete it', icon: Trash2, run: () => void model.remove([factor.id]) },
])
const isPushed = (way: number) => hand.value !== undefined && !hand.value.hold && Math.sign(hand.value.by) === way
/** Buttons stand on an arc above the hull. */
const STEP = 36
const spots = computed(() => {
    const hull = map.hulls.get(factor.id) ?? hullOf(factor.name)
    const { up, down } = reachOf(hull.height, map.levelOf(factor.id))
    const above = up * zoom + 26
    const count = acts.value.length
    return acts.value.map((_, i) => {
        const aside = (i - (count - 1) / 2) * STEP
        const bent = (aside * aside) / 420
        // Where there is no room above, the arc hangs below.
        const top = room > above + 18 ? -above - 15 + bent : down * zoom + 20 - bent + 8
        return { left: `${aside - 15}px`, top: `${top}px` }
    })
})
</script>

<template>
    <div class="ring" role="toolbar" :aria-label="`Acts on ${factor.name}`">
        <Button
            v-for="(act, i) in acts"
            :key="act.key"
            class="round"
            :style="spots[i]"
            :aria-label="act.words"
            :title="act.words"
            :aria-pressed="act.on"
            @click.stop="act.run()"
            @pointerdown.stop
            ><component :is="act.icon" :size="15" :stroke-width="1.6"
        /></Button>
    </div>
</template>

<style scoped>
.ring {
    position: absolute;
    width: 0;
    height: 0;
    z-index: 12;
}
.round {
    position: absolute;
    display: grid;
    place-items: center;
    width: 30px;
    height: 30px;
    border: 1px solid var(--line);
    border-radius: 50%;
    background: var(--card);
    color: var(--ink);
}
.round:hover {
    background: var(--hover);
}
.round[aria-pressed='true'] {
    border-color: var(--plum);
    color: var(--plum);
}
</style>
