<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Books } from '@/api/types'
import { useLedgers } from '@/stores/ledgers'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { short, shownUnit } from '@/ui/numbers'
import OneOf from '@/ui/OneOf.vue'
import { paymentsOf, rateOf } from './flows'
import WhoPaysWhom from './WhoPaysWhom.vue'
import { signOf } from './written'

/**
 * The whole economy on one page: who owns and owes what, where each line but that of a real thing adds up to nothing; and what moves,
 * where each column does too, for what somebody gains is owned more or owed less.
 */
const { books } = defineProps<{ books: Books }>()
const model = useModel()
const ledgers = useLedgers()
const view = useView()
const shape = ref<'values' | 'shares' | 'flows'>('values')
const unit = computed(() => ledgers.unit)
type Cells = (number | undefined)[]
interface Line {
    id: string
    name: string
    said: string
    open: boolean
    cells: Cells
    sum: number
}
const total = (values: Cells) => values.reduce<number>((s, v) => s + (v ?? 0), 0)
const line = (id: string, name: string, cells: Cells, said = '', open = false): Line => ({ id, name, said, open, cells, sum: total(cells) })
const flow = (id: string) => ledgers.now(id)
const claimLine = (c: Books['claims'][number], value: number) =>
    line(
        c.id,
        c.name,
        books.pages.map((p) => (c.holder === p.id ? value : c.debtor === p.id ? -value : undefined)),
        c.real ? 'real thing' : c.holder ? (c.debtor ? '' : 'nobody owes it yet') : 'no holder yet',
        !c.real && !(c.holder && c.debtor),
    )
const owned = computed(() => books.claims.map((c) => claimLine(c, ledgers.now(c.balance) ?? NaN)))
const worths = computed(() =>
    line(
        'worth',
        'net worth',
        books.pages.map((p) => ledgers.now(p.worth) ?? NaN),
    ),
)
const gains = computed(() =>
    books.rows
        .filter((r) => r.sound && r.entries.some((e) => e.worth))
        .map((r) =>
            line(
                r.id,
                r.name,
                books.pages.map((p) => signOf(r, { worth: p.id }) * (flow(r.flow) ?? NaN) || undefined),
            ),
        ),
)
/** Where it goes: more owned takes it up, more owed brings it. */
const uses = computed(() =>
    books.claims.map((c) => claimLine(c, -rateOf(books, c.id, flow))).filter((l) => l.cells.some((v) => Math.abs(v ?? 0) > 1e-12)),
)
const columns = computed(() =>
    line(
        'sum',
        'adds up to',
        books.pages.map((_, i) => total([...gains.value, ...uses.value].map((l) => l.cells[i]))),
    ),
)
const positive = (lines: readonly Line[]) => lines.flatMap((l) => l.cells).reduce<number>((s, v) => s + Math.max(0, v ?? 0), 0)
const wholes = computed(() => ({ owned: positive(owned.value), gained: positive(gains.value) }))
const isEmpty = (v: number | undefined) => v === undefined || Math.abs(v) < 1e-9
function said(v: number | undefined, whole: number, zero = '') {
    if (v === undefined || isEmpty(v)) {
        return zero
    }
    return shape.value === 'shares' ? (whole > 0 ? `${((100 * v) / whole).toFixed(1)} %` : '–') : short(v, { unit: unit.value })
}
/** How fast rows make a claim grow, which no share of a total tells. Of one in another currency its rate moves it too: nothing is said. */
function grows(l: Line) {
    const claim = books.claims.find((c) => c.id === l.id)
    if (claim?.rate) {
        return ''
    }
    const [now, rate] = [ledgers.now(claim?.balance ?? ''), rateOf(books, l.id, flow)]
    return now ? `${rate / now > 0 ? '+' : ''}${((100 * rate) / now).toFixed(2)} %`.replace('-', '−') : ''
}
const moment = computed(() => model.moment(view.playhead))
const each = computed(() => model.model.time.unit || 'unit of time')
const tables = computed(() => [
    {
        key: 'owned',
        title: 'Who owns and owes',
        words:
            shape.value === 'shares'
                ? `at ${moment.value}, per cent of all that is owned; owed is less than 0`
                : `at ${moment.value}${unit.value ? `, in ${shownUnit(unit.value)}` : ''}; owed is less than 0`,
        whole: wholes.value.owned,
        groups: [{ name: '', lines: owned.value }],
        foot: worths.value,
        grows: true,
    },
    {
        key: 'moved',
        title: 'What moves',
        words:
            shape.value === 'shares'
                ? `at ${moment.value}, per cent of all that is gained`
                : `at ${moment.value}, ${unit.value ? `in ${shownUnit(unit.value)} ` : ''}for each ${each.value}; each column adds up to 0`,
        whole: wholes.value.gained,
        groups: [
            { name: 'gained and lost', lines: gains.value },
            { name: 'goes into more owned, comes from more owed', lines: uses.value },
        ],
        foot: columns.value,
        grows: false,
    },
])
const payments = computed(() => paymentsOf(books, flow))
</script>

