<script setup lang="ts">
import Popover from 'primevue/popover'
import { Copy, Download, Pin, Plus, Table2, Trash2, X } from '@lucide/vue'
import { computed, ref, watch } from 'vue'
import { api } from '@/api/client'
import type { Plot, PlotKind, PlotOptions as Options, Thing } from '@/api/types'
import { asCsv, asPng, asTabs, asWorkbook, download, type Cell } from '@/ui/download'
import { MOST_ROWS as MOST_ROWS_OF_HEAT } from '@/charts/heat'
import HeatMap from '@/charts/HeatMap.vue'
import { hueOf } from '@/charts/lines'
import PlotChart from '@/charts/PlotChart.vue'
import PlotOptions from '@/charts/PlotOptions.vue'
import { linesOf, valueAt } from '@/charts/lines'
import { laidOver } from '@/charts/laidOver'
import { longOf, captionOf, columnHead, rowsOf, shown as shownCell } from '@/charts/rows'
import { titleOf } from '@/charts/words'
import VariableField from '@/find/VariableField.vue'
import { useCourses } from '@/stores/courses'
import { useDrafts } from '@/stores/drafts'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useRanked } from '@/stores/ranked'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import PlotTalk from '@/talk/PlotTalk.vue'
import ChoiceField from '@/ui/ChoiceField.vue'
import { newId } from '@/ui/ids'
import { literal, rounded, shownUnit, shownValue } from '@/ui/numbers'
import { pinPlace } from './pinPlace'
import FindingForm from './FindingForm.vue'
import FindingView from './FindingView.vue'
import TableView from './TableView.vue'
import TryTabs from './TryTabs.vue'
import TurnTable from './TurnTable.vue'

/** Small plots are one kind, which shows either. */
const KINDS: { value: PlotKind | 'each'; words: string }[] = [
    { value: 'lines', words: 'Lines over time' },
    { value: 'phase', words: 'One against another' },
    { value: 'bars', words: 'Bars at chosen times' },
    { value: 'histogram', words: 'Histogram' },
    { value: 'multiples', words: 'One plot for each run' },
    { value: 'each', words: 'One plot for each element' },
    { value: 'table', words: 'Table' },
    { value: 'heat', words: 'Heat map' },
]
const NEW = 'new'

const model = useModel()
const look = useLook()
const runs = useRuns()
const courses = useCourses()
const view = useView()
const notices = useNotices()
const drafts = useDrafts()
const ranked = useRanked()
const chart = ref<InstanceType<typeof PlotChart>>()
const exporting = ref<InstanceType<typeof Popover>>()

const saved = computed(() => Object.values(model.model.plots))
const track = computed(() => model.model.tracks.find((t) => t.id === view.plot))
const EMPTY: Plot = { id: '', of: [], kind: 'lines', name: '' }
const plot = computed<Plot>(
    () => model.model.plots[view.plot] ?? (track.value && { ...track.value, name: '' }) ?? drafts.find(view.plot) ?? EMPTY,
)
const isSaved = computed(() => model.model.plots[view.plot] !== undefined)
const isDraft = computed(() => drafts.find(view.plot) !== undefined)
const things = computed(() => plot.value.of.map((id) => look.elements[id]).filter((t): t is Thing => t !== undefined))
const titleFor = (p: Plot) =>
    p.name ||
    titleOf(
        p,
        p.of.map((id) => ranked.elementsFor(p)[id]).filter((t): t is Thing => t !== undefined),
        model.model.time.unit,
    ) ||
    'Empty plot'
