<script setup lang="ts">
import { computed } from 'vue'
import { hullPaths, reachOf, type Hull } from './hull'

/** A hull with its name, drawn around the middle of its waterline. Where it stands tells colours by `--edge`, `--wide`, `--weight`. */
const {
    hull,
    level,
    scale = 1,
    named = true,
} = defineProps<{
    hull: Hull
    level: number
    /** Of the name, and of how far the waterline goes on. */ scale?: number
    named?: boolean
}>()
const paths = computed(() => hullPaths(hull, level))
/** The name stands in the middle of what is seen of it. */
const middle = computed(() => {
    const { up, down } = reachOf(hull.height, level)
    return (down - up) / 2
})
const beyond = computed(() => hull.width / 2 + 12 * scale)
</script>

<template>
    <g class="hull-shape">
        <path :d="paths.whole" class="body" />
        <path :d="paths.deck" class="deck" />
        <path :d="`M${-beyond} 0H${-hull.width / 2 + 1}M${hull.width / 2 - 1} 0H${beyond}`" class="edge" />
        <path v-if="!named" :d="`M${-hull.width / 2} 0H${hull.width / 2}`" class="edge" />
        <path :d="paths.whole" class="edge" />
        <template v-if="named">
            <text
                v-for="(line, i) in hull.lines"
                :key="i"
                :y="middle + (i - (hull.lines.length - 1) / 2) * 18 * scale"
                :font-size="16 * scale"
                text-anchor="middle"
                dominant-baseline="central"
            >
                {{ line }}
            </text>
        </template>
    </g>
</template>

<style scoped>
.body {
    fill: var(--card);
}
.deck {
    fill: var(--basin-tint);
}
.edge {
    fill: none;
    stroke: var(--edge, var(--line));
    stroke-width: var(--edge-wide, 1.4);
}
text {
    font-weight: var(--weight, 400);
    fill: var(--ink);
}
</style>
