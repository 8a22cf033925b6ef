<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { geoMercator, geoPath } from 'd3-geo'
import { computed, ref, useId } from 'vue'
import type { AreasRead } from '@/api/types'
import { heatColours } from '@/charts/heat'
import { useColours } from '@/charts/useColours'
import { short, shownUnit } from '@/ui/numbers'
import { shareOf, type AreaScale } from './areas'

/** Areas coloured by values, once or twice beside each other, with all that is needed to read them: it may be exported as it is. */
const { read, panels, scale, unit, nameOf, elementOf, elementName } = defineProps<{
    read: AreasRead
    panels: readonly { key: string; title: string; moment: string; values: readonly (number | null)[] }[]
    scale: AreaScale
    unit: string
    nameOf: (area: number) => string
    elementOf: (area: number) => string | null
    /** What the element is called that an area is, or is a part of. */ elementName: (area: number) => string
}>()
const picked = defineModel<number | null>('picked', { default: null })
const { colour, painted } = useColours()
const id = useId()
const box = ref<HTMLElement>()
const { width, height } = useElementSize(box, { width: 600, height: 400 })
const HEAD = 44
const FOOT = 46
const size = computed(() => ({ width: Math.max(240, Math.floor(width.value)), height: Math.max(200, Math.floor(height.value)) }))
const each = computed(() => size.value.width / Math.max(1, panels.length))

const projection = computed(() => {
    const shapes = { type: 'GeometryCollection' as const, geometries: read.areas.map((a) => a.geometry) }
    return geoMercator().fitExtent(
        [
            [14, HEAD + 6],
            [each.value - 14, size.value.height - FOOT - 10],
        ],
        shapes as Parameters<ReturnType<typeof geoMercator>['fitExtent']>[1],
    )
})
const shapes = computed(() => {
    const path = geoPath(projection.value).digits(1)
    return read.areas.map((a) => {
        const shape = a.geometry as Parameters<typeof path>[0]
        const [[x0, y0], [x1, y1]] = path.bounds(shape)
        return { d: path(shape) ?? '', middle: path.centroid(shape), wide: x1 - x0, tall: y1 - y0 }
    })
})
const fillOf = computed(() => {
    void painted.value
    return heatColours(colour)
})
function fill(area: number, value: number | null): string {
    return elementOf(area) === null ? 'var(--dot)' : value === null ? `url(#${id}-none)` : fillOf.value(shareOf(value, scale))
}
const told = (value: number | null) => (value === null ? 'no data' : `${short(value, { unit })} ${shownUnit(unit)}`.trim())
/** The value is that of the element: of several areas of one element none has it for itself. */
function spoken(area: number, value: number | null): string {
    const [name, whole] = [nameOf(area), elementName(area)]
    const words = whole.toLowerCase() === name.toLowerCase() ? name : `${name}, ${whole}`
    return elementOf(area) === null ? `${name}: nothing of the model` : `${words}: ${told(value)}`
}
/** All areas of the element that is picked. */
const isPicked = (area: number) =>
    picked.value !== null && (area === picked.value || (elementOf(area) !== null && elementOf(area) === elementOf(picked.value)))
/** Names stand where they fit. */
const labelled = computed(() =>
    shapes.value.flatMap((s, i) => {
        const name = nameOf(i)
        return read.areas.length <= 60 && s.wide > name.length * 3.4 && s.tall > 12 ? [{ i, name, x: s.middle[0], y: s.middle[1] }] : []
    }),
)

const over = ref<{ area: number; panel: number } | null>(null)
const tip = computed(() => {
    const o = over.value
    const shape = o && shapes.value[o.area]
    const panel = o && panels[o.panel]
    return o && shape && panel
        ? { x: o.panel * each.value + shape.middle[0], y: shape.middle[1], words: spoken(o.area, panel.values[o.area] ?? null) }
        : null
})
/** One area can be reached by Tab, the others from there by the arrows. */
const at = ref(0)
function walk(event: KeyboardEvent) {
    const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key]
    if (by) {
        event.preventDefault()
        at.value = (at.value + by + read.areas.length) % read.areas.length
        const group = (event.currentTarget as Element).closest('g')
        ;(group?.querySelectorAll('path.area')[at.value] as SVGElement | undefined)?.focus()
    } else if (event.key === 'Enter' || event.key === ' ') {
        event.preventDefault()
        pick(at.value)
    }
}
function pick(area: number) {
    at.value = area
    picked.value = picked.value === area ? null : area
}

const steps = computed(() =>
    (scale.limits ?? []).slice(0, -1).map((low, i) => ({
        low,
        high: scale.limits?.[i + 1] ?? low,
        fill: fillOf.value(shareOf((low + (scale.limits?.[i + 1] ?? low)) / 2, scale)),
    })),
)
const stops = computed(() =>
    Array.from({ length: 9 }, (_, i) => ({
        at: i / 8,
        fill: fillOf.value(shareOf(scale.low + (i / 8) * (scale.high - scale.low), { ...scale, limits: null })),
    })),
)
const isGap = computed(() => panels.some((p) => p.values.some((v, i) => v === null && elementOf(i) !== null)))
const BAR = 180
const svg = ref<SVGSVGElement>()
/** The drawing for itself, its colours written out. */
function drawing(): string {
    const copy = svg.value?.cloneNode(true) as SVGSVGElement
    const style = getComputedStyle(document.documentElement)
    copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg')
    copy.setAttribute('font-family', 'sans-serif')
    copy.querySelectorAll('.tip').forEach((e) => {
        e.remove()
    })
    return new XMLSerializer()
        .serializeToString(copy)
        .replace(/var\((--[a-z0-9-]+)\)/g, (_, token: string) => style.getPropertyValue(token).trim() || '#777')
}
defineExpose({ drawing })
</script>

