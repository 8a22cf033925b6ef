<script setup lang="ts">
import { computed, ref } from 'vue'
import { lookOf } from '@/charts/lines'
import { useFits } from '@/stores/fits'
import { useView } from '@/stores/view'
import ChoiceField from '@/ui/ChoiceField.vue'
import { counted, short, shownUnit } from '@/ui/numbers'

/** What the data leave open: drawn, with how far the draws can be trusted, and which numbers go together in them. */
const fits = useFits()
const view = useView()
const wanted = ref(4_000)
const DRAWS = [1_000, 4_000, 10_000, 40_000].map((n) => ({ value: n, words: `${n.toLocaleString()} draws` }))
const fit = computed(() => fits.fit)
const drawing = computed(() => fits.running && fit.value?.stage === 'chain')
const stopped = computed(() => fit.value?.stopped === true && fit.value.stage === 'chain')
const made = computed(() => (fit.value?.walks ?? []).filter((w) => w.name.startsWith('chain')).reduce((sum, w) => sum + w.runs, 0))
const numbers = computed(() => fit.value?.numbers ?? [])
const draws = computed(() => fits.draws)

const [WIDE, TALL] = [150, 40]
const ends = (j: number) => {
    const all = (draws.value?.some ?? []).map((d) => d[j] ?? 0)
    const [low, high] = [Math.min(...all), Math.max(...all)]
    return { low, size: high - low || 1 }
}
const trace = (chain: number[][], j: number) => {
    const { low, size } = ends(j)
    const last = Math.max(1, chain.length - 1)
    return chain
        .map((d, i) => {
            const up = Math.min(1.1, Math.max(-0.1, ((d[j] ?? 0) - low) / size))
            return `${i ? 'L' : 'M'}${((i / last) * WIDE).toFixed(1)} ${(3 + (1 - up) * (TALL - 6)).toFixed(1)}`
        })
        .join('')
}
/** Of chains that agree each part of all ranks has about as many draws of each. */
const ranks = (bars: number[]) => {
    const usual = bars.reduce((a, b) => a + b, 0) / Math.max(1, bars.length)
    return bars
        .map((n, i) => {
            const up = Math.min(1, n / (2 * usual || 1))
            const x = (i / bars.length) * WIDE
            return `${i ? 'L' : 'M'}${x.toFixed(1)} ${(TALL - 3 - up * (TALL - 6)).toFixed(1)}H${(x + WIDE / bars.length).toFixed(1)}`
        })
        .join('')
}
const CELL = 92
const dots = (one: number, other: number) => {
    const [a, b] = [ends(one), ends(other)]
    return (draws.value?.some ?? [])
        .map((d) => {
            const x = 3 + (((d[one] ?? 0) - a.low) / a.size) * (CELL - 6)
            const y = 3 + (1 - ((d[other] ?? 0) - b.low) / b.size) * (CELL - 6)
            return `M${x.toFixed(1)} ${y.toFixed(1)}h0`
        })
        .join('')
}
const pairs = computed(() => numbers.value.flatMap((_, i) => numbers.value.slice(0, i).map((__, j) => ({ row: i, column: j }))))
/** A picture of more than so many pairs is only for the eye. */
const MOST = 7
async function toSpread() {
    if (await fits.asUncertain()) {
        view.go({ place: 'try', stage: 'spread', selection: [] })
    }
}
const colour = (i: number) => `var(${lookOf(i).colour})`
const told = (value: number | null | undefined, unit: string) => (value === null || value === undefined ? '–' : short(value, { unit }))
</script>

