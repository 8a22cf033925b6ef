<script setup lang="ts">
import { computed } from 'vue'
import type { Nudged } from '@/api/types'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { short, signed, withUnit } from '@/ui/numbers'

type Effect = Nudged['effects'][number]

/** One input: what it does to the course of the outcome’s variable, and to the outcome. */
const { effect, base, at, times, course, reach, most, unit, own } = defineProps<{
    effect: Effect
    /** The outcome of the run as it is. */ base: number | null
    /** Which outcome. */ at: number
    times: number[]
    course: readonly (number | null)[]
    /** How far a strip goes up and down. */ reach: number
    /** How far the longest bar goes. */ most: number
    unit: string
    /** The unit of the input. */ own: string
}>()
const model = useModel()
const view = useView()
const WIDTH = 400
const HEIGHT = 26
const x = (t: number) => {
    const { start, end } = model.model.time
    return ((t - start) / (end - start)) * WIDTH
}
const y = (d: number) => HEIGHT / 2 - Math.max(-1, Math.min(1, d / (reach || 1))) * (HEIGHT / 2 - 1)
function line(values: readonly (number | null)[] | null): string {
    return (values ?? [])
        .map((v, i) => {
            const b = course[i]
            return v === null || b === null || b === undefined ? '' : `${x(times[i] as number).toFixed(1)} ${y(v - b).toFixed(1)}`
        })
        .filter(Boolean)
        .join('L')
        .replace(/^(?=.)/, 'M')
}
const lower = computed(() => line(effect.lower))
const higher = computed(() => line(effect.higher))
const filled = computed(() => (higher.value ? `${higher.value}L${WIDTH} ${HEIGHT / 2}L0 ${HEIGHT / 2}Z` : ''))
const result = computed(() => effect.results[at])
const moved = (end: 'low' | 'high') => {
    const value = result.value?.[end]
    return value === null || value === undefined || base === null ? null : value - base
}
const bars = computed(() =>
    (['high', 'low'] as const).map((end, i) => {
        const by = moved(end)
        const part = by === null || most === 0 ? 0 : by / most
        return {
            end,
            by,
            top: 3 + i * 11,
            left: `${50 + Math.min(0, part) * 32}%`,
            width: `${Math.abs(part) * 32}%`,
            label: by === null ? 'fault' : signed(by, { unit, size: most }),
            at: `${50 + part * 32}%`,
            isLeft: part < 0,
        }
    }),
)
/** What one would not expect of a straight line. */
const marks = computed(() => {
    const said = []
    const up = moved('high') ?? 0
    if (result.value?.shape === 'same way') {
        said.push({ words: up > 0 ? 'both more' : 'both less', title: 'Less of it and more of it move the outcome the same way' })
    } else if (result.value?.shape === 'one-sided') {
        said.push({ words: 'one-sided', title: 'One end moves the outcome more than four times as far as the other' })
    } else if (result.value?.shape === 'unknown') {
        said.push({ words: 'a fault', title: 'A run at one of the ends meets a numeric fault' })
    }
    if (effect.swings) {
        said.push({ words: 'swings', title: 'At one of the ends the course swings where it did not before' })
    }
    return said
})
const spoken = computed(
    () =>
        `${effect.name}: a little less ${bars.value[1]?.label ?? ''}, a little more ${bars.value[0]?.label ?? ''}${marks.value.map((m) => `, ${m.title}`).join('')}`,
)
const now = computed(() => x(view.playhead))
const valueWords = computed(() =>
    effect.value === null ? (effect.kind === 'curve' ? 'the whole curve' : 'all elements') : withUnit(effect.value, own),
)
const ends = computed(() =>
    effect.low === null || effect.high === null ? '' : `${short(effect.low, { unit: own })} to ${short(effect.high, { unit: own })}`,
)
</script>

<template>
    <div class="nudge-row">
        <span class="name" :title="effect.note || `from ${ends}`"
            ><slot /> <small v-if="effect.kind === 'initial'" class="soft">at start</small></span
        >
        <span class="value soft" :title="ends ? `it goes from ${ends}` : ''">{{ valueWords }}</span>
        <svg class="strip" :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" preserveAspectRatio="none" aria-hidden="true">
            <path :d="filled" class="fill" />
            <line x1="0" :x2="WIDTH" :y1="HEIGHT / 2" :y2="HEIGHT / 2" class="zero" />
            <path :d="lower" class="lower" vector-effect="non-scaling-stroke" />
            <path :d="higher" class="higher" vector-effect="non-scaling-stroke" />
            <line :x1="now" :x2="now" y1="0" :y2="HEIGHT" class="now" vector-effect="non-scaling-stroke" />
        </svg>
        <span class="bars" role="img" :aria-label="spoken">
            <i class="middle" />
            <template v-for="b in bars" :key="b.end">
                <i class="bar" :class="b.end" :style="{ top: `${b.top}px`, left: b.left, width: b.width }" />
                <small :class="{ left: b.isLeft }" :style="{ top: `${b.top - 3}px`, left: b.at }">{{ b.label }}</small>
            </template>
        </span>
        <span class="marks"
            ><small v-for="m in marks" :key="m.words" :title="m.title">{{ m.words }}</small></span
        >
    </div>
</template>

<style scoped>
.nudge-row {
    display: grid;
    grid-template-columns: subgrid;
    grid-column: 1 / -1;
    align-items: center;
    min-height: 30px;
}
.name {
    min-width: 0;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
.value {
    font-size: 12.5px;
    text-align: right;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
}
.strip {
    width: 100%;
    height: 26px;
    overflow: visible;
}
.fill {
    fill: color-mix(in srgb, var(--ink) 9%, transparent);
}
.zero {
    stroke: var(--hairline);
}
.higher {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.5;
}
.lower {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.1;
    stroke-dasharray: 3 3;
}
.now {
    stroke: var(--ember);
    stroke-width: 1.5;
}
.bars {
    position: relative;
    height: 28px;
}
.middle {
    position: absolute;
    left: 50%;
    top: -1px;
    bottom: -1px;
    border-left: 1px solid var(--line);
}
.bar {
    position: absolute;
    height: 9px;
    min-width: 1px;
}
.bar.high {
    background: var(--ink);
}
.bar.low {
    border: 1.2px solid var(--ink);
    background: var(--card);
}
.bars small {
    position: absolute;
    margin-left: 4px;
    font-size: 11.5px;
    line-height: 15px;
    white-space: nowrap;
    font-variant-numeric: tabular-nums;
}
.bars small.left {
    translate: -100% 0;
    margin-left: -4px;
}
.marks {
    display: flex;
    flex-wrap: wrap;
    gap: 3px;
}
.marks small {
    padding: 0 5px;
    border: 1px solid var(--ochre);
    border-radius: 5px;
    color: var(--ochre);
    font-size: 11.5px;
    white-space: nowrap;
}
</style>
