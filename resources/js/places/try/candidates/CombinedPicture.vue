<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Combined } from '@/api/types'
import { lookOf } from '@/charts/lines'
import { scaleFor, share, ticksOf } from '@/charts/scale'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { shownUnit, tickWords } from '@/ui/numbers'
import { nameOf } from './combined'

/** The courses of all combinations; few have a hue and a name each, many are a bundle of which the pointer names one. */
const { told } = defineProps<{ told: Combined }>()
const model = useModel()
const look = useLook()
const view = useView()
const NAMED = 8
const W = 460
const H = 230
const L = 56
const R = 8
const F = 24
const unit = computed(() => model.model.elements[look.ownerOf(told.of)]?.unit ?? '')
const name = computed(() => look.nameOf(told.of) ?? '')
const courses = computed(() => told.courses.flatMap((c, i) => (c ? [{ i, values: c }] : [])))
const few = computed(() => courses.value.length <= NAMED)
const scale = computed(() => {
    const all = courses.value.flatMap((c) => c.values.filter((v): v is number => v !== null))
    return scaleFor([Math.min(...all), Math.max(...all)], { zero: true }, 4)
})
const ticks = computed(() => {
    const values = ticksOf(scale.value)
    const words = tickWords(values, unit.value)
    return values.map((v, i) => ({ v, words: words[i] }))
})
const { start, end } = model.model.time
const x = (t: number) => L + ((t - start) / (end - start)) * (W - L - R)
const y = (v: number) => 8 + (1 - share(scale.value, v)) * (H - F - 8)
const line = (values: readonly (number | null)[]) =>
    values
        .map((v, k) => (v === null ? '' : `${x(told.times[k] as number).toFixed(1)} ${y(v).toFixed(1)}`))
        .filter(Boolean)
        .join('L')
        .replace(/^(?=.)/, 'M')
const pointed = ref(-1)
const colour = (i: number) => (few.value ? `var(${lookOf(i).colour})` : 'var(--ink-soft)')
const dash = (i: number) => (few.value ? lookOf(i).dash.join(' ') || undefined : undefined)
</script>

<template>
    <figure>
        <figcaption>
            <b>{{ name }}</b> over time<template v-if="shownUnit(unit)">, in {{ shownUnit(unit) }}</template
            ><span v-if="pointed >= 0" class="soft"> · {{ nameOf(told, pointed, model) }}</span>
        </figcaption>
        <svg
            :width="W"
            :height="H"
            role="img"
            :aria-label="`${name} over time in ${courses.length} combinations`"
            @pointerleave="pointed = -1"
        >
            <g v-for="t in ticks" :key="t.v">
                <line class="grid" :x1="L" :x2="W - R" :y1="y(t.v)" :y2="y(t.v)" />
                <text :x="L - 6" :y="y(t.v) + 4" text-anchor="end">{{ t.words }}</text>
            </g>
            <path
                v-for="c in courses"
                :key="c.i"
                :d="line(c.values)"
                class="course"
                :class="{ on: pointed === c.i, faint: !few && pointed !== c.i }"
                :style="{ stroke: pointed === c.i ? 'var(--ember)' : colour(c.i) }"
                :stroke-dasharray="dash(c.i)"
                @pointerenter="pointed = c.i"
            />
            <line class="now" :x1="x(view.playhead)" :x2="x(view.playhead)" y1="8" :y2="H - F" />
            <text :x="L" :y="H - 6">{{ model.moment(start) }}</text>
            <text :x="W - R" :y="H - 6" text-anchor="end">{{ model.moment(end, false) }}</text>
        </svg>
        <ul v-if="few">
            <li v-for="c in courses" :key="c.i">
                <svg width="24" height="8" aria-hidden="true">
                    <line x1="0" x2="24" y1="4" y2="4" :stroke="colour(c.i)" stroke-width="2" :stroke-dasharray="dash(c.i)" /></svg
                >{{ nameOf(told, c.i, model) }}
            </li>
        </ul>
    </figure>
</template>

<style scoped>
figure {
    margin: 0;
}
figcaption {
    font-size: 13.5px;
    min-height: 20px;
}
text {
    font-size: 12px;
    fill: var(--ink-soft);
}
.grid {
    stroke: var(--hairline);
}
.course {
    fill: none;
    stroke-width: 1.6;
}
.course.faint {
    stroke-width: 1;
    opacity: 0.5;
}
.course.on {
    stroke-width: 2.6;
}
.now {
    stroke: var(--ember);
    stroke-width: 1.4;
    pointer-events: none;
}
ul {
    list-style: none;
    display: flex;
    flex-wrap: wrap;
    gap: 2px 14px;
    padding: 2px 0 0 56px;
    font-size: 12.5px;
    max-width: 460px;
}
li {
    display: inline-flex;
    align-items: center;
    gap: 6px;
}
</style>