const title = computed(() => titleFor(plot.value))
/** The first look: what was looked at last, else a plot that was kept, else a draft of what is selected. */
function firstPlot(): string {
    const first = saved.value[0] ?? drafts.all[0]
    if (first) {
        return first.id
    }
    const tracked = model.model.tracks.flatMap((t) => t.of)
    const stocks = model.things.filter((t) => t.kind === 'stock').map((t) => t.id)
    const of = view.selectedThings.length ? view.selectedThings : tracked.length ? tracked.slice(0, 1) : stocks.slice(0, 1)
    return drafts.make({ of: of.filter((id) => look.elements[id]?.kind !== 'curve') })
}
watch(
    [() => view.plot, () => model.loaded, isSaved, isDraft, track],
    () => {
        if (model.loaded && !isSaved.value && !isDraft.value && !track.value) {
            view.plot = firstPlot()
        }
    },
    { immediate: true },
)
watch(
    () => plot.value.of,
    (of) => {
        runs.need('plot', of)
    },
    { immediate: true },
)

/** All that can be shown, to choose from. */
const plots = computed(() => {
    const namesIn = (of: string[]) => of.map((id) => look.elements[id]?.name).join(', ')
    return [
        { words: 'New', choices: [{ value: NEW, words: 'New plot' }] },
        { words: 'Drafts', choices: drafts.all.map((d) => ({ value: d.id, words: titleFor(d) })) },
        { words: 'Saved plots', choices: saved.value.map((p) => ({ value: p.id, words: p.name ?? '' })) },
        { words: 'Tracks', choices: model.model.tracks.map((t) => ({ value: t.id, words: namesIn(t.of) })) },
    ]
})

/** What a finding shows as it was saved; leaving it shows the runs of today again. */
const asKept = computed(() => model.model.findings[view.asKept])

function choose(id: string) {
    view.asKept = ''
    view.plot = id === NEW ? drafts.make() : id
}
function change(what: Partial<Plot>) {
    view.asKept = ''
    const next = { ...plot.value, ...what }
    if (isSaved.value) {
        void model.attempt({ kind: 'plot-put', plot: next })
    } else if (track.value && ['lines', 'heat'].includes(next.kind ?? 'lines')) {
        void model.attempt({ kind: 'plot-put', track: true, plot: { ...next, name: '' } })
    } else if (isDraft.value) {
        drafts.put(next)
    } else {
        view.plot = drafts.make(next)
    }
}
function chooseKind(kind: PlotKind | 'each') {
    const options = Object.fromEntries(Object.entries(plot.value.options ?? {}).filter(([key]) => key !== 'each'))
    change(kind === 'each' ? { kind: 'multiples', options: { ...options, each: true } } : { kind, options })
}
function add(id: string) {
    change({ of: [...plot.value.of, id] })
}
function drop(event: DragEvent) {
    const id = event.dataTransfer?.getData('application/x-merry-orbit-thing')
    if (id && look.elements[id] && look.elements[id].kind !== 'curve' && !plot.value.of.includes(id)) {
        add(id)
    }
}
const naming = ref(false)
const name = ref('')
async function keep() {
    const id = newId()
    const was = view.plot
    if (name.value.trim() && (await model.attempt({ kind: 'plot-put', plot: { ...plot.value, id, name: name.value.trim() } }))) {
        view.plot = id
        drafts.drop(was)
        naming.value = false
    }
}
async function remove() {
    const was = plot.value
    if (isDraft.value) {
        drafts.drop(was.id)
        notices.say('Threw the draft away.', {
            words: 'Undo',
            run: () => {
                view.plot = drafts.make(was)
            },
        })
        return
    }
    if (await model.attempt({ kind: 'discard', what: 'plot', id: was.id })) {
        view.plot = ''
        notices.say(`Removed the plot “${was.name}”.`, {
            words: 'Undo',
            run: () => {
                void model.step('undo')
            },
        })
    }
}
function pin() {
    change({ pin: plot.value.pin ? undefined : { sheet: view.sheet, ...pinPlace(model, view.sheet) } })
}
const timesTrouble = ref('')
function times(event: Event) {
    const words = (event.target as HTMLInputElement).value.split(/[\s;,]+/).filter(Boolean)
    const wrong = words.find((w) => !Number.isFinite(Number(w)))
    timesTrouble.value =
        wrong === undefined ? '' : `“${wrong}” is no time. Write numbers with a space or a comma between them, such as 0, 12.5, 30.`
    if (wrong === undefined) {
        change({ options: { ...plot.value.options, times: words.map(Number) } })
    }
}

