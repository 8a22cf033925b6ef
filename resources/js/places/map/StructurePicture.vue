<script setup lang="ts">
import { computed } from 'vue'
import type { MapStructures } from '@/api/types'
import { hullOf, hullPaths } from './hull'
import { markOf } from './mark'

/** A structure drawn with its parts around a ring, riding as they are played. */
const { structure, names, levels } = defineProps<{
    structure: MapStructures['structures'][number]
    names: Record<string, string>
    levels: Record<string, number>
}>()
const [WIDTH, HEIGHT] = [560, 400]

const hulls = computed(() => {
    const roles = Object.keys(structure.roles)
    return roles.map((role, i) => {
        const angle = -Math.PI / 2 + (2 * Math.PI * i) / roles.length
        const level = Math.round((levels[role] ?? 0) * 20) / 20
        const hull = hullOf(names[role] || (structure.roles[role] ?? ''))
        return {
            role,
            level,
            hull,
            at: { x: WIDTH / 2 + 195 * Math.cos(angle), y: HEIGHT / 2 + 160 * Math.sin(angle) },
            paths: hullPaths(hull, level),
        }
    })
})
const marks = computed(() => {
    const by = new Map(hulls.value.map((h) => [h.role, h]))
    return structure.links.flatMap((l) => {
        const [from, to] = [by.get(l.from), by.get(l.to)]
        const back = structure.links.some((o) => o.from === l.to && o.to === l.from)
        return from && to ? [markOf(from, to, back ? 0.2 : 0.06, { sign: l.sign, late: l.late, standing: 'agreed' })] : []
    })
})
</script>

<template>
    <svg class="picture" :viewBox="`-30 -20 ${WIDTH + 60} ${HEIGHT + 40}`" role="img" :aria-label="`Drawing of “${structure.title}”`">
        <g v-for="(m, i) in marks" :key="i">
            <path :d="m.line" class="line" />
            <path :d="m.head" class="line" />
            <path v-for="(s, k) in m.swells" :key="k" :d="s.path" class="line" :class="s.open ? 'open' : 'full'" />
        </g>
        <g v-for="h in hulls" :key="h.role" :transform="`translate(${h.at.x} ${h.at.y})`">
            <path :d="h.paths.whole" fill="var(--card)" />
            <path :d="h.paths.deck" fill="var(--basin-tint)" />
            <path :d="`M${-h.hull.width / 2 - 12} 0H${h.hull.width / 2 + 12}`" class="edge" />
            <path :d="h.paths.whole" class="edge" />
            <text
                v-for="(line, i) in h.hull.lines"
                :key="i"
                :y="-h.level * h.hull.height * 0.36 + (i - (h.hull.lines.length - 1) / 2) * 18"
                text-anchor="middle"
                dominant-baseline="central"
            >
                {{ line }}
            </text>
        </g>
    </svg>
</template>

<style scoped>
.picture {
    width: 100%;
    max-height: 360px;
}
.line {
    fill: none;
    stroke: var(--line);
    stroke-width: 1.9;
    stroke-linejoin: round;
}
.full {
    fill: var(--line);
}
.open {
    fill: var(--paper);
}
.edge {
    fill: none;
    stroke: var(--ink-soft);
    stroke-width: 1.5;
}
text {
    font-size: 16px;
    fill: var(--ink);
}
</style>
