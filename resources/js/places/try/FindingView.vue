<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api } from '@/api/client'
import type { Against, Finding, Plot, RunRef, TableAnswer, TrailAnswer } from '@/api/types'
import PlotChart from '@/charts/PlotChart.vue'
import type { Course } from '@/stores/courses'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { POINTS } from '@/stores/runs'
import { shownUnit, short, signed, withUnit } from '@/ui/numbers'
import { Column, DataTable, naming } from '@/ui/table'
import ManyRunsFound from './ManyRunsFound.vue'
import TableView from './TableView.vue'
import { CAUSES } from './trailWords'

/** What a finding shows, made again from the settings and revisions that it names. */
const { finding, tall = false } = defineProps<{ finding: Finding; /** Whether it takes the room it gets. */ tall?: boolean }>()
const model = useModel()
const look = useLook()
interface Named {
    name: string
    look?: number
    ref: RunRef
}
const shown = computed(() => finding.view)
const plot = computed(() => shown.value.plot as Plot | undefined)
const named = computed(() => (shown.value.courses ?? []) as Named[])
const given = ref<Course[]>([])
const ends = ref<TableAnswer<Against>>()
const trouble = ref('')

watch(
    () => finding,
    async () => {
        trouble.value = ''
        try {
            if (shown.value.kind === 'plot' && plot.value) {
                const of = plot.value.of
                const measure = plot.value.options?.measure
                const against = measure === 'difference' || measure === 'difference-percent' ? measure : undefined
                // The baseline is named `baseline` where something else was tried, else it comes first.
                const base = named.value.find((c) => c.name === 'baseline') ?? named.value[0]
                const list = against ? named.value.filter((c) => c !== base) : named.value
                const runs = await Promise.all(
                    list.map((c) =>
                        api.run(model.id, {
                            run: c.ref,
                            only: of,
                            points: POINTS,
                            ...(against ? { against: base?.ref ?? {}, measure: against } : {}),
                        }),
                    ),
                )
                given.value = runs.map((run, i) => ({
                    key: `${i}`,
                    name: list[i]?.name ?? '',
                    look: list[i]?.look ?? (against ? i : i - 1),
                    run,
                    main: (list[i]?.look ?? (i === 0 ? -1 : 0)) === -1,
                }))
            } else if (shown.value.kind === 'comparison') {
                ends.value = await api.against(
                    model.id,
                    named.value.map((c) => c.ref),
                    shown.value.of as string[],
                    shown.value.at as number | undefined,
                )
            }
        } catch (error) {
            trouble.value = (error as Error).message
        }
    },
    { immediate: true },
)
const steps = computed(() => (shown.value.steps ?? []) as (TrailAnswer & { path: string[] })[])
const thingOf = (id: string) => model.model.elements[look.ownerOf(id)]
const nameOf = (id: string) => look.nameOf(id) ?? CAUSES[id] ?? 'something that is gone'
const unitOf = (id: string) => thingOf(id)?.unit ?? ''
const when = computed(() => {
    const time = shown.value.kind === 'trail' ? shown.value.time : shown.value.kind === 'comparison' ? shown.value.at : shown.value.playhead
    return typeof time === 'number' ? model.moment(time) : ''
})
const runOf = computed(() => (shown.value.run as Named | undefined)?.name ?? '')
const baseOf = computed(() => (shown.value.base as Named | undefined)?.name ?? '')
const gathered = computed(() => shown.value.over === 'time')
/** What was asked, with its run and its time. */
const question = computed(() => {
    const name = nameOf(String(shown.value.element))
    if (shown.value.towards === 'effects') {
        return `What follows from ${name}, in ${runOf.value}, at ${when.value}`
    }
    return baseOf.value
        ? `Why ${name} in ${runOf.value} differs from ${baseOf.value}, ${gathered.value ? `from the start to ${when.value}` : `at ${when.value}`}`
        : `Why ${name} changes, in ${runOf.value}, at ${when.value}`
})
</script>

