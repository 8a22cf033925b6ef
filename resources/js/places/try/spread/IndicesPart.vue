<script setup lang="ts">
import { Play, Square } from '@lucide/vue'
import { computed, toRef } from 'vue'
import type { Ensemble } from '@/api/types'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import ChoiceField from '@/ui/ChoiceField.vue'
import { short, shownUnit } from '@/ui/numbers'
import { outcomeWords } from '../outcomes'
import SincePart from '../SincePart.vue'
import SharesPicture from './SharesPicture.vue'
import { useIndices, type Way } from './useIndices'

/** What each input does alone and with the others, from runs that are made for this question. */
const props = defineProps<{ ensemble: Ensemble; outcome: string; way: Way }>()
const model = useModel()
const look = useLook()
const { size, sizes, chosen, runsOf, made, older, busy, asking, told, trouble, make, stop } = useIndices(
    toRef(props, 'way'),
    toRef(props, 'ensemble'),
    toRef(props, 'outcome'),
)
const nameOf = (key: string) => look.nameOf(key) ?? 'something that is gone'
const what = computed(() => {
    const found = props.ensemble.outcomes.find((o) => o.id === props.outcome)
    return found ? outcomeWords(found, model, look) : { words: '', unit: '' }
})
const key = computed(() => props.ensemble.outcomes.find((o) => o.id === props.outcome)?.key ?? '')
const isShares = computed(() => props.way === 'indices')
const rows = computed(() => {
    const size_ = (i: NonNullable<typeof told.value>['inputs'][number]) => (isShares.value ? i.total : i.mean_size) ?? -1
    return [...(told.value?.inputs ?? [])].sort((a, b) => size_(b) - size_(a))
})
const most = computed(() => Math.max(...rows.value.map((r) => (isShares.value ? Math.max(r.total ?? 0, 1) : (r.mean_size ?? 0))), 1e-300))
const about = computed(() =>
    isShares.value
        ? 'Sobol indices say which part of the variance each input makes by itself, and which with all it does together with others. ' +
          'They need runs of their own, in which inputs are exchanged one by one between two samples.'
        : 'Morris’ screening moves one input after the other from many starts: few runs tell which of many inputs do anything at all.',
)
const percent = (share: number | null | undefined) => (share === null || share === undefined ? '–' : short(100 * share, { digits: 2 }))
const wide = (part: number | null | undefined) => `${Math.min(1, Math.max(0, (part ?? 0) / most.value)) * 100}%`
/** What all inputs do alone, taken together: the rest is what they do together. */
const alone = computed(() => rows.value.reduce((sum, r) => sum + Math.max(0, r.first ?? 0), 0))
const sentence = computed(() => {
    if (!told.value || rows.value.every((r) => ((isShares.value ? r.total : r.mean_size) ?? null) === null)) {
        return told.value ? `${what.value.words} is the same in all of these runs.` : ''
    }
    return isShares.value
        ? `Of what ${what.value.words} varies, ${percent(Math.min(1, alone.value))} % come from inputs by themselves${alone.value < 0.95 ? '; the rest from inputs that act together' : ''}.`
        : `How far ${what.value.words} moves when one input alone steps on by half of its quantiles, from many starts; per unit of quantile.`
})
const bend = (r: { mean_size?: number | null; mean?: number | null; sd?: number | null }) => {
    const [step, mean, sd] = [r.mean_size ?? 0, Math.abs(r.mean ?? 0), r.sd ?? 0]
    return step <= 1e-12 * most.value
        ? 'nothing'
        : sd < 0.1 * step
          ? 'alike everywhere'
          : mean < 0.5 * step
            ? 'now up, now down'
            : 'not alike everywhere'
}
</script>

