<script setup lang="ts">
import { computed } from 'vue'
import { hullOf, type Hull } from '../hull'
import HullShape from '../HullShape.vue'
import { markOf } from '../mark'
import MarkShape from '../MarkShape.vue'
import { useMap, type MapLink } from '../useMap'

/** A link large, with what else acts on its effect. */
const { link } = defineProps<{ link: MapLink }>()
const map = useMap()
const [WIDTH, HEIGHT] = [620, 560]
const [LARGE, SMALL] = [1.6, 1.4]

const sized = (id: string, by: number): Hull => {
    const hull = hullOf(map.nameOf(id))
    return { ...hull, width: hull.width * by, height: hull.height * by }
}
/** Around the effect, clear of the way from the cause. */
const AROUND = [
    { x: 110, y: 70 },
    { x: 500, y: 60 },
    { x: 520, y: 400 },
    { x: 90, y: 260 },
]
const others = computed(() =>
    [
        ...map.links.filter((l) => l.to === link.to && l.id !== link.id),
        ...map.links.filter((l) => l.from === link.to && l.id !== link.id && l.to !== link.from),
    ].slice(0, AROUND.length),
)
const cause = computed(() => ({ id: link.from, at: { x: 230, y: 470 }, hull: sized(link.from, LARGE), level: 1, scale: LARGE }))
const effect = computed(() => ({
    id: link.to,
    at: { x: 320, y: 215 },
    hull: sized(link.to, LARGE),
    level: link.sign === '+' ? 1 : link.sign === '-' ? -1 : 0,
    scale: LARGE,
}))
const around = computed(() =>
    others.value.map((l, i) => {
        const id = l.to === link.to ? l.from : l.to
        return { link: l, id, at: AROUND[i] ?? { x: 0, y: 0 }, hull: sized(id, SMALL), level: 0, scale: SMALL }
    }),
)
const hulls = computed(() => [
    ...around.value.filter((a) => a.id !== link.from),
    ...(link.from === link.to ? [] : [cause.value]),
    effect.value,
])
const marks = computed(() => [
    ...around.value
        .filter((a) => a.id !== link.from)
        .map((a) => ({
            id: a.link.id,
            main: false,
            mark: a.link.to === link.to ? markOf(a, effect.value, 0.06, a.link) : markOf(effect.value, a, 0.06, a.link),
        })),
    { id: link.id, main: true, mark: markOf(link.from === link.to ? effect.value : cause.value, effect.value, -0.08, link) },
])
</script>

<template>
    <svg class="picture" :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" aria-hidden="true">
        <g v-for="m in marks" :key="m.id" :class="{ main: m.main }">
            <path v-if="m.main" :d="m.mark.way" class="glow" />
            <MarkShape :mark="m.mark" />
        </g>
        <HullShape
            v-for="h in hulls"
            :key="h.id"
            :class="{ large: h.scale === LARGE }"
            :hull="h.hull"
            :level="h.level"
            :scale="h.scale"
            :transform="`translate(${h.at.x} ${h.at.y})`"
        />
    </svg>
</template>

<style scoped>
.picture {
    width: 100%;
    height: 100%;
    min-height: 0;
}
.picture {
    --wide: 2.4;
    --edge-wide: 2;
}
.main {
    --stroke: var(--ember);
    --wide: 4;
}
.large {
    --edge: var(--ink);
    --edge-wide: 3;
    --weight: 700;
}
.glow {
    fill: none;
    stroke: var(--ember);
    stroke-opacity: 0.16;
    stroke-width: 44;
    stroke-linecap: round;
}
</style>
