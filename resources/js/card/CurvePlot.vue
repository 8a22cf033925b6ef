<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api } from '@/api/client'
import type { Thing } from '@/api/types'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import { literal, short } from '@/ui/numbers'
import { moved, withPoint, type Pair } from './curvePoints'

const { thing, points } = defineProps<{ thing: Thing; points: Pair[] }>()
const emit = defineEmits<{ keep: [points: Pair[]] }>()
const model = useModel()
const runs = useRuns()
const view = useView()

const WIDTH = 300
const HEIGHT = 170
const held = ref(-1)
const draft = ref<Pair[] | null>(null)
const svg = ref<SVGSVGElement>()
const visits = ref<{ times: number[]; inputs: number[] } | null>(null)
const now = computed(() => draft.value ?? points)

// The frame stays while a point is dragged.
const frame = computed(() => {
    const axis = (values: number[], pad: number) => {
        const [low, high] = [Math.min(...values), Math.max(...values)]
        const span = high - low || Math.abs(high) || 1
        return { low: low - pad * span, span: span * (1 + 2 * pad) }
    }
    return {
        x: axis(
            points.map((p) => p[0]),
            0.04,
        ),
        y: axis([...points.map((p) => p[1]), 0], 0.08),
    }
})
const toX = (x: number) => ((x - frame.value.x.low) / frame.value.x.span) * WIDTH
const toY = (y: number) => HEIGHT - ((y - frame.value.y.low) / frame.value.y.span) * HEIGHT
const line = computed(() => {
    // While a point is dragged the joined points stand for the course that the engine draws.
    const list = draft.value ?? (thing.path?.length ? thing.path : points)
    return list.map(([x, y], i) => `${i ? 'L' : 'M'}${toX(x).toFixed(1)} ${toY(y).toFixed(1)}`).join('')
})

watch(
    [() => thing.id, () => runs.shown],
    async () => {
        visits.value = null
        if (thing.kind === 'curve' && runs.shown) {
            const [asked, run] = [thing.id, runs.shown]
            const list = await api.visits(model.id, thing.id, runs.ref).catch(() => [])
            // What was asked before may be answered after it.
            if (asked === thing.id && run === runs.shown) {
                visits.value = list[0] ?? null
            }
        }
    },
    { immediate: true },
)
const been = computed(() => {
    const inputs = visits.value?.inputs
    if (thing.kind !== 'curve' || !inputs?.length) {
        return null
    }
    const low = Math.min(...inputs)
    const high = Math.max(...inputs)
    return { low, high, x: toX(low), width: Math.max(1.5, toX(high) - toX(low)) }
})
/** The input at the playhead. */
const here = computed(() => {
    if (thing.kind === 'series') {
        return view.playhead
    }
    const { times, inputs } = visits.value ?? {}
    if (!times || !inputs) {
        return undefined
    }
    let i = 0
    while (i + 1 < times.length && (times[i + 1] as number) <= view.playhead) i++
    return inputs[i]
})

function at(event: { clientX: number; clientY: number }): Pair {
    const box = svg.value?.getBoundingClientRect()
    const share = box ? { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height } : { x: 0, y: 0 }
    return [frame.value.x.low + share.x * frame.value.x.span, frame.value.y.low + (1 - share.y) * frame.value.y.span]
}
function press(index: number, event: PointerEvent) {
    held.value = index
    ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
}
function drag(event: PointerEvent) {
    if (held.value >= 0) {
        draft.value = moved(points, held.value, ...at(event))
    }
}
function release() {
    if (held.value >= 0 && draft.value) {
        emit('keep', draft.value)
    }
    held.value = -1
    draft.value = null
}
function add(event: MouseEvent) {
    const [x, y] = at(event)
    const digits = (span: number) => Math.max(0, Math.min(12, 2 - Math.floor(Math.log10(span))))
    emit('keep', withPoint(points, Number(x.toFixed(digits(frame.value.x.span))), Number(y.toFixed(digits(frame.value.y.span)))))
}
function key(index: number, event: KeyboardEvent) {
    const step = { x: frame.value.x.span / 100, y: frame.value.y.span / 50 }
    const by: Record<string, Pair> = { ArrowLeft: [-step.x, 0], ArrowRight: [step.x, 0], ArrowUp: [0, step.y], ArrowDown: [0, -step.y] }
    const point = points[index]
    const move = by[event.key]
    if (move && point) {
        emit('keep', moved(points, index, point[0] + move[0], point[1] + move[1]))
    } else if ((event.key === 'Delete' || event.key === 'Backspace') && points.length > 2) {
        emit(
            'keep',
            points.filter((_, i) => i !== index),
        )
    } else {
        return
    }
    event.preventDefault()
}
const summary = computed(() => {
    const [first, last] = [points[0]?.[0] ?? 0, points.at(-1)?.[0] ?? 0]
    return `${thing.name}: ${points.length} points from x = ${literal(first)} to ${literal(last)}`
})
</script>

<template>
    <figure>
        <svg
            ref="svg"
            :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
            :aria-label="summary"
            role="group"
            @dblclick="add"
            @pointermove="drag"
            @pointerup="release"
        >
            <rect v-if="been" :x="been.x" y="0" :width="been.width" :height="HEIGHT" class="been">
                <title>The last run was here</title>
            </rect>
            <line x1="0" :x2="WIDTH" :y1="toY(0)" :y2="toY(0)" class="zero" />
            <line v-if="here !== undefined" :x1="toX(here)" :x2="toX(here)" y1="0" :y2="HEIGHT" class="here" />
            <path :d="line" class="course" />
            <circle
                v-for="(p, i) in now"
                :key="i"
                :cx="toX(p[0])"
                :cy="toY(p[1])"
                r="5"
                tabindex="0"
                role="slider"
                :aria-label="`Point ${i + 1}`"
                :aria-valuenow="p[1]"
                :aria-valuetext="`x ${literal(p[0])}, y ${literal(p[1])}`"
                :class="{ held: held === i }"
                @pointerdown.stop.prevent="press(i, $event)"
                @keydown="key(i, $event)"
            >
                <title>{{ literal(p[0]) }} → {{ literal(p[1]) }}</title>
            </circle>
        </svg>
        <figcaption class="soft">
            <template v-if="held >= 0 && now[held]">{{ literal(now[held]![0]) }} → {{ literal(now[held]![1]) }}</template
            ><template v-else-if="been">The last run was between {{ short(been.low) }} and {{ short(been.high) }}.</template
            ><template v-else>Drag points; double-click adds one, Delete takes one away.</template>
        </figcaption>
    </figure>
</template>

<style scoped>
figure {
    margin: 0;
}
svg {
    display: block;
    width: 100%;
    border: 1px solid var(--line);
    border-radius: 8px;
    background: var(--paper);
    touch-action: none;
    overflow: hidden;
}
.been {
    fill: var(--ribbon-tint);
    opacity: 0.7;
}
.zero {
    stroke: var(--hairline);
}
.here {
    stroke: var(--ember);
    stroke-width: 1.3;
}
.course {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.8;
}
circle {
    fill: var(--card);
    stroke: var(--ink);
    stroke-width: 1.6;
    cursor: move;
}
circle:hover,
circle.held {
    fill: var(--ink);
}
figcaption {
    min-height: 19px;
    margin-top: 3px;
    font-size: 13px;
}
</style>
