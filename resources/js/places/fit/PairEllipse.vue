<script setup lang="ts">
import { computed } from 'vue'
import type { Calibrated } from '@/api/types'
import { useFits } from '@/stores/fits'
import { isOf } from '@/stores/fitting'
import { short, shownUnit } from '@/ui/numbers'

/** Two numbers that can hardly be told apart: where both lie together. */
const { fit, one, other, r } = defineProps<{ fit: Calibrated; one: number; other: number; r: number }>()
const fits = useFits()
const [WIDE, TALL] = [118, 96]
/** Roots of the quantiles of chi-square with two degrees of freedom: half, and 19 in 20. */
const RINGS = [
    { at: Math.sqrt(-2 * Math.log(0.05)), words: '19 times in 20' },
    { at: Math.sqrt(-2 * Math.log(0.5)), words: 'half of the time' },
]
const name = (j: number) => fit.numbers[j]?.name ?? ''
const unit = (j: number) => fit.numbers[j]?.unit ?? ''
const middle = (j: number) => fit.result?.point[j] ?? 0
const error = (j: number) => fit.result?.parameters[j]?.standard_error ?? 0
const reach = Math.sqrt(-2 * Math.log(0.05)) * 1.08
const ends = (j: number) => [middle(j) - reach * error(j), middle(j) + reach * error(j)] as const
const x = (u: number) => 8 + ((u / reach + 1) / 2) * (WIDE - 16)
const y = (v: number) => 6 + (1 - (v / reach + 1) / 2) * (TALL - 12)
const ring = (at: number) =>
    `${Array.from({ length: 49 }, (_, k) => {
        const angle = (k / 48) * 2 * Math.PI
        const u = at * Math.cos(angle)
        const v = at * (r * Math.cos(angle) + Math.sqrt(Math.max(0, 1 - r * r)) * Math.sin(angle))
        return `${k ? 'L' : 'M'}${x(u).toFixed(1)} ${y(v).toFixed(1)}`
    }).join('')}Z`
const told = computed(
    () => `More of ${name(one)} is met by ${r > 0 ? 'more' : 'less'} of ${name(other)}: what lies in the outer ring fits 19 times in 20.`,
)
/** Held, the other one is told by the data. */
const hold = (j: number) => {
    const number = fit.numbers[j]
    void fits.setFree((list) => list.filter((f) => !number || !isOf(number, f)))
}
</script>

<template>
    <h2>Cannot be told apart</h2>
    <div class="pair">
        <figure>
            <figcaption class="soft">{{ name(other) }}</figcaption>
            <svg :viewBox="`0 0 ${WIDE} ${TALL}`" role="img" :aria-label="`${name(one)} and ${name(other)} move together, ${short(r)}`">
                <path class="frame" :d="`M8 6V${TALL - 6}H${WIDE - 8}`" />
                <path v-for="(g, i) in RINGS" :key="g.words" :class="i ? 'inner' : 'outer'" :d="ring(g.at)">
                    <title>{{ g.words }}</title>
                </path>
                <circle :cx="x(0)" :cy="y(0)" r="3.4" />
            </svg>
            <p class="soft ends">
                <span>{{ short(ends(one)[0], { unit: unit(one) }) }}</span><span>{{ name(one) }}</span
                ><span>{{ short(ends(one)[1], { unit: unit(one) }) }}</span>
            </p>
        </figure>
        <div>
            <p>They move together, {{ short(r) }}. {{ told }}</p>
            <p class="soft">
                {{ name(other) }} from {{ short(ends(other)[0], { unit: unit(other) }) }} to
                {{ short(ends(other)[1], { unit: unit(other) }) }} {{ shownUnit(unit(other)) }}.
            </p>
            <p class="acts">
                <Button class="link" @click="hold(one)">Hold {{ name(one) }}</Button>
                <Button class="link" @click="hold(other)">Hold {{ name(other) }}</Button>
            </p>
        </div>
    </div>
</template>

<style scoped>
@import '../try/many.css';

h2 {
    font-size: 14px;
}
.pair {
    display: grid;
    grid-template-columns: 118px minmax(0, 1fr);
    gap: 12px;
    margin-top: 4px;
    font-size: 13px;
}
figure {
    margin: 0;
}
figcaption {
    font-size: 12px;
}
svg {
    display: block;
    width: 100%;
}
.frame {
    fill: none;
    stroke: var(--line);
}
.outer {
    fill: color-mix(in srgb, var(--ribbon) 14%, transparent);
    stroke: var(--ribbon);
}
.inner {
    fill: color-mix(in srgb, var(--ribbon) 36%, transparent);
    stroke: var(--ribbon);
}
circle {
    fill: var(--card);
    stroke: var(--ink);
    stroke-width: 1.8;
}
.ends {
    display: flex;
    justify-content: space-between;
    gap: 4px;
    font-size: 12px;
}
div > p + p {
    margin-top: 4px;
}
.of {
    font-size: 12px;
    text-align: center;
}
.acts {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 12px;
}
</style>
