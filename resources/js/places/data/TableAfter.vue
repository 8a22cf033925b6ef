<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRowsInSight } from '@/ui/rowsInSight'
import { useData } from './useData'
import { useRowPieces } from './useRowPieces'

/** The table as it is after a step: times, and the values of each series. Rows come as they are scrolled to. */
const data = useData()
const box = ref<HTMLElement | null>(null)
const { head, trouble, see, row } = useRowPieces(() => ({ after: data.shown }))
const numbers = computed(() => Array.from({ length: head.value?.count ?? 0 }, (_, i) => i))
const { inSight, above, below } = useRowsInSight(box, () => numbers.value, { row: 27, around: 12, room: 500 })
watch(
    () => [data.table, data.shown, inSight.value] as const,
    ([, , list]) => {
        see(list[0]?.index ?? 0, list.at(-1)?.index ?? 0)
    },
    { immediate: true, flush: 'post' },
)
const shown = (v: string | number | null | undefined) =>
    typeof v === 'number' ? v.toLocaleString(undefined, { maximumSignificantDigits: 7 }) : (v ?? '')
</script>

<template>
    <div ref="box" class="scroll" tabindex="0" role="region" :aria-label="`The table of ${data.table?.name} after this step`">
        <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
        <table v-if="head" :aria-rowcount="head.count + 1">
            <thead>
                <tr>
                    <th scope="col">{{ data.table?.time.name }}</th>
                    <th v-for="(n, c) in head.names" :key="n" scope="col">
                        {{ n }} <span v-if="head.units[c]" class="soft">{{ head.units[c] }}</span>
                    </th>
                </tr>
            </thead>
            <tbody>
                <tr v-if="above" aria-hidden="true">
                    <td :style="{ height: `${above}px` }" />
                </tr>
                <tr v-for="{ index } in inSight" :key="index" :aria-rowindex="index + 2">
                    <th scope="row">{{ row(index)?.[0] ?? '…' }}</th>
                    <td v-for="(n, c) in head.names" :key="n" :class="{ gap: row(index) && row(index)?.[c + 1] === null }">
                        <Button
                            v-if="typeof row(index)?.[c + 1] === 'number'"
                            class="value"
                            :title="`Set ${n} at ${row(index)?.[0]} aside`"
                            @click="data.setAside(n, String(row(index)?.[0]))"
                            >{{ shown(row(index)?.[c + 1]) }}</Button
                        >
                    </td>
                </tr>
                <tr v-if="below" aria-hidden="true">
                    <td :style="{ height: `${below}px` }" />
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
.trouble {
    color: var(--brick);
}
table {
    border-collapse: separate;
    border-spacing: 0;
}
thead th {
    position: sticky;
    top: 0;
    z-index: 1;
    padding: 4px 10px 6px;
    background: var(--paper);
    border-bottom: 1.6px solid var(--ink);
    text-align: right;
    white-space: nowrap;
}
thead th .soft {
    display: block;
    font-weight: 400;
}
thead th:first-child,
tbody th {
    position: sticky;
    left: 0;
    text-align: left;
}
thead th:first-child {
    z-index: 2;
}
tbody th,
tbody td {
    height: 27px;
    padding: 0 10px;
    border-right: 1px solid var(--hairline);
    border-bottom: 1px solid var(--hairline);
    background: var(--card);
    font-weight: 400;
    white-space: nowrap;
}
tbody td {
    text-align: right;
    font-variant-numeric: tabular-nums;
}
tr[aria-hidden] td {
    padding: 0;
    border: 0;
    background: none;
}
.gap {
    background: repeating-linear-gradient(135deg, transparent 0 5px, var(--hairline) 5px 6px);
}
.value:hover {
    text-decoration: underline dotted;
    text-underline-offset: 3px;
}
</style>
