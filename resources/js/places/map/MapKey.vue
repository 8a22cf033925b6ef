<script setup lang="ts">
import Popover from 'primevue/popover'
import { ref } from 'vue'
import HullShape from './HullShape.vue'
import { markOf, type Marked } from './mark'
import MarkShape from './MarkShape.vue'

/** What the marks of the map mean: those that are met first, and all of them by a click. */
const hull = { width: 30, height: 17, lines: [] }
const HULLS = [
    { words: 'more', level: 1 },
    { words: 'usual', level: 0 },
    { words: 'less', level: -1 },
]
const nothing = { width: -10, height: -10, lines: [] }
const end = (x: number) => ({ at: { x, y: 8 }, hull: nothing, level: 0 })
const marked = (words: string, width: number, link: Marked) => ({
    words,
    width,
    wide: { weak: 1.1, usual: 1.6, strong: 3 }[link.strength ?? 'usual'],
    mark: markOf(end(1), end(width - 1), 0, { standing: 'agreed', ...link }),
})
const FIRST = [
    marked('same way', 50, { sign: '+' }),
    marked('turned over', 58, { sign: '-' }),
    marked('late', 84, { sign: '+', late: true }),
]
const REST = [
    marked('more of it, more of the other', 84, { sign: '+' }),
    marked('turned over: more of it, less of the other', 84, { sign: '-' }),
    marked('it is open which way', 84, { sign: '?' }),
    marked('acts only after a while', 84, { sign: '+', late: true }),
    marked('weak', 84, { sign: '+', strength: 'weak' }),
    marked('strong', 84, { sign: '+', strength: 'strong' }),
    marked('the room has not agreed on it yet', 84, { sign: '+', standing: 'open' }),
    marked('disputed', 84, { sign: '+', standing: 'disputed' }),
]
const all = ref<InstanceType<typeof Popover>>()
</script>

<template>
    <div class="key">
        <ul aria-label="What the marks mean">
            <li v-for="h in HULLS" :key="h.words">
                <svg width="46" height="30" viewBox="-23 -15 46 30" aria-hidden="true">
                    <HullShape :hull="hull" :level="h.level" :scale="0.5" :named="false" />
                </svg>
                {{ h.words }}
            </li>
            <li v-for="m in FIRST" :key="m.words">
                <svg :width="m.width" height="16" :viewBox="`0 0 ${m.width} 16`" :style="{ '--wide': m.wide }" aria-hidden="true">
                    <MarkShape :mark="m.mark" />
                </svg>
                {{ m.words }}
            </li>
        </ul>
        <Button class="more" aria-haspopup="dialog" aria-label="All marks" title="All marks of the map" @click="all?.toggle($event)"
            >?</Button
        >
        <Popover ref="all" aria-label="All marks of the map">
            <ul class="rest">
                <li v-for="m in REST" :key="m.words">
                    <svg :width="m.width" height="16" :viewBox="`0 0 ${m.width} 16`" :style="{ '--wide': m.wide }" aria-hidden="true">
                        <MarkShape :mark="m.mark" />
                    </svg>
                    {{ m.words }}
                </li>
                <li>A hull on its waterline rides high when there is more than usual, and lies low when there is less.</li>
                <li>No height is a measurement.</li>
            </ul>
        </Popover>
    </div>
</template>

<style scoped>
.key {
    display: flex;
    align-items: center;
    gap: 6px;
    font-size: 12.5px;
    color: var(--ink-soft);
    white-space: nowrap;
}
svg {
    --stroke: var(--ink-soft);
    --edge-wide: 1.2;
}
ul {
    display: flex;
    gap: 7px;
    margin: 0;
    padding: 0;
    list-style: none;
}
li {
    display: flex;
    align-items: center;
    gap: 3px;
}
.rest {
    display: grid;
    gap: 6px;
    max-width: 380px;
}
.rest li {
    gap: 12px;
}
.more {
    width: 24px;
    height: 24px;
    border: 1px solid var(--line);
    border-radius: 50%;
}
</style>
