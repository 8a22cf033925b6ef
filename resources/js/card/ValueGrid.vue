<script setup lang="ts">
import { ClipboardPaste } from '@lucide/vue'
import { computed, onBeforeUnmount, ref, useTemplateRef, watch } from 'vue'
import type { DimensionView, Thing } from '@/api/types'
import { elementsOf, isGathering, useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useTables } from '@/stores/tables'
import { useView } from '@/stores/view'
import ChoiceField from '@/ui/ChoiceField.vue'
import { fieldText, fieldValue, full, short, shownUnit } from '@/ui/numbers'
import { useRowsInSight } from '@/ui/rowsInSight'
import { cellsOf, numberIn } from './block'
import PasteBlock from './PasteBlock.vue'

/**
 * The values of a thing by its elements: of a parameter the numbers that were given, to be changed; of all others what they are at the
 * playhead, with the sum beside. Two dimensions make rows and columns, one of each further dimension is chosen.
 */
const { thing } = defineProps<{ thing: Thing }>()
const model = useModel()
const runs = useRuns()
const view = useView()
const look = useLook()
const tables = useTables()

/** More columns than this are not told apart in a card. */
const MOST_COLUMNS = 40
const ROW = 27
const MOST_ASKED = 1500

const over = computed(() => (thing.along?.over ?? []).map((id) => look.byId.get(id)).filter((d): d is DimensionView => d !== undefined))
/** The longer one goes down. */
const order = computed(() => {
    const [a, b] = [0, 1].map((i) => (over.value[i] ? elementsOf(over.value[i]).length : 0)) as [number, number]
    return over.value.length < 2 ? { row: 0, column: -1 } : a > b ? { row: 0, column: 1 } : { row: 1, column: 0 }
})
const rowDimension = computed(() => over.value[order.value.row])
const columnDimension = computed(() => over.value[order.value.column])
const rows = computed(() => (rowDimension.value ? elementsOf(rowDimension.value) : []))
const columns = computed(() => (columnDimension.value ? elementsOf(columnDimension.value).slice(0, MOST_COLUMNS) : [undefined]))
const further = computed(() => over.value.slice(2))
const chosen = ref<Record<string, string>>({})
const pickOf = (d: DimensionView) => {
    const looked = look.at(d.id)
    return chosen.value[d.id] ?? (looked && !isGathering(looked) ? looked : (elementsOf(d)[0]?.id ?? ''))
}
const isGiven = computed(() => thing.kind === 'parameter')
const values = computed(() => tables.valuesOf(thing.id))
const elsewhere = computed(() => thing.value ?? NaN)

function placeOf(row: string, column?: string, words: { row?: string; column?: string } = {}): string {
    return over.value
        .map((d, i) => (i === order.value.row ? (words.row ?? row) : i === order.value.column ? (words.column ?? column ?? '') : pickOf(d)))
        .join(',')
}
const keyOf = (place: string) => `${thing.id}[${place}]`
/** A value of the run at the playhead, or the number that was given. */
function valueOf(row: string, column?: string): number | undefined {
    const place = placeOf(row, column)
    return isGiven.value ? (values.value.get(place) ?? elsewhere.value) : runs.value(keyOf(place))
}
const sumOfRow = (row: string) => runs.value(keyOf(placeOf(row, undefined, { column: '*sum' })))
const sumOfColumn = (column?: string) => runs.value(keyOf(placeOf('', column, { row: '*sum' })))
const sumOfAll = computed(() => runs.value(keyOf(placeOf('', undefined, { row: '*sum', column: '*sum' }))))

const needed = computed(() => {
    if (isGiven.value) {
        return []
    }
    const cells = shownRows.value.flatMap(({ row }) => columns.value.map((c) => keyOf(placeOf(row.id, c?.id))))
    const sums = [
        ...(columnDimension.value ? shownRows.value.map(({ row }) => keyOf(placeOf(row.id, undefined, { column: '*sum' }))) : []),
        ...columns.value.map((c) => keyOf(placeOf('', c?.id, { row: '*sum' }))),
        ...(columnDimension.value ? [keyOf(placeOf('', undefined, { row: '*sum', column: '*sum' }))] : []),
    ]
    return [...sums, ...cells].slice(0, MOST_ASKED)
})

const box = useTemplateRef('box')
const { inSight: shownRows, above, below } = useRowsInSight(box, () => rows.value, { row: ROW, around: 8, room: 240 })
watch(
    () => needed.value.join(' '),
    () => {
        runs.needColumns('card', needed.value)
    },
    { immediate: true },
)
onBeforeUnmount(() => {
    runs.needColumns('card', [])
})

