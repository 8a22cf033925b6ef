<script setup lang="ts">
import { Plus, Trash2 } from '@lucide/vue'
import { computed, ref } from 'vue'
import type { LedgerPage, LedgerRow } from '@/api/types'
import UnderlinedWord from '@/places/ask/UnderlinedWord.vue'
import { useLedgers } from '@/stores/ledgers'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useView } from '@/stores/view'
import { short, shownUnit } from '@/ui/numbers'
import { besideAll } from '@/ui/beside'
import { newId } from '@/ui/ids'
import AccountName from './AccountName.vue'
import FormulaWord from './FormulaWord.vue'
import { useCells } from './useCells'
import { signOf, written, type Side } from './written'

/** The page of one party: what it owns, owes and is worth, and each row that touches it, live at the playhead. */
const { page } = defineProps<{ page: LedgerPage }>()
const ledgers = useLedgers()
const model = useModel()
const view = useView()
const notices = useNotices()
interface Column {
    key: string
    side: Side
    name: string
    what: { claim: string } | { worth: string }
    /** The column of the run. */ of: string
    unit: string
    other: string
    open: boolean
    /** The unit of one in another currency than the books. */ foreign: string
}
const columns = computed<Column[]>(() => {
    const of = (id: string, side: 'owns' | 'owes'): Column[] => {
        const c = ledgers.claimOf(id)
        if (!c) {
            return []
        }
        const party = side === 'owns' ? c.debtor : c.holder
        const other = c.real ? 'a real thing' : party ? `${side === 'owns' ? 'owed by' : 'held by'} ${ledgers.partyName(party)}` : ''
        const none = side === 'owns' ? 'nobody owes it yet' : 'no holder yet'
        return [
            {
                key: id,
                side,
                name: c.name,
                what: { claim: id },
                of: c.balance,
                unit: c.rate ? ledgers.unit : c.unit,
                other: other || none,
                open: !other,
                foreign: c.rate ? c.unit || 'another currency' : '',
            },
        ]
    }
    return [
        ...page.owns.flatMap((id) => of(id, 'owns')),
        ...page.owes.flatMap((id) => of(id, 'owes')),
        {
            key: 'worth',
            side: 'worth' as const,
            name: 'net worth',
            what: { worth: page.id },
            of: page.worth,
            unit: '',
            other: 'what is left',
            open: false,
            foreign: '',
        },
    ]
})
const unit = computed(() => columns.value.find((c) => c.unit)?.unit ?? '')
const perTime = computed(() => [shownUnit(unit.value), model.model.time.unit].filter(Boolean).join('/'))
const rows = computed(() =>
    (ledgers.books?.rows ?? []).flatMap((row) => {
        const own = page.rows.find((r) => r.row === row.id)
        // One that enters nothing yet belongs on every page, so that it can be entered anywhere.
        return own || !row.entries.length ? [{ row, gap: own?.gap ?? 0, remedy: own?.remedy ?? null }] : []
    }),
)
const balance = (c: Column) => ledgers.now(c.of)
const opening = (c: Column) => {
    return ledgers.openingOf(c.of) ?? (c.side === 'worth' ? undefined : ledgers.now(c.of))
}
const rate = (c: Column) =>
    rows.value.reduce((sum, { row }) => sum + (row.sound ? signOf(row, c.what) * (ledgers.now(row.flow) ?? NaN) : 0), 0)
const moved = (c: Column) => {
    const [now, then] = [balance(c), opening(c)]
    return now === undefined || then === undefined ? undefined : now - then
}
/** What rates have moved since the start, beside what rows have. */
const revalued = (c: Column): number =>
    c.side === 'worth'
        ? columns.value.reduce((sum, o) => sum + (o.foreign ? (o.side === 'owes' ? -1 : 1) * revalued(o) : 0), 0)
        : c.foreign
          ? (ledgers.now(ledgers.claimOf(c.key)?.revalued ?? '') ?? NaN)
          : 0
