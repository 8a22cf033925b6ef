<script setup lang="ts">
import { BookOpen, File, Shapes } from '@lucide/vue'
import { computed, ref, shallowRef, watch } from 'vue'
import type { Point } from '@/api/types'
import { useMembers } from '@/stores/members'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useView } from '@/stores/view'
import { counted } from '@/ui/numbers'
import { partsOf, type Part, type PartJoin } from './parts'

/** The whole model as its rosters, its books and its sheets: what connects them, and what comes from outside and leaves. */
const { whole } = defineProps<{ whole: ReturnType<typeof partsOf> }>()
const members = useMembers()
const model = useModel()
const notices = useNotices()
const view = useView()
const [W, HEAD, LINE, MOST] = [230, 62, 21, 5]
/** Room beside a part for what comes from outside and leaves. */
const SIDE = 110
/** Smaller than this it would not be read: then it is scrolled. */
const SMALLEST = 0.8
const sideOf = (list: string[]) => (list.length ? SIDE : 0)
const ICONS = { roster: Shapes, books: BookOpen, sheet: File }
const heightOf = (p: Part) => HEAD + Math.min(MOST, p.things.length) * LINE + (p.things.length > MOST ? LINE : 0) + 10
const places = shallowRef<Record<string, Point>>({})
let job = 0
watch(
    () => whole,
    async ({ parts, joins }) => {
        const mine = ++job
        try {
            const { tidy } = await import('@/canvas/tidy')
            const nodes = parts.map((p) => ({ id: p.key, width: W + 30 + sideOf(p.comes) + sideOf(p.goes), height: heightOf(p) + 24 }))
            const found = await tidy(
                nodes,
                joins.map((j) => ({ from: j.from, to: j.to, strong: j.creates })),
            )
            places.value = mine === job ? found : places.value
        } catch (error) {
            notices.trouble(`The atlas could not be laid out: ${(error as Error).message}`)
        }
    },
    { immediate: true },
)
const boxes = computed(() =>
    whole.parts.flatMap((p) => {
        const at = places.value[p.key]
        const height = heightOf(p)
        return at ? [{ ...p, x: at.x - W / 2 + (sideOf(p.comes) - sideOf(p.goes)) / 2, y: at.y - height / 2, height }] : []
    }),
)
/** From border to border, the two ways beside each other. */
const lines = computed(() =>
    whole.joins.flatMap((j) => {
        const [a, b] = [boxes.value.find((x) => x.key === j.from), boxes.value.find((x) => x.key === j.to)]
        if (!a || !b) {
            return []
        }
        const back = b.x <= a.x
        const isBoth = whole.joins.some((o) => o.from === j.to && o.to === j.from)
        const shift = isBoth ? (back ? 16 : -16) : 0
        const from = { x: back ? a.x : a.x + W, y: a.y + a.height / 2 + shift }
        const to = { x: back ? b.x + W : b.x, y: b.y + b.height / 2 + shift }
        const bend = Math.max(60, Math.abs(to.x - from.x) / 2) * (back ? -1 : 1)
        const tip = back ? 9 : -9
        return [
            {
                ...j,
                path: `M${from.x} ${from.y}C${from.x + bend} ${from.y} ${to.x - bend} ${to.y} ${to.x + tip} ${to.y}`,
                head: `M${to.x} ${to.y}l${tip * 1.2} -5v10Z`,
                width: 1.2 + Math.log2(j.count),
                middle: { x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 - 7 },
            },
        ]
    }),
)
const frame = computed(() => {
    const xs = boxes.value.flatMap((b) => [b.x - sideOf(b.comes), b.x + W + sideOf(b.goes)])
    const ys = boxes.value.flatMap((b) => [b.y, b.y + b.height])
    const [x, y] = [Math.min(...xs, 0) - 10, Math.min(...ys, 0) - 20]
    return { x, y, width: Math.max(500, Math.max(...xs) - x + 10), height: Math.max(320, Math.max(...ys) - y + 20) }
})
const words = (j: PartJoin) => `${counted(j.count, 'link')}${j.creates ? ', creates members' : ''}`
const told = (j: PartJoin) => `${j.names.slice(0, 12).join('\n')}${j.names.length > 12 ? `\nand ${j.names.length - 12} more` : ''}`
const cut = (name: string, most = 26) => (name.length > most ? `${name.slice(0, most - 1)}…` : name)
const some = (list: string[]) => (list.length > 2 ? [...list.slice(0, 2), `and ${list.length - 2} more`] : list)
function go(part: Part) {
    if (part.kind === 'roster') {
        members.wanted = part.key.slice('roster '.length)
        view.go({ place: 'members', stage: 'members', selection: [] })
    } else if (part.kind === 'books') {
        view.go({ place: 'ledgers', selection: [] })
    } else {
        view.go({ place: 'model', sheet: part.key.slice('sheet '.length), selection: [] })
    }
}
const lit = ref('')
</script>

