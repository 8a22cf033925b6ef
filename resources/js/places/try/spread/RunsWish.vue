<script setup lang="ts">
import { ChevronDown, Play } from '@lucide/vue'
import Popover from 'primevue/popover'
import { computed, ref } from 'vue'
import type { Ensemble } from '@/api/types'
import { useEnsembles } from '@/stores/ensembles'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import ChoiceField from '@/ui/ChoiceField.vue'

/** How many runs, how their draws are spread, and under which settings. */
const ensembles = useEnsembles()
const model = useModel()
const runs = useRuns()
const popover = ref<InstanceType<typeof Popover>>()
const COUNTS = [100, 300, 1000, 3000, 10_000, 30_000, 100_000, 300_000, 1_000_000]
const SAMPLES: { value: Ensemble['sample']; words: string }[] = [
    { value: 'latin', words: 'Latin hypercube: evenly, in every input' },
    { value: 'sobol', words: 'Sobol sequence: evenly, in all together' },
    { value: 'random', words: 'plain chance' },
]
const scenarios = computed(() => [
    { id: '', name: runs.tried ? 'the present setting' : 'the baseline' },
    ...Object.values(model.model.scenarios).sort((a, b) => a.place - b.place),
])
function toggle(id: string, on: boolean) {
    const rest = ensembles.wish.scenarios.filter((s) => s !== id)
    ensembles.wish.scenarios = on ? [...rest, id] : rest.length ? rest : ['']
}
const under = computed(() => ensembles.wish.scenarios.filter((s) => s === '' || model.model.scenarios[s]).length)
</script>

<template>
    <div class="wish">
        <Button
            class="button strong"
            :disabled="ensembles.asking || !ensembles.inputs.length"
            :title="ensembles.inputs.length ? 'Run it with other draws of what is uncertain' : 'Nothing is uncertain yet'"
            @click="ensembles.make"
            ><Play :size="14" :stroke-width="1.8" />Run {{ ensembles.wish.runs.toLocaleString()
            }}{{ under > 1 ? ` × ${under} settings` : ' times' }}</Button
        >
        <Button class="icon-button" aria-label="How many runs, and how" title="How many runs, and how" @click="popover?.toggle($event)"
            ><ChevronDown :size="16" :stroke-width="1.6"
        /></Button>
        <Popover ref="popover" :pt="{ root: { 'aria-label': 'How many runs, and how' } }">
            <div class="form">
                <label
                    >Runs
                    <ChoiceField
                        v-model="ensembles.wish.runs"
                        :choices="COUNTS.map((c) => ({ value: c, words: c.toLocaleString() }))"
                        label="How many runs"
                /></label>
                <label>Draws <ChoiceField v-model="ensembles.wish.sample" :choices="SAMPLES" label="How draws are spread" /></label>
                <label
                    >Seed
                    <InputText
                        class="field"
                        inputmode="numeric"
                        :model-value="String(ensembles.wish.seed)"
                        aria-label="Seed"
                        title="The same seed gives the same draws, to the last digit"
                        @change="ensembles.wish.seed = Math.round(Number(($event.target as HTMLInputElement).value)) || 1"
                /></label>
                <fieldset v-if="scenarios.length > 1">
                    <legend>Under the same draws</legend>
                    <label v-for="s in scenarios" :key="s.id" class="tick"
                        ><Checkbox
                            :model-value="ensembles.wish.scenarios.includes(s.id)"
                            binary
                            @update:model-value="toggle(s.id, $event as boolean)"
                        />
                        {{ s.name }}</label
                    >
                </fieldset>
            </div>
        </Popover>
    </div>
</template>

<style scoped>
.wish {
    display: inline-flex;
    align-items: center;
    gap: 2px;
}
.form {
    display: grid;
    gap: 8px;
    width: 280px;
    padding: 4px;
}
label {
    display: grid;
    gap: 2px;
    font-size: 13px;
    color: var(--ink-soft);
}
fieldset {
    display: grid;
    gap: 4px;
    border: 0;
    padding: 0;
    max-height: 200px;
    overflow: auto;
}
legend {
    font-size: 13px;
    color: var(--ink-soft);
    margin-bottom: 3px;
}
.tick {
    display: flex;
    align-items: center;
    gap: 8px;
    color: var(--ink);
    font-size: 14px;
}
.field {
    min-height: 28px;
    padding: 2px 7px;
    width: 110px;
    color: var(--ink);
}
</style>
