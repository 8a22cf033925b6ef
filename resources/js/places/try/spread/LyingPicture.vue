<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Lying } from '@/api/types'
import { share, ticksOf, type Scale } from '@/charts/scale'
import { short, shownUnit, tickWords, withUnit } from '@/ui/numbers'

/** How one number of many runs lies, along the axis of the picture beside it or along one of its own. */
const { lying, scale, unit, shape, shares, title } = defineProps<{
    lying: Lying
    scale: Scale
    unit: string
    shape: 'density' | 'histogram' | 'cumulative'
    /** Whether the axis is that of the picture beside it. */ shares: boolean
    title: string
}>()
const above = defineModel<number | null>('above', { required: true })
const box = ref<HTMLElement>()
const { width, height } = useElementSize(box, { width: 260, height: 300 })
const TOP = 8
const FOOT = 22
const left = computed(() => (shares ? 64 : 96))
const room = computed(() => Math.max(40, width.value - left.value - 8))
const tall = computed(() => Math.max(40, height.value - TOP - FOOT))
const y = (v: number) => TOP + (1 - share(scale, v)) * tall.value
const most = computed(() =>
    shape === 'cumulative'
        ? 1
        : shape === 'histogram'
          ? Math.max(1, ...lying.histogram.map((b) => b[2] as number))
          : Math.max(1e-300, ...lying.density.map((d) => d[1] as number)),
)
const x = (d: number) => left.value + (d / most.value) * room.value
const at = (v: number, d: number) => `${x(d).toFixed(1)} ${y(v).toFixed(1)}`
const outline = computed(() => {
    const points =
        shape === 'density'
            ? lying.density.map(([v, d]) => at(v as number, d as number))
            : lying.cumulative.map(([v, s]) => at(v as number, s as number))
    const first = shape === 'density' ? lying.density : lying.cumulative
    const [low, high] = [first[0]?.[0] as number, first.at(-1)?.[0] as number]
    if (!points.length) {
        return ''
    }
    return shape === 'density'
        ? `M${left.value} ${y(low).toFixed(1)}L${points.join('L')}L${left.value} ${y(high).toFixed(1)}Z`
        : `M${points.join('L')}`
})
const bars = computed(() =>
    shape === 'histogram'
        ? lying.histogram.map(([from, to, n]) => ({
              y: y(to as number),
              height: Math.max(1, y(from as number) - y(to as number) - 1),
              width: x(n as number) - left.value,
              words: `${n} runs from ${short(from, { unit })} to ${short(to, { unit })}`,
          }))
        : [],
)
const percentiles = computed(() =>
    (['95', '75', '50', '25', '5'] as const).flatMap((p) => {
        const v = lying.percentiles?.[p]
        return v === undefined ? [] : [{ p, v, y: y(v) }]
    }),
)
/** Labels of percentiles that lie close together stand apart. */
const labels = computed(() => {
    const all = percentiles.value.map((p) => ({ ...p, at: p.y }))
    all.forEach((l, i) => {
        l.at = Math.max(l.at, (all[i - 1]?.at ?? -20) + 13)
    })
    const over = Math.max(0, (all.at(-1)?.at ?? 0) - (TOP + tall.value))
    return all.map((l) => ({ ...l, at: l.at - over }))
})
const ticks = computed(() => {
    const values = shares ? [] : ticksOf(scale)
    const words = tickWords(values, unit)
    return values.map((v, i) => ({ v, words: words[i] }))
})
const percent = (s: number) => `${s > 0 && s < 0.001 ? '< 0.1' : short(s, { unit: '%', digits: 2 })} %`
const sure = computed(() => {
    const a = lying.above
    return a ? `likely ${percent(a.low)} to ${percent(a.high)}` : ''
})
/** Where fewer runs lie there is room for words. */
const isTopHeavy = computed(() => {
    const middle = (scale.low + scale.high) / 2
    return (
        lying.density.filter(([v]) => (v as number) > middle).reduce((sum, [, d]) => sum + (d as number), 0) * 2 >
        lying.density.reduce((sum, [, d]) => sum + (d as number), 0)
    )
})
const foot = computed(() =>
    shape === 'density'
        ? `runs, smoothed over ${withUnit(lying.smoothed_over, unit, { digits: 2 })}`
        : shape === 'histogram'
          ? `runs in each bar, up to ${most.value}`
          : 'share of runs that are not above',
)
const spoken = computed(
    () =>
        `${title}: in ${lying.runs} runs mean ${withUnit(lying.mean, unit)}, standard deviation ${short(lying.sd, { unit })}, ${percentiles.value.map((p) => `${p.p} % are not above ${short(p.v, { unit })}`).join(', ')}`,
)
const typed = (text: string) => {
    const value = Number(text.replace('−', '-'))
    above.value = text.trim() !== '' && Number.isFinite(value) ? value : null
}
</script>

