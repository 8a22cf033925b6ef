<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { uncertain } from '@/api/uncertain'
import type { Ensemble, Mattering } from '@/api/types'
import { scaleFor, share, ticksOf } from '@/charts/scale'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { short, shownUnit, tickWords } from '@/ui/numbers'
import { outcomeWords } from '../outcomes'

/** Which inputs an outcome follows in these runs, and a scatter of one of them against it. */
const { ensemble, outcome } = defineProps<{ ensemble: Ensemble; outcome: string }>()
const model = useModel()
const look = useLook()
const input = ref('')
const told = shallowRef<Mattering | null>(null)
let mine = 0
const chosen = computed(() => (ensemble.inputs.some((i) => i.key === input.value) ? input.value : (ensemble.inputs[0]?.key ?? '')))
watch(
    [() => ensemble.id, () => ensemble.done, () => outcome, chosen],
    async () => {
        const ticket = ++mine
        const answer = await uncertain.matters(model.id, ensemble.id, { outcome, input: chosen.value }).catch(() => null)
        if (ticket === mine) {
            told.value = answer
        }
    },
    { immediate: true },
)
const what = computed(() => {
    const found = ensemble.outcomes.find((o) => o.id === outcome)
    return found ? outcomeWords(found, model, look) : { words: '', unit: '' }
})
const nameOf = (key: string) => look.nameOf(key) ?? 'something that is gone'
const unitOf = (key: string) => model.model.elements[look.ownerOf(key)]?.unit ?? ''
const rows = computed(() =>
    [...(told.value?.inputs ?? [])].sort((a, b) => Math.abs(b.rank_coefficient ?? 0) - Math.abs(a.rank_coefficient ?? 0)),
)
const explains = computed(() => {
    const t = told.value
    if (!t || t.rank_explains === null) {
        return ''
    }
    const by = (s: number | null) => `${short(Math.max(0, s ?? 0), { unit: '%', digits: 2 })} %`
    return `Straight lines explain ${by(t.explains)} of what ${what.value.words} varies in ${t.runs.toLocaleString()} runs, rising or falling courses ${by(t.rank_explains)}.${
        t.rank_explains < 0.6 ? ' The rest comes from inputs that act together, or first up and then down.' : ''
    }`
})
const W = 330
const H = 220
const L = 56
const F = 34
const xs = computed(() => scaleFor(extent(0), { zero: false }, 4))
const ys = computed(() => scaleFor(extent(1), { zero: false }, 4))
function extent(i: 0 | 1): [number, number] {
    const values = (told.value?.points ?? []).map((p) => p[i] as number)
    return [Math.min(...values), Math.max(...values)]
}
const x = (v: number) => L + share(xs.value, v) * (W - L - 8)
const y = (v: number) => 6 + (1 - share(ys.value, v)) * (H - F - 6)
const ticks = (scale: typeof xs.value, unit: string) => {
    const values = ticksOf(scale)
    const words = tickWords(values, unit)
    return values.map((v, i) => ({ v, words: words[i] }))
}
</script>

<template>
    <div v-if="told" class="matters beside">
        <div>
            <p class="soft">{{ explains }}</p>
            <table>
                <thead>
                    <tr>
                        <th>{{ what.words }} follows</th>
                        <th title="How far it moves, in standard deviations of ranks, when the input alone moves by one">by rank</th>
                        <th title="How far it moves, in standard deviations, when the input alone moves by one">by value</th>
                        <th aria-hidden="true"></th>
                    </tr>
                </thead>
                <tbody>
                    <tr v-for="r in rows" :key="r.key" :class="{ on: r.key === chosen }">
                        <th scope="row">
                            <Button class="who" :aria-pressed="r.key === chosen" @click="input = r.key">{{ nameOf(r.key) }}</Button>
                        </th>
                        <td>{{ short(r.rank_coefficient, { digits: 2 }) }}</td>
                        <td>{{ short(r.coefficient, { digits: 2 }) }}</td>
                        <td class="bar">
                            <i
                                :class="{ down: (r.rank_coefficient ?? 0) < 0 }"
                                :style="{
                                    width: `${Math.min(1, Math.abs(r.rank_coefficient ?? 0)) * 50}%`,
                                    left: (r.rank_coefficient ?? 0) < 0 ? undefined : '50%',
                                    right: (r.rank_coefficient ?? 0) < 0 ? '50%' : undefined,
                                }"
                            />
                        </td>
                    </tr>
                </tbody>
            </table>
        </div>
        <figure>
            <svg :width="W" :height="H" role="img" :aria-label="`${what.words} against ${nameOf(chosen)} in ${told.points.length} runs`">
                <g v-for="t in ticks(ys, what.unit)" :key="`y${t.v}`">
                    <line class="grid" :x1="L" :x2="W - 8" :y1="y(t.v)" :y2="y(t.v)" />
                    <text :x="L - 6" :y="y(t.v) + 4" text-anchor="end">{{ t.words }}</text>
                </g>
                <g v-for="t in ticks(xs, unitOf(chosen))" :key="`x${t.v}`">
                    <line class="grid" :x1="x(t.v)" :x2="x(t.v)" :y1="6" :y2="H - F" />
                    <text :x="x(t.v)" :y="H - F + 14" text-anchor="middle">{{ t.words }}</text>
                </g>
                <circle v-for="(p, i) in told.points" :key="i" :cx="x(p[0] as number)" :cy="y(p[1] as number)" r="1.6" class="dot" />
                <text :x="(L + W - 8) / 2" :y="H - 3" text-anchor="middle" class="axis">
                    {{ nameOf(chosen) }}{{ shownUnit(unitOf(chosen)) ? `, ${shownUnit(unitOf(chosen))}` : '' }}
                </text>
            </svg>
            <figcaption class="soft">
                {{ what.words }}{{ shownUnit(what.unit) ? `, ${shownUnit(what.unit)},` : '' }} against {{ nameOf(chosen) }}, a dot for each
                of the {{ told.points.length < told.runs ? 'first ' : '' }}{{ told.points.length.toLocaleString() }} runs
            </figcaption>
        </figure>
    </div>
</template>

<style scoped src="./inputs.css"></style>

<style scoped>
.on th {
    font-weight: 700;
}
.who {
    text-align: left;
    font-weight: inherit;
}
.who:hover {
    text-decoration: underline;
    text-underline-offset: 3px;
}
.bar {
    position: relative;
    width: 38%;
    min-width: 110px;
}
.bar::before {
    content: '';
    position: absolute;
    left: 50%;
    top: 0;
    bottom: 0;
    border-left: 1px solid var(--line);
}
.bar i {
    position: absolute;
    top: 7px;
    bottom: 7px;
    background: var(--ink);
}
.bar i.down {
    background: var(--card);
    border: 1.2px solid var(--ink);
}
figure {
    margin: 0;
}
figcaption {
    max-width: 330px;
    font-size: 12.5px;
}
text {
    font-size: 12px;
    fill: var(--ink-soft);
}
.grid {
    stroke: var(--hairline);
}
.dot {
    fill: var(--ribbon);
    opacity: 0.6;
}
</style>
