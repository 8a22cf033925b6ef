<script setup lang="ts">
import Popover from 'primevue/popover'
import { Copy, Download, Pin, Plus, Table2, Trash2, X } from '@lucide/vue'
import { computed, ref, watch } from 'vue'
import { api } from '@/api/client'
import type { Plot, PlotKind, PlotOptions as Options, Thing } from '@/api/types'
import { asCsv, asPng, asTabs, asWorkbook, download, type Cell } from '@/charts/download'
import PlotChart from '@/charts/PlotChart.vue'
import PlotOptions from '@/charts/PlotOptions.vue'
import { useCourses } from '@/stores/courses'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import { newId } from '@/ui/ids'
import { literal, shownUnit } from '@/ui/numbers'
import FindingForm from './FindingForm.vue'
import TableView from './TableView.vue'
import TryTabs from './TryTabs.vue'

const KINDS: [PlotKind, string][] = [['lines', 'Lines over time'], ['phase', 'One against another'], ['bars', 'Bars at chosen times'], ['histogram', 'Histogram'], ['multiples', 'A small plot for each run'], ['table', 'Table']]

const model = useModel()
const runs = useRuns()
const courses = useCourses()
const view = useView()
const notices = useNotices()
const chart = ref<InstanceType<typeof PlotChart>>()
const exporting = ref<InstanceType<typeof Popover>>()

const saved = computed(() => Object.values(model.model.plots))
const track = computed(() => model.model.tracks.find((t) => t.id === view.plot))
/** A plot that is not saved yet: what is looked at first, and what grows out of a track. */
const draft = ref<Plot>({ id: '', of: [], kind: 'lines', name: '' })
const plot = computed<Plot>(() => model.model.plots[view.plot] ?? (track.value && { ...track.value, name: '' }) ?? draft.value)
const isSaved = computed(() => model.model.plots[view.plot] !== undefined)
const things = computed(() => plot.value.of.map((id) => model.model.elements[id]).filter((t): t is Thing => t !== undefined))
const title = computed(() => plot.value.name || things.value.map((t) => t.name).join(', ') || 'New plot')
watch(() => [view.plot, model.loaded], () => {
    if (!model.model.plots[view.plot] && !track.value && !draft.value.of.length) {
        const first = saved.value[0]
        if (!view.plot && first) {
            view.plot = first.id
            return
        }
        const tracked = model.model.tracks.flatMap((t) => t.of)
        const stocks = model.things.filter((t) => t.kind === 'stock').map((t) => t.id)
        draft.value = { id: '', of: (view.selectedThings.length ? view.selectedThings : tracked.length ? tracked.slice(0, 1) : stocks.slice(0, 1)).filter((id) => model.model.elements[id]?.kind !== 'curve'), kind: 'lines', name: '' }
    }
}, { immediate: true })
watch(() => plot.value.of, (of) => { runs.need('plot', of) }, { immediate: true })

function change(what: Partial<Plot>) {
    const next = { ...plot.value, ...what }
    if (isSaved.value) {
        void model.attempt({ kind: 'plot-put', plot: next as unknown as Record<string, unknown> })
    } else if (track.value && (next.kind ?? 'lines') === 'lines') {
        void model.attempt({ kind: 'plot-put', track: true, plot: { ...next, name: '' } as unknown as Record<string, unknown> })
    } else {
        draft.value = { ...next, id: '', name: '' }
        view.plot = ''
    }
}
const addable = computed(() => model.things.filter((t) => t.kind !== 'curve' && !plot.value.of.includes(t.id)))
function add(event: Event) {
    const field = event.target as HTMLInputElement
    const thing = addable.value.find((t) => t.name.toLowerCase() === field.value.trim().toLowerCase())
    if (thing) {
        change({ of: [...plot.value.of, thing.id] })
        field.value = ''
    }
}
function drop(event: DragEvent) {
    const id = event.dataTransfer?.getData('application/x-merry-orbit-thing')
    if (id && addable.value.some((t) => t.id === id)) {
        change({ of: [...plot.value.of, id] })
    }
}
const naming = ref(false)
const name = ref('')
async function keep() {
    const id = newId()
    if (name.value.trim() && await model.attempt({ kind: 'plot-put', plot: { ...plot.value, id, name: name.value.trim() } as unknown as Record<string, unknown> })) {
        view.plot = id
        naming.value = false
    }
}
async function remove() {
    const was = plot.value
    if (await model.attempt({ kind: 'discard', what: 'plot', id: was.id })) {
        view.plot = ''
        notices.say(`Removed the plot “${was.name}”.`, { words: 'Undo', run: () => { void model.step('undo') } })
    }
}
function pin() {
    change({ pin: plot.value.pin ? undefined : { sheet: view.sheet, x: 60, y: 60 } })
}
function times(event: Event) {
    const list = (event.target as HTMLInputElement).value.split(/[\s;,]+/).filter(Boolean).map(Number)
    if (list.every(Number.isFinite)) {
        change({ options: { ...plot.value.options, times: list } })
    }
}

