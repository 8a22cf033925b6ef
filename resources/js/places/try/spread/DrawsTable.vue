<script setup lang="ts">
import { ArrowDown, ArrowUp, LineChart } from '@lucide/vue'
import { computed, ref, shallowRef, watch } from 'vue'
import { uncertain, type Draws } from '@/api/uncertain'
import type { Ensemble } from '@/api/types'
import { useCourses } from '@/stores/courses'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useView } from '@/stores/view'
import { full, short, shownUnit } from '@/ui/numbers'
import { outcomeWords } from '../outcomes'

/** The draws themselves with what each came to; any of them becomes a run like others. */
const { ensemble } = defineProps<{ ensemble: Ensemble }>()
const model = useModel()
const look = useLook()
const view = useView()
const courses = useCourses()
const notices = useNotices()
const PAGE = 100
const sort = ref('')
const down = ref(false)
const count = ref(PAGE)
const draws = shallowRef<Draws | null>(null)
let mine = 0
watch(
    [() => ensemble.id, () => ensemble.done, sort, down, count],
    async () => {
        const ticket = ++mine
        const answer = await uncertain
            .draws(model.id, ensemble.id, { sort: sort.value, down: down.value, from: 0, count: count.value })
            .catch(() => undefined)
        if (answer && ticket === mine) {
            draws.value = answer
        }
    },
    { immediate: true },
)
const columns = computed(() => [
    ...ensemble.inputs.map((i) => ({
        id: i.key,
        words: look.nameOf(i.key) ?? 'something that is gone',
        unit: model.model.elements[look.ownerOf(i.key)]?.unit ?? '',
        input: true,
    })),
    ...ensemble.outcomes.map((o) => ({ id: o.id, ...outcomeWords(o, model, look), input: false })),
])
function by(id: string) {
    down.value = sort.value === id ? !down.value : false
    sort.value = id
    count.value = PAGE
}
/** A draw as a run: the setting of the ensemble with these values. */
function run(row: Draws['rows'][number]) {
    const drawn = Object.fromEntries(ensemble.inputs.map((i, k) => [i.key, row.numbers[k] ?? 0]))
    const own = ensemble.setting as { parameters?: Record<string, number> }
    const name = `Draw ${row.run + 1}`
    courses.call(`draw:${ensemble.id}:${row.run}`, name, {
        setting: { ...own, parameters: { ...own.parameters, ...drawn } },
        revision: ensemble.revision,
    })
    notices.say(`${name} is shown among the runs.`, {
        words: 'See the plots',
        run: () => {
            view.go({ place: 'try', stage: 'plot' })
        },
    })
}
const isShown = (at: number) => courses.called.some((c) => c.key === `draw:${ensemble.id}:${at}`)
</script>

<template>
    <div v-if="draws" class="draws">
        <table>
            <thead>
                <tr>
                    <th :aria-sort="sort === '' ? (down ? 'descending' : 'ascending') : undefined">
                        <Button @click="by('')">
                            run <ArrowDown v-if="sort === '' && down" :size="12" /><ArrowUp v-else-if="sort === ''" :size="12" />
                        </Button>
                    </th>
                    <th
                        v-for="(c, i) in columns"
                        :key="c.id"
                        :class="{ edge: !c.input && columns[i - 1]?.input }"
                        :aria-sort="sort === c.id ? (down ? 'descending' : 'ascending') : undefined"
                    >
                        <Button :title="`Sort by ${c.words}`" @click="by(c.id)">
                            {{ c.words }}<small v-if="shownUnit(c.unit)" class="soft"> {{ shownUnit(c.unit) }}</small>
                            <ArrowDown v-if="sort === c.id && down" :size="12" /><ArrowUp v-else-if="sort === c.id" :size="12" />
                        </Button>
                    </th>
                    <th><span class="visually-hidden">as a run</span></th>
                </tr>
            </thead>
            <tbody>
                <tr v-for="row in draws.rows" :key="row.run">
                    <th scope="row">{{ row.run + 1 }}</th>
                    <td
                        v-for="(c, i) in columns"
                        :key="c.id"
                        :class="{ edge: !c.input && columns[i - 1]?.input }"
                        :title="typeof row.numbers[i] === 'number' ? full(row.numbers[i] as number, c.unit) : 'it met a numeric fault'"
                    >
                        {{ short(row.numbers[i], { unit: c.unit, digits: 4 }) }}
                    </td>
                    <td>
                        <Button
                            class="icon-button"
                            :aria-pressed="isShown(row.run)"
                            :aria-label="`${isShown(row.run) ? 'Hide' : 'Show'} draw ${row.run + 1} as a run`"
                            :title="isShown(row.run) ? 'Hide it among the runs' : 'Make it a run: plots, table, trail'"
                            @click="run(row)"
                            ><LineChart :size="14" :stroke-width="1.6"
                        /></Button>
                    </td>
                </tr>
            </tbody>
        </table>
        <Button v-if="draws.runs > draws.rows.length && count < 500" class="link" @click="count = Math.min(500, count + 200)"
            >{{ draws.rows.length }} of {{ draws.runs.toLocaleString() }} draws; show more</Button
        >
        <p v-else-if="draws.runs > draws.rows.length" class="soft">
            The first {{ draws.rows.length }} of {{ draws.runs.toLocaleString() }} draws in this order.
        </p>
    </div>
</template>

<style scoped>
.draws {
    overflow-x: auto;
}
table {
    border-collapse: collapse;
    font-size: 13px;
    font-variant-numeric: tabular-nums;
}
th,
td {
    padding: 2px 10px;
    text-align: right;
    border-bottom: 1px solid var(--hairline);
    white-space: nowrap;
}
thead th {
    vertical-align: bottom;
    font-weight: 700;
    white-space: normal;
    max-width: 150px;
}
thead button {
    display: inline-flex;
    flex-wrap: wrap;
    align-items: center;
    justify-content: flex-end;
    gap: 2px;
    padding: 2px 0;
    text-align: right;
    font-weight: 700;
}
tbody th {
    font-weight: 400;
    color: var(--ink-soft);
}
.edge {
    border-left: 2px solid var(--line);
}
.icon-button {
    width: 24px;
    height: 24px;
}
.icon-button[aria-pressed='true'] {
    color: var(--ember);
}
.link {
    margin-top: 8px;
    font-size: 13px;
    text-decoration: underline;
    color: var(--ink-soft);
}
</style>
