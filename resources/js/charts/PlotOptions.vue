<script setup lang="ts">
import Popover from 'primevue/popover'
import { SlidersHorizontal } from '@lucide/vue'
import { ref } from 'vue'
import type { Measure, PlotOptions } from '@/api/types'
import { literal } from '@/ui/numbers'

/** How a track or plot shows its lines. */
const { options, several = false, title = 'How it is shown' } = defineProps<{ options: PlotOptions, several?: boolean, title?: string }>()
const emit = defineEmits<{ change: [options: PlotOptions] }>()
const popover = ref<InstanceType<typeof Popover>>()

const MEASURES: [Measure, string][] = [['value', 'Values'], ['difference', 'Difference from the baseline'], ['difference-percent', 'Difference in per cent'], ['percent', 'Per cent of the start'], ['normalised', 'Share of its own range']]

function set(change: Partial<PlotOptions>) {
    emit('change', Object.fromEntries(Object.entries({ ...options, ...change }).filter(([, v]) => v !== undefined && v !== false)) as PlotOptions)
}
const shown = (v: number | undefined) => (v === undefined ? '' : literal(v))
function number(event: Event): number | undefined {
    const text = (event.target as HTMLInputElement).value.trim()
    return text === '' || !Number.isFinite(Number(text)) ? undefined : Number(text)
}
</script>

<template>
    <button type="button" class="icon-button" :aria-label="title" :title="title" @click="popover?.toggle($event)"><SlidersHorizontal :size="15" :stroke-width="1.6" /></button>
    <Popover ref="popover" :pt="{ root: { 'aria-label': title } }">
        <div class="options">
            <label class="wide">Show <select class="field" :value="options.measure ?? 'value'" @change="set({ measure: ($event.target as HTMLSelectElement).value as Measure })"><option v-for="[key, words] in MEASURES" :key="key" :value="key">{{ words }}</option></select></label>
            <label>lowest <input class="field" inputmode="decimal" :value="shown(options.low)" placeholder="fits" @change="set({ low: number($event) })" /></label>
            <label>highest <input class="field" inputmode="decimal" :value="shown(options.high)" placeholder="fits" @change="set({ high: number($event) })" /></label>
            <label>time from <input class="field" inputmode="decimal" :value="shown(options.from)" placeholder="start" @change="set({ from: number($event) })" /></label>
            <label>to <input class="field" inputmode="decimal" :value="shown(options.to)" placeholder="end" @change="set({ to: number($event) })" /></label>
            <label class="tick"><input type="checkbox" :checked="options.log" @change="set({ log: ($event.target as HTMLInputElement).checked })" /> logarithmic</label>
            <template v-if="several">
                <label class="tick"><input type="checkbox" :checked="options.own" @change="set({ own: ($event.target as HTMLInputElement).checked })" /> each its own scale</label>
                <label class="tick wide"><input type="checkbox" :checked="options.stacked" @change="set({ stacked: ($event.target as HTMLInputElement).checked })" /> stacked areas</label>
            </template>
            <slot />
        </div>
    </Popover>
</template>

<style scoped>
.options {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 10px 12px;
    width: 290px;
    padding: 4px;
}
.wide {
    grid-column: 1 / -1;
}
label {
    display: grid;
    gap: 3px;
    font-size: 13px;
    color: var(--ink-soft);
}
.tick {
    display: flex;
    align-items: center;
    gap: 7px;
    color: var(--ink);
}
.field {
    min-height: 28px;
    padding: 2px 7px;
    color: var(--ink);
}
</style>
