<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import Menu from 'primevue/menu'
import { computed, ref } from 'vue'
import SaidText from '@/ui/SaidText.vue'
import { useView } from '@/stores/view'
import ChoiceField from '@/ui/ChoiceField.vue'
import { counted } from '@/ui/numbers'
import GoesTo from './GoesTo.vue'
import TableAfter from './TableAfter.vue'
import TableAsItCame from './TableAsItCame.vue'
import { useData } from './useData'
import { useTableDrop } from './useTableDrop'

/** A table of data as it came, with what was understood drawn onto it, and what becomes of it. */
const data = useData()
const view = useView()
const { over, onto, choose } = useTableDrop()
/** A block of a spreadsheet comes as text with tabs. */
useEventListener(window, 'paste', (event: ClipboardEvent) => {
    const field = event.target instanceof Element && event.target.closest('input, textarea, [contenteditable]')
    const text = event.clipboardData?.getData('text/plain') ?? ''
    if (!field && /\n/.test(text.trim())) {
        event.preventDefault()
        void data.drop('pasted table', new Blob([text]))
    }
})
const menu = ref<{ toggle: (event: Event) => void }>()
/** The table that is shown, as a file. */
const files = [
    { label: 'A column for each series (CSV)', command: () => data.save('csv') },
    { label: 'A row for each value, and where it stands (CSV)', command: () => data.save('long') },
    { label: 'A workbook with notes (XLSX)', command: () => data.save('xlsx') },
]
const LAYOUTS = [
    { value: 'down', words: 'time runs down' },
    { value: 'across', words: 'time runs across' },
    { value: 'long', words: 'long: times come again' },
] as const
const DECIMALS = [
    { value: '.', words: 'decimal point' },
    { value: ',', words: 'decimal comma' },
] as const
const DATES = [
    { value: 'dmy', words: 'day, month, year' },
    { value: 'mdy', words: 'month, day, year' },
    { value: 'ymd', words: 'year, month, day' },
] as const
const why = (what: string) => data.table?.guesses.find((g) => g.what === what)?.why ?? 'as you said'
const tied = computed(() => data.tied.length)
const words = computed(() => (data.kept ? 'kept' : data.source ? 'changed since it was kept' : 'nothing is kept yet'))
/** What is about no single cell, or about many, is told beside the table. */
const general = computed(() => (data.table?.remarks ?? []).filter((r) => r.row === null || r.column === null))
const cells = computed(() => (data.table?.remarks ?? []).filter((r) => r.row !== null && r.column !== null))
const bad = computed(() => cells.value.filter((r) => r.about === 'gap').length)
const asItCame = ref<InstanceType<typeof TableAsItCame>>()
const time = computed(() => {
    const t = data.table?.time
    return t ? `${counted(t.count, 'time')} from ${t.span[0]} to ${t.span[1]}` : ''
})
</script>

