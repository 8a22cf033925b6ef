<script setup lang="ts">
import { ArrowLeftRight } from '@lucide/vue'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { api } from '@/api/client'
import type { DimensionView, Plot, PlotOptions, TableAnswer } from '@/api/types'
import { useCourses } from '@/stores/courses'
import { elementsOf, GATHERINGS, useLook, wordsOf } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import ChoiceField from '@/ui/ChoiceField.vue'
import type { Cell } from '@/ui/download'
import OneOf from '@/ui/OneOf.vue'
import { full, literal, rounded, short, shownUnit, shownValue } from '@/ui/numbers'
import { useRowsInSight } from '@/ui/rowsInSight'
import SaidText from '@/ui/SaidText.vue'
import { heads, moved, placesAlong, transposed, usualTurn, type Field, type Place, type Turned, type Zone } from './turning'

/** A table of what extends over dimensions: variable, run, time and every dimension goes down, across, or is one of each. */
const { plot } = defineProps<{ plot: Plot }>()
const emit = defineEmits<{ change: [options: PlotOptions] }>()
const model = useModel()
const runs = useRuns()
const courses = useCourses()
const view = useView()
const look = useLook()

const MOST_ROWS = 2000
const MOST_COLUMNS = 60
/** Without chosen times so many of the saved moments stand in a table. */
const SOME_TIMES = 61

const things = computed(() => plot.of.map((id) => model.model.elements[id]).filter((t) => t !== undefined && t.kind !== 'curve'))
const dimensions = computed(() => {
    const ids = [...new Set(things.value.flatMap((t) => t?.along?.over ?? []))]
    return ids.map((id) => look.byId.get(id)).filter((d): d is DimensionView => d !== undefined)
})
const named = computed(() => courses.named)
const times = computed(() => {
    const chosen = plot.options?.times
    if (chosen?.length) {
        return chosen
    }
    const saved = Array.from(runs.shown?.times ?? [])
    const stride = Math.max(1, Math.ceil(saved.length / SOME_TIMES))
    return saved.filter((_, i) => i % stride === 0 || i === saved.length - 1)
})
const fields = computed<Field[]>(() => [
    { id: 'variable', name: 'variable', items: things.value.map((t) => ({ id: t?.id ?? '', name: t?.name ?? '' })) },
    { id: 'run', name: 'run', items: named.value.map((n, i) => ({ id: String(i), name: n.name })) },
    {
        id: 'time',
        name: model.model.time.unit,
        items: times.value.map((t) => ({ id: String(t), name: literal(Number(t.toPrecision(6))) })),
    },
    ...dimensions.value.map((d) => ({ id: d.id, name: d.name, items: elementsOf(d), isDimension: true })),
])
const turned = computed<Turned>(() => {
    const kept = plot.options?.turned
    const known = (list: string[]) => list.filter((id) => fields.value.some((f) => f.id === id))
    return kept
        ? { rows: known(kept.rows ?? []), columns: known(kept.columns ?? []), picks: (kept.picks ?? {}) as Record<string, string> }
        : usualTurn(fields.value)
})
const fieldsIn = (ids: string[]) => ids.map((id) => fields.value.find((f) => f.id === id)).filter((f): f is Field => f !== undefined)
const down = computed(() => fieldsIn(turned.value.rows))
const across = computed(() => fieldsIn(turned.value.columns))
const pages = computed(() => fields.value.filter((f) => !turned.value.rows.includes(f.id) && !turned.value.columns.includes(f.id)))
/** Rows in the order of a column’s values, and perhaps only the largest or the smallest of them. */
const order = ref<{ column: number; falling: boolean } | null>(null)
const extent = ref<'all' | 'top' | 'bottom'>('all')
const FEW = 10
const sorted = computed(() => {
    const by = order.value
    const column = columnPlaces.value[by?.column ?? 0]
    const all = [...rowPlaces.value]
    if ((by || extent.value !== 'all') && column) {
        const value = (row: Place) => valueAt(row, column) ?? (extent.value === 'bottom' || by?.falling === false ? Infinity : -Infinity)
        const falling = extent.value === 'top' || (extent.value === 'all' && by?.falling !== false)
        all.sort((a, b) => (falling ? value(b) - value(a) : value(a) - value(b)))
    }
    return extent.value === 'all' ? all : all.slice(0, FEW)
})
function sortBy(column: number) {
    order.value = order.value?.column !== column ? { column, falling: true } : order.value.falling ? { column, falling: false } : null
}
const sortWords = (column: number) => (order.value?.column !== column ? 'none' : order.value.falling ? 'descending' : 'ascending')
const withTotals = computed(() => plot.options?.totals === true)

