<script setup lang="ts">
import { hullPaths } from './hull'
import { markOf } from './mark'

/** What the marks of the map mean. */
const hull = { width: 30, height: 17, lines: [] }
const HULLS = [
    { words: 'more', level: 1 },
    { words: 'usual', level: 0 },
    { words: 'less', level: -1 },
].map((h) => ({ ...h, paths: hullPaths(hull, h.level) }))
const nothing = { width: -10, height: -10, lines: [] }
const end = (x: number) => ({ at: { x, y: 8 }, hull: nothing, level: 0 })
const MARKS = [
    { words: 'same way', link: { sign: '+', standing: 'agreed' }, width: 50 },
    { words: 'turned over', link: { sign: '-', standing: 'agreed' }, width: 58 },
    { words: 'late', link: { sign: '+', late: true, standing: 'agreed' }, width: 84 },
].map((m) => ({ ...m, mark: markOf(end(1), end(m.width - 1), 0, m.link as Parameters<typeof markOf>[3]) }))
</script>

<template>
    <ul class="key" aria-label="What the marks mean">
        <li v-for="h in HULLS" :key="h.words">
            <svg width="42" height="30" viewBox="-21 -15 42 30" aria-hidden="true">
                <path :d="h.paths.whole" fill="var(--card)" />
                <path :d="h.paths.deck" fill="var(--basin-tint)" />
                <path d="M-20 0H20" class="thin" />
                <path :d="h.paths.whole" class="thin" />
            </svg>
            {{ h.words }}
        </li>
        <li v-for="m in MARKS" :key="m.words">
            <svg :width="m.width" height="16" :viewBox="`0 0 ${m.width} 16`" aria-hidden="true">
                <path :d="m.mark.line" class="line" />
                <path :d="m.mark.head" class="line" />
                <path v-for="(s, i) in m.mark.swells" :key="i" :d="s.path" class="line" :class="s.open ? 'open' : 'full'" />
            </svg>
            {{ m.words }}
        </li>
    </ul>
</template>

<style scoped>
.key {
    display: flex;
    gap: 8px;
    margin: 0;
    padding: 0;
    list-style: none;
    font-size: 12.5px;
    color: var(--ink-soft);
    white-space: nowrap;
}
li {
    display: flex;
    align-items: center;
    gap: 3px;
}
.thin {
    fill: none;
    stroke: var(--line);
    stroke-width: 1.2;
}
.line {
    fill: none;
    stroke: var(--ink-soft);
    stroke-width: 1.5;
}
.full {
    fill: var(--ink-soft);
}
.open {
    fill: var(--paper);
}
</style>
