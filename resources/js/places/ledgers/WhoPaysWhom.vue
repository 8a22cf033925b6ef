<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { apart } from '@/charts/endNames'
import type { Books } from '@/api/types'
import { useLedgers } from '@/stores/ledgers'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import { short, shownUnit } from '@/ui/numbers'
import { groundOf } from './grounds'
import { paymentsOf, type Payment } from './flows'

/** Who pays at the left, who gets it at the right, and bands as wide as what goes; the scale is that of the whole run. */
const { books, payments, unit } = defineProps<{ books: Books; payments: readonly Payment[]; unit: string }>()
const ledgers = useLedgers()
const model = useModel()
const runs = useRuns()
const look = useLook()
const view = useView()
const box = ref<HTMLElement>()
const { width } = useElementSize(box, { width: 800, height: 400 })
const [TOP, PLANE, SIDE, NODE, GAP] = [12, 380, 170, 12, 16]
/** So many moments of the run tell how much there ever is. */
const LOOKS = 60
const ends = computed(() => [...books.pages.map((p) => p.id), ''])
const nameOf = (id: string, side: 'from' | 'to') =>
    books.pages.find((p) => p.id === id)?.name ?? (side === 'from' ? 'made anew' : 'used up')
/** The most that all pay together at any time of the run. */
const most = computed(() => {
    const run = runs.shown
    const last = (run?.times.length ?? 1) - 1
    let top = 0
    for (let k = 0; k <= LOOKS; k++) {
        const i = Math.round((k / LOOKS) * last)
        const there = paymentsOf(books, (flow) => {
            const key = look.drawnKey(flow)
            return run?.values.get(key)?.[i] ?? run?.steady[key]
        })
        top = Math.max(
            top,
            there.reduce((s, p) => s + p.amount, 0),
        )
    }
    return Math.max(
        top,
        payments.reduce((s, p) => s + p.amount, 0),
        1e-300,
    )
})
const room = computed(() => PLANE - GAP * (Math.max(count('from'), count('to')) - 1))
const count = (side: 'from' | 'to') => new Set(payments.map((p) => p[side])).size
const high = (amount: number) => (amount / most.value) * room.value
const places = computed(() => {
    const of = (side: 'from' | 'to') => {
        const other = side === 'from' ? 'to' : 'from'
        const spots = new Map<Payment, number>()
        let y = TOP
        const nodes = ends.value.flatMap((id) => {
            const own = payments.filter((p) => p[side] === id).sort((a, b) => ends.value.indexOf(a[other]) - ends.value.indexOf(b[other]))
            if (!own.length) {
                return []
            }
            const from = y
            for (const p of own) {
                spots.set(p, y)
                y += high(p.amount)
            }
            const node = { id, name: nameOf(id, side), y: from, height: y - from, sum: own.reduce((s, p) => s + p.amount, 0) }
            y += GAP
            return [node]
        })
        const named = apart(
            nodes.map((n) => n.y + n.height / 2),
            30,
            TOP + PLANE + 20,
        )
        return { spots, nodes: nodes.map((n, i) => ({ ...n, at: named[i] ?? n.y })) }
    }
    return { from: of('from'), to: of('to') }
})
const wide = computed(() => Math.max(120, width.value - 2 * SIDE))
const bands = computed(() =>
    payments.map((p) => {
        const [a, b, h] = [places.value.from.spots.get(p) ?? 0, places.value.to.spots.get(p) ?? 0, high(p.amount)]
        const [x1, x2] = [SIDE + NODE, SIDE + wide.value - NODE]
        const middle = (x1 + x2) / 2
        const curve = (x: number, y: number) => `C${middle} ${x === x2 ? a : b + h} ${middle} ${y} ${x} ${y}`
        return {
            ...p,
            id: `${p.row} ${p.from} ${p.to}`,
            path: `M${x1} ${a}${curve(x2, b)}V${b + h}${curve(x1, a + h)}Z`,
            ground: groundOf(ends.value.indexOf(p.from)),
            words: `${p.name}: ${short(p.amount, { unit })}, from ${nameOf(p.from, 'from')} to ${nameOf(p.to, 'to')}`,
            label: h >= 13 ? `${p.name} ${short(p.amount, { unit })}` : '',
            at: { x: x1 + 8, y: a + h / 2 + 4 },
        }
    }),
)
const pointed = ref('')
const perTime = computed(() => [shownUnit(unit), model.model.time.unit].filter(Boolean).join('/'))
const flowOf = (row: string) => ledgers.rowOf(row)?.flow ?? ''
</script>

