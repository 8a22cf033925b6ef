<script setup lang="ts">
import Slider from 'primevue/slider'
import { RotateCcw, Settings2 } from '@lucide/vue'
import { computed, ref } from 'vue'
import type { Thing } from '@/api/types'
import DialRange from '@/card/DialRange.vue'
import { useDial } from '@/card/useDial'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import { fieldText, fieldValue, shownUnit, withUnit } from '@/ui/numbers'

/** A dial that is left where it is turned to, and changes no model. */
const { thing } = defineProps<{ thing: Thing }>()
const runs = useRuns()
const view = useView()
const ranging = ref(false)
/** What is no number stays in its field, with a sentence. */
const trouble = ref('')

const value = computed(() => runs.setting.parameters?.[thing.id] ?? thing.value ?? 0)
const turned = computed(() => runs.setting.parameters?.[thing.id] !== undefined && value.value !== thing.value)
const { low, high, step, steps, position, at } = useDial(() => thing, value)
const choices = computed(() => thing.choices ?? [])

function release() {
    const now = runs.dials[thing.id]
    if (now !== undefined) {
        runs.leave(thing.id, now === thing.value ? undefined : now)
    }
}
let typing = 0
function keyed() {
    window.clearTimeout(typing)
    typing = window.setTimeout(release, 500)
}
function typed(event: Event) {
    const field = event.target as HTMLInputElement
    const now = fieldValue(field.value, thing.unit)
    trouble.value = Number.isFinite(now) ? '' : `“${field.value}” is no number. Write one such as ${fieldText(value.value, thing.unit)}.`
    if (!trouble.value) {
        runs.leave(thing.id, now === thing.value ? undefined : now)
    }
}
function choose(now: number) {
    runs.leave(thing.id, now === thing.value ? undefined : now)
}
</script>

<template>
    <div class="present-dial" :class="{ turned }">
        <div class="head">
            <button type="button" class="who" :title="thing.name" @click="view.select(thing.id)">{{ thing.name }}</button>
            <button v-if="turned" type="button" class="icon-button" :aria-label="`${thing.name} back to ${fieldText(thing.value ?? 0, thing.unit)}`" :title="`Back to ${fieldText(thing.value ?? 0, thing.unit)}`" @click="runs.leave(thing.id, undefined)"><RotateCcw :size="13" :stroke-width="1.8" /></button>
            <button type="button" class="icon-button set" :aria-label="`Range of ${thing.name}`" title="Range, step, named values" :aria-expanded="ranging" @click="ranging = !ranging"><Settings2 :size="13" :stroke-width="1.6" /></button>
            <input v-if="!choices.length" class="field number" inputmode="decimal" :aria-label="`Value of ${thing.name}${thing.unit && thing.unit !== '1' ? ` in ${shownUnit(thing.unit)}` : ''}`" :value="fieldText(value, thing.unit)" :aria-invalid="Boolean(trouble)" :class="{ wrong: trouble }" @change="typed" @keydown.enter="($event.target as HTMLElement).blur()" />
        </div>
        <div v-if="choices.length === 2" class="switch" role="radiogroup" :aria-label="thing.name">
            <button v-for="c in choices" :key="c.name" type="button" role="radio" :aria-checked="c.value === value" @click="choose(c.value)">{{ c.name }}</button>
        </div>
        <select v-else-if="choices.length" class="field" :aria-label="thing.name" :value="value" @change="choose(Number(($event.target as HTMLSelectElement).value))">
            <option v-if="!choices.some((c) => c.value === value)" :value="value">{{ fieldText(value, thing.unit) }}</option>
            <option v-for="c in choices" :key="c.name" :value="c.value">{{ c.name }}</option>
        </select>
        <div v-else class="line">
            <Slider :model-value="position" :min="0" :max="steps" :step="1" :aria-label="`Dial of ${thing.name}`" :pt="{ handle: { 'aria-valuemin': low, 'aria-valuemax': high, 'aria-valuenow': value, 'aria-valuetext': withUnit(value, thing.unit) } }" @update:model-value="runs.turn(thing.id, at($event as number))" @slideend="release" @keyup="keyed" />
        </div>
        <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
        <DialRange v-if="ranging" :thing="thing" :low="low" :high="high" :step="step" />
    </div>
</template>

<style scoped>
.present-dial {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    padding: 3px 0 4px;
}
.head {
    display: flex;
    align-items: center;
    min-height: 22px;
}
.who {
    flex: 1;
    min-width: 0;
    text-align: left;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
.turned .who {
    font-weight: 700;
}
.who:hover {
    text-decoration: underline;
    text-underline-offset: 3px;
}
.head .icon-button {
    width: 24px;
    height: 24px;
}
.set {
    opacity: 0;
    margin-right: 2px;
}
.present-dial:hover .set,
.set:focus-visible,
.set[aria-expanded='true'] {
    opacity: 1;
}
.line {
    display: grid;
    padding: 12px 9px 13px;
}
.trouble {
    font-size: 12.5px;
    color: var(--brick);
}
.wrong {
    border-color: var(--brick);
}
.field {
    min-height: 26px;
    padding: 2px 7px;
    font: 12.5px var(--mono);
}
.number {
    flex: none;
    width: 68px;
}
.switch {
    display: flex;
    border: 1px solid var(--line);
    border-radius: 8px;
    overflow: hidden;
}
.switch button {
    flex: 1;
    padding: 3px 6px;
}
.switch button[aria-checked='true'] {
    background: var(--ink);
    color: var(--card);
}
.line :deep(.p-slider) {
    background: var(--hairline);
    height: 4px;
}
.line :deep(.p-slider-range) {
    background: var(--ink);
}
.line :deep(.p-slider-handle) {
    width: 18px;
    height: 18px;
    background: var(--card);
    border: 1.6px solid var(--ink);
}
.line :deep(.p-slider-handle::before) {
    display: none;
}
</style>
