<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api } from '@/api/client'
import type { Against, TableAnswer } from '@/api/types'
import { useCourses } from '@/stores/courses'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import { full, short, shownUnit, signed } from '@/ui/numbers'
import { Column, DataTable, naming } from '@/ui/table'

/** What runs come to at the end, or at the playhead, against the baseline. */
const { measured } = defineProps<{ /** Ids of variables. */ measured: string[] }>()
const atPlayhead = defineModel<boolean>('atPlayhead', { required: true })
const model = useModel()
const look = useLook()
const runs = useRuns()
const courses = useCourses()
const view = useView()
const ends = ref<TableAnswer<Against>>()
/** A column for each element that is looked at. */
const shown = computed(() => look.columns(measured))
const wanted = computed(() => shown.value.map((c) => c.key))
const nameOf = (key: string) => shown.value.find((c) => c.key === key)?.name ?? model.model.elements[look.ownerOf(key)]?.name
let asked = 0
watch(
    [() => courses.others, () => runs.shown, wanted, () => (atPlayhead.value ? view.playhead : null)],
    async () => {
        const mine = ++asked
        if (runs.held || !measured.length) {
            return
        }
        const refs = [{}, ...(runs.tried ? [runs.ref] : []), ...courses.others.map((o) => o.ref)]
        try {
            const answer = await api.against(model.id, refs, wanted.value, atPlayhead.value ? view.playhead : undefined)
            if (mine === asked) {
                ends.value = answer
            }
        } catch {
            // A run that cannot be had is told of where it is plotted.
        }
    },
    { immediate: true },
)
const columns = computed(() => ['baseline', ...(runs.tried ? ['present'] : []), ...courses.others.map((o) => o.name)])
const unitOf = (key: string) => model.model.elements[look.ownerOf(key)]?.unit ?? ''
</script>

<template>
    <section v-if="ends && columns.length > 1 && ends.rows.length" aria-label="Results">
        <div class="bar">
            <h2>Results</h2>
            <label class="soft"><Checkbox v-model="atPlayhead" binary /> at the playhead instead of the end</label>
        </div>
        <DataTable :value="ends.rows" data-key="element" size="small" scrollable class="ends in-text">
            <Column :header="atPlayhead ? `at ${model.moment(view.playhead)}` : 'at the end of each run'" frozen :pt="naming">
                <template #body="{ data: row }"
                    ><Button class="who" @click="view.select(look.ownerOf(row.element))">{{ nameOf(row.element) }}</Button
                    ><small v-if="(unitOf(row.element) || '1') !== '1'"> {{ shownUnit(unitOf(row.element)) }}</small></template
                >
            </Column>
            <Column v-for="(name, i) in columns" :key="i" :header="name">
                <template #body="{ data: row }"
                    ><span v-if="row.cells[i]" :title="row.cells[i].value === null ? '' : full(row.cells[i].value, unitOf(row.element))"
                        ><b>{{ short(row.cells[i].value, { unit: unitOf(row.element), size: runs.size(row.element) }) }}</b
                        ><span v-if="i" class="soft by"
                            >{{ signed(row.cells[i].difference, { unit: unitOf(row.element), size: runs.size(row.element) })
                            }}<template v-if="row.cells[i].percent !== null">
                                · {{ signed(row.cells[i].percent / 100, { unit: '%', size: 1 }) }} %</template
                            ></span
                        ></span
                    ></template
                >
            </Column>
        </DataTable>
    </section>
</template>

<style scoped>
.bar {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 10px;
    margin: 22px 0 10px;
}
small {
    margin-left: 6px;
    color: var(--ink-soft);
}
.by {
    display: block;
    font-size: 12.5px;
}
.ends :deep(th:not(:first-child)) {
    min-width: 84px;
    max-width: 200px;
    overflow-wrap: break-word;
    vertical-align: bottom;
}
.ends :deep(td) {
    white-space: nowrap;
    font-variant-numeric: tabular-nums;
}
</style>