<template>
    <section class="open" aria-label="What the data leave open">
        <header>
            <h3>What the data leave open</h3>
            <template v-if="drawing">
                <progress :value="made" :max="fit?.steps ?? 1" aria-label="How far the draws are" />
                <span class="soft" role="status">{{ made.toLocaleString() }} of {{ (fit?.steps ?? 0).toLocaleString() }} steps</span>
            </template>
            <template v-else-if="!stopped">
                <ChoiceField v-model="wanted" label="How many draws" :choices="DRAWS" />
                <Button class="button" @click="fits.draw(wanted)">{{ fits.open ? 'Draw anew' : 'Draw' }}</Button>
                <Button v-if="fits.open" class="button" title="As uncertain inputs, with how they go together" @click="toSpread"
                    >Use in Spread</Button
                >
            </template>
        </header>
        <p v-if="!fits.open && !drawing && !stopped" class="soft">
            The intervals at the right are those of straight lines about the nearest run. Draws tell all that fits as well: also where it is
            bent, lopsided, or cut by a bound, and what may come after what was measured.
        </p>
        <template v-if="fits.open">
            <p class="soft">
                {{ fits.open.draws.toLocaleString() }} draws of {{ counted(fits.open.chains, 'chain') }};
                {{ Math.round(100 * fits.open.acceptance) }} % of steps were taken. Each chain has a colour: where they agree, courses lie
                on each other and ranks lie about the middle line.
            </p>
            <div class="wide">
                <table>
                    <thead>
                        <tr>
                            <th scope="col">number</th>
                            <th scope="col">mean ± sd</th>
                            <th scope="col">19 times in 20</th>
                            <th scope="col" title="Near 1 where the chains are of one mind">R̂</th>
                            <th scope="col" title="Independent draws that these are worth">worth</th>
                            <th scope="col">courses</th>
                            <th scope="col">ranks</th>
                        </tr>
                    </thead>
                    <tbody>
                        <tr v-for="(p, j) in fits.open.parameters" :key="p.name">
                            <th scope="row">
                                {{ p.name
                                }}<small v-if="shownUnit(numbers[j]?.unit ?? '')" class="soft">
                                    {{ shownUnit(numbers[j]?.unit ?? '') }}</small
                                >
                            </th>
                            <td>{{ told(p.mean, numbers[j]?.unit ?? '') }} ± {{ told(p.sd, numbers[j]?.unit ?? '') }}</td>
                            <td>
                                {{ told(p.percentiles['2.5'], numbers[j]?.unit ?? '') }} to
                                {{ told(p.percentiles['97.5'], numbers[j]?.unit ?? '') }}
                            </td>
                            <td :class="{ wrong: !p.agrees }">{{ p.rhat === null ? '–' : p.rhat.toFixed(3) }}</td>
                            <td>{{ p.ess === null ? '–' : Math.round(p.ess).toLocaleString() }}</td>
                            <td>
                                <svg
                                    v-if="draws"
                                    :viewBox="`0 0 ${WIDE} ${TALL}`"
                                    role="img"
                                    :aria-label="`Courses of the chains of ${p.name}`"
                                >
                                    <path v-for="(c, i) in draws.traces" :key="i" :d="trace(c, j)" :style="{ stroke: colour(i) }" />
                                </svg>
                            </td>
                            <td>
                                <svg
                                    v-if="draws"
                                    :viewBox="`0 0 ${WIDE} ${TALL}`"
                                    role="img"
                                    :aria-label="`How ranks of ${p.name} are spread over the chains`"
                                >
                                    <line x1="0" :x2="WIDE" :y1="TALL / 2" :y2="TALL / 2" />
                                    <path v-for="(b, i) in draws.ranks[j] ?? []" :key="i" :d="ranks(b)" :style="{ stroke: colour(i) }" />
                                </svg>
                            </td>
                        </tr>
                    </tbody>
                </table>
            </div>
            <div
                v-if="draws && numbers.length > 1 && numbers.length <= MOST"
                class="pairs"
                role="img"
                aria-label="Draws of each two numbers together"
                :style="{ gridTemplateColumns: `repeat(${numbers.length}, ${CELL}px)` }"
            >
                <span
                    v-for="(n, i) in numbers"
                    :key="n.key"
                    class="soft"
                    :style="{ gridRow: i + 1, gridColumn: i + 1 }"
                    :class="{ first: i === 0 }"
                    >{{ n.name }}</span
                >
                <svg
                    v-for="p in pairs"
                    :key="`${p.row}-${p.column}`"
                    :width="CELL"
                    :height="CELL"
                    :style="{ gridRow: p.row + 1, gridColumn: p.column + 1 }"
                >
                    <title>{{ numbers[p.column]?.name }} across, {{ numbers[p.row]?.name }} up</title>
                    <rect x="0.5" y="0.5" :width="CELL - 1" :height="CELL - 1" />
                    <path class="dots" :d="dots(p.column, p.row)" />
                </svg>
            </div>
        </template>
    </section>
</template>

<style scoped>
.open {
    margin-top: 8px;
    padding-top: 12px;
    border-top: 1px solid var(--hairline);
}
header {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 6px 12px;
    margin-bottom: 6px;
}
h3 {
    font-size: 16px;
}
header .button {
    height: 30px;
}
table {
    width: 100%;
    margin: 8px 0 12px;
    border-collapse: collapse;
    font-size: 13px;
}
th,
td {
    padding: 3px 9px 3px 0;
    text-align: left;
    font-weight: 400;
    border-bottom: 1px solid var(--hairline);
    white-space: nowrap;
}
thead th {
    color: var(--ink-soft);
}
tbody th {
    font-weight: 700;
}
tbody small {
    display: block;
    font-weight: 400;
}
.wide {
    overflow-x: auto;
}
.wrong {
    color: var(--ochre);
    font-weight: 700;
}
td svg {
    display: block;
    width: 84px;
}
td path,
td line {
    fill: none;
    stroke-width: 1;
    opacity: 0.8;
}
td line {
    stroke: var(--line);
    stroke-dasharray: 2 3;
}
.pairs {
    display: grid;
    gap: 5px;
    overflow-x: auto;
}
.pairs span {
    align-self: end;
    font-size: 12.5px;
    line-height: 1.2;
}
.pairs rect {
    fill: var(--card);
    stroke: var(--hairline);
}
.dots {
    stroke: var(--ribbon);
    stroke-width: 2.6;
    stroke-linecap: round;
    opacity: 0.5;
}
</style>