<template>
    <div class="indices">
        <div class="bar">
            <label
                >{{ isShares ? 'Base samples' : 'Paths' }}
                <ChoiceField
                    :model-value="chosen"
                    :choices="sizes.map((s) => ({ value: s, words: `${s.toLocaleString()}: ${runsOf(s).toLocaleString()} runs` }))"
                    :label="isShares ? 'How many base samples' : 'How many paths'"
                    @update:model-value="size[way] = $event as number"
            /></label>
            <Button class="button" :class="{ strong: !made || older }" :disabled="asking || busy" @click="make"
                ><Play :size="14" :stroke-width="1.8" />{{ made ? 'Run anew' : 'Run them' }}</Button
            >
            <template v-if="made">
                <progress v-if="busy" :value="made.done / made.runs" max="1" aria-label="How far the runs of the plan are" />
                <span class="soft" role="status"
                    >{{ made.done.toLocaleString() }} of {{ made.runs.toLocaleString() }} runs, seed {{ made.seed
                    }}{{ made.stopped && !made.finished ? ', stopped' : '' }}</span
                >
                <Button v-if="busy" class="button" @click="stop"><Square :size="12" :stroke-width="1.8" />Stop</Button>
            </template>
        </div>
        <p v-if="!made" class="soft hint">{{ about }}</p>
        <p v-if="ensemble.together.length" class="soft hint">
            Inputs that go together are drawn apart here: shares are only told of inputs that are.
        </p>
        <p v-if="older" class="caution" role="status">
            The model or what is uncertain has changed since these runs. <SincePart :revision="made?.revision ?? 0" />
        </p>
        <p v-if="trouble" class="caution" role="alert">{{ trouble }}</p>
        <div v-if="told" class="beside">
            <div>
                <p class="soft">{{ sentence }}</p>
                <table>
                    <thead>
                        <tr v-if="isShares">
                            <th>{{ what.words }} varies with</th>
                            <th title="First order: the part of the variance that this input makes by itself">by itself, %</th>
                            <th title="Total: what it makes by itself and together with others">with others, %</th>
                            <th aria-hidden="true"></th>
                        </tr>
                        <tr v-else>
                            <th>{{ what.words }} moves with</th>
                            <th title="The mean size of the effect of a step, per unit of quantile">
                                size{{ shownUnit(what.unit) ? `, ${shownUnit(what.unit)}` : '' }}
                            </th>
                            <th title="The mean effect with its sign">mean</th>
                            <th title="How much the effect differs from start to start">differs by</th>
                            <th aria-hidden="true"></th>
                        </tr>
                    </thead>
                    <tbody>
                        <tr v-for="r in rows" :key="r.key">
                            <th scope="row">{{ nameOf(r.key) }}</th>
                            <template v-if="isShares">
                                <td>
                                    {{ percent(r.first) }}<small class="soft">± {{ percent(r.first_error) }}</small>
                                </td>
                                <td>
                                    {{ percent(r.total) }}<small class="soft">± {{ percent(r.total_error) }}</small>
                                </td>
                                <td class="shown">
                                    <i class="total" :style="{ width: wide(r.total) }" /><i
                                        class="first"
                                        :style="{ width: wide(r.first) }"
                                    />
                                </td>
                            </template>
                            <template v-else>
                                <td>{{ short(r.mean_size, { unit: what.unit }) }}</td>
                                <td>{{ short(r.mean, { unit: what.unit }) }}</td>
                                <td>
                                    {{ short(r.sd, { unit: what.unit }) }}<small class="soft"> {{ bend(r) }}</small>
                                </td>
                                <td class="shown"><i class="first" :style="{ width: wide(r.mean_size) }" /></td>
                            </template>
                        </tr>
                    </tbody>
                </table>
                <p v-if="isShares" class="soft key">
                    <i class="first" /> by itself <i class="total" /> with others too · ± is one standard error
                </p>
            </div>
            <SharesPicture v-if="made?.columns.includes(key)" :ensemble="made" :of="key" />
        </div>
    </div>
</template>

<style scoped src="../many.css"></style>

<style scoped src="./inputs.css"></style>

<style scoped>
.indices label {
    display: inline-flex;
    align-items: center;
    gap: 6px;
    font-size: 13px;
    color: var(--ink-soft);
}
.hint {
    max-width: 620px;
    font-size: 13px;
    margin-bottom: 8px;
}
progress {
    width: 120px;
    accent-color: var(--ink);
}
td {
    white-space: nowrap;
}
th:first-child {
    min-width: 120px;
}
td small {
    margin-left: 5px;
}
.shown {
    position: relative;
    width: 30%;
    min-width: 90px;
}
.shown i {
    position: absolute;
    left: 8px;
    top: calc(50% - 5px);
    height: 10px;
    max-width: calc(100% - 16px);
}
.first {
    background: var(--ink);
}
.total {
    border: 1.2px solid var(--ink);
    background: var(--card);
}
.key {
    display: flex;
    align-items: center;
    gap: 6px;
    padding-top: 6px;
}
.key i {
    width: 18px;
    height: 10px;
}
</style>
