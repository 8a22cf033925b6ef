<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api } from '@/api/client'
import type { Against, Finding, Plot, RunRef, TableAnswer, TrailAnswer } from '@/api/types'
import PlotChart from '@/charts/PlotChart.vue'
import type { Course } from '@/stores/courses'
import { useModel } from '@/stores/model'
import { POINTS } from '@/stores/runs'
import { short, shownUnit } from '@/ui/numbers'
import TableView from './TableView.vue'
import { CAUSES } from './trail'

/** What a finding shows, made again from the settings and revisions that it names. */
const { finding } = defineProps<{ finding: Finding }>()
const model = useModel()
interface Named { name: string, ref: RunRef }
const shown = computed(() => finding.view)
const plot = computed(() => shown.value.plot as Plot | undefined)
const named = computed(() => (shown.value.courses ?? []) as Named[])
const given = ref<Course[]>([])
const ends = ref<TableAnswer<Against>>()
const trouble = ref('')

watch(() => finding, async () => {
    trouble.value = ''
    try {
        if (shown.value.kind === 'plot' && plot.value) {
            const of = plot.value.of
            const measure = plot.value.options?.measure
            const against = measure === 'difference' || measure === 'difference-percent' ? measure : undefined
            const list = against ? named.value.slice(1) : named.value
            const runs = await Promise.all(list.map((c) => api.run(model.id, { run: c.ref, only: of, points: POINTS, ...(against ? { against: named.value[0]?.ref ?? {}, measure: against } : {}) })))
            given.value = runs.map((run, i) => ({ key: `${i}`, name: list[i]?.name ?? '', look: against ? i : i - 1, run, main: i === 0 && !against }))
        } else if (shown.value.kind === 'comparison') {
            ends.value = await api.against(model.id, named.value.map((c) => c.ref), shown.value.of as string[], shown.value.at as number | undefined)
        }
    } catch (error) {
        trouble.value = (error as Error).message
    }
}, { immediate: true })
const steps = computed(() => (shown.value.steps ?? []) as (TrailAnswer & { path: string[] })[])
const nameOf = (id: string) => model.model.elements[id]?.name ?? CAUSES[id] ?? 'something that is gone'
const signed = (v: number | null) => (v === null ? '–' : `${v > 0 ? '+' : ''}${short(v)}`)
</script>

<template>
    <div class="finding-view">
        <p v-if="trouble" class="trouble">{{ trouble }}</p>
        <PlotChart v-else-if="shown.kind === 'plot' && plot && given.length" :plot="plot" :given="given" class="chart" />
        <TableView v-else-if="shown.kind === 'table' && plot" :plot="plot" :given="named" class="table" />
        <table v-else-if="shown.kind === 'comparison' && ends">
            <thead><tr><th /><th v-for="c in named" :key="c.name" scope="col">{{ c.name }}</th></tr></thead>
            <tbody><tr v-for="row in ends.rows" :key="row.element"><th scope="row">{{ nameOf(row.element) }}</th><td v-for="(c, i) in row.cells" :key="i"><b>{{ short(c.value) }}</b> <span v-if="i" class="soft">{{ signed(c.percent) }} %</span></td></tr></tbody>
        </table>
        <p v-else-if="shown.kind === 'sheet'" class="soft">The sheet {{ model.model.sheets.find((s) => s.id === shown.sheet)?.name ?? 'that is gone' }} at {{ model.model.time.unit }} {{ short(shown.playhead as number | undefined) }}<template v-if="((shown.selection ?? []) as string[]).length">, with {{ ((shown.selection ?? []) as string[]).map(nameOf).join(', ') }}</template>.</p>
        <ul v-else-if="shown.kind === 'trail'">
            <li v-for="step in steps" :key="step.path.join()" :style="{ marginLeft: `${(step.path.length - 1) * 18}px` }">
                <b>{{ nameOf(step.element) }}</b> {{ short(step.value) }} {{ shownUnit(model.model.elements[step.element]?.unit ?? '') }}<template v-if="step.difference !== undefined">, {{ signed(step.difference) }} against {{ (shown.base as Named | undefined)?.name }}</template><template v-else-if="step.causes"> changing by {{ signed(step.rate) }}</template>:
                <span v-for="(c, i) in (step.causes ?? []).slice(0, 5)" :key="c.cause">{{ i ? ', ' : ' ' }}{{ nameOf(c.cause) }} <b>{{ signed(c.change) }}</b></span>
            </li>
        </ul>
    </div>
</template>

<style scoped>
.chart {
    height: 300px;
}
.table {
    max-height: 300px;
}
ul {
    list-style: none;
    display: grid;
    gap: 6px;
    padding: 8px 0;
}
th,
td {
    padding: 3px 18px 3px 0;
    border-bottom: 1px solid var(--hairline);
    text-align: left;
}
.trouble {
    color: var(--brick);
}
</style>