/** What a page field stands at: a choice of its own, else where the window looks, else the first. */
function pickOf(field: Field): string {
    const own = turned.value.picks[field.id]
    if (own !== undefined && (own.startsWith('*') || own === 'playhead' || field.items.some((i) => i.id === own))) {
        return own
    }
    return field.id === 'time' ? 'playhead' : field.isDimension ? look.at(field.id) || '*sum' : (field.items[0]?.id ?? '')
}
function choicesOf(field: Field) {
    const dimension = look.byId.get(field.id)
    return [
        ...(field.id === 'time' ? [{ value: 'playhead', words: `${model.moment(view.playhead)} (the playhead)` }] : []),
        ...(dimension ? GATHERINGS.map(([value]) => ({ value: value as string, words: wordsOf(dimension, value) })) : []),
        ...field.items.map((i) => ({ value: i.id, words: i.name })),
    ]
}
const rowPlaces = computed(() => placesAlong(down.value, MOST_ROWS))
const columnPlaces = computed(() => placesAlong(across.value, MOST_COLUMNS))
/** The field over which totals are told: the last dimension down, and across. */
const totalDown = computed(() => (withTotals.value ? (down.value.at(-1)?.isDimension ? down.value.at(-1) : undefined) : undefined))
const totalAcross = computed(() => (withTotals.value ? (across.value.at(-1)?.isDimension ? across.value.at(-1) : undefined) : undefined))

/** The whole place of a cell: what stands in its row, its column and on the page. */
function whole(row: Place, column: Place): Place {
    return { ...Object.fromEntries(pages.value.map((f) => [f.id, pickOf(f)])), ...row, ...column }
}
function keyOf(place: Place): string {
    const thing = model.model.elements[place.variable ?? '']
    return thing?.along ? `${thing.id}[${thing.along.over.map((d) => place[d] ?? '*sum').join(',')}]` : (thing?.id ?? '')
}
const keys = computed(() => {
    const all = new Set<string>()
    const add = (row: Place, column: Place) => all.add(keyOf(whole(row, column)))
    for (const row of rowPlaces.value) {
        for (const column of columnPlaces.value) {
            add(row, column)
        }
        if (totalAcross.value) {
            add(row, { ...columnPlaces.value[0], [totalAcross.value.id]: '*sum' })
        }
    }
    if (totalDown.value && totalAcross.value) {
        add({ ...rowPlaces.value[0], [totalDown.value.id]: '*sum' }, { ...columnPlaces.value[0], [totalAcross.value.id]: '*sum' })
    }
    for (const column of totalDown.value ? columnPlaces.value : []) {
        add({ ...rowPlaces.value[0], [totalDown.value?.id ?? '']: '*sum' }, column)
    }
    return [...all].filter(Boolean).slice(0, MOST_ROWS)
})
const at = computed(() => {
    const time = pages.value.find((f) => f.id === 'time')
    const pick = time && pickOf(time)
    return pick === undefined ? times.value : [pick === 'playhead' ? view.playhead : Number(pick)]
})

