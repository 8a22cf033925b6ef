<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { ReferenceModeRecord } from '@/api/parts'
import { modeLook } from '@/charts/laidOver'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { literal, niceStep } from '@/ui/numbers'

/** A small plot to draw on: the course follows the hand; below it stands what was drawn before. */
const { modes, kind, top, unit } = defineProps<{ modes: readonly ReferenceModeRecord[]; kind: string; top: number; unit: string }>()
const emit = defineEmits<{ draw: [points: [number, number][]]; top: [top: number] }>()
const model = useModel()
const view = useView()
const box = ref<HTMLElement>()
const { width, height } = useElementSize(box)

/** So many points are kept of a course that is drawn over all of time. */
const POINTS = 80
const [ABOVE, BELOW, RIGHT] = [14, 14, 150]

const span = computed(() => [model.model.time.start, model.model.time.end] as const)
const inner = computed(() => Math.max(10, width.value - RIGHT + 50))
const x = (time: number) => ((time - span.value[0]) / (span.value[1] - span.value[0])) * inner.value
const y = (value: number) => ABOVE + (1 - value / top) * Math.max(10, height.value - ABOVE - BELOW)
const ticks = computed(() => {
    const step = niceStep(top / 4)
    return Array.from({ length: Math.floor(top / step) + 1 }, (_, i) => Number((i * step).toPrecision(10)))
})
const path = (points: readonly (readonly number[])[]) =>
    points.map(([t = 0, v = 0], i) => `${i ? 'L' : 'M'}${x(t).toFixed(1)} ${y(v).toFixed(1)}`).join('')

const lines = computed(() => {
    const drawn = modes.map((m) => {
        const last = m.points[m.points.length - 1] ?? [0, 0]
        return {
            id: m.id,
            kind: m.kind ?? 'expected',
            words: m.words ?? '',
            look: modeLook(m.kind ?? 'expected'),
            path: path(m.points),
            dots: (m.kind ?? '') === 'seen' && m.points.length < 120 ? m.points.map(([t = 0, v = 0]) => ({ x: x(t), y: y(v) })) : [],
            end: { x: x(last[0] ?? 0), y: y(last[1] ?? 0) },
        }
    })
    // Names at the ends keep apart.
    const names = drawn.filter((d) => d.end.x > inner.value - 40).sort((a, b) => a.end.y - b.end.y)
    let low = -Infinity
    for (const n of names) {
        n.end.y = Math.max(n.end.y, low + 44)
        low = n.end.y
    }
    return drawn
})

// The hand.
const drawing = ref<Map<number, number> | null>(null)
const live = computed(() => {
    if (!drawing.value) {
        return []
    }
    return [...drawing.value].sort((a, b) => a[0] - b[0]).map(([i, v]) => [timeOf(i), v] as [number, number])
})
const timeOf = (i: number) => Number((span.value[0] + ((span.value[1] - span.value[0]) * i) / POINTS).toPrecision(10))
let last: { i: number; v: number } | undefined
function put(event: PointerEvent) {
    const rect = box.value?.getBoundingClientRect()
    if (!rect || !drawing.value) {
        return
    }
    const share = Math.min(1, Math.max(0, (event.clientX - rect.left) / inner.value))
    const i = Math.round(share * POINTS)
    const raw = (1 - (event.clientY - rect.top - ABOVE) / Math.max(10, height.value - ABOVE - BELOW)) * top
    const v = Number(Math.min(top * 1.02, Math.max(0, raw)).toPrecision(3))
    // A quick hand leaves no gaps.
    const from = last ?? { i, v }
    const steps = Math.abs(i - from.i)
    for (let k = 0; k <= steps; k++) {
        const at = from.i + Math.sign(i - from.i) * k
        drawing.value.set(at, Number((from.v + ((v - from.v) * k) / Math.max(1, steps)).toPrecision(4)))
    }
    last = { i, v }
}
function press(event: PointerEvent) {
    if (event.button !== 0) {
        return
    }
    ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
    last = undefined
    drawing.value = new Map()
    put(event)
}
function release() {
    if (live.value.length) {
        emit('draw', live.value)
    }
    drawing.value = null
}
const spoken = computed(
    () => `Plot of the reference mode, from 0 to ${literal(top)}${unit ? ` ${unit}` : ''}. Points can also be typed, at the left.`,
)
function setTop(event: Event) {
    const value = Number((event.target as HTMLInputElement).value.replace(',', '.'))
    if (value > 0 && Number.isFinite(value)) {
        emit('top', value)
    }
}
</script>

