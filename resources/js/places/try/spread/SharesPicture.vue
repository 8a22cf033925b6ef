<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue'
import { uncertain } from '@/api/uncertain'
import type { Ensemble, SharesOver } from '@/api/types'
import { apart } from '@/charts/endNames'
import { lookOf } from '@/charts/lines'
import { bandPath, linePath, usePlayheadPull } from '@/charts/plane'
import { scaleFor, share } from '@/charts/scale'
import TimeAxis from '@/charts/TimeAxis.vue'
import ValueAxis from '@/charts/ValueAxis.vue'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { short, shownUnit } from '@/ui/numbers'

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
const perCent = (v: number) => `${100 * v} %`
const span = computed<[number, number]>(() => [model.model.time.start, model.model.time.end])
const x = (t: number) => L + ((t - span.value[0]) / (span.value[1] - span.value[0])) * (W - L - R)
const y = (v: number) => T + (1 - share(scale.value, v)) * (H - T - F)
function shape(spans: (readonly [number, number] | null)[]): string {
    const times = told.value?.times ?? []
    const tops = spans.map((s) => s?.[1])
    return isStacked.value
        ? bandPath(
              { x, y },
              times,
              spans.map((s) => s?.[0]),
              tops,
          )
        : linePath({ x, y }, times, tops)
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
const { press, drag } = usePlayheadPull(() => ({ span: span.value, left: L, width: W - L - R }))
</script>

<template>
    <figure v-if="told && layers.length">
        <h3>{{ title }}</h3>
        <svg :width="W" :height="H" role="img" :aria-label="`${title}. ${note}`" @pointerdown="press" @pointermove="drag">
            <path
                v-for="l in stacked"
                :key="l.name"
                :class="isStacked ? 'layer' : 'line'"
                :d="shape(l.spans)"
                :style="{ '--hue': colour(l.look) }"
                :stroke-dasharray="isStacked ? undefined : lookOf(l.look).dash.join(' ') || undefined"
            />
            <ValueAxis :scale="scale" :unit="unit" :left="L" :width="W - L - R" :y="y" :words="isStacked ? perCent : undefined" />
            <line class="axis" :x1="L" :x2="L" :y1="T" :y2="H - F" />
            <TimeAxis :span="span" :left="L" :width="W - L - R" :top="T" :foot="H - F" />
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
.axis {
    stroke: var(--line);
}
</style>