const table = ref(false)
const asTable = computed(() => table.value || plot.value.kind === 'table')
const turnTable = ref<InstanceType<typeof TurnTable>>()
/** What extends over dimensions is shown in a table that can be turned. */
const turns = computed(() => plot.value.options?.turned !== undefined || things.value.some((t) => t.along))
const DIGITS = [3, 6, 12]
const digits = computed(() => plot.value.options?.digits ?? 3)
function moreDigits() {
    const next = DIGITS[(DIGITS.indexOf(digits.value) + 1) % DIGITS.length] ?? 3
    change({ options: { ...plot.value.options, digits: next === 3 ? undefined : next } })
}

/** Every saved moment that a table may have, of plain values over time; all else as it is plotted. */
async function rows(): Promise<Cell[][]> {
    if (asTable.value && turns.value && turnTable.value) {
        return turnTable.value.cells()
    }
    const { kind, options } = plot.value
    const measured = options?.measure && options.measure !== 'value'
    if (!measured && (kind === undefined || kind === 'lines' || kind === 'table' || kind === 'multiples')) {
        return valueRows()
    }
    const list = courses.list(options?.measure)
    const elements = kind === 'heat' ? look.upTo(MOST_ROWS_OF_HEAT) : look.elements
    return rowsOf({ plot: plot.value, courses: list, elements, unit: model.model.time.unit })
}
const MOST_ROWS = 2000
async function valueRows(): Promise<Cell[][]> {
    const chosen = plot.value.options?.times
    const all = Array.from(runs.shown?.times ?? [])
    const stride = Math.max(1, Math.ceil(all.length / MOST_ROWS))
    const at = chosen?.length ? chosen : all.filter((_, i) => i % stride === 0 || i === all.length - 1)
    if (!chosen?.length && stride > 1) {
        notices.say(`Every ${stride}th of ${all.length} saved moments was exported. Give times to export others.`)
    }
    const refs = courses.named
    const columns = look.columns(plot.value.of)
    const of = (key: string) => columns.find((c) => c.key === key)
    const answer = await api.values(
        model.id,
        refs.map((r) => r.ref),
        columns.map((c) => c.key),
        at,
    )
    const unitOf = (key: string) => of(key)?.unit ?? ''
    // What lies over the runs goes along with them.
    const modes = laidOver(plot.value, model.model)
    const over = linesOf(plot.value, modes, look.elements)
    const head = [
        model.model.time.unit,
        ...answer.rows.flatMap((row) =>
            refs.map(
                (r) =>
                    `${of(row.element)?.name ?? row.element}${shownUnit(unitOf(row.element)) ? ` (${shownUnit(unitOf(row.element))})` : ''}${refs.length > 1 ? `, ${r.name}` : ''}`,
            ),
        ),
        ...over.map((l) => columnHead(l, { plot: plot.value, courses: modes, named: true })),
    ]
    return [
        head,
        ...answer.times.map((t, i) => [
            rounded(t),
            ...answer.rows.flatMap((row) =>
                row.cells.map((c) => (c[i] === null || c[i] === undefined ? null : rounded(shownValue(c[i], unitOf(row.element))))),
            ),
            ...over.map((l) => shownCell(valueAt(l, t), l.unit)),
        ]),
    ]
}
async function out(kind: 'svg' | 'png' | 'csv' | 'long' | 'xlsx' | 'copy') {
    exporting.value?.hide()
    const file = `${model.model.name} – ${title.value}`
        .replace(/[^\p{L}\p{N} –-]+/gu, ' ')
        .trim()
        .slice(0, 120)
    const caption = () =>
        captionOf(
            {
                plot: plot.value,
                courses: courses.list(plot.value.options?.measure),
                elements: look.elements,
                unit: model.model.time.unit,
            },
            title.value,
            model.model.name,
        )
    try {
        if (kind === 'svg') {
            download(`${file}.svg`, chart.value?.drawing() ?? '', 'image/svg+xml')
        } else if (kind === 'png') {
            download(`${file}.png`, await asPng(chart.value?.drawing() ?? ''))
        } else if (kind === 'csv') {
            download(`${file}.csv`, asCsv(await rows()), 'text/csv')
        } else if (kind === 'long') {
            download(`${file}.csv`, asCsv(longOf(await rows())), 'text/csv')
        } else if (kind === 'xlsx') {
            download(`${file}.xlsx`, await asWorkbook([{ name: title.value, rows: [[caption()], ...(await rows())] }]))
        } else {
            await navigator.clipboard.writeText(asTabs(await rows()))
            notices.say('The values are on the clipboard.')
        }
    } catch (error) {
        notices.trouble(`It could not be exported: ${(error as Error).message}`)
    }
}
const finding = () => ({
    kind: asTable.value ? ('table' as const) : ('plot' as const),
    plot: { ...plot.value, id: 'shown' },
    courses: courses.named.map((c) => ({ name: c.name, look: c.look, ref: { revision: model.revision, ...c.ref } })),
})
</script>

