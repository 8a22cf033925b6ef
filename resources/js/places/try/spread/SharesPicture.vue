<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue'
import { uncertain } from '@/api/uncertain'
import type { Ensemble, SharesOver } from '@/api/types'
import { apart } from '@/charts/endNames'
import { lookOf } from '@/charts/lines'
import { scaleFor, share, ticksOf } from '@/charts/scale'
import { useTimeMarks } from '@/charts/useTimeMarks'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { short, shownUnit, tickWords } from '@/ui/numbers'

/** How much each input matters for a variable as time goes on: parts of its variance lie on each other, sizes of steps beside. */
const { ensemble, of } = defineProps<{ ensemble: Ensemble; of: string }>()
const model = useModel()
const look = useLook()
const view = useView()
const NAMED = 7
const W = 470
const H = 230
const L = 46
const R = 142
const T = 8
const F = 22

const told = shallowRef<SharesOver | null>(null)
let mine = 0
watch(
    [() => ensemble.id, () => ensemble.done, () => of],
    async () => {
        const ticket = ++mine
        const answer = await uncertain.shares(model.id, ensemble.id, of).catch(() => null)
        if (ticket === mine) {
            told.value = answer
        }
    },
    { immediate: true },
)
const name = computed(() => look.nameOf(of) ?? '')
const unit = computed(() => model.model.elements[look.ownerOf(of)]?.unit ?? '')
const isStacked = computed(() => told.value?.using !== 'morris')
const sum = (values: readonly (number | null)[]) => values.reduce((s: number, v) => s + Math.max(0, v ?? 0), 0)
/** Those that matter most at any time, each with its own hue; all others are one. */
const layers = computed(() => {
    const all = (told.value?.inputs ?? [])
        .map((i) => ({
            name: look.nameOf(i.key) ?? 'something that is gone',
            shares: i.shares.map((v) => (v === null ? null : Math.max(0, v))),
        }))
        .map((l) => ({ ...l, size: sum(l.shares) }))
        .sort((a, b) => b.size - a.size)
    const rest = isStacked.value ? all.slice(NAMED) : []
    return [
        ...all.slice(0, NAMED).map((l, i) => ({ ...l, look: i })),
        ...(rest.length
            ? [
                  {
                      name: `${rest.length} others`,
                      shares: (told.value?.times ?? []).map((_, k) => sum(rest.map((l) => l.shares[k] ?? null))),
                      size: 0,
                      look: NAMED,
                  },
              ]
            : []),
    ]
})
/** From where to where each layer goes at each moment; where shares come to more than all by chance they are brought to all. */
const stacked = computed(() => {
    const totals = (told.value?.times ?? []).map((_, k) => sum(layers.value.map((l) => l.shares[k] ?? null)))
    const base = totals.map(() => 0)
    return layers.value.map((l) => ({
        ...l,
        spans: l.shares.map((v, k) => {
            if (v === null) {
                return null
            }
            const from = isStacked.value ? (base[k] as number) : 0
            const part = isStacked.value ? v / Math.max(1, totals[k] as number) : v
            base[k] = from + part
            return [from, from + part] as const
        }),
    }))
})
const scale = computed(() =>
    isStacked.value
        ? { low: 0, high: 1, log: false, step: 0.25 }
        : scaleFor([0, Math.max(...layers.value.flatMap((l) => l.shares.map((v) => v ?? 0)), 1e-300)], { zero: true }, 4),
)
const ticks = computed(() => {
    const values = isStacked.value ? [0, 0.25, 0.5, 0.75, 1] : ticksOf(scale.value)
    const words = isStacked.value ? values.map((v) => `${100 * v} %`) : tickWords(values, unit.value)
    return values.map((v, i) => ({ v, words: words[i] }))
})
const span = computed<[number, number]>(() => [model.model.time.start, model.model.time.end])
const { marks } = useTimeMarks(
    span,
    computed(() => W - L - R),
)
const x = (t: number) => L + ((t - span.value[0]) / (span.value[1] - span.value[0])) * (W - L - R)
const y = (v: number) => T + (1 - share(scale.value, v)) * (H - T - F)
function shape(spans: (readonly [number, number] | null)[]): string {
    const points = spans.flatMap((s, k) => (s ? [[told.value?.times[k] as number, ...s] as const] : []))
    const up = points.map(([t, , to]) => `${x(t).toFixed(1)} ${y(to).toFixed(1)}`)
    const down = isStacked.value ? [...points].reverse().map(([t, from]) => `${x(t).toFixed(1)} ${y(from).toFixed(1)}`) : []
    return points.length ? `M${[...up, ...down].join('L')}${isStacked.value ? 'Z' : ''}` : ''
}
/** The moment that is nearest to the playhead, among those that are told. */
const now = computed(() => {
    const times = told.value?.times ?? []
    return times.reduce((best, t, k) => (Math.abs(t - view.playhead) < Math.abs((times[best] ?? 0) - view.playhead) ? k : best), 0)
})
const names = computed(() => {
    const shown = stacked.value.filter((l) => l.size > 0 || l.look === NAMED)
    const wanted = shown.map((l) => {
        const last = [...l.spans].reverse().find((s) => s !== null) ?? [0, 0]
        return y(isStacked.value ? (last[0] + last[1]) / 2 : last[1])
    })
    const places = apart(wanted, 15, H - F)
    return shown.map((l, i) => {
        const v = l.shares[now.value] ?? null
        const words = v === null ? '' : isStacked.value ? `${short(100 * v, { digits: 2 })} %` : short(v, { unit: unit.value })
        return { name: l.name, words, look: l.look, y: places[i] as number }
    })
})
const title = computed(() =>
    told.value?.using === 'morris'
        ? `Size of a step’s effect on ${name.value}${shownUnit(unit.value) ? ` in ${shownUnit(unit.value)}` : ''}, over time`
        : `Parts of the variance of ${name.value} over time`,
)
const note = computed(() => {
    const at = told.value
        ? `Numbers are of ${model.moment(told.value.times[now.value] ?? 0)}, from ${told.value.runs.toLocaleString()} runs. `
        : ''
    return told.value?.using === 'regression'
        ? `${at}As far as straight lines explain it; what is blank they do not.`
        : told.value?.using === 'indices'
          ? `${at}By each input itself; what is blank comes from inputs that act together.`
          : at
})
const colour = (i: number) => (i === NAMED ? 'var(--ink-soft)' : `var(${lookOf(i).colour})`)
function moveTo(event: PointerEvent) {
    if (event.type === 'pointermove' && event.buttons !== 1) {
        return
    }
    const box = (event.currentTarget as Element).getBoundingClientRect()
    const part = Math.min(1, Math.max(0, (event.clientX - box.left - L) / (W - L - R)))
    view.playhead = span.value[0] + part * (span.value[1] - span.value[0])
}
</script>

