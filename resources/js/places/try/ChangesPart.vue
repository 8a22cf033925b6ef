<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api } from '@/api/client'
import type { Change, RunRef } from '@/api/types'
import { useCourses } from '@/stores/courses'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import ChoiceField from '@/ui/ChoiceField.vue'
import { Column, DataTable, naming } from '@/ui/table'

/** What did I change? Between any two runs. */
const { logged } = defineProps<{ logged: { key: string; name: string; ref: RunRef }[] }>()
const model = useModel()
const runs = useRuns()
const courses = useCourses()
const view = useView()
const changes = ref<Change[]>()
const trouble = ref('')

const choices = computed(() => [
    { key: 'baseline', name: 'baseline', ref: {} as RunRef },
    ...(runs.tried ? [{ key: 'shown', name: 'present', ref: runs.ref }] : []),
    ...courses.kept.map((k) => ({ key: `kept:${k.id}`, name: k.name, ref: { kept: k.id } as RunRef })),
    ...Object.values(model.model.scenarios).map((s) => ({ key: `scenario:${s.id}`, name: s.name, ref: { scenario: s.id } as RunRef })),
    ...logged,
])
const named = computed(() => choices.value.map((c) => ({ value: c.key, words: c.name })))
const find = (key: string) => choices.value.find((c) => c.key === key) ?? { key: 'baseline', name: 'baseline', ref: {} as RunRef }
/** A row for each field that differs; the name stands where its fields begin. */
const rows = computed(() =>
    (changes.value ?? []).flatMap((c, at) =>
        (c.fields.length ? c.fields : [{ field: c.what, was: '', now: '' }]).map((f, i) => ({
            ...f,
            key: `${at}|${i}`,
            name: i === 0 ? c.name : '',
            element: i === 0 && c.element && model.model.elements[c.element] ? c.element : undefined,
        })),
    ),
)
let asked = 0
watch(
    [() => view.compared, () => model.model.meaning, () => runs.setting, () => choices.value.length],
    async () => {
        const mine = ++asked
        try {
            const found = await api.changes(model.id, find(view.compared[0]).ref, find(view.compared[1]).ref)
            if (mine === asked) {
                changes.value = found
                trouble.value = ''
            }
        } catch (error) {
            trouble.value = (error as Error).message
        }
    },
    { immediate: true },
)
</script>

<template>
    <section class="changes" aria-label="What did I change?">
        <div class="bar">
            <h2>What differs between</h2>
            <ChoiceField
                label="One run"
                :choices="named"
                :model-value="find(view.compared[0]).key"
                @update:model-value="view.compared = [$event ?? '', view.compared[1]]"
            />
            <span>and</span>
            <ChoiceField
                label="The other run"
                :choices="named"
                :model-value="find(view.compared[1]).key"
                @update:model-value="view.compared = [view.compared[0], $event ?? '']"
            />
        </div>
        <p v-if="trouble" class="trouble">{{ trouble }}</p>
        <p v-else-if="changes && !changes.length" class="soft">Nothing: they were made with the same model and the same settings.</p>
        <DataTable v-else-if="changes" :value="rows" data-key="key" size="small" class="told">
            <Column header="What" :pt="naming">
                <template #body="{ data }"
                    ><Button v-if="data.element" class="who" @click="view.select(data.element)">{{ data.name }}</Button
                    ><template v-else>{{ data.name }}</template></template
                >
            </Column>
            <Column header="differs in">
                <template #body="{ data }"
                    ><span class="soft">{{ data.field }}</span></template
                >
            </Column>
            <Column :header="find(view.compared[0]).name">
                <template #body="{ data }"
                    ><del v-if="data.was">{{ data.was }}</del></template
                >
            </Column>
            <Column :header="find(view.compared[1]).name">
                <template #body="{ data }">{{ data.now || (data.was ? '–' : '') }}</template>
            </Column>
        </DataTable>
    </section>
</template>

<style scoped>
.bar {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px;
    margin-bottom: 8px;
}
h2 {
    font-size: 16px;
}
.field {
    width: auto;
    max-width: 230px;
    min-height: 30px;
}
.told :deep(td) {
    vertical-align: top;
    overflow-wrap: anywhere;
}
.told :deep(td:nth-child(n + 3)) {
    font: 13px/1.4 var(--mono);
}
del {
    color: var(--ink-soft);
}
.trouble {
    color: var(--brick);
}
</style>
