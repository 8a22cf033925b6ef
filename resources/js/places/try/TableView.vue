<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api } from '@/api/client'
import type { Plot, RunRef, Summary, TableAnswer } from '@/api/types'
import { useCourses } from '@/stores/courses'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { dateAt, dateWords } from '@/ui/dates'
import { full, literal, rounded, short, shownUnit } from '@/ui/numbers'

/** Variables and runs as columns, times as rows. */
const { plot, given = undefined } = defineProps<{
    plot: Plot
    /** Runs to show instead of those of the day. */ given?: { name: string; ref: RunRef }[]
}>()
const model = useModel()
const runs = useRuns()
const courses = useCourses()
const answer = ref<TableAnswer<(number | null)[]>>()
const totals = ref<TableAnswer<Summary | null>>()
const trouble = ref('')
const ROWS = 200

const saved = computed(() => Array.from(runs.shown?.times ?? []))
const chosen = computed(() => plot.options?.times)
const stride = computed(() => (chosen.value?.length ? 1 : Math.max(1, Math.ceil(saved.value.length / ROWS))))
const times = computed(() =>
    chosen.value?.length ? chosen.value : saved.value.filter((_, i, all) => i % stride.value === 0 || i === all.length - 1),
)
const named = computed(() => given ?? courses.named)
const digits = computed(() => plot.options?.digits ?? 3)
/** Rows that were left out never hide how low and how high it went. */
const thinned = computed(() => stride.value > 1)
const withTotals = computed(() => plot.options?.totals === true || thinned.value)
let asked = 0
watch(
    [() => plot.of, times, named, () => runs.shown, withTotals],
    async () => {
        const mine = ++asked
        if (runs.held) {
            return
        }
        try {
            const refs = named.value.map((c) => c.ref)
            const [values, sums] = await Promise.all([
                api.values(model.id, refs, plot.of, times.value),
                withTotals.value ? api.summary(model.id, refs, plot.of) : undefined,
            ])
            if (mine === asked) {
                answer.value = values
                totals.value = sums
                trouble.value = ''
            }
        } catch (error) {
            trouble.value = (error as Error).message
        }
    },
    { immediate: true },
)
const columns = computed(() =>
    (answer.value?.rows ?? []).flatMap((row, r) =>
        row.cells.map((cells, i) => {
            const thing = model.model.elements[row.element]
            const told = answer.value?.runs[i]
            const sum = totals.value?.rows[r]?.cells[i] ?? null
            return {
                key: `${row.element}|${i}`,
                name: thing?.name ?? row.element,
                unit: thing?.unit ?? '',
                run: answer.value?.runs.length === 1 && !given ? '' : (named.value[i]?.name ?? told?.name ?? ''),
                cells,
                sum,
                stopped: told?.stopped ?? null,
                between: new Set(told?.between ?? []),
                size: Math.max(0, ...cells.map((c) => Math.abs(c ?? 0)), Math.abs(sum?.least ?? 0), Math.abs(sum?.most ?? 0)),
            }
        }),
    ),
)
type Column = (typeof columns.value)[number]
const cellWords = (c: Column, i: number) =>
    c.cells[i] === null || c.cells[i] === undefined
        ? c.stopped !== null && (answer.value?.times[i] ?? 0) >= c.stopped
            ? `– stopped at ${literal(Number(c.stopped.toPrecision(6)))}`
            : '–'
        : short(c.cells[i], { unit: c.unit, size: c.size, digits: digits.value })
const cellTitle = (c: Column, i: number) => {
    const value = c.cells[i]
    return value === null || value === undefined
        ? ''
        : `${full(value, c.unit)} ${shownUnit(c.unit)}${c.between.has(i) ? ' – between two saved moments, on a straight line between them' : ''}`
}
const dateOf = (t: number) => {
    const date = dateAt(t, model.model.calendar)
    return date ? dateWords(date, '') : ''
}
const anyBetween = computed(() => columns.value.some((c) => c.between.size > 0))
const totalUnit = (unit: string) => [shownUnit(unit), model.model.time.unit].filter(Boolean).join('·')
</script>

<template>
    <div class="table" tabindex="0">
        <p v-if="trouble" class="trouble">{{ trouble }}</p>
        <template v-else-if="answer && columns.length">
            <p v-if="thinned" class="said" role="note">
                Every {{ stride }}th of {{ saved.length }} saved moments; least and most are those of all. Give times to see others.
            </p>
            <p v-if="anyBetween" class="said" role="note">
                Values in italics lie between two saved moments, on a straight line between them.
            </p>
            <table>
                <thead>
                    <tr>
                        <th scope="col">{{ model.model.time.unit }}</th>
                        <th v-if="model.model.calendar" scope="col">date</th>
                        <th v-for="c in columns" :key="c.key" scope="col">
                            {{ c.name }}<small v-if="shownUnit(c.unit)"> {{ shownUnit(c.unit) }}</small
                            ><em v-if="c.run">{{ c.run }}</em>
                        </th>
                    </tr>
                </thead>
                <tbody>
                    <tr v-for="(t, i) in answer.times" :key="t">
                        <th scope="row">{{ full(rounded(t)) }}</th>
                        <td v-if="model.model.calendar">{{ dateOf(t) }}</td>
                        <td v-for="c in columns" :key="c.key" :class="{ between: c.between.has(i) }" :title="cellTitle(c, i)">
                            {{ cellWords(c, i) }}
                        </td>
                    </tr>
                </tbody>
                <tfoot v-if="totals">
                    <tr
                        v-for="[key, words] in [
                            ['least', 'least'],
                            ['most', 'most'],
                            ['mean', 'mean'],
                        ] as const"
                        :key="key"
                    >
                        <th scope="row">{{ words }}</th>
                        <td v-if="model.model.calendar" />
                        <td v-for="c in columns" :key="c.key" :title="c.sum ? full(c.sum[key], c.unit) : ''">
                            {{ short(c.sum?.[key], { unit: c.unit, size: c.size, digits }) }}
                        </td>
                    </tr>
                    <tr v-if="plot.options?.totals">
                        <th scope="row">total over time</th>
                        <td v-if="model.model.calendar" />
                        <td v-for="c in columns" :key="c.key">
                            {{ short(c.sum?.total, { digits }) }} <small class="soft">{{ totalUnit(c.unit) }}</small>
                        </td>
                    </tr>
                </tfoot>
            </table>
        </template>
        <p v-else class="soft">Add a variable to see its values.</p>
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
    z-index: 1;
    background: var(--card);
    border-bottom-color: var(--line);
    vertical-align: bottom;
}
tbody th,
tfoot th,
thead th:first-child {
    position: sticky;
    left: -14px;
    background: var(--card);
}
thead th:first-child {
    z-index: 2;
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
.between {
    font-style: italic;
}
.said {
    margin-bottom: 6px;
    font-size: 13px;
    color: var(--ink-soft);
}
.trouble {
    color: var(--brick);
}
</style>