const table = ref(false)
const asTable = computed(() => table.value || plot.value.kind === 'table')
/** Values behind the plot: chosen times, or every saved moment on the screen. */
async function rows(): Promise<Cell[][]> {
    const of = plot.value.of
    const chosen = plot.value.options?.times
    const at = chosen?.length ? chosen : Array.from(runs.shown?.times ?? []).filter((_, i, all) => all.length <= 2000 || i % Math.ceil(all.length / 2000) === 0)
    const refs = courses.named
    const answer = await api.values(model.id, refs.map((r) => r.ref), of, at)
    const head = [`${model.model.time.unit}`, ...answer.rows.flatMap((row) => refs.map((r) => `${model.model.elements[row.element]?.name ?? row.element}${unit(row.element)}${refs.length > 1 ? `, ${r.name}` : ''}`))]
    return [head, ...answer.times.map((t, i) => [t, ...answer.rows.flatMap((row) => row.cells.map((c) => c[i] ?? null))])]
}
const unit = (id: string) => {
    const u = model.model.elements[id]?.unit
    return u && u !== '1' ? ` (${shownUnit(u)})` : ''
}
async function out(kind: 'svg' | 'png' | 'csv' | 'xlsx' | 'copy') {
    exporting.value?.hide()
    const file = `${model.model.name} – ${title.value}`.replace(/[^\p{L}\p{N} –-]+/gu, ' ').trim()
    try {
        if (kind === 'svg') {
            download(`${file}.svg`, chart.value?.drawing() ?? '', 'image/svg+xml')
        } else if (kind === 'png') {
            download(`${file}.png`, await asPng(chart.value?.drawing() ?? ''))
        } else if (kind === 'csv') {
            download(`${file}.csv`, asCsv(await rows()), 'text/csv')
        } else if (kind === 'xlsx') {
            download(`${file}.xlsx`, await asWorkbook(await rows(), title.value))
        } else {
            await navigator.clipboard.writeText(asTabs(await rows()))
            notices.say('The table is on the clipboard.')
        }
    } catch (error) {
        notices.trouble((error as Error).message)
    }
}
const finding = () => ({ kind: asTable.value ? 'table' as const : 'plot' as const, plot: { ...plot.value, id: 'shown' }, courses: courses.named.map((c) => ({ name: c.name, ref: { revision: model.revision, ...c.ref } })) })
</script>

