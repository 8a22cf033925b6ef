<script setup lang="ts">
import { computed } from 'vue'
import type { Books } from '@/api/types'
import { useLedgers } from '@/stores/ledgers'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import { short } from '@/ui/numbers'
import { signOf } from './written'

/** The whole economy on one page: who owns and owes what, where all columns but real things add up to nothing, and who gains and loses. */
const { books } = defineProps<{ books: Books }>()
const ledgers = useLedgers()
const model = useModel()
const runs = useRuns()
const view = useView()
const unit = computed(() => books.claims.find((c) => c.unit)?.unit ?? '')
const said = (v: number | undefined) => (v === undefined || Math.abs(v) < 1e-9 ? '' : short(v, { unit: unit.value }))
const sheet = computed(() =>
    books.claims.map((c) => {
        const value = runs.value(c.stock) ?? NaN
        const cells = books.pages.map((p) => (c.holder === p.id ? value : c.debtor === p.id ? -value : undefined))
        return { ...c, cells, sum: cells.reduce<number>((s, v) => s + (v ?? 0), 0) }
    }),
)
const worths = computed(() => books.pages.map((p) => runs.value(p.worth) ?? NaN))
const gains = computed(() =>
    books.rows
        .filter((r) => r.sound && r.entries.some((e) => e.worth))
        .map((r) => {
            const cells = books.pages.map((p) => signOf(r, { worth: p.id }) * (runs.value(r.flow) ?? NaN) || undefined)
            return { ...r, cells, sum: cells.reduce<number>((s, v) => s + (v ?? 0), 0) }
        }),
)
const total = (values: readonly (number | undefined)[]) => values.reduce<number>((s, v) => s + (v ?? 0), 0)
</script>

<template>
    <div class="matrices">
        <table>
            <caption>
                <b>Who owns and owes</b>
                at
                {{
                    model.moment(view.playhead)
                }}
                {{
                    unit ? `, in ${unit}` : ''
                }}; owed is less than 0
            </caption>
            <thead>
                <tr>
                    <td></td>
                    <th v-for="p in books.pages" :key="p.id" scope="col">{{ p.name }}</th>
                    <th scope="col">together</th>
                </tr>
            </thead>
            <tbody>
                <tr v-for="c in sheet" :key="c.id">
                    <th scope="row">
                        {{ c.name }}<small v-if="c.real"> real thing</small><small v-else-if="!c.holder" class="open"> no holder yet</small>
                    </th>
                    <td v-for="(v, i) in c.cells" :key="i" :class="{ less: (v ?? 0) < 0 }">{{ said(v) }}</td>
                    <td class="sum">{{ said(c.sum) || '0' }}</td>
                </tr>
            </tbody>
            <tfoot>
                <tr>
                    <th scope="row">net worth</th>
                    <td v-for="(v, i) in worths" :key="i" :class="{ less: v < 0 }">{{ short(v, { unit }) }}</td>
                    <td class="sum">{{ said(total(worths)) || '0' }}</td>
                </tr>
            </tfoot>
        </table>
        <table>
            <caption>
                <b>Who gains and loses</b
                >, by rows that change what somebody is worth, at
                {{
                    model.moment(view.playhead)
                }}, for each
                {{
                    model.model.time.unit || 'time'
                }}
            </caption>
            <thead>
                <tr>
                    <td></td>
                    <th v-for="p in books.pages" :key="p.id" scope="col">{{ ledgers.partyName(p.id) }}</th>
                    <th scope="col">together</th>
                </tr>
            </thead>
            <tbody>
                <tr v-for="r in gains" :key="r.id">
                    <th scope="row">{{ r.name }}</th>
                    <td v-for="(v, i) in r.cells" :key="i" :class="{ less: (v ?? 0) < 0 }">{{ said(v) }}</td>
                    <td class="sum">{{ said(r.sum) || '0' }}</td>
                </tr>
            </tbody>
        </table>
    </div>
</template>

<style scoped>
.matrices {
    display: grid;
    gap: 20px;
}
table {
    width: max-content;
    min-width: 60%;
    border-collapse: collapse;
    background: var(--card);
    font-variant-numeric: tabular-nums;
}
caption {
    padding-bottom: 6px;
    text-align: left;
}
th,
td {
    padding: 5px 10px;
    border: 1px solid var(--hairline);
    font-weight: 400;
    text-align: right;
}
th[scope='row'] {
    text-align: left;
}
thead th,
tfoot th,
tfoot td {
    font-weight: 700;
}
small {
    color: var(--ink-soft);
}
small.open {
    color: var(--brick);
}
.less {
    color: var(--plum);
}
.sum {
    border-left: 2px solid var(--line);
    color: var(--ink-soft);
}
</style>