<template>
    <figure>
        <figcaption>
            <b>Who pays whom</b>
            <span class="soft">
                at {{ model.moment(view.playhead) }}{{ perTime ? `, in ${perTime}` : '' }}; rows that change what somebody is worth, as wide
                as they are at that moment</span
            >
        </figcaption>
        <div ref="box">
            <p v-if="!payments.length" class="soft">Nobody pays anybody at {{ model.moment(view.playhead) }}.</p>
            <svg
                v-else
                :width="width"
                :height="TOP + PLANE + 24"
                role="img"
                :aria-label="`Who pays whom: ${bands.map((b) => b.words).join('; ')}`"
            >
                <path
                    v-for="b in bands"
                    :key="b.id"
                    class="band"
                    :class="{ pointed: pointed === b.row || ledgers.pointed === flowOf(b.row) }"
                    :style="{ fill: b.ground }"
                    :d="b.path"
                    @pointerenter="pointed = b.row"
                    @pointerleave="pointed = ''"
                    @click="ledgers.pointed = flowOf(b.row)"
                >
                    <title>{{ b.words }}</title>
                </path>
                <g v-for="side in ['from', 'to'] as const" :key="side">
                    <g v-for="n in places[side].nodes" :key="n.id">
                        <rect
                            class="node"
                            :x="side === 'from' ? SIDE : SIDE + wide - NODE"
                            :y="n.y"
                            :width="NODE"
                            :height="Math.max(1, n.height)"
                        />
                        <text
                            :x="side === 'from' ? SIDE - 8 : SIDE + wide + 8"
                            :y="n.at - 2"
                            :text-anchor="side === 'from' ? 'end' : 'start'"
                        >
                            {{ n.name }}
                        </text>
                        <text
                            class="amount"
                            :x="side === 'from' ? SIDE - 8 : SIDE + wide + 8"
                            :y="n.at + 12"
                            :text-anchor="side === 'from' ? 'end' : 'start'"
                        >
                            {{ side === 'from' ? 'pays' : 'gets' }} {{ short(n.sum, { unit }) }}
                        </text>
                    </g>
                </g>
                <text v-for="b in bands.filter((one) => one.label)" :key="b.id" class="label" :x="b.at.x" :y="b.at.y">{{ b.label }}</text>
            </svg>
        </div>
    </figure>
</template>

<style scoped>
figure {
    width: 100%;
    box-sizing: border-box;
    margin: 0;
    padding: 12px 14px;
    border: 1px solid var(--line);
    border-radius: 6px;
    background: var(--card);
}
figcaption {
    margin-bottom: 6px;
}
.soft {
    font-size: 13px;
    color: var(--ink-soft);
}
.band {
    stroke: var(--line);
    stroke-width: 0.8;
    opacity: 0.85;
    cursor: pointer;
}
.band.pointed {
    stroke: var(--ember);
    stroke-width: 1.6;
    opacity: 1;
}
.node {
    fill: var(--ink);
}
text {
    font-size: 13px;
    font-weight: 700;
    fill: var(--ink);
}
.amount {
    font-size: 12px;
    font-weight: 400;
}
.label {
    font-size: 12px;
    font-weight: 400;
    pointer-events: none;
}
</style>