<template>
    <section class="leaf" aria-label="Plots" @dragover.prevent @drop.prevent="drop">
        <TryTabs><FindingForm :view="finding" :title="title" /></TryTabs>
        <div class="bar">
            <select class="field which" aria-label="Which plot" :value="isSaved || track ? view.plot : ''" @change="view.plot = ($event.target as HTMLSelectElement).value">
                <option value="">{{ isSaved || track ? 'New plot' : title }}</option>
                <optgroup v-if="saved.length" label="Saved plots"><option v-for="p in saved" :key="p.id" :value="p.id">{{ p.name }}</option></optgroup>
                <optgroup v-if="model.model.tracks.length" label="Tracks"><option v-for="t in model.model.tracks" :key="t.id" :value="t.id">{{ t.of.map((id) => model.model.elements[id]?.name).join(', ') }}</option></optgroup>
            </select>
            <select class="field" aria-label="Kind of plot" :value="plot.kind ?? 'lines'" @change="change({ kind: ($event.target as HTMLSelectElement).value as PlotKind })"><option v-for="[key, words] in KINDS" :key="key" :value="key">{{ words }}</option></select>
            <PlotOptions :options="plot.options ?? {}" :several="plot.of.length > 1" @change="change({ options: $event as Options })" />
            <button type="button" class="icon-button" :aria-pressed="table" :disabled="plot.kind === 'table'" aria-label="The table behind it" title="The table behind it" @click="table = !table"><Table2 :size="16" :stroke-width="1.6" /></button>
            <span class="space" />
            <template v-if="isSaved">
                <button type="button" class="icon-button" :aria-pressed="plot.pin !== undefined" :aria-label="plot.pin ? 'Take it off the sheet' : 'Pin it on the sheet'" :title="plot.pin ? 'Take it off the sheet' : 'Pin it on the sheet beside the structure'" @click="pin"><Pin :size="16" :stroke-width="1.6" /></button>
                <button type="button" class="icon-button" aria-label="Remove this plot" title="Remove this plot" @click="remove"><Trash2 :size="16" :stroke-width="1.6" /></button>
            </template>
            <form v-else-if="naming" class="naming" @submit.prevent="keep"><input v-model="name" class="field" aria-label="Name of the plot" maxlength="80" autofocus @keydown.escape="naming = false" @vue:mounted="({ el }: { el: HTMLInputElement }) => el.select()" /><button type="submit" class="button">Keep</button></form>
            <button v-else type="button" class="button" :disabled="!plot.of.length" @click="name = title; naming = true"><Plus :size="14" :stroke-width="1.8" />Keep this plot</button>
            <button type="button" class="icon-button" aria-label="Take it out as a file" title="As SVG, PNG, CSV, XLSX, or onto the clipboard" @click="exporting?.toggle($event)"><Download :size="16" :stroke-width="1.6" /></button>
            <Popover ref="exporting" :pt="{ root: { 'aria-label': 'Take it out as a file' } }">
                <div class="out">
                    <template v-if="!asTable"><button type="button" @click="out('svg')">Drawing (SVG)</button><button type="button" @click="out('png')">Picture (PNG)</button></template>
                    <button type="button" @click="out('csv')">Values (CSV)</button><button type="button" @click="out('xlsx')">Values (XLSX)</button><button type="button" @click="out('copy')"><Copy :size="13" :stroke-width="1.6" /> Copy values for a spreadsheet</button>
                </div>
            </Popover>
        </div>
        <div class="chips">
            <span v-for="(t, i) in things" :key="t.id" class="chip">{{ plot.kind === 'phase' ? (i === 0 ? 'across: ' : 'up: ') : '' }}<button type="button" @click="view.select(t.id)">{{ t.name }}</button><button type="button" class="x" :aria-label="`Take ${t.name} out`" @click="change({ of: plot.of.filter((o) => o !== t.id) })"><X :size="12" :stroke-width="1.8" /></button></span>
            <input class="field add" list="plot-addable" placeholder="Add a variable" aria-label="Add a variable" @change="add" /><datalist id="plot-addable"><option v-for="t in addable" :key="t.id" :value="t.name" /></datalist>
            <label v-if="plot.kind === 'bars' || asTable" class="times">at {{ model.model.time.unit }} <input class="field" :value="(plot.options?.times ?? []).map(literal).join(', ')" :placeholder="asTable ? 'all' : literal(model.model.time.end)" aria-label="Times, separated by commas" @change="times" /></label>
            <label v-if="asTable" class="times"><input type="checkbox" :checked="plot.options?.totals" @change="change({ options: { ...plot.options, totals: ($event.target as HTMLInputElement).checked } })" /> totals</label>
        </div>
        <TableView v-if="asTable" :plot="plot" class="content" />
        <PlotChart v-else ref="chart" :plot="plot" class="content" />
    </section>
</template>

<style scoped>
.leaf {
    grid-template-rows: auto auto auto minmax(0, 1fr);
}
.bar,
.chips {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 6px;
    padding: 8px 14px 0;
}
.bar {
    flex-wrap: nowrap;
}
.bar .field {
    width: auto;
    min-width: 0;
    min-height: 30px;
    max-width: 172px;
}
.which {
    font-weight: 700;
}
.bar .button {
    flex: none;
    padding: 0 11px;
}
.bar .icon-button {
    flex: none;
}
.space {
    flex: 1;
}
.chip {
    display: inline-flex;
    align-items: center;
    gap: 3px;
}
.x {
    display: grid;
    place-items: center;
    width: 18px;
    height: 18px;
}
.add {
    width: 150px;
    min-height: 26px;
    padding: 2px 8px;
}
.times {
    display: flex;
    align-items: center;
    gap: 6px;
    color: var(--ink-soft);
    font-size: 13px;
}
.times .field {
    width: 130px;
    min-height: 26px;
    color: var(--ink);
}
.naming {
    display: flex;
    gap: 6px;
}
.content {
    padding: 6px 8px;
    min-height: 0;
}
.out {
    display: grid;
    min-width: 210px;
}
.out button {
    display: flex;
    gap: 6px;
    align-items: center;
    padding: 7px 10px;
    border-radius: 6px;
    text-align: left;
}
.out button:hover {
    background: var(--hover);
}
</style>
