<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Rewired, Thing } from '@/api/types'
import MadeCard from '@/card/MadeCard.vue'
import PresentDial from '@/places/try/PresentDial.vue'
import ClaimPart from './ClaimPart.vue'
import RowPart from './RowPart.vue'
import { useLedgers } from '@/stores/ledgers'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import ChoiceField from '@/ui/ChoiceField.vue'
import { short, shownUnit } from '@/ui/numbers'
import SaidText from '@/ui/SaidText.vue'

/** Who owes whom, what is open, and what each is worth; a claim can be given to another holder here. */
const ledgers = useLedgers()
const model = useModel()
const runs = useRuns()
const view = useView()
const notices = useNotices()
const pages = computed(() => ledgers.books?.pages ?? [])
const claims = computed(() => (ledgers.books?.claims ?? []).filter((c) => !c.real))
/** Who holds; what nobody holds yet has a column of its own. */
const holders = computed(() => [
    ...pages.value.map((p) => ({ id: p.id, name: p.name })),
    ...(claims.value.some((c) => !c.holder) ? [{ id: '', name: 'no holder' }] : []),
])
/** Who owes; what nobody owes yet though it is no real thing has a line of its own. */
const debtors = computed(() => [
    ...pages.value.map((p) => ({ id: p.id, name: p.name })),
    ...(claims.value.some((c) => !c.debtor) ? [{ id: '', name: 'nobody yet' }] : []),
])
const owed = (debtor: string, holder: string) => {
    const of = claims.value.filter((c) => c.debtor === debtor && c.holder === holder)
    return of.length ? of.reduce((s, c) => s + (ledgers.now(c.balance) ?? NaN), 0) : undefined
}
const unit = computed(() => ledgers.unit)
const unheld = computed(() => (ledgers.books?.claims ?? []).filter((c) => !c.holder))
const choices = (debtor: string) => pages.value.filter((p) => p.id !== debtor).map((p) => ({ value: p.id, words: p.name }))
const worths = computed(() =>
    pages.value.map((p) => ({
        name: p.name,
        value: ledgers.now(p.worth),
        was: ledgers.former?.run ? ledgers.now(p.worth, ledgers.former.run) : undefined,
    })),
)
const most = computed(() => Math.max(1e-300, ...worths.value.flatMap((w) => [Math.abs(w.value ?? 0), Math.abs(w.was ?? 0)])))
const together = computed(() => worths.value.reduce((s, w) => s + (w.value ?? NaN), 0))

const pointed = computed(() => model.model.elements[ledgers.pointed])
const claim = computed(() =>
    pointed.value?.made?.part === 'claims' ? ledgers.books?.claims.find((c) => c.id === pointed.value?.made?.id) : undefined,
)
const row = computed(() => (pointed.value?.made?.part === 'transactions' ? ledgers.rowOf(pointed.value.made.id) : undefined))
/** Parameters that amounts of rows follow from: turned here, the books follow. */
const dials = computed(() => {
    const flows = new Set(ledgers.books?.rows.flatMap((r) => [r.flow, r.flow.replace(/^row-/, 'wanted-')]))
    const ids = new Set(model.model.links.filter((l) => flows.has(l.to)).map((l) => l.from))
    return model.things.filter((t) => ids.has(t.id) && t.kind === 'parameter' && !t.along)
})
const hasValue = (t: Thing) => t.value !== null && t.value !== undefined
function beside(revision: string | undefined) {
    const world = ledgers.worlds.find((w) => String(w.revision) === revision)
    if (world) {
        void ledgers.layBeside(world.revision, world.name)
    }
}
const moving = ref('')
const to = ref('')
const told = ref<Rewired | null>(null)
const from = computed(() => ledgers.claimOf(moving.value))
async function foresee(claim: string, holder: string) {
    moving.value = claim
    to.value = holder
    told.value = null
    if (claim && holder && holder !== from.value?.holder) {
        told.value = await ledgers.foresee(claim, holder).catch((error: unknown) => {
            notices.trouble((error as Error).message)
            return null
        })
    }
}
async function move() {
    if (told.value && (await ledgers.move(moving.value, to.value, told.value))) {
        const name = from.value?.name ?? ''
        notices.say(`${name}: ${ledgers.partyName(to.value)} holds it now.`, { words: 'Undo', run: () => void model.step('undo') })
        told.value = null
        to.value = ''
    }
}
</script>

