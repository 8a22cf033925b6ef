<script setup lang="ts">
import { useDevicePixelRatio, useElementSize } from '@vueuse/core'
import { Delaunay } from 'd3-delaunay'
import { geoMercator, geoPath, type GeoProjection } from 'd3-geo'
import { computed, nextTick, onScopeDispose, ref, watch } from 'vue'
import { heatColours, inkColours } from '@/charts/heat'
import { scaleFor, ticksOf } from '@/charts/scale'
import { useColours } from '@/charts/useColours'
import { useMembers } from '@/stores/members'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { counted, shownUnit, tickWords } from '@/ui/numbers'
import { allAt, around, planeOf, reachOf } from './where'
import type { Where } from './useWhere'
import WhereLegend from './WhereLegend.vue'

/** Members where they are at the playhead, in a plane or on an area map, and what lies beneath them. */
const { where } = defineProps<{ where: Where }>()
const members = useMembers()
const model = useModel()
const view = useView()
const { colour, painted } = useColours()
const box = ref<HTMLElement>()
const canvas = ref<HTMLCanvasElement>()
const { width, height } = useElementSize(box, { width: 700, height: 420 })
const { pixelRatio } = useDevicePixelRatio()
const MARGIN = { left: 58, right: 22, top: 16, bottom: 40 }
/** Colours between the palest and the darkest: so many strokes of the brush, however many members. */
const SHADES = 24
/** In place of a shade, which is below 0 for values below 0. */
const UNKNOWN = Infinity
/** Above so many, each is a small dot. */
const MANY = 400

const seen = computed(() => where.seen.value)
const moving = computed(() => where.moving.value)
const areas = computed(() => where.areas.value)
const isMap = computed(() => areas.value !== null)
const unitOf = (key: string | undefined) => where.columnOf(key)?.unit ?? ''
/** In the plane: all that members and spots ever reach, a little more, at round numbers. */
const reach = computed(() => {
    const of = (key: string | undefined, spots: number[]) => {
        const [low, high] = reachOf(moving.value?.values.get(key ?? '')) ?? [0, 1]
        // A spot lies in the middle of what it stands for.
        const finite = spots.filter(Number.isFinite).sort((a, b) => a - b)
        const gap =
            Math.min(
                ...finite
                    .slice(1)
                    .map((v, i) => v - (finite[i] ?? v))
                    .filter((d) => d > 1e-9),
            ) / 2
        const edge = Number.isFinite(gap) ? gap : 0
        const all = scaleFor([Math.min(low, ...finite.map((v) => v - edge)), Math.max(high, ...finite.map((v) => v + edge))], {
            zero: false,
        })
        return finite.length
            ? { ...all, low: Math.min(low, (finite[0] ?? low) - edge), high: Math.max(high, (finite.at(-1) ?? high) + edge) }
            : all
    }
    const spots = where.field.value
    return {
        across: of(
            seen.value.across,
            spots.map((s) => s.across),
        ),
        up: of(
            seen.value.up,
            spots.map((s) => s.up),
        ),
    }
})
const plane = computed(() => {
    const { left, right, top, bottom } = MARGIN
    return planeOf(
        [reach.value.across.low, reach.value.across.high],
        [reach.value.up.low, reach.value.up.high],
        { left, top, width: Math.max(80, width.value - left - right), height: Math.max(80, height.value - top - bottom) },
        unitOf(seen.value.across) === unitOf(seen.value.up),
    )
})
const projection = computed<GeoProjection | null>(() => {
    const shapes = { type: 'GeometryCollection' as const, geometries: (areas.value?.areas ?? []).map((a) => a.geometry) }
    return areas.value
        ? geoMercator().fitExtent(
              [
                  [16, 16],
                  [width.value - 16, height.value - 16],
              ],
              shapes as Parameters<GeoProjection['fitExtent']>[1],
          )
        : null
})
/** What lies beneath: areas of a map, or around each spot of the plane all that is nearer to it than to any other. */
const cells = computed(() => {
    if (areas.value && projection.value) {
        const path = geoPath(projection.value).digits(1)
        const join = where.joinOf(where.dimension.value)
        return areas.value.areas.map((a, i) => {
            const shape = a.geometry as Parameters<typeof path>[0]
            const [[x0, y0], [x1, y1]] = path.bounds(shape)
            const id = join?.elements[i] ?? null
            return { id, path: new Path2D(path(shape) ?? ''), middle: path.centroid(shape), reach: 0.36 * Math.min(x1 - x0, y1 - y0) }
        })
    }
    const spots = where.field.value.filter((s) => Number.isFinite(s.across) && Number.isFinite(s.up))
    if (!spots.length) {
        return []
    }
    const { x, y, left, top, width: w, height: h } = plane.value
    const near = Delaunay.from(spots.map((s) => [x(s.across), y(s.up)] as [number, number])).voronoi([left, top, left + w, top + h])
    return spots.map((s, i) => ({
        id: s.id as string | null,
        path: new Path2D(near.renderCell(i)),
        middle: [x(s.across), y(s.up)] as [number, number],
        reach: 0,
    }))
})