/** How dark a cell is among those in sight. */
const extent = computed(() => {
    let [low, high] = [Infinity, -Infinity]
    for (const { row } of shownRows.value) {
        for (const c of columns.value) {
            const v = valueOf(row.id, c?.id)
            if (v !== undefined && Number.isFinite(v)) {
                low = Math.min(low, v)
                high = Math.max(high, v)
            }
        }
    }
    return [Math.min(0, low), high] as const
})
function shade(value: number | undefined) {
    const [low, high] = extent.value
    const part = value === undefined || high <= low ? 0 : (value - low) / (high - low)
    return { background: `color-mix(in srgb, var(--basin-tint) ${Math.round(85 * part)}%, transparent)` }
}
const size = computed(() => Math.max(Math.abs(extent.value[0]), Math.abs(extent.value[1])))
const told = (value: number | undefined) => short(value, { unit: thing.unit, size: size.value })

function write(event: Event, row: string, column?: string) {
    const field = event.target as HTMLInputElement
    const place = placeOf(row, column)
    const value = field.value.trim() === '' ? NaN : fieldValue(field.value, thing.unit)
    const given = values.value.get(place)
    if (field.value.trim() !== '' && !Number.isFinite(value)) {
        field.value = given === undefined ? '' : fieldText(given, thing.unit)
        return
    }
    if (value !== given && !(Number.isNaN(value) && given === undefined)) {
        void tables.write(thing, new Map([[place, value]]))
    }
}
/** To the cell above, below, left or right. */
function travel(event: KeyboardEvent, down: number, across: number) {
    const cell = (event.target as HTMLElement).closest('td')
    const [r, c] = [Number(cell?.dataset.row) + down, Number(cell?.dataset.column) + across]
    const next = box.value?.querySelector<HTMLInputElement>(`td[data-row="${r}"][data-column="${c}"] input`)
    if (next) {
        event.preventDefault()
        next.focus()
        next.select()
    }
}

const pasting = ref<string>()
/** A block without heads fills the cells from here on; one with heads is matched by name. */
function paste(event: ClipboardEvent, row: number, column: number) {
    const text = event.clipboardData?.getData('text') ?? ''
    if (!/[\n\t]/.test(text.trim())) {
        return
    }
    event.preventDefault()
    const cells = cellsOf(text)
    if (cells.some((line) => line.some((cell) => cell !== '' && Number.isNaN(numberIn(cell))))) {
        pasting.value = text
        return
    }
    const changes = new Map<string, number>()
    for (const [i, line] of cells.entries()) {
        for (const [j, cell] of line.entries()) {
            const [r, c] = [rows.value[row + i], columns.value[column + j]]
            if (r && cell !== '' && (c || !columnDimension.value) && column + j < columns.value.length) {
                changes.set(placeOf(r.id, c?.id), numberIn(cell))
            }
        }
    }
    void tables.write(thing, changes)
}
</script>

