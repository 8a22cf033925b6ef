<script setup lang="ts">
import { computed } from 'vue'
import type { Combined } from '@/api/types'
import { useCourses } from '@/stores/courses'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import { full, short, withUnit } from '@/ui/numbers'
import { nameOf, valuesOf } from './combined'

/** An outcome of every combination: the last dimension across, all others down. A cell becomes a run. */
const { told, at, unit } = defineProps<{ told: Combined; at: number; unit: string }>()
const model = useModel()
const runs = useRuns()
const view = useView()
const courses = useCourses()
const notices = useNotices()
const across = computed(() => told.dimensions.at(-1))
const down = computed(() => told.dimensions.slice(0, -1))
const wide = computed(() => across.value?.values.length ?? 1)
const numbers = computed(() => told.results.map((r) => r?.[at] ?? null))
const known = computed(() => numbers.value.filter((n): n is number => n !== null))
const range = computed(() => [Math.min(...known.value), Math.max(...known.value)] as const)
const rows = computed(() =>
    Array.from({ length: Math.ceil(numbers.value.length / wide.value) }, (_, i) => ({
        values: valuesOf(told, i * wide.value),
        cells: numbers.value.slice(i * wide.value, (i + 1) * wide.value).map((n, k) => ({ n, index: i * wide.value + k })),
    })),
)
const shade = (n: number | null) => {
    const [low, high] = range.value
    return n === null || high <= low ? 0 : Math.round(42 * ((n - low) / (high - low)))
}
const thing = (id: string) => model.model.elements[id]
const value = (id: string, v: number) => {
    const t = thing(id)
    return t?.choices?.find((c) => c.value === v)?.name ?? withUnit(v, t?.unit ?? '', { digits: 4 })
}
function run(index: number) {
    const values = valuesOf(told, index)
    const name = nameOf(told, index, model) || 'candidates'
    courses.call(`candidate:${JSON.stringify(values)}`, name, {
        setting: { ...runs.setting, parameters: { ...runs.setting.parameters, ...values } },
    })
    notices.say(`“${name}” is shown among the runs.`, {
        words: 'See the plots',
        run: () => {
            view.go({ place: 'try', stage: 'plot' })
        },
    })
}
const isShown = (index: number) => courses.called.some((c) => c.key === `candidate:${JSON.stringify(valuesOf(told, index))}`)
</script>

<template>
    <div class="scroll">
        <table>
            <thead>
                <tr v-if="across">
                    <th v-for="d in down" :key="d.of" scope="col">{{ thing(d.of)?.name }}</th>
                    <th v-for="v in across.values" :key="v" scope="col" class="number">
                        <small>{{ thing(across.of)?.name }}</small><br />{{ value(across.of, v) }}
                    </th>
                </tr>
            </thead>
            <tbody>
                <tr v-for="(row, i) in rows" :key="i">
                    <th v-for="d in down" :key="d.of" scope="row">{{ value(d.of, row.values[d.of] ?? 0) }}</th>
                    <td
                        v-for="c in row.cells"
                        :key="c.index"
                        :style="{ background: `color-mix(in srgb, var(--basin) ${shade(c.n)}%, transparent)` }"
                    >
                        <Button
                            class="cell"
                            :class="{ shown: isShown(c.index) }"
                            :title="`${nameOf(told, c.index, model)}: ${c.n === null ? 'a numeric fault' : full(c.n, unit)}. Click: show it among the runs`"
                            @click="run(c.index)"
                            >{{ short(c.n, { unit, digits: 4 }) }}</Button
                        >
                    </td>
                </tr>
            </tbody>
        </table>
    </div>
</template>

<style scoped>
.scroll {
    overflow: auto;
    max-width: 100%;
    max-height: 60vh;
}
table {
    border-collapse: collapse;
    font-size: 13.5px;
    font-variant-numeric: tabular-nums;
}
th,
td {
    border: 1px solid var(--hairline);
}
th {
    padding: 3px 10px;
    text-align: left;
    font-weight: 700;
}
th.number {
    text-align: right;
}
th small {
    font-weight: 400;
    color: var(--ink-soft);
}
.cell {
    width: 100%;
    min-width: 74px;
    min-height: 28px;
    padding: 2px 10px;
    text-align: right;
}
.cell:hover {
    text-decoration: underline;
    text-underline-offset: 3px;
}
.cell.shown {
    font-weight: 700;
    box-shadow: inset 0 0 0 2px var(--ember);
}
</style>
