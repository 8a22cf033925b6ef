<script setup lang="ts">
import { computed } from 'vue'
import { hullOf, hullPaths, type Hull } from '../hull'
import { markOf } from '../mark'
import { useMap, type MapLink } from '../useMap'

/** A link large, with what else acts on its effect. */
const { link } = defineProps<{ link: MapLink }>()
const map = useMap()
const [WIDTH, HEIGHT, LARGE] = [620, 560, 1.5]

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
const cause = computed(() => ({ id: link.from, at: { x: 230, y: 470 }, hull: sized(link.from, LARGE), level: 1, large: true }))
const effect = computed(() => ({
    id: link.to,
    at: { x: 320, y: 215 },
    hull: sized(link.to, LARGE),
    level: link.sign === '+' ? 1 : link.sign === '-' ? -1 : 0,
    large: true,
}))
const around = computed(() =>
    others.value.map((l, i) => {
        const id = l.to === link.to ? l.from : l.to
        return { link: l, id, at: AROUND[i] ?? { x: 0, y: 0 }, hull: sized(id, 1.22), level: 0, large: false }
    }),
)
const hulls = computed(() =>
    [...around.value.filter((a) => a.id !== link.from), ...(link.from === link.to ? [] : [cause.value]), effect.value].map((h) => ({
        ...h,
        paths: hullPaths(h.hull, h.level),
    })),
)
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
            <path :d="m.mark.line" class="line" />
            <path :d="m.mark.head" class="line" />
            <path v-for="(s, i) in m.mark.swells" :key="i" :d="s.path" class="line" :class="s.open ? 'open' : 'full'" />
        </g>
        <g v-for="h in hulls" :key="h.id" :transform="`translate(${h.at.x} ${h.at.y})`" :class="{ large: h.large }">
            <path :d="h.paths.whole" fill="var(--card)" />
            <path :d="h.paths.deck" fill="var(--basin-tint)" />
            <path :d="`M${-h.hull.width / 2 - 16} 0H${h.hull.width / 2 + 16}`" class="edge" />
            <path :d="h.paths.whole" class="edge" />
            <text
                v-for="(line, i) in h.hull.lines"
                :key="i"
                :y="
                    (h.level === 0 ? 0 : h.level > 0 ? -h.hull.height * 0.3 : h.hull.height * 0.3) +
                    (i - (h.hull.lines.length - 1) / 2) * 27
                "
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
    height: 100%;
    min-height: 0;
}
.line {
    fill: none;
    stroke: var(--line);
    stroke-width: 2.4;
    stroke-linejoin: round;
}
.full {
    fill: var(--line);
}
.open {
    fill: var(--paper);
}
.main .line {
    stroke: var(--ember);
    stroke-width: 4;
}
.main .full {
    fill: var(--ember);
}
.glow {
    fill: none;
    stroke: var(--ember);
    stroke-opacity: 0.16;
    stroke-width: 44;
    stroke-linecap: round;
}
.edge {
    fill: none;
    stroke: var(--line);
    stroke-width: 2;
}
.large .edge {
    stroke: var(--ink);
    stroke-width: 3;
}
text {
    font-size: 22px;
    fill: var(--ink);
}
.large text {
    font-size: 26px;
    font-weight: 700;
}
</style>