/** Of all of them at a time: where they stand in the picture. */
function placesAt(time: number): [Float32Array, Float32Array] {
    const all = moving.value
    if (!all) {
        return [new Float32Array(), new Float32Array()]
    }
    const { across, up } = seen.value
    if (across && up) {
        const [xs, ys] = [allAt(all, across, time), allAt(all, up, time)]
        for (let m = 0; m < all.count; m++) {
            const at = projection.value ? projection.value([xs[m] ?? NaN, ys[m] ?? NaN]) : null
            ;[xs[m], ys[m]] = projection.value
                ? [at?.[0] ?? NaN, at?.[1] ?? NaN]
                : [plane.value.x(xs[m] ?? NaN), plane.value.y(ys[m] ?? NaN)]
        }
        return [xs, ys]
    }
    // Where they belong: around the middle of their area, in the order in which they came.
    const [xs, ys] = [new Float32Array(all.count).fill(NaN), new Float32Array(all.count).fill(NaN)]
    const there = allAt(all, [...all.values.keys()][0] ?? '', time)
    const by = new Map<number, number[]>()
    where.areaOf.value?.forEach((area, m) => {
        if (area >= 0 && !Number.isNaN(there[m])) {
            by.set(area, [...(by.get(area) ?? []), m])
        }
    })
    for (const [area, list] of by) {
        const cell = cells.value[area]
        list.forEach((m, i) => {
            const [dx, dy] = around(i, list.length, cell?.reach ?? 0)
            ;[xs[m], ys[m]] = [(cell?.middle[0] ?? NaN) + dx, (cell?.middle[1] ?? NaN) + dy]
        })
    }
    return [xs, ys]
}
const wholeOf = (key: string | undefined): [number, number] => {
    const [low, high] = reachOf(moving.value?.values.get(key ?? '')) ?? [0, 1]
    return [low > 0 && low < high / 2 ? 0 : low, high > low ? high : low + 1]
}
const colours = computed(() => wholeOf(seen.value.colour))
const sizes = computed(() => wholeOf(seen.value.size))
const brushes = computed(() => {
    void painted.value
    return { field: heatColours(colour), member: where.beneath.value ? inkColours(colour) : heatColours(colour) }
})
const plain = computed(() => ((moving.value?.count ?? 0) > MANY ? 2.4 : 4.6))
let now: { xs: Float32Array; ys: Float32Array } = { xs: new Float32Array(), ys: new Float32Array() }
const there = ref(0)
/** Who is there, and has no place in the picture. */
const unseen = ref(0)
/** Where the one that is looked at is now. */
const mine = ref<[number, number] | null>(null)