<template>
    <section class="leaf" aria-label="Plots" @dragover.prevent @drop.prevent="drop">
        <TryTabs><FindingForm v-if="!asKept" :view="finding" :title="title" /></TryTabs>
        <div v-if="asKept" class="kept" role="status">
            “{{ asKept.title }}” as it was saved. <Button @click="view.asKept = ''">Show it with the runs of today</Button>
        </div>
        <div class="bar">
            <ChoiceField
                class="which"
                label="Which plot"
                :groups="plots"
                :model-value="view.plot"
                @update:model-value="choose($event ?? NEW)"
            />
            <ChoiceField
                label="Kind of plot"
                :choices="KINDS"
                :model-value="plot.kind === 'multiples' && plot.options?.each ? 'each' : (plot.kind ?? 'lines')"
                @update:model-value="chooseKind($event ?? 'lines')"
            />
            <PlotTalk v-if="isSaved && !asKept" :key="plot.id" :plot="plot.id" />
            <PlotOptions
                :options="plot.options ?? {}"
                :kind="plot.kind"
                :unit="things[0]?.unit"
                :several="plot.of.length > 1"
                :many="things.some(ranked.isMany)"
                @change="change({ options: $event as Options })"
            />
            <Button
                class="icon-button"
                :aria-pressed="table"
                :disabled="plot.kind === 'table'"
                aria-label="The table behind it"
                title="The table behind it"
                @click="table = !table"
                ><Table2 :size="16" :stroke-width="1.6"
            /></Button>
            <span class="space" />
            <Button
                v-if="isSaved"
                class="icon-button"
                :aria-pressed="plot.pin !== undefined"
                :aria-label="plot.pin ? 'Take it off the sheet' : 'Pin it on the sheet'"
                :title="plot.pin ? 'Take it off the sheet' : 'Pin it on the sheet beside the structure'"
                @click="pin"
                ><Pin :size="16" :stroke-width="1.6"
            /></Button>
            <Button
                v-if="isSaved || (isDraft && drafts.all.length + saved.length > 1)"
                class="icon-button"
                :aria-label="isDraft ? 'Throw this draft away' : 'Remove this plot'"
                :title="isDraft ? 'Throw this draft away' : 'Remove this plot'"
                @click="remove"
                ><Trash2 :size="16" :stroke-width="1.6"
            /></Button>
            <form v-if="naming" class="naming" @submit.prevent="keep">
                <InputText
                    v-model="name"
                    class="field"
                    aria-label="Name of the plot"
                    maxlength="80"
                    autofocus
                    @keydown.escape="naming = false"
                    @vue:mounted="({ el }) => (el as HTMLInputElement).select()"
                /><Button type="submit" class="button">Save</Button>
            </form>
            <Button
                v-else-if="!isSaved"
                class="button"
                :disabled="!plot.of.length"
                @click="
                    () => {
                        name = title.slice(0, 80)
                        naming = true
                    }
                "
                ><Plus :size="14" :stroke-width="1.8" />Save this plot</Button
            >
            <Button
                class="icon-button"
                aria-label="Export this plot"
                title="Export as SVG, PNG, CSV, XLSX, or onto the clipboard"
                @click="exporting?.toggle($event)"
                ><Download :size="16" :stroke-width="1.6"
            /></Button>
            <Popover ref="exporting" :pt="{ root: { 'aria-label': 'Export' } }">
                <div class="out">
                    <template v-if="!asTable && plot.kind !== 'heat'"
                        ><Button @click="out('svg')">Drawing (SVG)</Button><Button @click="out('png')">Picture (PNG)</Button></template
                    >
                    <Button @click="out('csv')">Values (CSV)</Button
                    ><Button v-if="!['phase', 'histogram'].includes(plot.kind ?? 'lines')" @click="out('long')"
                        >Values, a row for each (CSV)</Button
                    ><Button @click="out('xlsx')">Values (XLSX)</Button
                    ><Button @click="out('copy')"><Copy :size="13" :stroke-width="1.6" /> Copy values for a spreadsheet</Button>
                </div>
            </Popover>
        </div>
        <div class="chips">
            <span v-for="(t, i) in things" :key="t.id" class="chip"
                ><i
                    v-if="things.length > 1 && plot.kind !== 'phase' && !asTable"
                    class="hue"
                    :style="{ background: `var(${hueOf(i)})` }" />{{ plot.kind === 'phase' ? (i === 0 ? 'across: ' : 'up: ') : ''
                }}<Button @click="view.select(t.id)">{{ t.name }}</Button
                ><Button class="x" :aria-label="`Take ${t.name} out`" @click="change({ of: plot.of.filter((o) => o !== t.id) })"
                    ><X :size="12" :stroke-width="1.8" /></Button
            ></span>
            <VariableField :except="plot.of" @choose="add" />
            <label v-if="plot.kind === 'bars' || asTable" class="times"
                >at {{ model.model.time.unit }}
                <InputText
                    class="field"
                    :class="{ wrong: timesTrouble }"
                    :model-value="(plot.options?.times ?? []).map(literal).join(', ')"
                    :placeholder="asTable ? 'all' : literal(model.model.time.end)"
                    aria-label="Times, separated by commas"
                    :aria-invalid="Boolean(timesTrouble)"
                    @change="times"
            /></label>
            <template v-if="asTable">
                <label class="times"
                    ><Checkbox
                        binary
                        :model-value="plot.options?.totals"
                        @update:model-value="change({ options: { ...plot.options, totals: $event } })"
                    />
                    totals</label
                >
                <Button class="digits" :title="`${digits} digits; click for more`" @click="moreDigits">{{ digits }} digits</Button>
            </template>
            <p v-if="timesTrouble" class="trouble" role="alert">{{ timesTrouble }}</p>
        </div>
        <FindingView v-if="asKept" :finding="asKept" class="content" tall />
        <TurnTable
            v-else-if="asTable && turns"
            ref="turnTable"
            :plot="plot"
            class="content"
            @change="change({ options: $event as Options })"
        />
        <TableView v-else-if="asTable" :plot="plot" class="content" />
        <HeatMap v-else-if="plot.kind === 'heat'" :plot="plot" class="content" />
        <PlotChart v-else ref="chart" :plot="plot" class="content" />
    </section>
</template>

<style scoped src="./PlotStage.css"></style>