const answer = ref<TableAnswer<(number | null)[]>>()
const trouble = ref('')
let asked = 0
watch(
    [keys, at, named, () => runs.shown],
    async () => {
        const mine = ++asked
        if (runs.held || !keys.value.length) {
            return
        }
        try {
            const got = await api.values(
                model.id,
                named.value.map((c) => c.ref),
                keys.value,
                at.value,
            )
            if (mine === asked) {
                answer.value = got
                trouble.value = ''
            }
        } catch (error) {
            trouble.value = (error as Error).message
        }
    },
    { immediate: true },
)
const rowsByKey = computed(() => new Map((answer.value?.rows ?? []).map((r) => [r.element, r.cells])))
const timeIndex = computed(() => new Map((answer.value?.times ?? []).map((t, i) => [String(t), i])))
function valueAt(row: Place, column: Place): number | null | undefined {
    const place = whole(row, column)
    const cells = rowsByKey.value.get(keyOf(place))?.[Number(place.run ?? 0)]
    return cells?.[
        place.time === undefined || place.time === 'playhead' || at.value.length === 1 ? 0 : (timeIndex.value.get(place.time) ?? -1)
    ]
}
const unitAt = (row: Place, column: Place) => model.model.elements[whole(row, column).variable ?? '']?.unit ?? ''
const digits = computed(() => plot.options?.digits ?? 3)
function told(row: Place, column: Place): string {
    return short(valueAt(row, column), { unit: unitAt(row, column), digits: digits.value })
}
function titleAt(row: Place, column: Place): string {
    const value = valueAt(row, column)
    const why = answer.value?.untold?.[keyOf(whole(row, column))]
    return value === null || value === undefined
        ? (why ?? 'no value here')
        : `${full(value, unitAt(row, column))} ${shownUnit(unitAt(row, column))}`
}
const reasons = computed(() => [...new Set(Object.values(answer.value?.untold ?? {}))].slice(0, 3))
const columnHeads = computed(() => heads(across.value, columnPlaces.value))
const rowName = (field: Field, place: Place) => field.items.find((i) => i.id === place[field.id])?.name ?? ''
/** A head that is the same as in the row above is not repeated. */
function isAgain(level: number, index: number): boolean {
    const [now, before] = [sorted.value[index], sorted.value[index - 1]]
    return (
        before !== undefined && level < down.value.length - 1 && down.value.slice(0, level + 1).every((f) => now?.[f.id] === before[f.id])
    )
}
const units = computed(() => [...new Set(things.value.map((t) => shownUnit(t?.unit ?? '')).filter(Boolean))].join(' · '))

/** Only rows in sight are drawn. */
const box = useTemplateRef('box')
const ROW = 29
const { inSight, above, below } = useRowsInSight(box, () => sorted.value, { row: ROW, around: 20, room: 600 })

function turn(now: Turned) {
    emit('change', { ...plot.options, turned: now })
}
const pick = (field: string, value: string) => {
    turn({ ...turned.value, picks: { ...turned.value.picks, [field]: value } })
}
const dragged = ref('')
function drop(zone: Zone, place?: number) {
    if (dragged.value) {
        turn(moved(turned.value, dragged.value, zone, place))
    }
    dragged.value = ''
}
const ZONES: { zone: Zone; words: string }[] = [
    { zone: 'pages', words: 'One of each' },
    { zone: 'rows', words: 'Rows' },
    { zone: 'columns', words: 'Columns' },
]
const inZone = (zone: Zone) => (zone === 'rows' ? down.value : zone === 'columns' ? across.value : pages.value)
/** Arrows move a field within its zone, and to the next zone where Ctrl is held. */
function key(event: KeyboardEvent, field: Field, zone: Zone, place: number) {
    const by = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0
    if (!by) {
        return
    }
    event.preventDefault()
    const order: Zone[] = ['pages', 'rows', 'columns']
    const next = order[(order.indexOf(zone) + by + 3) % 3] ?? 'rows'
    turn(
        event.ctrlKey || event.shiftKey
            ? moved(turned.value, field.id, zone, Math.max(0, place + by))
            : moved(turned.value, field.id, next),
    )
    window.setTimeout(() => document.querySelector<HTMLElement>(`[data-field="${field.id}"]`)?.focus(), 60)
}