function draw() {
    const context = canvas.value?.getContext('2d')
    const all = moving.value
    if (!context || !canvas.value) {
        return
    }
    context.setTransform(pixelRatio.value, 0, 0, pixelRatio.value, 0, 0)
    context.clearRect(0, 0, width.value, height.value)
    const time = view.playhead
    const [low, high] = where.beneathReach.value
    for (const cell of cells.value) {
        const v = cell.id === null || !where.beneath.value ? NaN : where.beneathAt(cell.id, time)
        context.fillStyle = Number.isNaN(v) ? (isMap.value ? colour('--dot') : 'transparent') : brushes.value.field(share(v, low, high))
        context.fill(cell.path)
        if (isMap.value) {
            context.strokeStyle = colour('--ink-soft')
            context.lineWidth = 0.8
            context.stroke(cell.path)
        }
    }
    if (!all) {
        return
    }
    const [xs, ys] = placesAt(time)
    now = { xs, ys }
    const { colour: shade, size } = seen.value
    const tints = shade ? allAt(all, shade, time) : null
    const sized = size ? allAt(all, size, time) : null
    const radius = (m: number) => {
        const part = sized ? share(sized[m] ?? NaN, Math.min(0, sizes.value[0]), sizes.value[1]) : NaN
        return Number.isNaN(part) ? plain.value : 1.6 + 7 * Math.sqrt(Math.max(0, part))
    }
    const groups = new Map<number, number[]>()
    let count = 0
    for (let m = 0; m < all.count; m++) {
        if (Number.isNaN(xs[m])) {
            continue
        }
        count++
        const tint = tints?.[m] ?? NaN
        const step = tints ? (Number.isNaN(tint) ? UNKNOWN : Math.round(share(tint, ...colours.value) * SHADES)) : SHADES
        const group = groups.get(step)
        if (group) {
            group.push(m)
        } else {
            groups.set(step, [m])
        }
    }
    context.lineWidth = 1
    context.strokeStyle = colour('--ink')
    for (const [step, list] of groups) {
        context.beginPath()
        for (const m of list) {
            const [x, y, r] = [xs[m] ?? 0, ys[m] ?? 0, radius(m)]
            context.moveTo(x + r, y)
            context.arc(x, y, r, 0, 2 * Math.PI)
        }
        context.fillStyle = step === UNKNOWN ? 'transparent' : tints ? brushes.value.member(step / SHADES) : colour('--card')
        context.fill()
        context.stroke()
    }
    there.value = count
    const first = [...all.values.keys()][0] ?? ''
    unseen.value = isMap.value ? allAt(all, first, time).filter((v) => !Number.isNaN(v)).length - count : 0
    const chosen = members.chosen
    mine.value = chosen >= 0 && Number.isFinite(xs[chosen]) ? [xs[chosen] ?? 0, ys[chosen] ?? 0] : null
}
const share = (v: number, low: number, high: number) => (low < 0 && high > 0 ? v / Math.max(-low, high) : (v - low) / (high - low || 1))
let frame = 0
function later() {
    frame ||= requestAnimationFrame(() => {
        frame = 0
        draw()
    })
}
onScopeDispose(() => {
    cancelAnimationFrame(frame)
})
watch([() => view.playhead, moving, cells, brushes, seen, () => members.chosen, where.areaOf], later)
watch([width, height, pixelRatio], () => void nextTick(later), { immediate: true })

/** Whoever is next to the pointer is the one that is looked at. */
function pick(event: MouseEvent) {
    const place = (event.currentTarget as Element).getBoundingClientRect()
    const [px, py] = [event.clientX - place.left, event.clientY - place.top]
    let [best, near] = [-1, 16]
    now.xs.forEach((x, m) => {
        const far = Math.hypot(x - px, (now.ys[m] ?? NaN) - py)
        ;[best, near] = far < near ? [m, far] : [best, near]
    })
    members.chosen = best
}
const axis = (key: string | undefined) => {
    const column = where.columnOf(key)
    return column ? [column.name, shownUnit(column.unit)].filter(Boolean).join(', ') : ''
}
const marks = computed(() => {
    const words = (scale: typeof reach.value.across, unit: string) => {
        const ticks = ticksOf(scale).filter((v) => v >= scale.low - 1e-9 && v <= scale.high + 1e-9)
        return ticks.map((v, i) => ({ v, words: tickWords(ticks, unit)[i] }))
    }
    return { across: words(reach.value.across, unitOf(seen.value.across)), up: words(reach.value.up, unitOf(seen.value.up)) }
})
const name = computed(() => (members.chosen >= 0 ? (where.told.value?.names[members.chosen] ?? '') : ''))
const spoken = computed(() => {
    const what = [
        seen.value.colour ? `coloured by ${axis(seen.value.colour)}` : '',
        seen.value.size ? `sized by ${axis(seen.value.size)}` : '',
        where.beneath.value ? `over ${where.beneath.value.name}` : '',
    ].filter(Boolean)
    const on = isMap.value ? 'on the area map' : `by ${axis(seen.value.across)} and ${axis(seen.value.up)}`
    return `Where ${counted(there.value, members.muster?.name ?? 'member')} are at ${model.moment(view.playhead)}, ${[on, ...what].join(', ')}`
})
const scaleOf = (words: string, unit: string, of: [number, number], brush: (share: number) => string, dots: boolean) => ({
    words,
    unit,
    low: of[0],
    high: of[1],
    dots,
    fills: Array.from({ length: 9 }, (_, i) => brush(share(of[0] + (i / 8) * (of[1] - of[0]), ...of))),
})
const scales = computed(() => [
    ...(seen.value.colour
        ? [
              scaleOf(
                  `each ${members.muster?.name ?? ''}: ${axis(seen.value.colour)}`,
                  unitOf(seen.value.colour),
                  colours.value,
                  brushes.value.member,
                  true,
              ),
          ]
        : []),
    ...(where.beneath.value
        ? [scaleOf(`beneath: ${beneathWords.value}`, where.beneath.value.unit ?? '', where.beneathReach.value, brushes.value.field, false)]
        : []),
])
const remarks = computed(() =>
    [
        unseen.value ? `${unseen.value} stand in no area of this map` : '',
        seen.value.size ? `the larger, the more ${axis(seen.value.size)}` : '',
        isMap.value && !seen.value.across ? 'each around the middle of its area' : '',
    ].filter(Boolean),
)
const beneathWords = computed(() =>
    [where.beneath.value?.name ?? '', shownUnit(where.beneath.value?.unit ?? '')].filter(Boolean).join(', '),
)
</script>

