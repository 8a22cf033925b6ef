<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import { ref, watch } from 'vue'
import type { Edit, Thing } from '@/api/types'
import { useModel } from '@/stores/model'
import { fieldText, fieldValue, short } from '@/ui/numbers'
import SaidText from '@/ui/SaidText.vue'

/** Range, step and named values of a dial. */
const { thing, low, high, step } = defineProps<{ thing: Thing; low: number; high: number; step: number }>()
const model = useModel()
const ranges = ref({ low: '', high: '', step: '' })
const text = (v: number | null | undefined) => (v === null || v === undefined ? '' : fieldText(v, thing.unit))
watch(
    [() => thing.id, () => thing.low, () => thing.high, () => thing.step],
    () => {
        ranges.value = { low: text(thing.low), high: text(thing.high), step: text(thing.step) }
    },
    { immediate: true },
)
const choices = ref<{ name: string; value: string }[]>([])
watch(
    [() => thing.id, () => JSON.stringify(thing.choices)],
    () => {
        choices.value = (thing.choices ?? []).map((c) => ({ name: c.name, value: fieldText(c.value, thing.unit) }))
    },
    { immediate: true },
)

const number = (written: string) => (written.trim() === '' ? null : fieldValue(written, thing.unit))
const trouble = ref('')
/** What cannot be taken stays in its field, with a sentence. */
async function keep(edit: Edit) {
    try {
        await model.edit(edit)
        trouble.value = ''
    } catch (error) {
        trouble.value = (error as Error).message
    }
}
const noNumber = (text: string) => `“${text}” is no number. Write one such as ${fieldText(high, thing.unit)}.`
function keepRange() {
    const { low: a, high: b, step: c } = ranges.value
    const wrong = [a, b, c].find((text) => Number.isNaN(number(text) ?? 0))
    if (wrong !== undefined) {
        trouble.value = noNumber(wrong)
        return
    }
    void keep({ kind: 'range', id: thing.id, low: number(a), high: number(b), step: number(c) })
}
function name() {
    choices.value = choices.value.length
        ? [...choices.value, { name: '', value: '' }]
        : [
              { name: '', value: fieldText(low, thing.unit) },
              { name: '', value: fieldText(high, thing.unit) },
          ]
}
/** Kept as soon as every choice has a name and a value. */
function keepChoices() {
    const all = choices.value.map((c) => ({ name: c.name.trim(), value: fieldValue(c.value, thing.unit) }))
    const wrong = choices.value.find((c) => c.value.trim() && !Number.isFinite(fieldValue(c.value, thing.unit)))
    trouble.value = wrong ? noNumber(wrong.value) : ''
    if (all.every((c, i) => c.name && choices.value[i]?.value.trim() && Number.isFinite(c.value))) {
        void keep({ kind: 'choices', id: thing.id, choices: all })
    }
}
function drop(i: number) {
    choices.value = choices.value.length <= 2 ? [] : choices.value.filter((_, k) => k !== i)
    keepChoices()
}
</script>

<template>
    <div class="range">
        <div class="ends">
            <label
                >low
                <InputText
                    v-model="ranges.low"
                    class="field"
                    inputmode="decimal"
                    :placeholder="short(low, { unit: thing.unit })"
                    @change="keepRange"
            /></label>
            <label
                >high
                <InputText
                    v-model="ranges.high"
                    class="field"
                    inputmode="decimal"
                    :placeholder="short(high, { unit: thing.unit })"
                    @change="keepRange"
            /></label>
            <label
                >step
                <InputText
                    v-model="ranges.step"
                    class="field"
                    inputmode="decimal"
                    :placeholder="short(step, { unit: thing.unit })"
                    @change="keepRange"
            /></label>
        </div>
        <div v-for="(choice, i) in choices" :key="i" class="choice">
            <InputText
                v-model="choice.name"
                class="field"
                :aria-label="`Name of choice ${i + 1}`"
                placeholder="name"
                maxlength="80"
                @change="keepChoices"
            />
            <InputText
                v-model="choice.value"
                class="field"
                inputmode="decimal"
                :aria-label="`Value of choice ${i + 1}`"
                placeholder="value"
                @change="keepChoices"
            />
            <Button class="icon-button" :aria-label="`Remove choice ${i + 1}`" @click="drop(i)"
                ><X :size="13" :stroke-width="1.8"
            /></Button>
        </div>
        <p v-if="trouble" class="trouble" role="alert"><SaidText :text="trouble" /></p>
        <Button class="name" @click="name"
            ><Plus :size="13" :stroke-width="1.8" />{{ choices.length ? 'One more value' : 'Give values names' }}</Button
        >
    </div>
</template>

<style scoped>
.range {
    display: grid;
    gap: 6px;
}
.ends {
    display: grid;
    grid-template-columns: repeat(3, 1fr);
    gap: 8px;
}
label {
    font-size: 12px;
    color: var(--ink-soft);
}
.field {
    min-height: 26px;
    padding: 2px 7px;
    color: var(--ink);
}
.choice {
    display: grid;
    grid-template-columns: 1fr 72px 24px;
    gap: 6px;
    align-items: center;
}
.name {
    display: flex;
    align-items: center;
    gap: 5px;
    justify-self: start;
    font-size: 12.5px;
    color: var(--ink-soft);
}
.name:hover {
    text-decoration: underline;
    text-underline-offset: 3px;
}
.trouble {
    color: var(--brick);
    font-size: 13px;
}
</style>