/** What the table shows, for a file or the clipboard. */
function cells(): Cell[][] {
    const shown = (row: Place, column: Place): Cell => {
        const value = valueAt(row, column)
        return value === null || value === undefined ? null : rounded(shownValue(value, unitAt(row, column)))
    }
    const top = across.value.map((f, level) => [
        ...down.value.map((d, i) => (level === across.value.length - 1 ? d.name : i === down.value.length - 1 ? f.name : '')),
        ...columnPlaces.value.map((p) => rowName(f, p)),
        ...(totalAcross.value ? [level === across.value.length - 1 ? 'sum' : ''] : []),
    ])
    const page = pages.value.map((f) => `${f.name}: ${choicesOf(f).find((c) => c.value === pickOf(f))?.words ?? ''}`).join(', ')
    return [
        [[page, units.value].filter(Boolean).join(' – ')],
        ...(top.length ? top : [[...down.value.map((d) => d.name), units.value]]),
        ...sorted.value.map((row) => [
            ...down.value.map((f) => rowName(f, row)),
            ...columnPlaces.value.map((column) => shown(row, column)),
            ...(totalAcross.value ? [shown(row, { ...columnPlaces.value[0], [totalAcross.value.id]: '*sum' })] : []),
        ]),
        ...(totalDown.value
            ? [
                  [
                      ...down.value.map((_, i) => (i === down.value.length - 1 ? 'sum' : '')),
                      ...columnPlaces.value.map((column) => shown({ ...rowPlaces.value[0], [totalDown.value?.id ?? '']: '*sum' }, column)),
                      ...(totalAcross.value
                          ? [
                                shown(
                                    { ...rowPlaces.value[0], [totalDown.value.id]: '*sum' },
                                    { ...columnPlaces.value[0], [totalAcross.value.id]: '*sum' },
                                ),
                            ]
                          : []),
                  ],
              ]
            : []),
    ]
}
defineExpose({ cells })
</script>

<template>
    <div class="turn">
        <div class="zones" role="group" aria-label="How the table is turned">
            <div
                v-for="{ zone, words } in ZONES"
                :key="zone"
                class="zone"
                role="list"
                :aria-label="words"
                @dragover.prevent
                @drop.prevent="drop(zone)"
            >
                <span class="soft">{{ words }}</span>
                <span
                    v-for="(f, i) in inZone(zone)"
                    :key="f.id"
                    class="field-chip"
                    role="listitem"
                    draggable="true"
                    @dragstart="dragged = f.id"
                    @dragend="dragged = ''"
                    @dragover.prevent
                    @drop.prevent.stop="drop(zone, i)"
                >
                    <Button
                        class="what"
                        :data-field="f.id"
                        :title="`Drag ${f.name} to another zone, or press the left and right arrow keys`"
                        :aria-label="`${f.name}, in ${words}: arrow keys move it`"
                        @keydown="key($event, f, zone, i)"
                        >{{ f.name }}</Button
                    >
                    <ChoiceField
                        v-if="zone === 'pages'"
                        :label="`Which ${f.name}`"
                        :model-value="pickOf(f)"
                        :choices="choicesOf(f)"
                        @update:model-value="pick(f.id, $event as string)"
                    />
                </span>
                <span v-if="!inZone(zone).length" class="soft none">drop here</span>
            </div>
            <Button
                class="icon-button"
                aria-label="Rows become columns"
                title="Rows become columns, columns rows"
                @click="turn(transposed(turned))"
                ><ArrowLeftRight :size="16" :stroke-width="1.6"
            /></Button>
            <OneOf
                v-if="rowPlaces.length > FEW"
                v-model="extent"
                label="Which rows"
                :choices="[
                    { value: 'all', words: 'All rows' },
                    { value: 'top', words: `Top ${FEW}` },
                    { value: 'bottom', words: `Bottom ${FEW}` },
                ]"
            />
            <span class="soft unit">{{ units }}</span>
        </div>
        <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
        <p v-for="why in reasons" :key="why" class="soft said" role="note">– <SaidText :text="why" /></p>
        <div ref="box" class="scroll" tabindex="0">
            <table>
                <thead>
                    <tr v-for="(line, level) in columnHeads" :key="level">
                        <th v-for="(d, i) in down" :key="d.id" class="corner">
                            {{ level === columnHeads.length - 1 ? d.name : i === down.length - 1 ? across[level]?.name : '' }}
                        </th>
                        <th
                            v-for="h in line"
                            :key="h.at"
                            scope="col"
                            :colspan="h.span"
                            :title="h.name"
                            :aria-sort="level === columnHeads.length - 1 ? sortWords(h.at) : undefined"
                        >
                            <Button
                                v-if="level === columnHeads.length - 1"
                                class="head"
                                title="Order the rows by this column"
                                @click="sortBy(h.at)"
                                >{{ h.name }}{{ order?.column === h.at ? (order.falling ? ' ↓' : ' ↑') : '' }}</Button
                            >
                            <template v-else>{{ h.name }}</template>
                        </th>
                        <th v-if="totalAcross" class="sum">{{ level === columnHeads.length - 1 ? 'sum' : '' }}</th>
                    </tr>
                    <tr v-if="!columnHeads.length">
                        <th v-for="d in down" :key="d.id" class="corner">{{ d.name }}</th>
                        <th scope="col" :aria-sort="sortWords(0)">
                            <Button class="head" title="Order the rows by this column" @click="sortBy(0)"
                                >{{ units || 'value' }}{{ order ? (order.falling ? ' ↓' : ' ↑') : '' }}</Button
                            >
                        </th>
                    </tr>
                </thead>
                <tbody>
                    <tr v-if="above" aria-hidden="true">
                        <td :style="{ height: `${above}px` }"></td>
                    </tr>
                    <tr v-for="{ row, index: i } in inSight" :key="i">
                        <th v-for="(f, level) in down" :key="f.id" scope="row" :title="rowName(f, row)">
                            {{ isAgain(level, i) ? '' : rowName(f, row) }}
                        </th>
                        <td v-for="(column, j) in columnPlaces" :key="j" :title="titleAt(row, column)">{{ told(row, column) }}</td>
                        <td v-if="totalAcross" class="sum">{{ told(row, { ...columnPlaces[0], [totalAcross.id]: '*sum' }) }}</td>
                    </tr>
                    <tr v-if="below" aria-hidden="true">
                        <td :style="{ height: `${below}px` }"></td>
                    </tr>
                </tbody>
                <tfoot v-if="totalDown">
                    <tr>
                        <th v-for="(f, level) in down" :key="f.id" scope="row">{{ level === down.length - 1 ? 'sum' : '' }}</th>
                        <td v-for="(column, j) in columnPlaces" :key="j">
                            {{ told({ ...rowPlaces[0], [totalDown.id]: '*sum' }, column) }}
                        </td>
                        <td v-if="totalAcross" class="sum">
                            {{ told({ ...rowPlaces[0], [totalDown.id]: '*sum' }, { ...columnPlaces[0], [totalAcross.id]: '*sum' }) }}
                        </td>
                    </tr>
                </tfoot>
            </table>
        </div>
    </div>