<template>
    <svg
        :style="{ minWidth: `${frame.width * SMALLEST}px`, minHeight: `${frame.height * SMALLEST}px` }"
        :viewBox="`${frame.x} ${frame.y} ${frame.width} ${frame.height}`"
        role="group"
        :aria-label="`Atlas, ${counted(boxes.length, 'part')} of ${model.model.name || 'the model'}`"
    >
        <g v-for="l in lines" :key="`${l.from} ${l.to}`" class="join" :class="{ creates: l.creates, lit: lit === l.from || lit === l.to }">
            <title>{{ told(l) }}</title>
            <path :d="l.path" :style="{ strokeWidth: l.width }" />
            <path :d="l.head" class="head" />
            <text :x="l.middle.x" :y="l.middle.y" text-anchor="middle">{{ words(l) }}</text>
        </g>
        <g
            v-for="b in boxes"
            :key="b.key"
            class="part"
            :class="b.kind"
            :transform="`translate(${b.x} ${b.y})`"
            @pointerenter="lit = b.key"
            @pointerleave="lit = ''"
        >
            <g v-for="(c, i) in some(b.comes)" :key="`c${i}`" class="outside">
                <path :d="`M-64 ${b.height - 18 - 22 * i}h52`" />
                <path class="head" :d="`M-4 ${b.height - 18 - 22 * i}l-9 -4v8Z`" />
                <text x="-10" :y="b.height - 24 - 22 * i" text-anchor="end">{{ cut(c, 18) }}</text>
            </g>
            <g v-for="(c, i) in some(b.goes)" :key="`g${i}`" class="outside">
                <path :d="`M${W} ${b.height - 18 - 22 * i}h52`" />
                <path class="head" :d="`M${W + 62} ${b.height - 18 - 22 * i}l-9 -4v8Z`" />
                <text :x="W + 10" :y="b.height - 24 - 22 * i">{{ cut(c, 18) }}</text>
            </g>
            <g class="box" role="button" tabindex="0" :aria-label="`${b.name}, ${b.words}: go there`" @click="go(b)" @keydown.enter="go(b)">
                <rect :width="W" :height="b.height" rx="12" />
                <component :is="ICONS[b.kind]" x="14" y="13" :size="20" :stroke-width="1.5" />
                <text class="name" x="44" y="28">
                    {{ cut(b.name, 20) }}
                    <title>{{ b.name }}</title>
                </text>
                <text class="soft" x="14" y="50">{{ cut(b.words, 34) }}</text>
            </g>
            <g
                v-for="(t, i) in b.things.slice(0, MOST)"
                :key="t.id"
                class="thing"
                role="button"
                tabindex="0"
                :aria-label="`${t.kind} ${t.name}: go to it`"
                :transform="`translate(14 ${HEAD + i * LINE})`"
                @click="view.goTo(t.id)"
                @keydown.enter="view.goTo(t.id)"
            >
                <rect x="-6" y="-1" :width="W - 16" :height="LINE" rx="4" />
                <text y="14">
                    {{ cut(t.name, 30) }}
                    <title>{{ t.name }}</title>
                </text>
            </g>
            <text v-if="b.things.length > MOST" class="soft" x="14" :y="HEAD + MOST * LINE + 14">
                and {{ b.things.length - MOST }} more
            </text>
        </g>
    </svg>
</template>

<style scoped>
svg {
    display: block;
    width: 100%;
    height: 100%;
}
.part svg {
    width: 20px;
    height: 20px;
    color: var(--ink);
}
.box,
.thing {
    cursor: pointer;
}
.box rect {
    fill: var(--card);
    stroke: var(--ink);
    stroke-width: 1.4;
}
.roster .box rect {
    stroke: var(--basin);
    stroke-width: 2.4;
}
.books .box rect {
    stroke: var(--plum);
    stroke-width: 2.4;
}
.box:hover rect,
.box:focus-visible rect {
    stroke: var(--ember);
    outline: none;
}
.box:focus-visible,
.thing:focus-visible {
    outline: none;
}
.thing rect {
    fill: transparent;
}
.thing:hover rect,
.thing:focus-visible rect {
    fill: var(--hover);
}
text {
    font-size: 13px;
    fill: var(--ink);
}
.name {
    font-size: 16px;
    font-weight: 700;
}
.soft,
.join text,
.outside text {
    font-size: 12px;
    fill: var(--ink-soft);
}
.join text {
    paint-order: stroke;
    stroke: var(--paper);
    stroke-width: 4px;
}
.join path,
.outside path {
    fill: none;
    stroke: var(--line);
}
.outside path {
    stroke-width: 1.6;
}
.join .head,
.outside .head {
    fill: var(--line);
    stroke: none;
}
.join.creates path {
    stroke: var(--basin);
}
.join.creates .head {
    fill: var(--basin);
}
.join.lit path {
    stroke: var(--ember);
}
.join.lit .head {
    fill: var(--ember);
}
</style>
