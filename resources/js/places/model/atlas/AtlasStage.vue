<script setup lang="ts">
import { Maximize, Minus, Plus } from '@lucide/vue'
import { storeToRefs } from 'pinia'
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import type { Point, Thing } from '@/api/types'
import { borderToward, sizeOf } from '@/canvas/shapes'
import { useAtlasChoice } from '@/places/model/atlas/useAtlasChoice'
import { KINDS } from '@/ui/kinds'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useView } from '@/stores/view'
import KindIcon from '@/ui/KindIcon.vue'
import { counted } from '@/ui/numbers'
import OneOf from '@/ui/OneOf.vue'
import ChoiceField from '@/ui/ChoiceField.vue'
import { filtered, inRegions, joins, type AtlasPicture } from './atlas'
import { aroundPart, partsOf } from './parts'
import PartsPicture from './PartsPicture.vue'

/** Up to so many things the picture is laid out by what acts on what; more stand as they do on their sheets. */
const MOST_FREE = 140

const model = useModel()
const view = useView()
const notices = useNotices()
const choice = useAtlasChoice()
const { filter } = choice
const { by, begun, part } = storeToRefs(choice)
const picture = shallowRef<AtlasPicture>({ places: new Map(), regions: [], width: 100, height: 100 })
const frame = ref({ x: 0, y: 0, width: 1000, height: 700 })
const stage = ref<HTMLElement>()
const laying = ref(false)
let job = 0

const things = computed(() => filtered(model.model, { ...filter, around: filter.steps ? view.selectedThings : [] }))
const shown = computed(() => things.value.filter((t) => picture.value.places.has(t.id)))
/** As rosters, books and sheets; what ledgers make is a part, too. */
const whole = computed(() => {
    const text = filter.search.trim().toLowerCase()
    const made = Object.values(model.model.elements).filter(
        (t) => t.made && filter.kinds.has(t.kind) && t.name.toLowerCase().includes(text),
    )
    return partsOf(model.model, [...new Set([...things.value, ...made])], model.sheetOf)
})
const parts = computed(() => (whole.value.parts.some((p) => p.key === part.value) ? aroundPart(whole.value, part.value) : whole.value))
const choices = computed(() => [
    { value: '', words: 'all parts' },
    ...whole.value.parts.map((p) => ({ value: p.key, words: `${p.name} and its surroundings` })),
])
const lines = computed(() => {
    const places = picture.value.places
    return joins(model.model)
        .filter((j) => places.has(j.from) && places.has(j.to))
        .map((j) => {
            const [a, b] = [places.get(j.from) as Point, places.get(j.to) as Point]
            const to = model.model.elements[j.to] as Thing
            const tip = borderToward(b, { ...sizeOf(to.kind, to.name), round: to.kind === 'flow', words: true }, a, 4)
            const angle = Math.atan2(tip.y - a.y, tip.x - a.x)
            const wing = (turn: number) => `${tip.x - 10 * Math.cos(angle + turn)} ${tip.y - 10 * Math.sin(angle + turn)}`
            return {
                ...j,
                path: `M${a.x} ${a.y}L${tip.x} ${tip.y}`,
                head: `M${tip.x} ${tip.y}L${wing(0.4)}L${wing(-0.4)}Z`,
                lit: view.selectedThings.includes(j.from) || view.selectedThings.includes(j.to),
            }
        })
})
const regionOf = (id: string) => {
    if (by.value === 'groups') {
        const group = model.groupOf.get(id)
        return group ? { key: group.name, name: group.name } : { key: '', name: 'In no group' }
    }
    const sheet = model.sheetOf(id)
    return { key: sheet, name: model.model.sheets.find((s) => s.id === sheet)?.name ?? '' }
}
const tintOf = (name: string) => (by.value === 'groups' ? model.model.groups.find((g) => g.name === name)?.tint : undefined)