<template>
    <div ref="box" class="drawing" @pointerdown="press" @pointermove="put" @pointerup="release" @pointercancel="drawing = null">
        <svg :width="width" :height="height" role="img" :aria-label="spoken">
            <path v-for="t in ticks" :key="t" :d="`M0 ${y(t)}H${inner}`" class="grid" />
            <path :d="`M0 ${y(0)}H${inner}`" class="zero" />
            <text v-for="t in ticks.filter((t) => t > 0 && y(t) > 34)" :key="`w${t}`" :x="5" :y="y(t) - 4" class="tick">
                {{ literal(Number(t.toPrecision(3))) }}
            </text>
            <g v-for="l in lines" :key="l.id">
                <path :d="l.path" class="course" :style="{ stroke: `var(${l.look.colour})`, strokeDasharray: l.look.dash.join(' ') }" />
                <circle v-for="(d, i) in l.dots" :key="i" :cx="d.x" :cy="d.y" r="2.4" class="seen" />
            </g>
            <path v-if="live.length" :d="path(live)" class="live" />
            <path :d="`M${x(view.playhead)} 0V${height}`" class="now" />
        </svg>
        <p
            v-for="l in lines"
            :key="`n${l.id}`"
            class="end"
            :style="{ left: `${Math.min(l.end.x, inner) + 8}px`, top: `${l.end.y - (l.end.x < inner - 40 ? 58 : 10)}px` }"
        >
            <b :style="{ color: `var(${l.look.colour})` }">{{ l.kind }}</b> {{ l.words }}
        </p>
        <label class="top" @pointerdown.stop
            ><span class="visually-hidden">Greatest value of the plot</span>
            <InputText class="bare" :model-value="literal(Number(top.toPrecision(3)))" @change="setTop" />{{ unit }}</label
        >
        <p v-if="!modes.length && !live.length" class="hint">
            Draw the course that is {{ kind }}: press here, and draw from left to right.
        </p>
    </div>
</template>

<style scoped>
.drawing {
    position: relative;
    min-width: 0;
    overflow: hidden;
    touch-action: none;
    cursor: crosshair;
}
svg {
    display: block;
}
.grid {
    stroke: var(--hairline);
    stroke-dasharray: 1 7;
    stroke-width: 1.4;
}
.zero {
    stroke: var(--line);
}
.tick {
    font-size: 12px;
    fill: var(--ink-soft);
}
.course {
    fill: none;
    stroke-width: 2;
}
.seen {
    fill: var(--ink);
}
.end {
    position: absolute;
    width: 90px;
    margin: 0;
    font-size: 12.5px;
    line-height: 1.25;
    color: var(--ink-soft);
    pointer-events: none;
}
.end b {
    display: block;
    font-size: 13.5px;
}
.live {
    fill: none;
    stroke: var(--ember);
    stroke-width: 2.4;
}
.now {
    stroke: var(--ember);
    stroke-width: 1.5;
}
.top {
    position: absolute;
    left: 2px;
    top: 2px;
    display: flex;
    align-items: center;
    font-size: 12.5px;
    color: var(--ink-soft);
    cursor: default;
}
.bare {
    width: 54px;
    min-height: 24px;
    padding: 0 3px;
    border: 0;
    border-bottom: 1px dotted var(--line);
    background: none;
    color: var(--ink);
    font-size: 12.5px;
}
.hint {
    position: absolute;
    left: 40%;
    top: 42%;
    transform: translate(-50%, -50%);
    margin: 0;
    text-align: center;
    color: var(--ink-soft);
    pointer-events: none;
}
</style>