</template>

<style scoped>
.turn {
    display: flex;
    flex-direction: column;
    gap: 8px;
    height: 100%;
    padding: 10px 16px;
    overflow: hidden;
}
.zones {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px 12px;
}
.zone {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 6px;
    min-height: 36px;
    padding: 3px 10px;
    border: 1px dashed var(--line);
    border-radius: 10px;
}
.field-chip {
    display: inline-flex;
    align-items: center;
    gap: 4px;
    padding: 1px 4px 1px 10px;
    border: 1px solid var(--line);
    border-radius: 14px;
    background: var(--paper);
    cursor: grab;
}
.what {
    padding: 2px 6px 2px 0;
    cursor: grab;
}
.none {
    font-size: 12.5px;
    opacity: 0.8;
}
.unit {
    margin-left: auto;
}
.said {
    font-size: 13px;
}
.scroll {
    flex: 1;
    min-height: 0;
    overflow: auto;
}
.head {
    max-width: 100%;
    overflow: hidden;
    text-overflow: ellipsis;
    color: inherit;
}
tbody tr {
    height: 29px;
}
table {
    border-collapse: separate;
    border-spacing: 0;
}
th,
td {
    padding: 4px 12px;
    border-bottom: 1px solid var(--hairline);
    text-align: right;
    white-space: nowrap;
}
td {
    font: 13.5px var(--mono);
    font-variant-numeric: tabular-nums;
}
th {
    font-weight: 400;
}
thead th {
    position: sticky;
    top: 0;
    z-index: 1;
    background: var(--card);
    max-width: 160px;
    overflow: hidden;
    text-overflow: ellipsis;
    color: var(--ink-soft);
}
thead tr:nth-child(2) th {
    top: 29px;
}
tbody th,
.corner {
    text-align: left;
}
thead .corner {
    color: var(--ink-soft);
    text-align: left;
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
    text-align: right;
}
tfoot th {
    text-align: left;
}
.trouble {
    color: var(--brick);
}
</style>
