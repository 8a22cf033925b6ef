<script setup lang="ts">
import Slider from 'primevue/slider'
import { computed, ref, watch } from 'vue'
import type { Thing } from '@/api/types'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { literal, niceAbove, short, withUnit } from '@/ui/numbers'

const { thing, compact = false } = defineProps<{ thing: Thing, compact?: boolean }>()
const model = useModel()
const runs = useRuns()

const value = computed(() => runs.dials[thing.id] ?? thing.value ?? 0)
const low = computed(() => thing.low ?? Math.min(0, 2 * (thing.value ?? 0)))
const high = computed(() => thing.high ?? (niceAbove(2 * Math.abs(thing.value ?? 0)) || 1))
const step = computed(() => thing.step ?? (high.value - low.value) / 200)
const ranges = ref({ low: '', high: '', step: '' })
watch(() => [thing.id, thing.low, thing.high, thing.step], () => {
    ranges.value = { low: thing.low === null || thing.low === undefined ? '' : literal(thing.low), high: thing.high === null || thing.high === undefined ? '' : literal(thing.high), step: thing.step === null || thing.step === undefined ? '' : literal(thing.step) }
}, { immediate: true })

/** The slider counts steps: of its own it knows no numbers finer than a hundredth. */
const steps = computed(() => Math.max(1, Math.round((high.value - low.value) / step.value)))
const position = computed(() => Math.min(steps.value, Math.max(0, (value.value - low.value) / step.value)))

function turn(now: number | number[]) {
    runs.turn(thing.id, Number(literal(Math.min(high.value, low.value + Math.round(now as number) * step.value))))
}

/** The run goes on showing the dial's value until the model has it. */
async function release() {
    const now = runs.dials[thing.id]
    if (now === undefined) {
        return
    }
    if (now !== thing.value) {
        await model.attempt({ kind: 'formula', id: thing.id, text: literal(now) })
    }
    runs.release(thing.id)
    void runs.refresh()
}

let typing = 0
/** Keys turn the dial too: the value is taken over when they rest. */
function keyed() {
    window.clearTimeout(typing)
    typing = window.setTimeout(() => { void release() }, 600)
}

function number(text: string): number | null {
    return text.trim() === '' ? null : Number(text)
}

async function keepRange() {
    const { low: l, high: h, step: s } = ranges.value
    await model.attempt({ kind: 'range', id: thing.id, low: number(l), high: number(h), step: number(s) })
}
</script>

<template>
    <div class="dial">
        <Slider :model-value="position" :min="0" :max="steps" :step="1" :aria-label="`Dial of ${thing.name}`" :pt="{ handle: { 'aria-valuemin': low, 'aria-valuemax': high, 'aria-valuenow': value, 'aria-valuetext': withUnit(value, thing.unit) } }" @update:model-value="turn" @slideend="release" @keyup="keyed" />
        <div v-if="!compact" class="ends">
            <label>low <input v-model="ranges.low" class="field" inputmode="decimal" :placeholder="short(low)" @change="keepRange" /></label>
            <label>high <input v-model="ranges.high" class="field" inputmode="decimal" :placeholder="short(high)" @change="keepRange" /></label>
            <label>step <input v-model="ranges.step" class="field" inputmode="decimal" :placeholder="short(step)" @change="keepRange" /></label>
        </div>
    </div>
</template>

<style scoped>
.dial {
    padding: 10px 8px 0;
}
.dial :deep(.p-slider) {
    background: var(--hairline);
    height: 4px;
}
.dial :deep(.p-slider-range) {
    background: var(--ink);
}
.dial :deep(.p-slider-handle) {
    width: 20px;
    height: 20px;
    background: var(--card);
    border: 1.6px solid var(--ink);
}
.dial :deep(.p-slider-handle::before) {
    display: none;
}
.ends {
    display: grid;
    grid-template-columns: repeat(3, 1fr);
    gap: 8px;
    margin: 16px -8px 0;
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
</style>