async function lay() {
    const mine = ++job
    const list = things.value
    if (by.value === 'parts') {
        return
    }
    if (by.value === 'causes' && list.length <= MOST_FREE) {
        laying.value = true
        try {
            const { tidy } = await import('@/canvas/tidy')
            const middles = await tidy(
                list.map((t) => ({ id: t.id, ...sizeOf(t.kind, t.name), ...(t.kind === 'flow' ? { width: 110, height: 60 } : {}) })),
                joins(model.model).map((j) => ({ from: j.from, to: j.to, strong: j.flow })),
            )
            if (mine !== job) {
                return
            }
            const places = new Map(Object.entries(middles))
            picture.value = {
                places,
                regions: [],
                width: Math.max(200, ...[...places.values()].map((p) => p.x + 130)),
                height: Math.max(120, ...[...places.values()].map((p) => p.y + 60)),
            }
        } catch (error) {
            notices.trouble(`The atlas could not be laid out: ${(error as Error).message}`)
        }
        laying.value = false
    } else {
        picture.value = inRegions(model.model, list, regionOf)
    }
    fit()
}
watch([things, by], () => {
    void lay()
})
onMounted(() => {
    if (view.selection.length && !begun.value) {
        filter.steps = 2
        by.value = 'causes'
    }
    begun.value = true
    void lay()
})

function fit() {
    const { width, height } = picture.value
    const box = stage.value
    const ratio = box ? box.clientWidth / box.clientHeight : 1.5
    const w = Math.max(width + 60, (height + 60) * ratio, 500)
    frame.value = { x: (width - w) / 2, y: (height - w / ratio) / 2, width: w, height: w / ratio }
}
function zoom(factor: number, at?: { x: number; y: number }) {
    const f = frame.value
    const c = at ?? { x: f.x + f.width / 2, y: f.y + f.height / 2 }
    frame.value = { x: c.x - (c.x - f.x) * factor, y: c.y - (c.y - f.y) * factor, width: f.width * factor, height: f.height * factor }
}
function wheel(event: WheelEvent) {
    const box = stage.value?.getBoundingClientRect()
    if (box) {
        const f = frame.value
        zoom(event.deltaY > 0 ? 1.15 : 1 / 1.15, {
            x: f.x + ((event.clientX - box.left) / box.width) * f.width,
            y: f.y + ((event.clientY - box.top) / box.height) * f.height,
        })
    }
}
let held: { x: number; y: number; from: { x: number; y: number } } | null = null
function press(event: PointerEvent) {
    if ((event.target as Element).closest('.spot, .panel, .corner')) {
        return
    }
    held = { x: event.clientX, y: event.clientY, from: { x: frame.value.x, y: frame.value.y } }
    stage.value?.setPointerCapture(event.pointerId)
}
function drag(event: PointerEvent) {
    const box = stage.value
    if (held && box) {
        const scale = frame.value.width / box.clientWidth
        frame.value = {
            ...frame.value,
            x: held.from.x - (event.clientX - held.x) * scale,
            y: held.from.y - (event.clientY - held.y) * scale,
        }
    }
}
function toggle(kind: string) {
    const kinds = new Set(filter.kinds)
    if (!kinds.delete(kind)) {
        kinds.add(kind)
    }
    filter.kinds = kinds
}
/** Names are readable from this near; farther only those of stocks, drawn larger. */
const near = computed(() => frame.value.width < 2600)
const large = computed(() => Math.max(14, frame.value.width / 90))
</script>