<template>
    <aside class="side" aria-label="Who owes whom">
        <template v-if="ledgers.books">
            <section v-if="pointed" class="pointed">
                <MadeCard :thing="pointed" />
                <ClaimPart v-if="claim" :key="claim.id" :claim="claim" />
                <RowPart v-else-if="row" :key="row.id" :row="row" />
            </section>
            <section>
                <header>
                    <h2>Who owes whom</h2>
                    <span class="now">{{ shownUnit(unit) ? `${shownUnit(unit)}, ` : '' }}at {{ model.moment(view.playhead) }}</span>
                </header>
                <div class="wide" tabindex="0" role="region" aria-label="Who owes whom, as a table">
                    <table>
                        <thead>
                            <tr>
                                <td class="soft">owes ↓<br />holds →</td>
                                <th v-for="h in holders" :key="h.id" scope="col" class="upright" :class="{ open: !h.id && unheld.length }">
                                    <span>{{ h.name }}</span>
                                </th>
                            </tr>
                        </thead>
                        <tbody>
                            <tr v-for="p in debtors" :key="p.id">
                                <th scope="row" :class="{ open: !p.id }">{{ p.name }}</th>
                                <td v-for="h in holders" :key="h.id" :class="{ open: !h.id }">
                                    {{
                                        p.id && p.id === h.id
                                            ? '∕'
                                            : owed(p.id, h.id) === undefined
                                              ? ''
                                              : short(owed(p.id, h.id), { unit })
                                    }}
                                </td>
                            </tr>
                        </tbody>
                    </table>
                </div>
            </section>
            <section v-if="unheld.length" aria-label="What has no holder yet">
                <p v-for="c in unheld" :key="c.id" class="caution">
                    <b>{{ c.name }}</b> has no holder yet.
                    <ChoiceField
                        :model-value="undefined"
                        :label="`Who holds ${c.name}`"
                        placeholder="who holds it?"
                        :choices="choices(c.debtor)"
                        @update:model-value="$event && ledgers.put('claims', c.id, { holder: $event })"
                    />
                </p>
            </section>
            <section>
                <header>
                    <h2>Net worths</h2>
                    <span class="soft">together {{ short(together, { unit }) }} {{ shownUnit(unit) }}</span>
                </header>
                <p v-if="ledgers.former" class="soft former">
                    Beside another world, which is kept as the version “{{ ledgers.former.name }}”: the marks here, and a line in plots and
                    tracks.
                    <Button class="link" @click="ledgers.forget">Leave it</Button>
                </p>
                <ChoiceField
                    v-else-if="ledgers.worlds.length"
                    :model-value="undefined"
                    label="Which version lies beside"
                    placeholder="beside another world…"
                    :choices="ledgers.worlds.map((w) => ({ value: String(w.revision), words: w.name }))"
                    @update:model-value="beside"
                />
                <div v-for="w in worths" :key="w.name" class="worth">
                    <span>{{ w.name }}</span>
                    <svg width="96" height="12" aria-hidden="true">
                        <rect
                            :class="{ less: (w.value ?? 0) < 0 }"
                            :x="48 + Math.min(0, (47 * (w.value ?? 0)) / most)"
                            y="2"
                            :width="(47 * Math.abs(w.value ?? 0)) / most"
                            height="8"
                        />
                        <line
                            v-if="w.was !== undefined"
                            class="was"
                            :x1="48 + (47 * w.was) / most"
                            :x2="48 + (47 * w.was) / most"
                            y1="0"
                            y2="12"
                        />
                        <line x1="48" x2="48" y1="0" y2="12" />
                    </svg>
                    <b>{{ short(w.value, { unit }) }}</b>
                    <small v-if="w.was !== undefined" class="soft">there {{ short(w.was, { unit }) }}</small>
                </div>
            </section>
            <section v-if="pages.length > 1 && claims.some((c) => c.holder)">
                <h2>Another holder</h2>
                <div class="move">
                    <ChoiceField
                        :model-value="moving"
                        label="Which claim goes to another holder"
                        placeholder="give which claim"
                        :choices="(ledgers.books?.claims ?? []).filter((c) => c.holder).map((c) => ({ value: c.id, words: c.name }))"
                        @update:model-value="foresee($event ?? '', '')"
                    />
                    <ChoiceField
                        v-if="moving"
                        :model-value="to"
                        label="To whom"
                        placeholder="to whom?"
                        :choices="choices(from?.debtor ?? '').filter((c) => c.value !== from?.holder)"
                        @update:model-value="foresee(moving, $event ?? '')"
                    />
                </div>
                <template v-if="told">
                    <ul>
                        <li v-for="a in told.account" :key="a.row"><SaidText :text="a.sentence" /></li>
                        <li v-if="!told.account.length">No row enters it; only net worths change.</li>
                    </ul>
                    <Button class="button strong" @click="move">Give it to {{ ledgers.partyName(to) }}</Button>
                </template>
            </section>
            <section v-if="ledgers.findings.length">
                <h2>Open</h2>
                <ul>
                    <li v-for="f in ledgers.findings" :key="`${f.part} ${f.id} ${f.party}`">
                        <Button class="link" @click="f.party && (ledgers.chosen = f.party)"><SaidText :text="f.sentence" /></Button>
                    </li>
                </ul>
            </section>
            <section v-if="dials.length">
                <header>
                    <h2>Dials of the rows</h2>
                    <Button v-if="runs.tried" class="link" @click="runs.put()">Reset</Button>
                </header>
                <template v-for="d in dials" :key="d.id">
                    <PresentDial v-if="hasValue(d)" :thing="d" />
                    <label v-else class="asked"
                        >{{ d.name
                        }}<InputText
                            class="field"
                            placeholder="its value?"
                            @change="model.attempt({ kind: 'formula', id: d.id, text: ($event.target as HTMLInputElement).value })"
                            @keydown.enter="($event.target as HTMLElement).blur()"
                    /></label>
                </template>
            </section>
        </template>
    </aside>
