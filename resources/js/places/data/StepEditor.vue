<script setup lang="ts">
import { computed, ref, useId, watch } from 'vue'
import { api } from '@/api/client'
import { useModel } from '@/stores/model'
import ChoiceField from '@/ui/ChoiceField.vue'
import { kindOf, type CleaningStep, type StepField } from './steps'
import { useData } from './useData'

/** What a step needs to know, as a sentence of fields. */
const { step, index } = defineProps<{ step: CleaningStep; index: number }>()
const data = useData()
const model = useModel()
const id = useId()
const kind = computed(() => kindOf(step))
/** What there is before the step. */
const before = computed(() => (index > 0 ? data.table?.steps[index - 1] : data.table?.came))

/** The columns and series of the source that the step asks for. */
const other = ref<{ columns: string[]; series: string[] }>({ columns: [], series: [] })
watch(
    () => step.source ?? '',
    async (source) => {
        const known = data.sources.find((s) => s.id === source)
        if (!known) {
            other.value = { columns: [], series: [] }
            return
        }
        try {
            const read = await api.readTable(model.id, known.content ?? '', {
                ...data.saidOf(known),
                steps: known.steps ?? [],
                name: known.name,
                source,
            })
            // Another one may have been chosen meanwhile.
            if (source !== step.source) {
                return
            }
            const last = read.steps.at(-1) ?? read.came
            other.value = { columns: read.columns.map((c) => c.name).filter(Boolean), series: last.series }
        } catch {
            other.value = { columns: [], series: [] }
        }
    },
    { immediate: true },
)
function choices(field: StepField): { value: string; words: string }[] {
    const plain = (list: readonly string[] = []) => list.map((value) => ({ value, words: value }))
    const none = (words: string) => (field.optional ? [{ value: '', words }] : [])
    switch (field.of) {
        case 'sources':
            return [...none('this one'), ...data.sources.filter((s) => s.id !== data.source).map((s) => ({ value: s.id, words: s.name }))]
        case 'along':
            return plain(before.value?.along)
        case 'columns':
            return [...none(field.name === 'from' ? 'the same' : 'none'), ...plain(other.value.columns)]
        case 'series of the source':
            return plain(step.source ? other.value.series : before.value?.series)
        case 'series':
        case 'one series':
            return plain(before.value?.series)
        case undefined:
            return []
        default:
            return [...field.of]
    }
}
const chosen = (field: StepField) => {
    const value = step[field.name]
    return typeof value === 'string' ? value : ''
}
function set(field: StepField, value: string | number | string[] | undefined) {
    data.setStep(index, { [field.name]: value === '' ? undefined : value })
}
function typed(field: StepField, text: string) {
    const number = Number(text.replace(',', '.'))
    set(field, field.number ? (text.trim() && Number.isFinite(number) ? number : undefined) : text.trim())
}
const series = computed(() => step.series ?? [])
function toggle(label: string, single: boolean) {
    const list = single ? [label] : series.value.includes(label) ? series.value.filter((s) => s !== label) : [...series.value, label]
    data.setStep(index, { series: list.length ? list : undefined })
}
</script>

<template>
    <div class="editor">
        <template v-for="f in kind?.fields" :key="f.name">
            <label :for="`${id}-${f.name}`">{{ f.words }}</label>
            <ChoiceField
                v-if="f.of === 'one series'"
                :model-value="series[0] ?? ''"
                :label="f.words"
                :choices="choices(f)"
                @update:model-value="toggle($event ?? '', true)"
            />
            <details v-else-if="f.of === 'series'" class="many">
                <summary>{{ series.length ? series.join(', ') : f.optional ? 'all' : 'choose' }}</summary>
                <span class="list">
                    <label v-for="c in choices(f)" :key="c.value"
                        ><Checkbox :model-value="series.includes(c.value)" binary @update:model-value="toggle(c.value, false)" />
                        {{ c.words }}</label
                    >
                </span>
            </details>
            <ChoiceField
                v-else-if="f.of"
                :model-value="chosen(f)"
                :label="f.words"
                :choices="choices(f)"
                @update:model-value="set(f, $event)"
            />
            <InputText
                v-else
                :id="`${id}-${f.name}`"
                class="field"
                :model-value="step[f.name] === undefined ? '' : String(step[f.name])"
                :placeholder="f.number ? '1' : ''"
                @change="typed(f, ($event.target as HTMLInputElement).value)"
            />
        </template>
        <label :for="`${id}-note`">why</label>
        <InputText
            :id="`${id}-note`"
            class="field"
            :model-value="step.note ?? ''"
            placeholder="a note for later"
            @change="data.setStep(index, { note: ($event.target as HTMLInputElement).value.trim() || undefined })"
        />
    </div>
</template>

<style scoped>
.editor {
    display: grid;
    grid-template-columns: auto minmax(0, 1fr);
    gap: 5px 8px;
    align-items: center;
    font-size: 13.5px;
}
.editor > label {
    color: var(--ink-soft);
}
.many summary {
    cursor: pointer;
    overflow: hidden;
    text-overflow: ellipsis;
}
.list {
    display: grid;
    gap: 3px;
    max-height: 180px;
    padding: 4px 0;
    overflow-y: auto;
}
.list label {
    display: flex;
    gap: 6px;
    align-items: center;
}
</style>
