<script setup lang="ts">
import RadioButton from 'primevue/radiobutton'
import Slider from 'primevue/slider'
import { computed, ref } from 'vue'
import type { ShownInput } from '@/api/shown'
import LikelyPicture from './LikelyPicture.vue'
import { fieldText, fieldValue, plainly, shownUnit } from '@/ui/numbers'

/** One thing that readers can move, with where the author left it. */
const { input, author } = defineProps<{ input: ShownInput; author: number; fixed: boolean }>()
const value = defineModel<number>({ required: true })
const unit = computed(() => shownUnit(input.unit))
const share = (v: number) => `${(100 * (v - input.low)) / (input.high - input.low || 1)}%`
const isOn = computed(() => value.value === input.high)
const moved = computed(() => value.value !== author)
const looks = ref(false)
const named = (v: number) =>
    input.kind === 'switch'
        ? v === input.high
            ? input.highWords || 'on'
            : input.lowWords || 'off'
        : (input.choices.find((c) => c.value === v)?.words ?? plainly(v, input.unit))
function typed(text: string) {
    const number = fieldValue(text, input.unit)
    if (Number.isFinite(number)) {
        value.value = Math.min(input.high, Math.max(input.low, number))
    }
}
</script>

<template>
    <div class="input" role="group" :aria-label="input.words">
        <p class="head">
            <span
                ><strong :id="`in-${input.id}`">{{ input.words }}</strong
                ><span v-if="input.hint" class="soft hint">{{ input.hint }}</span></span
            >
            <span class="now">
                <span v-if="moved && input.kind !== 'list'" class="author">author: {{ named(author) }}</span>
                <span v-if="input.kind === 'dial'">{{ plainly(value, input.unit) }} {{ unit }}</span>
                <template v-else-if="input.kind === 'switch'">
                    {{ named(value) }}
                    <Button
                        class="switch"
                        role="switch"
                        :aria-checked="isOn"
                        :aria-labelledby="`in-${input.id}`"
                        :disabled="fixed"
                        @click="value = isOn ? input.low : input.high"
                    />
                </template>
                <template v-else-if="input.kind === 'number'">
                    <InputText
                        class="field"
                        inputmode="decimal"
                        :model-value="fieldText(value, input.unit)"
                        :disabled="fixed"
                        :aria-labelledby="`in-${input.id}`"
                        @change="typed(($event.target as HTMLInputElement).value)"
                    />
                    {{ unit }}
                </template>
            </span>
        </p>
        <template v-if="input.kind === 'dial'">
            <div class="track">
                <i v-if="moved" class="tick" :style="{ left: share(author) }" aria-hidden="true" />
                <Slider
                    v-model="value"
                    :min="input.low"
                    :max="input.high"
                    :step="input.step"
                    :disabled="fixed"
                    :aria-labelledby="`in-${input.id}`"
                    :pt="{ handle: { 'aria-valuetext': `${plainly(value, input.unit)} ${unit}` } }"
                />
            </div>
            <p class="ends soft">
                <span>{{ plainly(input.low, input.unit) }}{{ input.lowWords ? `, ${input.lowWords}` : '' }}</span
                ><span>{{ plainly(input.high, input.unit) }}{{ input.highWords ? `, ${input.highWords}` : '' }}</span>
            </p>
        </template>
        <div v-if="input.kind === 'list'" class="choices" role="radiogroup" :aria-labelledby="`in-${input.id}`">
            <label v-for="c in input.choices" :key="c.value">
                <RadioButton v-model="value" :name="`in-${input.id}`" :value="c.value" :disabled="fixed" />{{ c.words }}
                <span v-if="moved && c.value === author" class="author">the author’s</span>
            </label>
        </div>
        <template v-if="input.likely">
            <LikelyPicture v-if="looks" :input="input" :value="value" />
            <Button class="look soft" :aria-expanded="looks" @click="looks = !looks">{{
                looks ? 'Hide how likely it is' : 'How likely is it?'
            }}</Button>
        </template>
    </div>
</template>

<style scoped>
.input {
    padding: 14px 0;
    border-bottom: 1px solid var(--hairline);
    font-size: 15px;
}
.head {
    display: flex;
    align-items: center;
    justify-content: space-between;
    gap: 12px;
}
.hint {
    display: block;
    font-size: 13px;
}
.now {
    display: flex;
    flex-wrap: wrap;
    justify-content: end;
    align-items: center;
    gap: 2px 10px;
    text-align: right;
}
.author {
    color: var(--run-0);
    font-size: 13px;
}
.track {
    position: relative;
    height: 28px;
    margin-top: 4px;
}
.tick {
    position: absolute;
    top: 5px;
    z-index: 1;
    width: 2px;
    height: 18px;
    margin-left: -1px;
    background: var(--run-0);
    pointer-events: none;
}
.track :deep(.p-slider) {
    position: absolute;
    left: 0;
    right: 0;
    top: 12px;
    height: 4px;
    background: var(--hairline);
}
.track :deep(.p-slider-range) {
    background: var(--ink);
}
.track :deep(.p-slider-handle) {
    z-index: 2;
    width: 22px;
    height: 22px;
    background: var(--card);
    border: 1.6px solid var(--ink);
}
.track :deep(.p-slider-handle::before) {
    display: none;
}
.ends {
    display: flex;
    justify-content: space-between;
    font-size: 13px;
}
.switch {
    position: relative;
    width: 44px;
    height: 26px;
    border: 1.5px solid var(--ink);
    border-radius: 13px;
    background: var(--card);
}
.switch::after {
    content: '';
    position: absolute;
    left: 3px;
    top: 3px;
    width: 17px;
    height: 17px;
    border-radius: 50%;
    background: var(--ink);
    transition: left var(--quick);
}
.switch[aria-checked='true'] {
    background: var(--ink);
}
.switch[aria-checked='true']::after {
    left: 21px;
    background: var(--card);
}
.choices {
    display: grid;
    gap: 8px;
    margin-top: 8px;
}
.choices label {
    display: flex;
    align-items: center;
    gap: 9px;
    min-height: 24px;
    cursor: pointer;
}
.look {
    min-height: 24px;
    font-size: 13px;
    text-decoration: underline;
    text-underline-offset: 3px;
}
.field {
    width: 110px;
    height: 32px;
    padding: 0 8px;
    border: 1px solid var(--line);
    border-radius: 8px;
    background: var(--card);
    text-align: right;
}
</style>