<template>
    <figure v-if="told && layers.length">
        <h3>{{ title }}</h3>
        <svg :width="W" :height="H" role="img" :aria-label="`${title}. ${note}`" @pointerdown="moveTo" @pointermove="moveTo">
            <path
                v-for="l in stacked"
                :key="l.name"
                :class="isStacked ? 'layer' : 'line'"
                :d="shape(l.spans)"
                :style="{ '--hue': colour(l.look) }"
                :stroke-dasharray="isStacked ? undefined : lookOf(l.look).dash.join(' ') || undefined"
            />
            <g v-for="t in ticks" :key="t.v">
                <line class="grid" :x1="L" :x2="W - R" :y1="y(t.v)" :y2="y(t.v)" />
                <text :x="L - 6" :y="y(t.v) + 4" text-anchor="end">{{ t.words }}</text>
            </g>
            <line class="axis" :x1="L" :x2="L" :y1="T" :y2="H - F" />
            <g v-for="m in marks" :key="m.time">
                <line class="axis" :x1="x(m.time)" :x2="x(m.time)" :y1="H - F" :y2="H - F + (m.words ? 6 : 3)" />
                <text v-if="m.words" :x="x(m.time) + 3" :y="H - F + 16">{{ m.words }}</text>
            </g>
            <line
                v-if="view.playhead >= span[0] && view.playhead <= span[1]"
                class="now"
                :x1="x(view.playhead)"
                :x2="x(view.playhead)"
                :y1="T"
                :y2="H - F"
            />
            <text v-for="n in names" :key="n.name" class="name" :x="W - R + 8" :y="n.y + 4" :style="{ '--hue': colour(n.look) }">
                <title>{{ n.name }}</title>
                <tspan class="swatch">■</tspan>
                {{ n.name.length > 15 ? `${n.name.slice(0, 14)}…` : n.name }}
                <tspan class="value">{{ n.words }}</tspan>
            </text>
        </svg>
        <figcaption class="soft">{{ note }}</figcaption>
    </figure>
</template>

<style scoped>
figure {
    margin: 0;
}
h3 {
    font-size: 13.5px;
    font-weight: 700;
}
svg {
    display: block;
    cursor: ew-resize;
    touch-action: none;
}
figcaption {
    max-width: 470px;
    font-size: 12.5px;
}
text {
    font-size: 12px;
    fill: var(--ink-soft);
}
.name {
    fill: var(--ink);
}
.swatch {
    fill: var(--hue);
}
.value {
    font-weight: 700;
}
.layer {
    fill: color-mix(in srgb, var(--hue) 55%, var(--card));
    stroke: var(--card);
    stroke-width: 1;
}
.line {
    fill: none;
    stroke: var(--hue);
    stroke-width: 1.7;
}
.grid {
    stroke: var(--hairline);
}
.axis {
    stroke: var(--line);
}
.now {
    stroke: var(--ember);
    stroke-width: 1.8;
}
</style>
