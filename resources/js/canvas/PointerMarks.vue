<script setup lang="ts">
import type { Point } from '@/api/types'

/** What the pointer draws while it is down: a pull out of a ring, lines to snap to, the frame of a selection. */
const { pull, line, guides, box } = defineProps<{
    pull: string | undefined
    line: { a: Point; b: Point } | undefined
    guides: { x: number | undefined; y: number | undefined }
    box: { x: number; y: number; width: number; height: number } | null | undefined
}>()
</script>

<template>
    <svg v-if="line" class="pull" aria-hidden="true">
        <line :x1="line.a.x" :y1="line.a.y" :x2="line.b.x" :y2="line.b.y" :class="pull" />
        <circle :cx="line.b.x" :cy="line.b.y" r="5" />
    </svg>
    <i v-if="guides.x !== undefined" class="guide down" :style="{ left: `${guides.x}px` }" />
    <i v-if="guides.y !== undefined" class="guide across" :style="{ top: `${guides.y}px` }" />
    <i v-if="box" class="marquee" :style="{ left: `${box.x}px`, top: `${box.y}px`, width: `${box.width}px`, height: `${box.height}px` }" />
</template>

<style scoped>
.pull {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    pointer-events: none;
    z-index: 11;
}
.pull line {
    stroke: var(--ink);
    stroke-width: 1.4;
    stroke-dasharray: 5 4;
}
.pull line.inflow,
.pull line.outflow {
    stroke: var(--ribbon);
    stroke-width: 5;
    stroke-dasharray: none;
    opacity: 0.6;
}
.pull circle {
    fill: var(--ember);
}
.guide {
    position: absolute;
    background: var(--line);
    pointer-events: none;
    z-index: 4;
}
.guide.down {
    top: 0;
    bottom: 0;
    width: 1px;
}
.guide.across {
    left: 0;
    right: 0;
    height: 1px;
}
.marquee {
    position: absolute;
    border: 1.5px solid var(--ember);
    border-radius: 4px;
    background: color-mix(in srgb, var(--ember) 8%, transparent);
    pointer-events: none;
    z-index: 20;
}
</style>