<template>
    <div ref="box" class="box">
        <svg
            ref="svg"
            :width="size.width"
            :height="size.height"
            :viewBox="`0 0 ${size.width} ${size.height}`"
            role="group"
            aria-label="Areas"
        >
            <defs>
                <pattern :id="`${id}-none`" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
                    <rect width="6" height="6" fill="var(--card)" />
                    <line x1="0" y1="0" x2="0" y2="6" stroke="var(--line)" stroke-width="1.4" />
                </pattern>
                <linearGradient :id="`${id}-all`">
                    <stop v-for="s in stops" :key="s.at" :offset="s.at" :stop-color="s.fill" />
                </linearGradient>
            </defs>
            <rect :width="size.width" :height="size.height" fill="var(--paper)" />
            <g
                v-for="(p, k) in panels"
                :key="p.key"
                :transform="`translate(${k * each} 0)`"
                role="group"
                :aria-label="`${p.title}, ${p.moment}`"
            >
                <text x="14" y="20" font-size="14" font-weight="700" fill="var(--ink)">{{ p.title }}</text>
                <text x="14" y="38" font-size="13" fill="var(--ink-soft)">{{ p.moment }}</text>
                <path
                    v-for="(s, i) in shapes"
                    :key="i"
                    class="area"
                    :d="s.d"
                    :fill="fill(i, p.values[i] ?? null)"
                    :stroke="isPicked(i) ? 'var(--ink)' : 'var(--ink-soft)'"
                    :stroke-width="isPicked(i) ? 2.6 : 0.8"
                    role="button"
                    :aria-pressed="picked === i"
                    :aria-label="spoken(i, p.values[i] ?? null)"
                    :tabindex="i === at ? 0 : -1"
                    @click="pick(i)"
                    @keydown="walk"
                    @focus="over = { area: i, panel: k }"
                    @blur="over = null"
                    @pointerenter="over = { area: i, panel: k }"
                    @pointerleave="over = null"
                />
                <text
                    v-for="l in labelled"
                    :key="l.i"
                    :x="l.x"
                    :y="l.y + 4"
                    text-anchor="middle"
                    font-size="12"
                    fill="var(--ink)"
                    stroke="var(--card)"
                    stroke-width="3"
                    paint-order="stroke"
                    pointer-events="none"
                    aria-hidden="true"
                >
                    {{ l.name }}
                </text>
            </g>
            <g :transform="`translate(14 ${size.height - FOOT + 8})`" font-size="12" fill="var(--ink)" aria-hidden="true">
                <template v-if="scale.limits">
                    <g v-for="(s, i) in steps" :key="i" :transform="`translate(${i * 46} 0)`">
                        <rect width="46" height="12" :fill="s.fill" stroke="var(--ink-soft)" stroke-width="0.6" />
                        <text x="0" y="26" :text-anchor="i ? 'middle' : 'start'">{{ short(s.low, { unit }) }}</text>
                    </g>
                    <text :x="steps.length * 46" y="26" text-anchor="middle">{{ short(scale.high, { unit }) }}</text>
                </template>
                <template v-else>
                    <rect :width="BAR" height="12" :fill="`url(#${id}-all)`" stroke="var(--ink-soft)" stroke-width="0.6" />
                    <text x="0" y="26">{{ short(scale.low, { unit }) }}</text>
                    <text :x="BAR" y="26" text-anchor="end">{{ short(scale.high, { unit }) }}</text>
                </template>
                <text :x="(scale.limits ? steps.length * 46 : BAR) + 12" y="11">{{ shownUnit(unit) }}</text>
                <g v-if="isGap" :transform="`translate(${(scale.limits ? steps.length * 46 : BAR) + 120} 0)`">
                    <rect width="22" height="12" :fill="`url(#${id}-none)`" stroke="var(--ink-soft)" stroke-width="0.6" />
                    <text x="28" y="11">no data</text>
                </g>
            </g>
            <g v-if="tip" class="tip" :transform="`translate(${tip.x} ${tip.y - 14})`" pointer-events="none" aria-hidden="true">
                <text
                    text-anchor="middle"
                    font-size="13"
                    font-weight="700"
                    fill="var(--ink)"
                    stroke="var(--card)"
                    stroke-width="5"
                    paint-order="stroke"
                >
                    {{ tip.words }}
                </text>
            </g>
        </svg>
    </div>
</template>

<style scoped>
.box {
    min-height: 0;
    overflow: hidden;
}
svg {
    display: block;
}
.area {
    cursor: pointer;
}
.area:focus-visible {
    outline: none;
    stroke: var(--ember);
    stroke-width: 3;
}
</style>
