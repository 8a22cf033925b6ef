<script setup lang="ts">
import { BookOpen, ClipboardPaste, Plus, Trash2 } from '@lucide/vue'
import { computed, ref } from 'vue'
import { valueAt as valueAtTime } from '@/charts/lines'
import { useLedgers } from '@/stores/ledgers'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import { asCsv, asWorkbook, download } from '@/ui/download'
import { literal } from '@/ui/numbers'
import OneOf from '@/ui/OneOf.vue'
import BookInSight from './BookInSight.vue'
import { bookSheets } from './bookSheets'
import LedgerMatrices from './LedgerMatrices.vue'
import LedgerTable from './LedgerTable.vue'
import PasteLedger from './PasteLedger.vue'
import WorthsPicture from './WorthsPicture.vue'

/** Books of parties: one page at a time, several beside each other, or all as matrices. */
const ledgers = useLedgers()
const shape = ref<'page' | 'beside' | 'matrices' | 'worths'>('page')
const model = useModel()
const runs = useRuns()
const look = useLook()
const view = useView()
const notices = useNotices()
function valueAt(column: string, time: number) {
    const run = runs.shown
    const key = look.drawnKey(column)
    const values = run?.values.get(key)
    return values ? valueAtTime({ times: run?.times ?? new Float64Array(), values }, time) : run?.steady[key]
}
/** At what times balances go out; nothing: the start, the playhead and the end. */
const wanted = ref('')
const usual = computed(() => {
    const { start, end } = model.model.time
    return [...new Set([start, view.playhead, end])].sort((a, b) => a - b)
})
/** The numbers that somebody wrote, in their order; a sentence where they are none of the run. */
function timesIn(text: string, otherwise: number[]): number[] | string {
    const words = text.split(/[\s,;]+/).filter(Boolean)
    const { start, end } = model.model.time
    const odd = words.find((w) => !Number.isFinite(Number(w)) || Number(w) < start || Number(w) > end)
    if (odd !== undefined) {
        return `“${odd}” is no time of the run, which goes from ${start} to ${end}. Write times such as ${usual.value.join(', ')}.`
    }
    return words.length ? [...new Set(words.map(Number))].sort((a, b) => a - b) : otherwise
}
/** Balances at the start, at the playhead and at the end, and what each row comes to at the playhead. */
async function save(kind: 'csv' | 'xlsx') {
    const books = ledgers.books
    if (!books) {
        return
    }
    const { unit } = model.model.time
    const times = timesIn(wanted.value, usual.value)
    if (typeof times === 'string') {
        notices.trouble(times)
        return
    }
    const sheets = bookSheets(books, times, view.playhead, unit, valueAt)
    try {
        if (kind === 'csv') {
            download(`${model.model.name}, ledgers.csv`, asCsv(sheets.flatMap((s) => [...s.rows, []])), 'text/csv')
        } else {
            download(`${model.model.name}, ledgers.xlsx`, await asWorkbook(sheets))
        }
    } catch (error) {
        notices.trouble(`It could not be exported: ${(error as Error).message}`)
    }
}
async function close(id: string, name: string) {
    if (await ledgers.drop('parties', id)) {
        notices.say(`Closed the ledger of ${name}.`, { words: 'Undo', run: () => void model.step('undo') })
    }
}
/** The text of a table that waits to become a ledger; null for none. */
const pasting = ref<string | null>(null)
/** Several lines of cells are a table, wherever on the stage they are pasted but into a field. */
function pasted(event: ClipboardEvent) {
    const text = event.clipboardData?.getData('text/plain') ?? ''
    if (event.target instanceof HTMLInputElement || event.target instanceof HTMLTextAreaElement || !/\t.*\n./s.test(text)) {
        return
    }
    event.preventDefault()
    pasting.value = text
}
const pages = computed(() => ledgers.books?.pages ?? [])
const open = (party: string) => ledgers.findings.filter((f) => f.party === party).length
</script>