<template>
    <div class="data-stage" :class="{ over }" v-on="onto">
        <p v-if="data.refusal" class="refusal" role="alert">{{ data.refusal }}</p>
        <p v-if="data.busy" class="busy soft" role="status">
            {{ data.busy }} …
            <template v-if="data.sending">
                <span v-if="data.sending.share < 1">{{ Math.round(100 * data.sending.share) }} % sent</span>
                <Button class="button" @click="data.sending.stop()">Stop</Button>
            </template>
        </p>
        <template v-if="data.table">
            <header :class="{ beside: !view.outline }">
                <h2>{{ data.table.name }}</h2>
                <span class="soft">{{ words }}</span>
                <Button
                    v-if="!data.kept"
                    class="button strong"
                    :disabled="Object.keys(data.made).length < tied"
                    :title="tied ? '' : 'Steps of other sources can go by it'"
                    @click="data.keep()"
                    >{{ tied ? `Keep ${counted(tied, 'series', 'series')}` : 'Keep the file alone' }}</Button
                >
                <Button class="button" aria-haspopup="menu" @click="menu?.toggle($event)">Export</Button>
                <Menu ref="menu" :model="files" popup />
                <Button class="button" @click="data.close()">Close</Button>
            </header>
            <div class="facts" role="group" aria-label="How it is read">
                <ChoiceField
                    v-if="data.table.sheets.length > 1"
                    :model-value="data.table.sheet"
                    label="Which sheet"
                    :choices="data.table.sheets.map((s) => ({ value: s, words: `sheet ${s}` }))"
                    @update:model-value="data.reread({ sheet: $event, names: undefined, time: '' })"
                />
                <ChoiceField
                    :model-value="data.table.layout"
                    label="Which way time runs"
                    :title="why('layout')"
                    :choices="LAYOUTS"
                    @update:model-value="data.reread({ layout: $event })"
                />
                <ChoiceField
                    :model-value="data.table.decimal"
                    label="The decimal sign"
                    :title="why('decimal')"
                    :choices="DECIMALS"
                    @update:model-value="data.reread({ decimal: $event })"
                />
                <ChoiceField
                    v-if="data.table.time.kind === 'date'"
                    :model-value="data.table.dates"
                    label="The order of dates"
                    :title="why('dates')"
                    :choices="DATES"
                    @update:model-value="data.reread({ dates: $event })"
                />
                <span class="soft">{{ time }}</span>
            </div>
            <p v-if="data.table.time.refusal" class="refusal">
                {{ data.table.time.refusal }}
                <Button v-if="data.table.time.start" class="button" @click="data.startOn(data.table.time.start)"
                    >The study starts on {{ data.table.time.start }}</Button
                >
            </p>
            <TableAfter v-if="data.shown >= 0" class="table" />
            <TableAsItCame
                v-else
                ref="asItCame"
                class="table"
                :table="data.table"
                @names="data.reread({ names: $event })"
                @time="data.reread({ time: $event })"
                @mend="data.mend($event)"
            />
            <details v-if="cells.length + general.length" class="remarks">
                <summary>
                    {{ counted(cells.length + general.length, 'remark')
                    }}<span v-if="bad" class="bad"> · {{ counted(bad, 'cell') }} cannot be read</span>
                </summary>
                <ul>
                    <li v-for="(r, i) in [...general, ...cells]" :key="i">
                        <Button v-if="r.row !== null" class="where" @click="asItCame?.show(r.row)"
                            >row {{ r.row }}{{ r.column === null ? '' : `, column ${r.column}` }}</Button
                        >
                        <SaidText :text="r.sentence" />
                    </li>
                </ul>
            </details>
            <GoesTo />
        </template>
        <div v-else-if="!data.busy" class="empty">
            <h2>What was measured</h2>
            <p>
                Drop a table here: CSV, a spreadsheet (XLSX, ODS) or JSON, as it is. It is shown with what was understood of it; nothing is
                kept before you say so.
            </p>
            <p><Button class="button strong" @click="choose()">Choose a file</Button></p>
            <p class="soft">Or paste a block of a spreadsheet. What is kept lies as points over every plot of its variable.</p>
            <p v-if="data.sources.length && !view.outline" class="known">
                <Button v-for="k in data.sources" :key="k.id" class="button" @click="data.open(k.id)">{{ k.name }}</Button>
            </p>
        </div>
    </div>
</template>

<style scoped>
.data-stage {
    display: flex;
    flex-direction: column;
    height: 100%;
    min-height: 0;
    background: var(--paper);
}
.over {
    box-shadow: inset 0 0 0 3px var(--ember);
}
header {
    display: flex;
    align-items: center;
    gap: 12px;
    padding: 8px 18px;
    border-bottom: 1px solid var(--hairline);
}
/* The button that shows the sources stands there. */
.beside {
    padding-left: 54px;
}
header h2 {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
header .soft {
    margin-right: auto;
}
.facts {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px;
    padding: 8px 18px 2px;
}
.table {
    flex: 1;
    min-height: 90px;
    padding: 0 18px 10px 8px;
}
.refusal {
    margin: 8px 18px;
    padding: 8px 12px;
    border-left: 4px solid var(--brick);
    background: var(--card);
}
.busy {
    padding: 8px 18px;
}
.remarks {
    max-height: 30%;
    padding: 4px 18px 8px;
    overflow-y: auto;
    flex: none;
}
.remarks summary {
    cursor: pointer;
    font-weight: 700;
}
.remarks ul {
    margin: 4px 0 0;
    padding: 0;
    list-style: none;
}
.known {
    display: flex;
    flex-wrap: wrap;
    justify-content: center;
    gap: 8px;
}
.where {
    margin-right: 8px;
    color: var(--ink-soft);
    text-decoration: underline;
    text-underline-offset: 3px;
}
.bad {
    font-weight: 400;
    color: var(--brick);
}
.empty {
    margin: auto;
    width: min(440px, 84%);
    text-align: center;
    font-size: 16px;
    line-height: 1.5;
}
</style>