<template>
    <section v-if="rowDimension" class="grid" :aria-label="`Values of ${thing.name} by element`">
        <header>
            <h3>
                By {{ rowDimension.name }}<template v-if="columnDimension"> and {{ columnDimension.name }}</template>
            </h3>
            <span class="soft">{{
                [shownUnit(thing.unit), isGiven ? '' : `at ${model.moment(view.playhead)}`].filter(Boolean).join(', ')
            }}</span>
        </header>
        <div v-for="d in further" :key="d.id" class="further">
            <span class="soft">{{ d.name }}</span>
            <ChoiceField
                :label="`Which ${d.name}`"
                :model-value="pickOf(d)"
                :choices="elementsOf(d).map((e) => ({ value: e.id, words: e.name }))"
                @update:model-value="chosen = { ...chosen, [d.id]: $event as string }"
            />
        </div>
        <div ref="box" class="box">
            <table>
                <thead v-if="columnDimension">
                    <tr>
                        <th></th>
                        <th v-for="c in columns" :key="c?.id" scope="col" :title="c?.name">{{ c?.name }}</th>
                        <th v-if="!isGiven" scope="col" class="sum">sum</th>
                    </tr>
                </thead>
                <tbody>
                    <tr v-if="above" aria-hidden="true">
                        <td :style="{ height: `${above}px` }"></td>
                    </tr>
                    <tr v-for="{ row, index } in shownRows" :key="row.id">
                        <th scope="row" :title="row.name">{{ row.name }}</th>
                        <template v-if="isGiven">
                            <td v-for="(c, j) in columns" :key="c?.id ?? ''" :data-row="index" :data-column="j" class="given">
                                <InputText
                                    :model-value="
                                        values.get(placeOf(row.id, c?.id)) === undefined
                                            ? ''
                                            : fieldText(values.get(placeOf(row.id, c?.id))!, thing.unit)
                                    "
                                    :placeholder="Number.isFinite(elsewhere) ? fieldText(elsewhere, thing.unit) : ''"
                                    :aria-label="`${thing.name} of ${row.name}${c ? `, ${c.name}` : ''}`"
                                    spellcheck="false"
                                    @change="write($event, row.id, c?.id)"
                                    @paste="paste($event, index, j)"
                                    @keydown.enter="travel($event, $event.shiftKey ? -1 : 1, 0)"
                                    @keydown.down="travel($event, 1, 0)"
                                    @keydown.up="travel($event, -1, 0)"
                                />
                            </td>
                        </template>
                        <template v-else>
                            <td
                                v-for="c in columns"
                                :key="c?.id ?? ''"
                                :style="shade(valueOf(row.id, c?.id))"
                                :title="valueOf(row.id, c?.id) === undefined ? '' : full(valueOf(row.id, c?.id)!, thing.unit)"
                            >
                                {{ told(valueOf(row.id, c?.id)) }}
                            </td>
                            <td v-if="columnDimension" class="sum">{{ told(sumOfRow(row.id)) }}</td>
                        </template>
                    </tr>
                    <tr v-if="below" aria-hidden="true">
                        <td :style="{ height: `${below}px` }"></td>
                    </tr>
                </tbody>
                <tfoot v-if="!isGiven && rows.length > 1">
                    <tr>
                        <th scope="row">sum</th>
                        <td v-for="c in columns" :key="c?.id ?? ''">{{ told(sumOfColumn(c?.id)) }}</td>
                        <td v-if="columnDimension" class="sum">{{ told(sumOfAll) }}</td>
                    </tr>
                </tfoot>
            </table>
        </div>
        <p v-if="columnDimension && elementsOf(columnDimension).length > columns.length" class="soft">
            The first {{ columns.length }} of {{ elementsOf(columnDimension).length }}; the whole table is in Try, as a plot of its own.
        </p>
        <p v-if="isGiven" class="foot">
            <span class="soft"
                >An empty cell has the value above{{ Number.isFinite(elsewhere) ? `, ${fieldText(elsewhere, thing.unit)}` : '' }}.</span
            >
            <Button class="button" @click="pasting = ''"><ClipboardPaste :size="14" :stroke-width="1.6" />Paste a table</Button>
        </p>
        <PasteBlock v-if="pasting !== undefined" :thing="thing" :text="pasting" @done="pasting = undefined" />
    </section>
</template>

<style scoped>
.grid {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 6px;
}
header {
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    gap: 0 10px;
}
h3 {
    flex: none;
    font-size: 13.5px;
}
.further,
.foot {
    display: flex;
    align-items: center;
    justify-content: space-between;
    gap: 10px;
    font-size: 13px;
}
.box {
    overflow: auto;
    max-height: 280px;
}
table {
    border-collapse: separate;
    border-spacing: 0;
    width: 100%;
    font-size: 13px;
}
tr {
    height: 27px;
}
th {
    max-width: 104px;
    padding: 2px 8px 2px 0;
    font-weight: 400;
    text-align: left;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
thead th {
    position: sticky;
    top: 0;
    z-index: 1;
    padding: 2px 6px;
    max-width: 76px;
    text-align: right;
    color: var(--ink-soft);
    background: var(--card);
}
td {
    padding: 2px 6px;
    text-align: right;
    font: 13px var(--mono);
    font-variant-numeric: tabular-nums;
    white-space: nowrap;
}
.given {
    padding: 1px;
}
.given :deep(input) {
    width: 100%;
    min-width: 58px;
    height: 25px;
    padding: 0 6px;
    border: 1px solid var(--hairline);
    border-radius: 4px;
    background: var(--paper);
    text-align: right;
    font: 13px var(--mono);
}
.given :deep(input::placeholder) {
    color: var(--ink-soft);
    opacity: 0.65;
}
.sum {
    border-left: 1px solid var(--ink);
}
tfoot th,
tfoot td {
    position: sticky;
    bottom: 0;
    border-top: 1px solid var(--ink);
    background: var(--card);
}
</style>