<template>
    <section class="leaf ledgers" aria-label="Ledgers" @paste="pasted">
        <PasteLedger v-if="pasting !== null" :given="pasting" @done="pasting = null" />
        <div v-if="!ledgers.isThere" class="empty">
            <BookOpen :size="30" :stroke-width="1.3" />
            <p>
                Here parties keep their books: what each owns, owes and is worth, and rows that enter twice. The tables are the model: once
                a row balances and says how much, balances move.
            </p>
            <p class="ways">
                <Button class="button strong" @click="ledgers.addParty">Add a ledger</Button>
                <Button class="button" @click="pasting = ''">Paste a table</Button>
            </p>
        </div>
        <template v-else>
            <header>
                <div class="tabs" role="tablist" aria-label="Whose ledger">
                    <Button
                        v-for="p in pages"
                        :key="p.id"
                        class="tab"
                        role="tab"
                        :aria-selected="shape === 'page' && ledgers.page?.id === p.id"
                        @click="((ledgers.chosen = p.id), (shape = 'page'))"
                        >{{ p.name }}<i v-if="open(p.id)" class="open" :title="`${open(p.id)} open`">●</i></Button
                    >
                </div>
                <span class="adds">
                    <Button class="tab add" @click="ledgers.addParty"><Plus :size="14" :stroke-width="1.7" />Add a ledger</Button>
                    <Button class="tab add" title="A table out of a spreadsheet becomes a ledger" @click="pasting = ''"
                        ><ClipboardPaste :size="14" :stroke-width="1.7" />Paste a table</Button
                    >
                </span>
                <OneOf
                    v-model="shape"
                    label="How ledgers are laid out"
                    :choices="[
                        { value: 'page', words: 'One page' },
                        { value: 'beside', words: 'Beside each other' },
                        { value: 'matrices', words: 'Matrices' },
                        { value: 'worths', words: 'Net worths' },
                    ]"
                />
                <OneOf
                    v-model="ledgers.writing"
                    label="How entries are written"
                    :choices="[
                        { value: 'signs', words: 'Signs' },
                        { value: 'debit', words: 'Debit and credit' },
                    ]"
                />
                <span class="soft save"
                    >Save as <Button class="link" aria-label="Save the ledgers as CSV" @click="save('csv')">CSV</Button>
                    <Button class="link" aria-label="Save the ledgers as a workbook" @click="save('xlsx')">XLSX</Button>
                    <label
                        >at {{ model.model.time.unit }}
                        <InputText
                            v-model="wanted"
                            class="times"
                            aria-label="At what times balances go out"
                            :placeholder="usual.map((t) => literal(t)).join(', ')"
                            spellcheck="false" /></label
                ></span>
            </header>
            <div class="scroll" tabindex="0">
                <template v-if="shape === 'page' && ledgers.page">
                    <LedgerTable :page="ledgers.page" />
                    <Button class="link remove" @click="close(ledgers.page.id, ledgers.page.name)"
                        ><Trash2 :size="13" :stroke-width="1.6" />Close the ledger of {{ ledgers.page.name }}: its claims stay, open on that
                        side</Button
                    >
                </template>
                <div v-else-if="shape === 'beside'" class="beside">
                    <BookInSight v-for="p in pages" :key="p.id" :page="p" />
                </div>
                <WorthsPicture v-else-if="shape === 'worths'" />
                <LedgerMatrices v-else-if="ledgers.books" :books="ledgers.books" />
            </div>
        </template>
    </section>
</template>

<style scoped>
.ledgers {
    display: flex;
    flex-direction: column;
    height: 100%;
    min-height: 0;
}
header {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 6px 14px;
    padding: 10px 16px 0;
}
.tabs {
    display: flex;
    flex-wrap: wrap;
    gap: 4px;
}
.tab {
    display: inline-flex;
    align-items: center;
    gap: 5px;
    min-height: 30px;
    padding: 0 12px;
    border: 1px solid var(--hairline);
    border-radius: 6px 6px 0 0;
    background: var(--paper);
}
.tab[aria-selected='true'] {
    border-color: var(--line);
    background: var(--card);
    font-weight: 700;
}
.adds {
    display: flex;
    gap: 4px;
    margin-right: auto;
}
.tab.add {
    border-color: transparent;
}
.ways {
    display: flex;
    gap: 10px;
}
.open {
    font-style: normal;
    font-size: 11px;
    color: var(--brick);
}
.scroll {
    flex: 1;
    min-height: 0;
    overflow: auto;
    padding: 8px 20px 20px 16px;
}
.beside {
    display: grid;
    gap: 16px;
}
.remove {
    display: inline-flex;
    align-items: center;
    gap: 5px;
    min-height: 24px;
    margin-top: 12px;
    font-size: 13px;
}
.save {
    font-size: 13px;
    color: var(--ink-soft);
}
.times {
    width: 104px;
    min-height: 24px;
    border: 0;
    border-bottom: 1px dotted var(--line);
    background: none;
    font-size: 13px;
    color: var(--ink);
}
.save .link {
    min-height: 24px;
    padding-inline: 3px;
}
.empty {
    display: grid;
    justify-items: center;
    align-content: center;
    gap: 12px;
    height: 100%;
    padding: 24px;
    text-align: center;
}
.empty p {
    max-width: 520px;
    margin: 0;
}
</style>
