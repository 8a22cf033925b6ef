<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api } from '@/api/client'
import type { Plot, RunRef, Summary, TableAnswer } from '@/api/types'
import { useCourses } from '@/stores/courses'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { full, short, shownUnit } from '@/ui/numbers'

/** Variables and runs as columns, times as rows. */
const { plot, given = undefined } = defineProps<{ plot: Plot, /** Runs to show instead of those of the day. */ given?: { name: string, ref: RunRef }[] }>()
const model = useModel()
const runs = useRuns()
const courses = useCourses()
const answer = ref<TableAnswer<(number | null)[]>>()
const totals = ref<TableAnswer<Summary | null>>()
const trouble = ref('')
const ROWS = 200

const times = computed(() => {
    const chosen = plot.options?.times
    if (chosen?.length) {
        return chosen
    }
    const all = Array.from(runs.shown?.times ?? [])
    const stride = Math.max(1, Math.ceil(all.length / ROWS))
    return all.filter((_, i) => i % stride === 0 || i === all.length - 1)
})
const named = computed(() => given ?? courses.named)
let asked = 0
watch(() => [plot.of, times.value, named.value, runs.shown, plot.options?.totals], async () => {
    const mine = ++asked
    if (runs.held) {
        return
    }
    try {
        const refs = named.value.map((c) => c.ref)
        const [values, sums] = await Promise.all([api.values(model.id, refs, plot.of, times.value), plot.options?.totals ? api.summary(model.id, refs, plot.of) : undefined])
        if (mine === asked) {
            answer.value = values
            totals.value = sums
            trouble.value = ''
        }
    } catch (error) {
        trouble.value = (error as Error).message
    }
}, { immediate: true })
const columns = computed(() => (answer.value?.rows ?? []).flatMap((row, r) => row.cells.map((cells, i) => ({ key: `${row.element}|${i}`, name: model.model.elements[row.element]?.name ?? row.element, unit: model.model.elements[row.element]?.unit ?? '', run: answer.value?.runs.length === 1 ? '' : named.value[i]?.name ?? answer.value?.runs[i]?.name ?? '', cells, sum: totals.value?.rows[r]?.cells[i] ?? null }))))
</script>

<template>
    <div class="table" tabindex="0">
        <p v-if="trouble" class="trouble">{{ trouble }}</p>
        <table v-else-if="answer && columns.length">
            <thead><tr><th scope="col">{{ model.model.time.unit }}</th><th v-for="c in columns" :key="c.key" scope="col">{{ c.name }}<small v-if="c.unit && c.unit !== '1'"> {{ shownUnit(c.unit) }}</small><em v-if="c.run">{{ c.run }}</em></th></tr></thead>
            <tbody><tr v-for="(t, i) in answer.times" :key="t"><th scope="row">{{ full(t) }}</th><td v-for="c in columns" :key="c.key" :title="c.cells[i] === null ? '' : full(c.cells[i] as number)">{{ short(c.cells[i]) }}</td></tr></tbody>
            <tfoot v-if="totals">
                <tr v-for="[key, words] in ([['least', 'least'], ['most', 'most'], ['mean', 'mean']] as const)" :key="key"><th scope="row">{{ words }}</th><td v-for="c in columns" :key="c.key">{{ short(c.sum?.[key]) }}</td></tr>
                <tr><th scope="row">sum over time</th><td v-for="c in columns" :key="c.key">{{ short(c.sum?.total) }}</td></tr>
            </tfoot>
        </table>
        <p v-else class="soft">Choose what to show.</p>
    </div>
</template>

<style scoped>
.table {
    overflow: auto;
    height: 100%;
    padding: 8px 14px;
}
table {
    border-collapse: collapse;
    font-variant-numeric: tabular-nums;
}
th,
td {
    padding: 3px 14px 3px 8px;
    border-bottom: 1px solid var(--hairline);
    text-align: right;
    white-space: nowrap;
}
thead th {
    position: sticky;
    top: -8px;
    background: var(--card);
    border-bottom-color: var(--line);
    vertical-align: bottom;
}
small {
    margin-left: 5px;
    color: var(--ink-soft);
    font-weight: 400;
}
em {
    display: block;
    font-style: normal;
    font-weight: 400;
    color: var(--ink-soft);
}
tbody th {
    font-weight: 400;
    color: var(--ink-soft);
}
tfoot {
    position: sticky;
    bottom: -8px;
    background: var(--paper);
}
.trouble {
    color: var(--brick);
}
</style>
