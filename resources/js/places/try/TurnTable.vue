<script setup lang="ts">
import { ArrowLeftRight } from '@lucide/vue'
import { ref, useTemplateRef } from 'vue'
import type { Plot, PlotOptions } from '@/api/types'
import ChoiceField from '@/ui/ChoiceField.vue'
import OneOf from '@/ui/OneOf.vue'
import { useRowsInSight } from '@/ui/rowsInSight'
import SaidText from '@/ui/SaidText.vue'
import { moved, transposed, type Field, type Turned, type Zone } from './turning'
import { FEW, useTurnTable } from './useTurnTable'

/** A table of what extends over dimensions: variable, run, time and every dimension goes down, across, or is one of each. */
const { plot } = defineProps<{ plot: Plot }>()
const emit = defineEmits<{ change: [options: PlotOptions] }>()
const {
    turned,
    down,
    across,
    pages,
    pickOf,
    choicesOf,
    rowPlaces,
    columnPlaces,
    totalDown,
    totalAcross,
    trouble,
    order,
    extent,
    sorted,
    sortBy,
    sortWords,
    told,
    titleAt,
    reasons,
    columnHeads,
    rowName,
    isAgain,
    units,
    cells,
} = useTurnTable(() => plot)

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
/** Arrows move a field to the next zone; with Ctrl or Shift within its own. */
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