const lines = computed(() =>
    columns.value.some((c) => c.foreign) ? (['rate', 'revalued', 'moved'] as const) : (['rate', 'moved'] as const),
)
const told = (line: 'rate' | 'revalued' | 'moved', c: Column) => ({ rate, revalued, moved })[line](c)
const amount = (row: LedgerRow, c: Column) => {
    const value = ledgers.now(row.flow)
    return value === undefined ? undefined : signOf(row, c.what) * value
}
const top = computed(() => Math.max(1e-300, ...columns.value.map((c) => Math.abs(balance(c) ?? 0))))
const level = (c: Column) => Math.min(1, Math.max(0, (balance(c) ?? 0) / top.value))
const widest = computed(() => Math.max(1e-300, ...rows.value.map(({ row }) => Math.abs(ledgers.now(row.flow) ?? 0))))
const wide = (row: LedgerRow) => 1 + 7 * Math.min(1, Math.abs(ledgers.now(row.flow) ?? 0) / widest.value)
const moment = computed(() => model.moment(view.playhead))
const start = computed(() => model.moment(model.model.time.start))

/** The first name that its formula misses. */
const missing = (row: LedgerRow) => /^Nothing is called `(.+?)`/.exec(row.trouble)?.[1]?.replace(/^"|"$/g, '') ?? ''
async function addMissing(row: LedgerRow) {
    const [name, sheet] = [missing(row), model.firstSheet]
    const at = besideAll(model.model, sheet, model.sheetOf)
    if (await model.attempt({ kind: 'add', id: newId(), element: 'parameter', name, placement: { at, sheet } })) {
        notices.say(`${name} is a parameter now. Its value is asked for at the right.`)
    }
}
async function dropRow(row: LedgerRow) {
    if (await ledgers.drop('transactions', row.id)) {
        notices.say(`Removed the row ${row.name}.`, { words: 'Undo', run: () => void model.step('undo') })
    }
}
const table = ref<HTMLElement>()
const go = (r: number, c: number) => table.value?.querySelector<HTMLElement>(`[data-cell="${r} ${c}"]`)?.focus()
const cells = useCells(
    () => rows.value,
    () => columns.value,
    go,
    (row, c) => amount(row, columns.value[c] as Column),
)
/** With the mouse: more, less, nothing. */
const turned = (row: LedgerRow, c: Column) => {
    const next = { 0: '+', 1: '-', [-1]: '' }[signOf(row, c.what)] as '+' | '-' | ''
    void ledgers.enter(row.id, c.what, next)
}
const spoken = (row: LedgerRow, c: Column) => {
    const sign = signOf(row, c.what)
    return `${row.name}, ${c.name}: ${sign ? `${sign > 0 ? 'more' : 'less'}, ${written(amount(row, c), c.side, ledgers.writing, c.unit)}` : 'nothing'}`
}
const draft = ref('')
async function begin() {
    const name = draft.value.trim()
    // Leaving the field asks again for what Enter has asked for already.
    draft.value = ''
    if (name && !(await ledgers.addRow(name))) {
        draft.value = name
    }
}
const count = (side: Side) => columns.value.filter((c) => c.side === side).length
/** What stands beside each other in every line: accounts, the fold between the sides, and a place where a side has nothing yet. */
const slots = computed<{ key: string; c?: Column }[]>(() => {
    const of = (side: Side) => columns.value.filter((c) => c.side === side).map((c) => ({ key: c.key, c }))
    const [owns, owes] = [of('owns'), of('owes')]
    return [
        ...(owns.length ? owns : [{ key: 'no assets' }]),
        { key: 'fold' },
        ...(owes.length ? owes : [{ key: 'no debts' }]),
        ...of('worth'),
    ]
})
/** Where else a row does not balance, which leaves it out of the run here too. */
const elsewhere = (row: LedgerRow) =>
    ledgers.findings
        .filter((f) => f.id === row.id && f.party && f.party !== page.id)
        .map((f) => ledgers.partyName(f.party))
        .join(', ')
</script>

