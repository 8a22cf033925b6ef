<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import { ref, watch } from 'vue'
import type { Thing } from '@/api/types'
import { useModel } from '@/stores/model'
import { literal, short } from '@/ui/numbers'

/** Range, step and named values of a dial. */
const { thing, low, high, step } = defineProps<{ thing: Thing, low: number, high: number, step: number }>()
const model = useModel()
const ranges = ref({ low: '', high: '', step: '' })
const text = (v: number | null | undefined) => (v === null || v === undefined ? '' : literal(v))
watch([() => thing.id, () => thing.low, () => thing.high, () => thing.step], () => { ranges.value = { low: text(thing.low), high: text(thing.high), step: text(thing.step) } }, { immediate: true })
const choices = ref<{ name: string, value: string }[]>([])
watch([() => thing.id, () => JSON.stringify(thing.choices)], () => { choices.value = (thing.choices ?? []).map((c) => ({ name: c.name, value: literal(c.value) })) }, { immediate: true })

const number = (written: string) => (written.trim() === '' ? null : Number(written))
function keepRange() {
    void model.attempt({ kind: 'range', id: thing.id, low: number(ranges.value.low), high: number(ranges.value.high), step: number(ranges.value.step) })
}
function name() {
    choices.value = choices.value.length ? [...choices.value, { name: '', value: '' }] : [{ name: '', value: literal(low) }, { name: '', value: literal(high) }]
}
/** Kept as soon as every choice has a name and a value. */
function keepChoices() {
    const all = choices.value.map((c) => ({ name: c.name.trim(), value: Number(c.value) }))
    if (all.every((c, i) => c.name && choices.value[i]?.value.trim() && Number.isFinite(c.value))) {
        void model.attempt({ kind: 'choices', id: thing.id, choices: all })
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
            <label>low <input v-model="ranges.low" class="field" inputmode="decimal" :placeholder="short(low)" @change="keepRange" /></label>
            <label>high <input v-model="ranges.high" class="field" inputmode="decimal" :placeholder="short(high)" @change="keepRange" /></label>
            <label>step <input v-model="ranges.step" class="field" inputmode="decimal" :placeholder="short(step)" @change="keepRange" /></label>
        </div>
        <div v-for="(choice, i) in choices" :key="i" class="choice">
            <input v-model="choice.name" class="field" :aria-label="`Name of choice ${i + 1}`" placeholder="name" maxlength="80" @change="keepChoices" />
            <input v-model="choice.value" class="field" inputmode="decimal" :aria-label="`Value of choice ${i + 1}`" placeholder="value" @change="keepChoices" />
            <button type="button" class="icon-button" :aria-label="`Remove choice ${i + 1}`" @click="drop(i)"><X :size="13" :stroke-width="1.8" /></button>
        </div>
        <button type="button" class="name" @click="name"><Plus :size="13" :stroke-width="1.8" />{{ choices.length ? 'One more value' : 'Give values names' }}</button>
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
</style>
