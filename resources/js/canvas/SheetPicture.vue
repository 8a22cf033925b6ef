<script setup lang="ts">
import { computed } from 'vue'
import type { Model, Placement, Point, Thing } from '@/api/types'
import { borderToward, linkShape, polyline, ribbonSpine, sizeOf } from './shapes'

export type Mark = 'added' | 'changed' | 'removed'

/** A sheet as one still picture: for thumbnails, and for versions that are only looked at. */
const {
    model,
    sheet,
    marks = {},
    names = true,
} = defineProps<{ model: Model; sheet: string; marks?: Record<string, Mark>; names?: boolean }>()
const emit = defineEmits<{ pick: [id: string] }>()

const known = computed(() => (model.sheets.some((s) => s.id === sheet) ? sheet : model.sheets[0]?.id))
const onSheet = (place: Placement | undefined) =>
    place !== undefined && (model.sheets.some((s) => s.id === place.sheet) ? place.sheet : model.sheets[0]?.id) === known.value

interface Item {
    id: string
    thing: Thing
    at: Point
    echo: boolean
    width: number
    height: number
}
const items = computed<Item[]>(() => {
    const list: Item[] = []
    for (const id of model.order) {
        const thing = model.elements[id]
        const place = model.placements[id]
        if (thing && place && onSheet(place)) {
            list.push({ id, thing, at: place.at, echo: false, ...sizeOf(thing.kind, thing.name) })
        }
    }
    for (const [id, echo] of Object.entries(model.echoes)) {
        const thing = model.elements[echo.element]
        if (thing && echo.sheet === known.value) {
            list.push({ id, thing, at: echo.at, echo: true, ...sizeOf(thing.kind === 'flow' ? 'auxiliary' : thing.kind, thing.name) })
        }
    }
    return list
})
const placed = computed(() => {
    const map = new Map<string, Item>()
    for (const item of items.value) {
        if (!map.has(item.thing.id) || !item.echo) {
            map.set(item.thing.id, item)
        }
    }
    return map
})
const ribbons = computed(() =>
    items.value
        .filter((i) => i.thing.kind === 'flow' && !i.echo)
        .map((i) => {
            const place = model.placements[i.id] as Placement
            const end = (id: string | null | undefined, loose: Point | undefined, side: number) => {
                const stock = id ? placed.value.get(id) : undefined
                return stock ? borderToward(stock.at, stock, i.at, 1) : (loose ?? { x: i.at.x + side, y: i.at.y })
            }
            return {
                id: i.id,
                path: polyline(
                    ribbonSpine(
                        end(i.thing.from, place.source, -110),
                        i.at,
                        end(i.thing.to, place.target, 110),
                        place.bendIn,
                        place.bendOut,
                    ),
                ),
            }
        }),
)
const links = computed(() =>
    model.links
        .map((l) => ({ l, from: placed.value.get(l.from), to: placed.value.get(l.to) }))
        .filter((x) => x.from && x.to && !x.to.echo)
        .map(({ l, from, to }) => ({
            key: `${l.from}>${l.to}`,
            kind: l.kind,
            shape: linkShape(
                (from as Item).at,
                from as Item,
                (to as Item).at,
                { ...(to as Item), round: (to as Item).thing.kind === 'flow', words: true },
                model.bends[`${l.from}>${l.to}`],
            ),
        })),
)
const frame = computed(() => {
    const xs = items.value.flatMap((i) => [
        i.at.x - i.width / 2 - 20,
        i.at.x + i.width / 2 + 20,
        ...[model.placements[i.id]?.source?.x, model.placements[i.id]?.target?.x].filter(
            (v): v is number => v !== undefined && i.thing.kind === 'flow',
        ),
    ])
    const ys = items.value.flatMap((i) => [i.at.y - i.height / 2 - 20, i.at.y + i.height / 2 + (i.thing.kind === 'flow' ? 44 : 24)])
    return xs.length
        ? { x: Math.min(...xs), y: Math.min(...ys), width: Math.max(...xs) - Math.min(...xs), height: Math.max(...ys) - Math.min(...ys) }
        : { x: 0, y: 0, width: 300, height: 200 }
})
const SIGNS: Record<Mark, string> = { added: '+', changed: '~', removed: '−' }
</script>