<template>
    <div class="whole">
        <div ref="box" class="box">
            <canvas
                ref="canvas"
                :width="Math.round(width * pixelRatio)"
                :height="Math.round(height * pixelRatio)"
                :style="{ width: `${width}px`, height: `${height}px` }"
                aria-hidden="true"
            ></canvas>
            <svg :width="width" :height="height" role="img" :aria-label="spoken" @click="pick">
                <g v-if="!isMap">
                    <rect class="frame" :x="plane.left" :y="plane.top" :width="plane.width" :height="plane.height" />
                    <g v-for="m in marks.across" :key="`a${m.v}`">
                        <line :x1="plane.x(m.v)" :x2="plane.x(m.v)" :y1="plane.top + plane.height" :y2="plane.top + plane.height + 5" />
                        <text :x="plane.x(m.v)" :y="plane.top + plane.height + 17" text-anchor="middle">{{ m.words }}</text>
                    </g>
                    <text class="axis" :x="plane.left + plane.width / 2" :y="plane.top + plane.height + 33" text-anchor="middle">
                        {{ axis(seen.across) }}
                    </text>
                    <g v-for="m in marks.up" :key="`u${m.v}`">
                        <line :x1="plane.left - 5" :x2="plane.left" :y1="plane.y(m.v)" :y2="plane.y(m.v)" />
                        <text :x="plane.left - 8" :y="plane.y(m.v) + 4" text-anchor="end">{{ m.words }}</text>
                    </g>
                    <text
                        class="axis"
                        :transform="`translate(${plane.left - 40} ${plane.top + plane.height / 2}) rotate(-90)`"
                        text-anchor="middle"
                    >
                        {{ axis(seen.up) }}
                    </text>
                </g>
                <g v-if="mine" class="mine">
                    <circle :cx="mine[0]" :cy="mine[1]" r="10" />
                    <text
                        :x="mine[0] + (mine[0] > width - 140 ? -14 : 14)"
                        :y="mine[1] + 4"
                        :text-anchor="mine[0] > width - 140 ? 'end' : 'start'"
                    >
                        {{ name }}
                    </text>
                </g>
            </svg>
        </div>
        <WhereLegend :there="there" :all="there + unseen" :scales="scales" :remarks="remarks" />
    </div>
</template>

<style scoped>
.whole {
    display: flex;
    flex: 1;
    flex-direction: column;
    min-height: 0;
}
.box {
    position: relative;
    flex: 1;
    min-height: 160px;
    overflow: hidden;
}
canvas,
svg {
    position: absolute;
    inset: 0;
    display: block;
}
svg {
    cursor: crosshair;
}
.frame {
    fill: none;
    stroke: var(--line);
}
line {
    stroke: var(--line);
}
text {
    font-size: 12px;
    fill: var(--ink-soft);
}
.axis {
    fill: var(--ink);
}
.mine circle {
    fill: none;
    stroke: var(--ember);
    stroke-width: 2.4;
}
.mine text {
    font-size: 13px;
    font-weight: 700;
    fill: var(--ink);
    paint-order: stroke;
    stroke: var(--card);
    stroke-width: 4px;
}
</style>