<template>
    <div class="atlas">
        <div class="panel" aria-label="What the atlas shows" role="group">
            <InputText v-model="filter.search" class="field" placeholder="Filter by name" aria-label="Filter by name" />
            <div class="row">
                <Button
                    v-for="k in KINDS"
                    :key="k"
                    class="kind"
                    :aria-pressed="filter.kinds.has(k)"
                    :title="`Show ${k === 'auxiliary' ? 'auxiliaries' : k === 'series' ? k : `${k}s`}`"
                    :aria-label="`Show ${k}`"
                    @click="toggle(k)"
                    ><KindIcon :kind="k"
                /></Button>
            </div>
            <OneOf
                v-model="by"
                class="row"
                label="How the atlas is laid out"
                :choices="[
                    { value: 'parts', words: 'By parts' },
                    { value: 'sheets', words: 'By sheets' },
                    { value: 'groups', words: 'By groups' },
                    { value: 'causes', words: 'By causes' },
                ]"
            />
            <ChoiceField v-if="by === 'parts'" v-model="part" class="small" label="Which part" :choices="choices" />
            <p v-if="by === 'causes' && things.length > MOST_FREE" class="soft small">
                More than {{ MOST_FREE }} things stand by sheets; filter them to see them by causes.
            </p>
            <label class="small"><Checkbox v-model="filter.hideLoose" binary />Hide what is joined to nothing</label>
            <div v-if="view.selectedThings.length" class="around small">
                <p>
                    <b>{{
                        view.selectedThings.length === 1
                            ? model.model.elements[view.selectedThings[0]!]?.name
                            : `${view.selectedThings.length} things`
                    }}</b>
                    and what lies within
                </p>
                <OneOf
                    v-model="filter.steps"
                    class="row"
                    label="How far around"
                    :choices="[
                        { value: 1, words: '1 step' },
                        { value: 2, words: '2 steps' },
                        { value: 3, words: '3 steps' },
                        { value: 0, words: 'all' },
                    ]"
                />
                <OneOf
                    v-if="filter.steps"
                    v-model="filter.way"
                    class="row"
                    label="Which way"
                    :choices="[
                        { value: 'both', words: 'both ways' },
                        { value: 'up', words: 'what acts on it' },
                        { value: 'down', words: 'what follows' },
                    ]"
                />
            </div>
            <p class="soft small" role="status">
                {{
                    by === 'parts'
                        ? counted(parts.parts.length, 'part')
                        : laying
                          ? 'Laying out…'
                          : `${shown.length} of ${model.things.length} things`
                }}
            </p>
        </div>
        <div v-if="by === 'parts'" class="paper still"><PartsPicture :whole="parts" /></div>
        <div v-else ref="stage" class="paper" @wheel.prevent="wheel" @pointerdown="press" @pointermove="drag" @pointerup="held = null">
            <svg
                :viewBox="`${frame.x} ${frame.y} ${frame.width} ${frame.height}`"
                role="group"
                :aria-label="`Atlas, ${shown.length} things`"
            >
                <g v-for="r in picture.regions" :key="r.key">
                    <rect
                        :x="r.x"
                        :y="r.y"
                        :width="r.width"
                        :height="r.height"
                        rx="24"
                        class="region"
                        :style="tintOf(r.name) ? { fill: `var(--${tintOf(r.name)})` } : {}"
                    />
                    <text :x="r.x + 18" :y="r.y + 14 + large" class="region-name" :style="{ fontSize: `${large * 1.15}px` }">
                        {{ r.name }}
                    </text>
                </g>
                <g v-for="(l, i) in lines" :key="i" class="line" :class="{ flow: l.flow, lit: l.lit }">
                    <path :d="l.path" />
                    <path v-if="near" :d="l.head" class="head" />
                </g>
                <g
                    v-for="t in shown"
                    :key="t.id"
                    class="spot"
                    :class="[t.kind, { selected: view.selectedThings.includes(t.id) }]"
                    :transform="`translate(${picture.places.get(t.id)?.x} ${picture.places.get(t.id)?.y})`"
                    role="button"
                    tabindex="0"
                    :aria-label="`${t.kind} ${t.name}: go to it`"
                    @click="view.goTo(t.id)"
                    @keydown.enter="view.goTo(t.id)"
                >
                    <title>{{ t.name }}</title>
                    <path
                        v-if="t.kind === 'stock'"
                        :d="`M${-sizeOf(t.kind, t.name).width / 2} -26h${sizeOf(t.kind, t.name).width}v38a14 14 0 0 1 -14 14h-${sizeOf(t.kind, t.name).width - 28}a14 14 0 0 1 -14 -14Z`"
                    />
                    <circle v-else-if="t.kind === 'flow'" r="12" />
                    <rect v-else :x="-sizeOf(t.kind, t.name).width / 2" y="-14" :width="sizeOf(t.kind, t.name).width" height="28" rx="14" />
                    <text
                        v-if="near || (t.kind === 'stock' && frame.width < 6500)"
                        :y="t.kind === 'flow' ? 25 : 0"
                        text-anchor="middle"
                        dominant-baseline="central"
                        :style="near ? {} : { fontSize: `${large}px` }"
                    >
                        {{ t.name.length > 28 ? `${t.name.slice(0, 27)}…` : t.name }}
                    </text>
                </g>
            </svg>
            <div class="corner">
                <Button class="icon-button" aria-label="Zoom out" @click="zoom(1.25)"><Minus :size="15" :stroke-width="1.6" /></Button>
                <Button class="icon-button" aria-label="Zoom in" @click="zoom(0.8)"><Plus :size="15" :stroke-width="1.6" /></Button>
                <Button class="icon-button" aria-label="Fit the atlas" @click="fit"><Maximize :size="14" :stroke-width="1.6" /></Button>
            </div>
        </div>
    </div>
</template>

<style scoped src="./AtlasStage.css"></style>
