<script setup lang="ts">
import Slider from 'primevue/slider'
import { computed } from 'vue'
import type { Thing } from '@/api/types'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { fieldText, withUnit } from '@/ui/numbers'
import DialRange from './DialRange.vue'
import { useDial } from './useDial'

/** Turning this dial changes the model; those of the place where things are tried do not. */
const { thing, compact = false } = defineProps<{ thing: Thing; compact?: boolean }>()
const model = useModel()
const runs = useRuns()

const value = computed(() => runs.dials[thing.id] ?? thing.value ?? 0)
const { low, high, step, steps, position, at } = useDial(() => thing, value)

function turn(now: number | number[]) {
    runs.turn(thing.id, at(now as number))
}

/** The run goes on showing the dial's value until the model has it. */
async function release() {
    const now = runs.dials[thing.id]
    if (now === undefined) {
        return
    }
    if (now !== thing.value) {
        await model.attempt({ kind: 'formula', id: thing.id, text: fieldText(now, thing.unit) })
    }
    runs.release(thing.id)
    void runs.refresh()
}

let typing = 0
/** Keys turn the dial too: the value is taken over when they rest. */
function keyed() {
    window.clearTimeout(typing)
    typing = window.setTimeout(() => {
        void release()
    }, 600)
}
</script>

<template>
    <div class="dial">
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
            @update:model-value="turn"
            @slideend="release"
            @keyup="keyed"
        />
        <DialRange v-if="!compact" class="range" :thing="thing" :low="low" :high="high" :step="step" />
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
.range {
    margin: 16px -8px 0;
}
</style>