<template>
    <div class="lying">
        <div ref="box" class="box">
            <svg :width="width" :height="height" role="img" :aria-label="spoken">
                <clipPath id="within-plane"><rect :x="left - 1" :y="TOP - 6" :width="room + 10" :height="tall + 6" /></clipPath>
                <clipPath id="above-limit">
                    <rect :x="left" :y="0" :width="room + 10" :height="above === null ? 0 : Math.max(0, y(above))" />
                </clipPath>
                <g v-for="t in ticks" :key="t.v">
                    <line class="grid" :x1="left" :x2="left + room" :y1="y(t.v)" :y2="y(t.v)" />
                    <text x="46" :y="y(t.v) + 4" text-anchor="end">{{ t.words }}</text>
                </g>
                <template v-if="shape === 'histogram'">
                    <rect v-for="(b, i) in bars" :key="i" class="bar" :x="left" :y="b.y" :width="b.width" :height="b.height">
                        <title>{{ b.words }}</title>
                    </rect>
                </template>
                <template v-else>
                    <path :d="outline" :class="shape" clip-path="url(#within-plane)" />
                    <path v-if="shape === 'density' && above !== null" :d="outline" class="over" clip-path="url(#above-limit)" />
                </template>
                <line class="axis" :x1="left" :x2="left" :y1="TOP" :y2="TOP + tall" />
                <g v-if="percentiles.length === 5">
                    <line class="reach" :x1="left - 7" :x2="left - 7" :y1="percentiles[0]?.y" :y2="percentiles[4]?.y" />
                    <line class="inner" :x1="left - 7" :x2="left - 7" :y1="percentiles[1]?.y" :y2="percentiles[3]?.y" />
                    <line class="median" :x1="left - 12" :x2="left - 2" :y1="percentiles[2]?.y" :y2="percentiles[2]?.y" />
                </g>
                <text v-for="l in labels" :key="l.p" :x="left - 15" :y="l.at + 4" text-anchor="end" :class="{ strong: l.p === '50' }">
                    <title>{{ l.p }} % of the runs are not above {{ withUnit(l.v, unit) }}</title>
                    {{ l.p }} %
                </text>
                <line v-if="above !== null" class="limit" :x1="left - 4" :x2="left + room" :y1="y(above)" :y2="y(above)" />
                <circle v-if="lying.central !== null && shares" class="dot" :cx="left" :cy="y(lying.central)" r="4" />
                <text :x="left" :y="TOP + tall + 17">{{ foot }}</text>
            </svg>
            <p v-if="lying.above && above !== null" class="share" :class="{ low: isTopHeavy }">
                <b>{{ percent(lying.above.share) }}</b>
                have more than {{ withUnit(above, unit) }}
                <small class="soft" title="Wilson’s interval of 95 %, as if the runs were drawn by plain chance">{{ sure }}</small>
            </p>
        </div>
        <label class="ask soft"
            >More than
            <InputText
                class="field"
                inputmode="decimal"
                :model-value="above === null ? '' : String(above)"
                placeholder="how much?"
                aria-label="How many runs have more than"
                @change="typed(($event.target as HTMLInputElement).value)"
            />
            {{ shownUnit(unit) }}</label
        >
    </div>
</template>

<style scoped>
.lying {
    display: grid;
    grid-template-rows: minmax(0, 1fr) auto;
    min-width: 0;
    min-height: 0;
}
.box {
    position: relative;
    min-height: 0;
    overflow: hidden;
}
svg {
    position: absolute;
    inset: 0;
    display: block;
}
text {
    font-size: 12px;
    fill: var(--ink-soft);
}
text.strong {
    font-weight: 700;
    fill: var(--ink);
}
.grid {
    stroke: var(--hairline);
}
.axis {
    stroke: var(--line);
}
.density {
    fill: color-mix(in srgb, var(--basin) 16%, transparent);
    stroke: var(--basin);
    stroke-width: 1.4;
}
.over {
    fill: color-mix(in srgb, var(--basin) 30%, transparent);
}
.cumulative {
    fill: none;
    stroke: var(--basin);
    stroke-width: 1.8;
}
.bar {
    fill: color-mix(in srgb, var(--basin) 38%, transparent);
}
.reach {
    stroke: color-mix(in srgb, var(--basin) 40%, transparent);
    stroke-width: 7;
}
.inner {
    stroke: var(--basin);
    stroke-width: 7;
}
.median,
.limit {
    stroke: var(--ink);
    stroke-width: 2;
}
.limit {
    stroke-width: 1;
    stroke-dasharray: 2 4;
}
.dot {
    fill: var(--ember);
}
.share {
    position: absolute;
    right: 8px;
    top: 10px;
    max-width: 190px;
    text-align: right;
    font-size: 13px;
    line-height: 1.25;
    padding: 2px 4px;
    border-radius: 6px;
    background: color-mix(in srgb, var(--paper) 78%, transparent);
}
.share.low {
    top: auto;
    bottom: 30px;
}
.share b {
    display: block;
    font-size: 24px;
    line-height: 1.1;
}
.share small {
    display: block;
    font-size: 12px;
}
.ask {
    display: flex;
    align-items: center;
    gap: 6px;
    padding: 2px 8px 0 10px;
    font-size: 12.5px;
}
.field {
    width: 92px;
    min-height: 26px;
    padding: 1px 7px;
    color: var(--ink);
}
</style>