<template>
    <div class="matrices">
        <OneOf
            v-model="shape"
            label="How matrices are told"
            :choices="[
                { value: 'values', words: 'Values' },
                { value: 'shares', words: 'Per cent of a total' },
                { value: 'flows', words: 'Who pays whom' },
            ]"
        />
        <WhoPaysWhom v-if="shape === 'flows'" :books="books" :payments="payments" :unit="unit" />
        <template v-else>
            <table v-for="t in tables" :key="t.key">
                <caption>
                    <b>{{ t.title }}</b>
                    {{
                        t.words
                    }}
                </caption>
                <thead>
                    <tr>
                        <td></td>
                        <th v-for="p in books.pages" :key="p.id" scope="col">{{ p.name }}</th>
                        <th scope="col">together</th>
                        <th v-if="t.grows" scope="col" class="grows">grows by, each {{ each }}</th>
                    </tr>
                </thead>
                <tbody v-for="g in t.groups" :key="g.name">
                    <tr v-if="g.name" class="group">
                        <th :colspan="books.pages.length + 2" scope="rowgroup">{{ g.name }}</th>
                    </tr>
                    <tr v-for="l in g.lines" :key="l.id">
                        <th scope="row">
                            {{ l.name }}<small v-if="l.said" :class="{ open: l.open }"> {{ l.said }}</small>
                        </th>
                        <td v-for="(v, i) in l.cells" :key="i" :class="{ less: (v ?? 0) < 0 }">{{ said(v, t.whole) }}</td>
                        <td class="sum">{{ said(l.sum, t.whole, '0') }}</td>
                        <td v-if="t.grows" class="grows">{{ grows(l) }}</td>
                    </tr>
                </tbody>
                <tfoot>
                    <tr>
                        <th scope="row">{{ t.foot.name }}</th>
                        <td v-for="(v, i) in t.foot.cells" :key="i" :class="{ less: !isEmpty(v) && (v ?? 0) < 0 }">
                            {{ said(v, t.whole, '0') }}
                        </td>
                        <td class="sum">{{ said(t.foot.sum, t.whole, '0') }}</td>
                        <td v-if="t.grows" class="grows"></td>
                    </tr>
                </tfoot>
            </table>
        </template>
    </div>
</template>

<style scoped>
.matrices {
    display: grid;
    justify-items: start;
    gap: 16px;
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
th[scope='row'],
.group th {
    text-align: left;
}
.group th {
    font-size: 13px;
    color: var(--ink-soft);
    background: var(--paper);
}
thead th,
tfoot th,
tfoot td {
    font-weight: 700;
}
small {
    margin-left: 6px;
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
.grows {
    max-width: 84px;
    font-weight: 400;
    color: var(--ink-soft);
}
</style>