</template>

<style scoped>
.wide {
    overflow-x: auto;
}
.side {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    align-content: start;
    gap: 14px;
    padding: 12px 16px;
    overflow: auto;
}
.pointed {
    margin: -4px -16px 0;
    border-bottom: 1px solid var(--hairline);
}
.pointed :deep(.card) {
    padding: 4px 16px 12px;
}
section > header {
    display: flex;
    align-items: baseline;
    justify-content: space-between;
}
h2 {
    margin: 0 0 6px;
    font-size: 15px;
}
.now {
    color: var(--ember);
    font-size: 13px;
}
.soft {
    font-size: 13px;
    color: var(--ink-soft);
}
table {
    width: 100%;
    border-collapse: collapse;
    font-size: 12.5px;
    font-variant-numeric: tabular-nums;
}
th,
td {
    padding: 3px 4px;
    border-bottom: 1px solid var(--hairline);
    font-weight: 400;
    text-align: right;
    white-space: nowrap;
}
th[scope='row'] {
    max-width: 76px;
    text-align: left;
    white-space: normal;
}
.upright span {
    display: inline-block;
    max-height: 84px;
    overflow: hidden;
    writing-mode: vertical-rl;
    transform: rotate(180deg);
}
td.soft {
    vertical-align: bottom;
    text-align: left;
}
.open {
    color: var(--brick);
}
.asked {
    display: flex;
    align-items: center;
    justify-content: space-between;
    gap: 8px;
    margin: 4px 0;
    color: var(--brick);
}
.asked .field {
    width: 110px;
}
.move {
    display: grid;
    gap: 6px;
}
ul {
    margin: 8px 0;
    padding-left: 16px;
    font-size: 13px;
}
li .link {
    text-align: left;
}
.worth {
    display: grid;
    grid-template-columns: 1fr 96px 64px;
    align-items: center;
    gap: 8px;
    font-size: 13px;
}
.worth small {
    grid-column: 2 / 4;
    text-align: right;
}
.former {
    margin: 0 0 6px;
}
.former .link {
    min-height: 24px;
}
.was {
    stroke: var(--ink);
    stroke-width: 2;
    stroke-dasharray: 2 2;
}
.worth b {
    text-align: right;
    font-variant-numeric: tabular-nums;
}
rect {
    fill: var(--basin);
}
rect.less {
    fill: var(--plum);
}
line {
    stroke: var(--line);
}
</style>
