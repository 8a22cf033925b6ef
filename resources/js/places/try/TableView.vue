<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api } from '@/api/client'
import type { Plot, RunRef, Summary, TableAnswer } from '@/api/types'
import { useCourses } from '@/stores/courses'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { dateAt, dateWords } from '@/ui/dates'
import { full, literal, rounded, short, shownUnit } from '@/ui/numbers'
import SaidText from '@/ui/SaidText.vue'
import { Column, ColumnGroup, DataTable, drawnInSight, naming, Row } from '@/ui/table'

/** Variables and runs as columns, times as rows. */
const { plot, given = undefined } = defineProps<{
    plot: Plot
    /** Runs to show instead of those of the day. */ given?: { name: string; ref: RunRef }[]
}>()
const model = useModel()
const look = useLook()
const runs = useRuns()
const courses = useCourses()
const answer = ref<TableAnswer<(number | null)[]>>()
const totals = ref<TableAnswer<Summary | null>>()
const trouble = ref('')
/** As many moments as one request tells. */
const ROWS = 2000

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
/** A column for each element that is looked at. */
const shown = computed(() => look.columns(plot.of))
const of = computed(() => shown.value.map((c) => c.key))
let asked = 0
watch(
    [of, times, named, () => runs.shown, withTotals],
    async () => {
        const mine = ++asked
        if (runs.held) {
            return
        }
        try {
            const refs = named.value.map((c) => c.ref)
            const [values, sums] = await Promise.all([
                api.values(model.id, refs, of.value, times.value),
                withTotals.value ? api.summary(model.id, refs, of.value) : undefined,
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
            const thing = shown.value.find((c) => c.key === row.element)
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
const rows = computed(() => (answer.value?.times ?? []).map((time, index) => ({ time, index })))
const dateOf = (t: number) => {
    const date = dateAt(t, model.model.calendar)
    return date ? dateWords(date, '') : ''
}
const untold = computed(() => [...new Set(Object.values(answer.value?.untold ?? {}))])
const anyBetween = computed(() => columns.value.some((c) => c.between.size > 0))
const totalUnit = (unit: string) => [shownUnit(unit), model.model.time.unit].filter(Boolean).join('·')
const SUMMED = ['least', 'most', 'mean'] as const
</script>

<template>
    <div class="table">
        <p v-if="trouble" class="trouble">{{ trouble }}</p>
        <template v-else-if="answer && columns.length">
            <p v-if="thinned" class="said" role="note">
                Every {{ stride }}th of {{ saved.length }} saved moments; least and most are those of all. Give times to see others.
            </p>
            <p v-for="why in untold" :key="why" class="said" role="note"><SaidText :text="why" /></p>
            <p v-if="anyBetween" class="said" role="note">
                Values in italics lie between two saved moments, on a straight line between them.
            </p>
            <DataTable
                :value="rows"
                data-key="time"
                class="values"
                size="small"
                scrollable
                scroll-height="flex"
                :virtual-scroller-options="drawnInSight(rows.length)"
            >
                <Column :header="model.model.time.unit" frozen :pt="naming">
                    <template #body="{ data }">{{ full(rounded(data.time)) }}</template>
                </Column>
                <Column v-if="model.model.calendar" header="date">
                    <template #body="{ data }">{{ dateOf(data.time) }}</template>
                </Column>
                <Column v-for="c in columns" :key="c.key">
                    <template #header
                        ><span
                            >{{ c.name }}<small v-if="shownUnit(c.unit)"> {{ shownUnit(c.unit) }}</small
                            >{{ ' ' }}<em v-if="c.run" :title="c.run">{{ c.run }}</em></span
                        ></template
                    >
                    <template #body="{ data }"
                        ><span :class="{ between: c.between.has(data.index) }" :title="cellTitle(c, data.index)">{{
                            cellWords(c, data.index)
                        }}</span></template
                    >
                </Column>
                <ColumnGroup v-if="totals" type="footer">
                    <Row v-for="key in SUMMED" :key="key">
                        <Column :footer="key" frozen />
                        <Column v-if="model.model.calendar" footer="" />
                        <Column v-for="c in columns" :key="c.key">
                            <template #footer
                                ><span :title="c.sum ? full(c.sum[key], c.unit) : ''">{{
                                    short(c.sum?.[key], { unit: c.unit, size: c.size, digits })
                                }}</span></template
                            >
                        </Column>
                    </Row>
                    <Row v-if="plot.options?.totals">
                        <Column footer="total over time" frozen />
                        <Column v-if="model.model.calendar" footer="" />
                        <Column v-for="c in columns" :key="c.key">
                            <template #footer
                                >{{ short(c.sum?.total, { digits }) }}{{ ' ' }}<small>{{ totalUnit(c.unit) }}</small></template
                            >
                        </Column>
                    </Row>
                </ColumnGroup>
            </DataTable>
        </template>
        <p v-else class="soft">Add a variable to see its values.</p>
    </div>
</template>

<style scoped>
.table {
    display: flex;
    flex-direction: column;
    overflow: hidden;
    height: 100%;
    padding: 8px 14px;
}
.values {
    flex: 1;
    min-height: 0;
}
.values :deep(:is(td, th)) {
    text-align: right;
    white-space: nowrap;
}
small {
    margin-left: 5px;
    color: var(--ink-soft);
    font-weight: 400;
}
em {
    display: block;
    max-width: 180px;
    overflow: hidden;
    text-overflow: ellipsis;
    font-style: normal;
    font-weight: 400;
    color: var(--ink-soft);
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
