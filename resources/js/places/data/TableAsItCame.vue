<script lang="ts">
/** How high a row is. */
const ROW = 26
</script>

<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { TableRead } from '@/api/types'
import { useRowsInSight } from '@/ui/rowsInSight'
import { useRowPieces } from './useRowPieces'

/** A table as it stands in its file; what was understood is drawn onto it, and a click on a row or a column says it better. */
const { table } = defineProps<{ table: TableRead }>()
const emit = defineEmits<{ names: [row: number]; time: [column: string]; mend: [slip: Slip] }>()

type Slip = TableRead['slips'][number]
const slips = computed(() => new Map(table.slips.map((s) => [`${s.row},${s.column}`, s])))
const scroll = ref<HTMLElement | null>(null)
const numbers = computed(() => Array.from({ length: table.size[0] ?? 0 }, (_, i) => i))
const { inSight, above, below, to } = useRowsInSight(scroll, () => numbers.value, { row: ROW, around: 12, room: 500 })
/** The first rows came with the table; others as they are scrolled to. */
const pieces = useRowPieces(() => ({ asItCame: true, after: -1 }))
watch(inSight, (list) => {
    const last = list.at(-1)?.index ?? 0
    if (last >= table.rows.length) {
        pieces.see(list[0]?.index ?? 0, last)
    }
})
const cells = (i: number): readonly (string | number | null)[] => table.rows[i] ?? pieces.row(i) ?? []
const columns = computed(() => Array.from({ length: Math.min(60, Math.max(1, table.size[1] ?? 1)) }, (_, i) => i + 1))
const across = computed(() => table.layout === 'across')
const lines = computed(() => new Map(table.series.map((s) => [s.line, s])))
const remarks = computed(() => new Map(table.remarks.map((r) => [`${r.row},${r.column}`, r.sentence])))
const outRows = computed(() => new Set(table.remarks.filter((r) => r.about === 'left out').map((r) => r.row)))
const ROLES = { time: 'time', numbers: 'numbers', apart: 'tells apart', out: 'left out' } as const

function columnRole(column: number): { name?: string; words: string; out?: boolean; unit?: string; apart?: boolean } {
    const known = table.columns[column - 1]
    return known
        ? { name: known.name, words: ROLES[known.role], out: known.role === 'out', unit: known.unit, apart: known.role === 'apart' }
        : { words: '' }
}
function rowRole(row: number): { words: string; out?: boolean } {
    if (row === table.head) {
        return { words: across.value ? 'times' : 'names' }
    }
    if (row === table.units) {
        return { words: 'units' }
    }
    if (row < table.first || outRows.value.has(row)) {
        return { words: row < table.first && !(table.rows[row - 1] ?? []).some((c) => c) ? '' : 'left out', out: true }
    }
    return across.value && !lines.value.has(row) ? { words: 'left out', out: true } : { words: '' }
}
/** Brings a row into sight. */
function show(row: number) {
    to(row - 1)
}
defineExpose({ show })
</script>