<template>
    <svg
        class="picture"
        :viewBox="`${frame.x} ${frame.y} ${frame.width} ${frame.height}`"
        preserveAspectRatio="xMidYMid meet"
        role="img"
        :aria-label="`Picture of the sheet, ${items.length} things`"
    >
        <path v-for="r in ribbons" :key="r.id" :d="r.path" class="ribbon" :class="marks[r.id]" />
        <g v-for="l in links" :key="l.key" class="link" :class="l.kind">
            <path :d="l.shape.path" />
            <path :d="l.shape.head" class="head" />
        </g>
        <g v-for="i in items" :key="i.id" class="item" :class="[i.thing.kind, marks[i.thing.id]]" @click="emit('pick', i.thing.id)">
            <path
                v-if="i.thing.kind === 'stock'"
                :d="`M${i.at.x - i.width / 2} ${i.at.y - i.height / 2}h${i.width}v${i.height - 14}a14 14 0 0 1 -14 14h-${i.width - 28}a14 14 0 0 1 -14 -14Z`"
            />
            <circle v-else-if="i.thing.kind === 'flow' && !i.echo" :cx="i.at.x" :cy="i.at.y" r="12" />
            <rect v-else :x="i.at.x - i.width / 2" :y="i.at.y - i.height / 2" :width="i.width" :height="i.height" rx="14" />
            <path v-if="i.echo" :d="`M${i.at.x - i.width / 2 + 10} ${i.at.y - i.height / 2 - 4}h${i.width - 20}`" />
            <text
                v-if="names"
                :x="i.at.x"
                :y="i.at.y + (i.thing.kind === 'flow' && !i.echo ? 26 : 0)"
                text-anchor="middle"
                dominant-baseline="central"
                :class="{ bold: i.thing.kind === 'stock' }"
            >
                {{ i.thing.name.length > 30 ? `${i.thing.name.slice(0, 29)}…` : i.thing.name }}
            </text>
            <g v-if="marks[i.thing.id]" class="mark">
                <circle :cx="i.at.x + i.width / 2" :cy="i.at.y - i.height / 2" r="10" />
                <text :x="i.at.x + i.width / 2" :y="i.at.y - i.height / 2" text-anchor="middle" dominant-baseline="central">
                    {{ SIGNS[marks[i.thing.id] as Mark] }}
                </text>
            </g>
        </g>
    </svg>
</template>

<style scoped>
.picture {
    width: 100%;
    height: 100%;
}
.item > path,
.item > rect,
.item > circle {
    fill: var(--card);
    stroke: var(--ink);
    stroke-width: 1.5;
}
.item > rect {
    stroke: var(--line);
}
.item.stock > path {
    fill: var(--basin-tint);
}
.ribbon {
    fill: none;
    stroke: var(--ribbon-tint);
    stroke-width: 12;
}
.link path {
    fill: none;
    stroke: var(--ink-soft);
}
.link .head {
    fill: var(--ink-soft);
    stroke: none;
}
.link.start path {
    stroke-dasharray: 1.5 4;
}
text {
    font-size: 14px;
    fill: var(--ink);
}
.bold {
    font-weight: 700;
}
.added > path,
.added > rect,
.added > circle {
    stroke: var(--leaf);
    stroke-width: 3;
}
.changed > path,
.changed > rect,
.changed > circle {
    stroke: var(--ochre);
    stroke-width: 3;
}
.removed > path,
.removed > rect,
.removed > circle {
    stroke: var(--brick);
    stroke-width: 3;
    stroke-dasharray: 6 4;
}
.mark text {
    font-weight: 700;
    fill: var(--card);
}
.added .mark circle {
    fill: var(--leaf);
}
.changed .mark circle {
    fill: var(--ochre);
}
.removed .mark circle {
    fill: var(--brick);
}
</style>