<template>
    <div class="finding-view" :class="{ tall }">
        <p v-if="trouble" class="trouble">{{ trouble }}</p>
        <template v-else-if="shown.kind === 'plot' && plot && given.length">
            <PlotChart :plot="plot" :given="given" :at="typeof shown.playhead === 'number' ? shown.playhead : undefined" class="chart" />
            <p v-if="when && plot.kind !== 'histogram' && plot.kind !== 'bars'" class="soft when">The line stands at {{ when }}.</p>
        </template>
        <TableView v-else-if="shown.kind === 'table' && plot" :plot="plot" :given="named" class="table" />
        <template v-else-if="shown.kind === 'comparison' && ends">
            <p class="soft">{{ when ? `At ${when}` : 'At the end of each run' }}</p>
            <DataTable :value="ends.rows" data-key="element" size="small">
                <Column header="" :pt="naming">
                    <template #body="{ data: row }">{{ nameOf(row.element) }}</template>
                </Column>
                <Column v-for="(c, i) in named" :key="c.name" :header="c.name">
                    <template #body="{ data: row }"
                        ><template v-if="row.cells[i]"
                            ><b>{{ withUnit(row.cells[i].value, unitOf(row.element)) }}</b>
                            {{ ' ' }}
                            <span v-if="i" class="soft">{{
                                row.cells[i].percent === null ? '–' : `${signed(row.cells[i].percent / 100, { unit: '%' })} %`
                            }}</span></template
                        ></template
                    >
                </Column>
            </DataTable>
        </template>
        <p v-else-if="shown.kind === 'sheet'" class="soft">
            The sheet {{ model.model.sheets.find((s) => s.id === shown.sheet)?.name ?? 'that is gone' }} at {{ when
            }}<template v-if="((shown.selection ?? []) as string[]).length"
                >, with {{ ((shown.selection ?? []) as string[]).map(nameOf).join(', ') }}</template
            >.
        </p>
        <ManyRunsFound v-else-if="['spread', 'nudge', 'candidates'].includes(shown.kind)" :view="shown" />
        <template v-else-if="shown.kind === 'trail'">
            <p class="question">{{ question }}</p>
            <ul>
                <li v-for="step in steps" :key="step.path.join()" :style="{ marginLeft: `${(step.path.length - 1) * 18}px` }">
                    <b>{{ nameOf(step.element) }}</b> {{ withUnit(step.value, unitOf(step.element))
                    }}<template v-if="step.difference !== undefined"
                        >, {{ signed(step.difference, { unit: unitOf(step.element) }) }} {{ shownUnit(unitOf(step.element)) }} against
                        {{ baseOf }}</template
                    ><template v-else-if="step.causes">
                        changing by {{ signed(step.rate, { unit: unitOf(step.element) }) }} {{ shownUnit(unitOf(step.element)) }} per
                        {{ model.model.time.unit }}</template
                    >:
                    <span v-for="(c, i) in (step.causes ?? []).slice(0, 5)" :key="c.cause"
                        >{{ i ? ', ' : ' ' }}{{ nameOf(c.cause) }} <b>{{ signed(c.change, { unit: unitOf(step.element) }) }}</b></span
                    >
                    <span v-for="(e, i) in (step.effects ?? []).slice(0, 5)" :key="e.effect"
                        >{{ i ? ', ' : ' ' }}{{ nameOf(e.effect) }} <b>{{ signed(e.change, { unit: unitOf(e.effect) }) }}</b>
                        {{ shownUnit(unitOf(e.effect)) }} per {{ model.model.time.unit }} ({{ short(e.share, { unit: '%', digits: 2 }) }} %
                        of what moves it)</span
                    >
                    <span v-for="h in step.holds ?? []" :key="h.sentence" class="soft"> {{ h.sentence.replaceAll('`', '') }}</span>
                </li>
            </ul>
        </template>
    </div>
</template>

<style scoped>
.finding-view.tall {
    display: grid;
    grid-template-rows: minmax(0, 1fr) auto;
    overflow: auto;
}
.chart {
    height: 320px;
}
.tall .chart {
    height: 100%;
}
.table {
    height: 320px;
}
.tall .table {
    height: 100%;
}
.when {
    padding: 0 12px;
    font-size: 12.5px;
}
.question {
    font-weight: 700;
}
ul {
    list-style: none;
    display: grid;
    gap: 6px;
    padding: 8px 0;
}
.trouble {
    color: var(--brick);
}
</style>