<template>
    <div ref="scroll" class="scroll" tabindex="0" role="region" :aria-label="`The table of ${table.name}`">
        <table :aria-rowcount="(table.size[0] ?? 0) + 1">
            <thead>
                <tr v-if="!across">
                    <td colspan="2" />
                    <th v-for="c in columns" :key="c" scope="col" :class="{ out: columnRole(c).out }">
                        <Button
                            v-if="columnRole(c).words !== 'time' && columnRole(c).name"
                            class="role"
                            :title="`Take ${columnRole(c).name} as the time`"
                            @click="emit('time', columnRole(c).name ?? '')"
                            >{{ columnRole(c).words }}</Button><span v-else class="role still">{{ columnRole(c).words }}</span>
                        <span v-if="columnRole(c).unit" class="unit">in {{ columnRole(c).unit }}</span>
                    </th>
                </tr>
            </thead>
            <tbody>
                <tr v-if="above" aria-hidden="true">
                    <td class="spacer" :style="{ height: `${above}px` }" />
                </tr>
                <tr
                    v-for="{ index: i } in inSight"
                    :key="i"
                    :aria-rowindex="i + 2"
                    :class="{ out: rowRole(i + 1).out, head: i + 1 === table.head }"
                >
                    <td class="about">{{ rowRole(i + 1).words }}</td>
                    <th scope="row">
                        <Button
                            class="number"
                            :title="`The ${across ? 'times' : 'names'} stand in row ${i + 1}`"
                            @click="emit('names', i + 1)"
                            >{{ i + 1 }}</Button
                        >
                    </th>
                    <td
                        v-for="c in columns"
                        :key="c"
                        :class="{
                            out: columnRole(c).out,
                            figure: i + 1 >= table.first && (across ? c > 1 : !columnRole(c).out && !columnRole(c).apart),
                            bad: remarks.has(`${i + 1},${c}`) && !rowRole(i + 1).out && i + 1 >= table.first,
                        }"
                        :title="remarks.get(`${i + 1},${c}`)"
                    >
                        <Button
                            v-if="slips.has(`${i + 1},${c}`)"
                            class="slip"
                            :title="`Read it as ${slips.get(`${i + 1},${c}`)?.value}`"
                            @click="emit('mend', slips.get(`${i + 1},${c}`) as Slip)"
                            >{{ cells(i)[c - 1] }} → {{ slips.get(`${i + 1},${c}`)?.value }}?</Button
                        ><template v-else>{{ cells(i)[c - 1] ?? '' }}</template>
                    </td>
                </tr>
                <tr v-if="below" aria-hidden="true">
                    <td class="spacer" :style="{ height: `${below}px` }" />
                </tr>
            </tbody>
        </table>
    </div>
</template>

<style scoped>
.scroll {
    min-height: 0;
    overflow: auto;
}
table {
    border-collapse: separate;
    border-spacing: 0;
}
thead th,
thead td {
    position: sticky;
    top: 0;
    z-index: 1;
    padding: 4px 10px 6px;
    background: var(--paper);
    text-align: left;
    vertical-align: bottom;
    font-weight: 400;
    font-size: 13px;
    white-space: nowrap;
}
.role {
    text-decoration: underline dotted;
    text-underline-offset: 3px;
}
.still {
    text-decoration: none;
    font-weight: 700;
}
.unit {
    display: block;
    color: var(--ink-soft);
}
tbody td.spacer {
    padding: 0;
    border: 0;
    background: none;
}
tbody td:not(.spacer, .about) {
    height: 26px;
    max-width: 280px;
    padding: 3px 10px;
    border-right: 1px solid var(--hairline);
    border-bottom: 1px solid var(--hairline);
    background: var(--card);
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
tbody .about {
    padding: 3px 10px;
    white-space: nowrap;
    border: none;
    background: none;
    text-align: right;
    font-size: 13px;
    color: var(--ink-soft);
}
tbody th {
    padding: 0;
    border-right: 1px solid var(--line);
}
.number {
    width: 100%;
    min-width: 34px;
    padding: 3px 8px;
    text-align: right;
    font-size: 13px;
    color: var(--ink-soft);
}
.number:hover {
    background: var(--hover);
}
.figure {
    text-align: right;
    font-variant-numeric: tabular-nums;
}
.head td:not(.about) {
    font-weight: 700;
    border-bottom: 1.6px solid var(--ink);
}
tr.out td:not(.about),
td.out,
th.out {
    color: var(--ink-soft);
}
tr.out td:not(.about),
tbody td.out {
    background: repeating-linear-gradient(135deg, transparent 0 5px, var(--hairline) 5px 6px);
}
.slip {
    color: var(--brick);
    text-decoration: underline dotted;
    text-underline-offset: 3px;
}
.bad {
    outline: 1.8px solid var(--brick);
    outline-offset: -2px;
    border-radius: 5px;
}
</style>
