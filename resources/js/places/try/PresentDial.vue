<script setup lang="ts">
import Slider from 'primevue/slider'
import { RotateCcw, Settings2 } from '@lucide/vue'
import { computed, ref } from 'vue'
import type { Thing } from '@/api/types'
import DialRange from '@/card/DialRange.vue'
import { useDial } from '@/card/useDial'
import { useLook } from '@/stores/look'
import { useRuns } from '@/stores/runs'
import { useTables } from '@/stores/tables'
import { useView } from '@/stores/view'
import ChoiceField from '@/ui/ChoiceField.vue'
import { fieldText, fieldValue, shownUnit, withUnit } from '@/ui/numbers'

/** A dial that is left where it is turned to, and changes no model. */
const { thing } = defineProps<{ thing: Thing }>()
const runs = useRuns()
const view = useView()
const look = useLook()
const tables = useTables()
const ranging = ref(false)
/** What is no number stays in its field, with a sentence. */
const trouble = ref('')

/** Of a parameter along dimensions the one element that the window looks at has a dial. */
const column = computed(() => look.keyOf(thing.id))
const isOne = computed(() => !thing.along || (column.value !== undefined && !column.value.includes('*')))
const key = computed(() => (thing.along && isOne.value ? (column.value ?? thing.id) : thing.id))
const place = computed(() => key.value.slice(thing.id.length + 1, -1))
const own = computed(() => (thing.along ? (tables.valuesOf(thing.id).get(place.value) ?? thing.value) : thing.value))
const seen = computed(() => look.extended[thing.id]?.along)
const value = computed(() => runs.setting.parameters?.[key.value] ?? own.value ?? 0)
const turned = computed(() => runs.setting.parameters?.[key.value] !== undefined && value.value !== own.value)
const { low, high, step, steps, position, at } = useDial(() => thing, value)
const choices = computed(() => thing.choices ?? [])

function release() {
    const now = runs.dials[key.value]
    if (now !== undefined) {
        runs.leave(key.value, now === own.value ? undefined : now)
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
        runs.leave(key.value, now === own.value ? undefined : now)
    }
}
/** A value that has no name is in the list as a number. */
const named = computed(() => {
    const list = choices.value.map((c) => ({ value: c.value, words: c.name }))
    return list.some((c) => c.value === value.value) ? list : [{ value: value.value, words: fieldText(value.value, thing.unit) }, ...list]
})
function choose(now: number) {
    runs.leave(key.value, now === own.value ? undefined : now)
}
</script>

<template>
    <div class="present-dial" :class="{ turned }">
        <div class="head">
            <Button class="who" :title="thing.name" @click="view.select(thing.id)"
                >{{ thing.name }}<small v-if="thing.along && isOne"> {{ seen?.looked }}</small></Button
            >
            <Button
                v-if="turned"
                class="icon-button"
                :aria-label="`${thing.name} back to ${fieldText(own ?? 0, thing.unit)}`"
                :title="`Back to ${fieldText(own ?? 0, thing.unit)}`"
                @click="runs.leave(key, undefined)"
                ><RotateCcw :size="13" :stroke-width="1.8"
            /></Button>
            <Button
                class="icon-button set"
                :aria-label="`Range of ${thing.name}`"
                title="Range, step, named values"
                :aria-expanded="ranging"
                @click="ranging = !ranging"
                ><Settings2 :size="13" :stroke-width="1.6"
            /></Button>
            <InputText
                v-if="!choices.length && isOne"
                class="field number"
                inputmode="decimal"
                :aria-label="`Value of ${thing.name}${thing.unit && thing.unit !== '1' ? ` in ${shownUnit(thing.unit)}` : ''}`"
                :model-value="fieldText(value, thing.unit)"
                :aria-invalid="Boolean(trouble)"
                :class="{ wrong: trouble }"
                @change="typed"
                @keydown.enter="($event.target as HTMLElement).blur()"
            />
        </div>
        <p v-if="!isOne" class="soft several">
            {{ thing.along?.size }} values by {{ thing.along?.dimensions.join(' and ') }}. Choose one above to turn its dial.
        </p>
        <div v-else-if="choices.length === 2" class="switch" role="radiogroup" :aria-label="thing.name">
            <Button v-for="c in choices" :key="c.name" role="radio" :aria-checked="c.value === value" @click="choose(c.value)">{{
                c.name
            }}</Button>
        </div>
        <ChoiceField
            v-else-if="choices.length"
            class="field"
            :label="thing.name"
            :choices="named"
            :model-value="value"
            @update:model-value="choose($event ?? value)"
        />
        <div v-else class="line">
            <Slider
                :model-value="position"
                :min="0"
                :max="steps"
                :step="1"
                :aria-label="`Dial of ${thing.name}`"
                :pt="{
                    handle: {
                        'aria-valuemin': low,
                        'aria-valuemax': high,
                        'aria-valuenow': value,
                        'aria-valuetext': withUnit(value, thing.unit),
                    },
                }"
                @update:model-value="runs.turn(key, at($event as number))"
                @slideend="release"
                @keyup="keyed"
            />
        </div>
        <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
        <DialRange v-if="ranging" :thing="thing" :low="low" :high="high" :step="step" />
    </div>
</template>

<style scoped>
.several {
    font-size: 13px;
}
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
