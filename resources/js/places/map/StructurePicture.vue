<script setup lang="ts">
import { computed } from 'vue'
import type { MapStructures } from '@/api/types'
import { hullOf } from './hull'
import HullShape from './HullShape.vue'
import { markOf } from './mark'
import MarkShape from './MarkShape.vue'

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
        <MarkShape v-for="(m, i) in marks" :key="i" :mark="m" />
        <HullShape v-for="h in hulls" :key="h.role" :hull="h.hull" :level="h.level" :transform="`translate(${h.at.x} ${h.at.y})`" />
    </svg>
</template>

<style scoped>
.picture {
    width: 100%;
    max-height: 360px;
}
</style>