<template>
    <section class="book" :aria-label="`Ledger of ${page.name}`">
        <table ref="table">
            <thead>
                <tr class="sides">
                    <th colspan="2" class="title">
                        <UnderlinedWord
                            class="name"
                            :value="page.name"
                            label="Name of this party"
                            @change="$event && ledgers.put('parties', page.id, { name: $event })"
                        />
                        <span class="soft">{{ shownUnit(unit) }}</span>
                    </th>
                    <th :colspan="Math.max(1, count('owns'))" scope="colgroup">
                        <span>owns</span
                        ><Button
                            class="icon-button"
                            :aria-label="`Add what ${page.name} owns`"
                            title="Add what it owns"
                            @click="ledgers.addClaim(page.id, 'holder')"
                            ><Plus :size="13" :stroke-width="1.8"
                        /></Button>
                    </th>
                    <th class="fold" aria-hidden="true"></th>
                    <th :colspan="Math.max(1, count('owes'))" scope="colgroup">
                        <span>owes</span
                        ><Button
                            class="icon-button"
                            :aria-label="`Add what ${page.name} owes`"
                            title="Add what it owes"
                            @click="ledgers.addClaim(page.id, 'debtor')"
                            ><Plus :size="13" :stroke-width="1.8"
                        /></Button>
                    </th>
                    <th scope="colgroup"><span>is worth</span></th>
                </tr>
                <tr class="accounts">
                    <th colspan="2"></th>
                    <template v-for="{ key, c } in slots" :key="key">
                        <td v-if="key === 'fold'" class="fold"></td>
                        <td v-else-if="!c" class="soft none">nothing yet</td>
                        <th v-else scope="col" :class="{ pointed: ledgers.pointed === c.of }" @focusin="ledgers.pointed = c.of">
                            <AccountName
                                v-if="c.side !== 'worth'"
                                :name="c.name"
                                :label="`Name of ${c.name}`"
                                @change="ledgers.put('claims', c.key, { name: $event })"
                            />
                            <Button v-else class="worth-name" title="Look at it over time" @click="ledgers.pointed = c.of">{{
                                c.name
                            }}</Button>
                            <small :class="{ open: c.open }">{{ c.other }}</small>
                            <small v-if="c.foreign">counted in {{ c.foreign }}</small>
                        </th>
                    </template>
                </tr>
            </thead>
            <tbody>
                <tr class="balance">
                    <th colspan="2" scope="row">Stood at {{ start }}</th>
                    <template v-for="{ key, c } in slots" :key="key">
                        <td v-if="key === 'fold'" class="fold">=</td>
                        <td v-else-if="!c"></td>
                        <td v-else>
                            <template v-if="c.side !== 'worth'"
                                ><UnderlinedWord
                                    class="figure"
                                    :value="ledgers.claimOf(c.key)?.initial ?? ''"
                                    placeholder="0"
                                    :label="`What ${c.name} is at the start`"
                                    @change="ledgers.put('claims', c.key, { initial: $event || null })"
                                /><small v-if="c.foreign" class="soft"> {{ c.foreign }}</small></template
                            >
                            <b v-else class="figure">{{ short(opening(c), { unit }) }}</b>
                        </td>
                    </template>
                </tr>
            </tbody>
            <tbody>
                <template v-for="({ row, gap, remedy }, r) in rows" :key="row.id">
                    <tr
                        :class="{ wrong: gap !== 0 || !row.sound, pointed: ledgers.pointed === row.flow }"
                        @focusin="ledgers.pointed = row.flow"
                    >
                        <td class="number">{{ r + 1 }}</td>
                        <th scope="row" class="row">
                            <UnderlinedWord
                                :value="row.name"
                                :label="`Name of row ${r + 1}`"
                                @change="$event && ledgers.put('transactions', row.id, { name: $event })"
                            />
                            <FormulaWord
                                :value="row.formula"
                                placeholder="how much? a formula"
                                :label="`How much: ${row.name}`"
                                @change="ledgers.put('transactions', row.id, { formula: $event || null })"
                            />
                            <Button
                                class="icon-button drop"
                                :aria-label="`Remove ${row.name}`"
                                :title="`Remove ${row.name}`"
                                @click="dropRow(row)"
                                ><Trash2 :size="13" :stroke-width="1.6"
                            /></Button>
                        </th>
                        <template v-for="{ key, c } in slots" :key="key">
                            <td v-if="key === 'fold'" class="fold">{{ gap === 0 ? '=' : '●' }}</td>
                            <td v-else-if="!c"></td>
                            <td v-else class="cell" :class="{ ranged: cells.inRange(r, columns.indexOf(c)) }">
                                <Button
                                    class="entry"
                                    :data-cell="`${r} ${columns.indexOf(c)}`"
                                    :aria-label="spoken(row, c)"
                                    @click="turned(row, c)"
                                    @focus="cells.entered(r, columns.indexOf(c))"
                                    @keydown="cells.typed(r, columns.indexOf(c), $event)"
                                    @copy="cells.copied"
                                    @paste="cells.pasted"
                                >
                                    <template v-if="signOf(row, c.what)">
                                        <svg width="23" height="10" aria-hidden="true">
                                            <path
                                                :class="{ back: (amount(row, c) ?? 0) < 0 }"
                                                :d="
                                                    (amount(row, c) ?? 0) < 0
                                                        ? `M22 ${5 - wide(row) / 2}V${5 + wide(row) / 2}H7L1 5L7 ${5 - wide(row) / 2}Z`
                                                        : `M1 ${5 - wide(row) / 2}V${5 + wide(row) / 2}H16L22 5L16 ${5 - wide(row) / 2}Z`
                                                "
                                            />
                                        </svg>
                                        <span>{{ written(amount(row, c), c.side, ledgers.writing, c.unit || unit) }}</span>
                                    </template>
                                </Button>
                            </td>
                        </template>
                    </tr>
                    <tr v-if="gap !== 0 || !row.sound || row.trouble" class="wrong says">
                        <td></td>
                        <td :colspan="slots.length + 1">
                            <span v-if="gap !== 0"
                                >Does not balance here by {{ short(Math.abs(gap * (ledgers.now(row.flow) ?? NaN)), { unit }) }}
                                {{ perTime }}; left out of the run until it does.</span
                            >
                            <span v-else-if="!row.entries.length">Enters nothing yet: press + or − in a cell.</span>
                            <span v-else-if="row.trouble">{{ row.trouble.replaceAll('`', '') }}</span>
                            <span v-else>Balances here, but not for {{ elsewhere(row) }}: left out of the run until it does.</span>
                            <Button v-if="missing(row)" class="link" @click="addMissing(row)">Add {{ missing(row) }} as a parameter</Button>
                            <Button v-if="remedy" class="link" @click="ledgers.mend(row.id, remedy.entries)"
                                ><kbd>Enter</kbd> {{ remedy.words }}</Button
                            >
                        </td>
                    </tr>
                </template>
                <tr class="next">
                    <td class="number">{{ rows.length + 1 }}</td>
                    <td :colspan="slots.length + 1">
                        <InputText
                            v-model="draft"
                            class="plain"
                            aria-label="Name of the next row"
                            placeholder="A name begins the next row"
                            maxlength="100"
                            autocomplete="off"
                            @keydown.enter="begin"
                            @blur="begin"
                        />
                    </td>
                </tr>
            </tbody>
            <tbody>
                <tr v-for="line in lines" :key="line" class="sum">
                    <th colspan="2" scope="row">
                        <template v-if="line === 'rate'"
                            >Changes now by <span class="soft">{{ perTime }}</span></template
                        >
                        <template v-else-if="line === 'revalued'">Revalued by rates since {{ start }}</template>
                        <template v-else>Moved since {{ start }}</template>
                    </th>
                    <template v-for="{ key, c } in slots" :key="key">
                        <td v-if="key === 'fold'" class="fold">=</td>
                        <td v-else-if="!c"></td>
                        <td v-else>
                            {{ written(told(line, c), c.side, ledgers.writing, c.unit || unit) }}
                        </td>
                    </template>
                </tr>
                <tr class="balance stands">
                    <th colspan="2" scope="row">
                        Stands at <em>{{ moment }}</em>
                    </th>
                    <template v-for="{ key, c } in slots" :key="key">
                        <td v-if="key === 'fold'" class="fold">=</td>
                        <td v-else-if="!c"></td>
                        <td v-else>
                            <svg v-if="c.side !== 'worth'" width="26" height="28" aria-hidden="true">
                                <rect class="water" x="1.5" width="23" :y="26 - 22 * level(c)" :height="22 * level(c)" />
                                <path class="basin" d="M1.5 2V24.5a2.5 2.5 0 0 0 2.5 2.5H22a2.5 2.5 0 0 0 2.5 -2.5V2" />
                            </svg>
                            <b class="figure double">{{ short(balance(c), { unit: c.unit || unit }) }}</b>
                        </td>
                    </template>
                </tr>
            </tbody>
        </table>
    </section>
</template>

<style scoped src="./ledger.css"></style>
