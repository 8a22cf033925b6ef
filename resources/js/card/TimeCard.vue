<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue'
import { ProblemError } from '@/api/client'
import type { Edit } from '@/api/types'
import { useCatalogue } from '@/stores/catalogue'
import { useModel } from '@/stores/model'
import { literal } from '@/ui/numbers'
import SaidText from '@/ui/SaidText.vue'
import HealthCheck from './HealthCheck.vue'

const model = useModel()
const catalogue = useCatalogue()
const form = reactive({ start: '', end: '', step: '', unit: '', method: '', saveEvery: '', startDate: '', tolerance: '' })
const ending = ref('')
const wrong = ref<{ field: string; sentence: string } | null>(null)

/** What was filled in last: a field that differs is being typed in, and is left alone. */
let filled: Record<string, string> = {}
/** Edits on their way. The model knows nothing yet of what they set, so what it says then is not filled in. */
let sending = 0
function fill(all = false) {
    const t = model.model.time
    const now: Record<string, string> = {
        start: literal(t.start),
        end: literal(t.end),
        step: literal(t.step),
        unit: t.unit,
        method: t.method,
        saveEvery: t.saveEvery === null ? '' : literal(t.saveEvery),
        startDate: t.startDate ?? '',
        tolerance: t.tolerance < 1e-3 ? String(Number(t.tolerance.toPrecision(3)).toExponential()) : literal(t.tolerance),
    }
    for (const key of Object.keys(now) as (keyof typeof form)[]) {
        if (all || form[key] === (filled[key] ?? '')) {
            form[key] = now[key] ?? ''
        }
    }
    filled = now
}
watch(
    () => model.model.time,
    () => {
        if (!sending) fill()
    },
    { immediate: true, deep: true },
)
watch(
    () => model.model.endWhen,
    (text) => {
        ending.value = text
    },
    { immediate: true },
)
const endProblem = computed(() => model.model.problems.find((p) => p.field === 'endWhen'))
const adaptive = computed(() => method.value?.adaptive ?? false)

const method = computed(() => catalogue.content.methods.find((m) => m.name === form.method))
const fields = [
    { key: 'start', words: 'Starts at' },
    { key: 'end', words: 'Ends at' },
    { key: 'step', words: 'Time step' },
    { key: 'saveEvery', words: 'Save every' },
] as const

/** A number as it was typed; what is none goes to the engine as it is, which says what is wrong with it. */
function number(text: string): number | string | null {
    const value = Number(text.trim().replace(',', '.'))
    return text.trim() === '' ? null : Number.isFinite(value) ? value : text
}

async function keep() {
    wrong.value = null
    // What is sent counts as filled in; what is typed from now on does not.
    filled = { ...form }
    sending++
    try {
        const { unit, method } = form
        const date = form.startDate.trim() ? { startDate: form.startDate.trim() } : {}
        const [start, end, step, saveEvery, tolerance] = [form.start, form.end, form.step, form.saveEvery, form.tolerance].map(number)
        // What is no number goes as it was typed.
        await model.edit({
            kind: 'time',
            start,
            end,
            step,
            unit,
            method,
            saveEvery,
            ...date,
            tolerance,
            absoluteTolerance: model.model.time.absoluteTolerance,
        } as Edit)
    } catch (error) {
        wrong.value = { field: error instanceof ProblemError ? String(error.details.field ?? '') : '', sentence: (error as Error).message }
    } finally {
        sending--
    }
    // What was refused stays where it was typed.
    if (!sending && !wrong.value) {
        fill()
    }
}
</script>

<template>
    <form class="time" aria-label="Time settings" @submit.prevent="keep">
        <h2 class="label">Time</h2>
        <div class="grid">
            <label v-for="field in fields" :key="field.key" class="soft"
                >{{ field.words }}
                <InputText
                    v-model="form[field.key]"
                    class="field"
                    :class="{ wrong: wrong?.field === field.key }"
                    :name="field.key"
                    inputmode="decimal"
                    :placeholder="field.key === 'saveEvery' ? 'each step' : ''"
                    :aria-invalid="wrong?.field === field.key"
                    @change="keep"
                />
            </label>
            <label class="soft"
                >Unit
                <InputText v-model="form.unit" class="field" :class="{ wrong: wrong?.field === 'unit' }" name="unit" @change="keep" />
            </label>
            <label class="soft"
                >Starts on the date
                <InputText
                    v-model="form.startDate"
                    class="field"
                    :class="{ wrong: wrong?.field === 'startDate' }"
                    name="startDate"
                    placeholder="2031-04-01"
                    @change="keep"
                />
            </label>
            <div class="soft wide">
                <span id="method-label">Method</span>
                <Select
                    v-model="form.method"
                    :options="catalogue.content.methods"
                    option-label="title"
                    option-value="name"
                    aria-labelledby="method-label"
                    class="method"
                    @change="keep"
                />
            </div>
            <label v-if="adaptive" class="soft"
                >Tolerance
                <InputText
                    v-model="form.tolerance"
                    class="field"
                    :class="{ wrong: wrong?.field === 'tolerance' }"
                    name="tolerance"
                    inputmode="decimal"
                    @change="keep"
                />
            </label>
            <label class="soft" :class="{ wide: !adaptive }"
                >Ends early when
                <InputText
                    v-model="ending"
                    class="field mono"
                    :class="{ wrong: endProblem }"
                    name="endWhen"
                    placeholder="kelp < 1"
                    spellcheck="false"
                    @change="model.attempt({ kind: 'end', text: ending })"
                />
            </label>
        </div>
        <p v-if="endProblem" class="wrong-sentence"><SaidText :text="endProblem.sentence" /></p>
        <p v-if="wrong" class="wrong-sentence" role="alert">
            <SaidText :text="wrong.sentence" />
            {{ ' ' }}
            <Button
                @click="
                    () => {
                        wrong = null
                        fill(true)
                    }
                "
                >Put back</Button
            >
        </p>
        <p v-else class="soft small">{{ adaptive ? '' : `${model.model.time.steps.toLocaleString()} steps.` }} {{ method?.sentence }}</p>
        <HealthCheck />
    </form>
</template>

<style scoped>
.grid {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    gap: 8px 10px;
    margin-top: 6px;
}
.field {
    color: var(--ink);
}
.wide {
    grid-column: 1 / -1;
}
.mono {
    font-family: var(--mono);
    font-size: 13px;
}
.method {
    width: 100%;
    min-height: 30px;
    border-radius: 8px;
}
.method :deep(.p-select-label) {
    padding: 4px 9px;
}
.small,
.wrong-sentence {
    margin-top: 8px;
    font-size: 13px;
}
.wrong-sentence {
    color: var(--brick);
}
.wrong-sentence button {
    text-decoration: underline;
    text-underline-offset: 2px;
}
</style>
