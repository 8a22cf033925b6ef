<script setup lang="ts">
import Popover from 'primevue/popover'
import { Plus, SlidersHorizontal, X } from '@lucide/vue'
import { computed, reactive, ref } from 'vue'
import type { PlotKind, PlotMark, PlotOptions } from '@/api/types'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import ChoiceField from '@/ui/ChoiceField.vue'
import { fieldText, fieldValue, literal } from '@/ui/numbers'
import { markWords } from './marks'
import { MEASURES, measuredUnit, ofStart } from './words'

/** How a track or plot shows its lines. */
const {
    options,
    kind = 'lines',
    unit = '',
    several = false,
    many = false,
    track = false,
    title = 'How it is shown',
} = defineProps<{
    options: PlotOptions
    kind?: PlotKind
    /** Of what is shown. */ unit?: string
    several?: boolean
    /** Whether something has more elements than lines are drawn. */ many?: boolean
    /** Whether it hangs under the ruler, whose times it shows. */ track?: boolean
    title?: string
}>()
const emit = defineEmits<{ change: [options: PlotOptions] }>()
const PICKS = [
    { value: 'first', words: 'the first twelve' },
    { value: 'greatest', words: 'the ten greatest at the end' },
    { value: 'least', words: 'the ten least at the end' },
]
const model = useModel()
const look = useLook()
const popover = ref<InstanceType<typeof Popover>>()
const trouble = ref('')
const measured = computed(() => measuredUnit(unit, options.measure))
const overTime = computed(() => kind === 'lines' || kind === 'multiples')

function set(change: Partial<PlotOptions>) {
    trouble.value = ''
    emit(
        'change',
        Object.fromEntries(
            Object.entries({ ...options, ...change }).filter(([, v]) => v !== undefined && v !== false && !(Array.isArray(v) && !v.length)),
        ) as PlotOptions,
    )
}
type Limit = 'low' | 'high' | 'across-low' | 'across-high' | 'from' | 'to'
const shown = (key: Limit) =>
    options[key] === undefined ? '' : key === 'from' || key === 'to' ? literal(options[key]) : fieldText(options[key], measured.value)
/** What is no number stays in its field, with a sentence. */
function put(key: Limit, event: Event) {
    const text = (event.target as HTMLInputElement).value.trim()
    const value = text === '' ? undefined : key === 'from' || key === 'to' ? Number(text) : fieldValue(text, measured.value)
    if (value !== undefined && !Number.isFinite(value)) {
        trouble.value = `“${text}” is no number. Write one such as 12.5, or leave it empty.`
        return
    }
    const [low, high] =
        key.endsWith('low') || key === 'from'
            ? [value, options[({ low: 'high', 'across-low': 'across-high', from: 'to' } as const)[key as 'low']]]
            : [options[({ high: 'low', 'across-high': 'across-low', to: 'from' } as const)[key as 'high']], value]
    if (low !== undefined && high !== undefined && low >= high) {
        trouble.value = 'The upper end has to be larger than the lower one.'
        return
    }
    set({ [key]: value })
}

const mark = reactive({ at: '', to: '', name: '' })
/** A number, or the name of a variable. */
function end(text: string): number | string | undefined {
    const value = fieldValue(text, unit)
    return Number.isFinite(value) ? value : model.idByName.get(text.trim().toLowerCase())
}
function addMark() {
    const at = end(mark.at)
    const to = mark.to.trim() ? end(mark.to) : undefined
    if (at === undefined || (mark.to.trim() && to === undefined)) {
        trouble.value = `“${at === undefined ? mark.at : mark.to}” is neither a number nor the name of a variable.`
        return
    }
    set({
        marks: [
            ...(options.marks ?? []),
            { at, ...(to === undefined ? {} : { to }), ...(mark.name.trim() ? { name: mark.name.trim() } : {}) } as PlotMark,
        ],
    })
    Object.assign(mark, { at: '', to: '', name: '' })
}
const period = reactive({ from: '', until: '', name: '' })
function addPeriod() {
    const [from, until] = [Number(period.from || NaN), Number(period.until || NaN)]
    if (!(from < until)) {
        trouble.value = 'A shaded period runs from one time until a later one.'
        return
    }
    set({ periods: [...(options.periods ?? []), { from, until, ...(period.name.trim() ? { name: period.name.trim() } : {}) }] })
    Object.assign(period, { from: '', until: '', name: '' })
}
</script>

<template>
    <Button class="icon-button" :aria-label="title" :title="title" @click="popover?.toggle($event)"
        ><SlidersHorizontal :size="15" :stroke-width="1.6"
    /></Button>
    <Popover ref="popover" :pt="{ root: { 'aria-label': title } }">
        <div class="options">
            <label class="wide"
                >Show
                <ChoiceField
                    label="Show"
                    :choices="kind === 'phase' ? MEASURES.filter((m) => m.value === 'value' || m.value === 'percent') : MEASURES"
                    :model-value="kind === 'phase' && !ofStart(options) ? 'value' : (options.measure ?? 'value')"
                    @update:model-value="set({ measure: $event })"
            /></label>
            <template v-if="kind !== 'table' && kind !== 'histogram'">
                <fieldset class="wide">
                    <legend>{{ kind === 'phase' ? 'The axis up' : 'The axis' }}</legend>
                    <label
                        >lowest
                        <InputText
                            class="field"
                            inputmode="decimal"
                            :model-value="shown('low')"
                            placeholder="by itself"
                            @change="put('low', $event)"
                    /></label>
                    <label
                        >highest
                        <InputText
                            class="field"
                            inputmode="decimal"
                            :model-value="shown('high')"
                            placeholder="by itself"
                            @change="put('high', $event)"
                    /></label>
                    <label class="tick wide"
                        ><Checkbox
                            v-if="kind === 'phase'"
                            binary
                            :model-value="options.zero"
                            @update:model-value="set({ zero: $event })"
                        /><Checkbox v-else binary :model-value="!options.fit" @update:model-value="set({ fit: !$event })" /> from
                        zero</label
                    >
                </fieldset>
            </template>
            <fieldset v-if="kind === 'phase' || kind === 'histogram'" class="wide">
                <legend>The axis across</legend>
                <label
                    >lowest
                    <InputText
                        class="field"
                        inputmode="decimal"
                        :model-value="shown('across-low')"
                        placeholder="by itself"
                        @change="put('across-low', $event)"
                /></label>
                <label
                    >highest
                    <InputText
                        class="field"
                        inputmode="decimal"
                        :model-value="shown('across-high')"
                        placeholder="by itself"
                        @change="put('across-high', $event)"
                /></label>
            </fieldset>
            <label v-if="kind === 'histogram'"
                >classes
                <InputText
                    class="field"
                    inputmode="numeric"
                    :model-value="String(options.bins ?? '')"
                    placeholder="about 20"
                    @change="
                        set({
                            bins: Math.min(200, Math.max(2, Math.round(Number(($event.target as HTMLInputElement).value)))) || undefined,
                        })
                    "
            /></label>
            <template v-if="overTime && !track">
                <label
                    >time from
                    <InputText
                        class="field"
                        inputmode="decimal"
                        :model-value="shown('from')"
                        placeholder="start"
                        @change="put('from', $event)"
                /></label>
                <label
                    >to
                    <InputText class="field" inputmode="decimal" :model-value="shown('to')" placeholder="end" @change="put('to', $event)"
                /></label>
            </template>
            <label v-if="many && overTime" class="wide"
                >Of very many elements
                <ChoiceField
                    label="Of very many elements"
                    :choices="PICKS"
                    :model-value="options.pick ?? 'first'"
                    @update:model-value="set({ pick: $event === 'greatest' || $event === 'least' ? $event : undefined })"
            /></label>
            <label v-if="overTime" class="tick"
                ><Checkbox binary :model-value="options.log" @update:model-value="set({ log: $event })" /> logarithmic</label
            >
            <template v-if="several && kind === 'lines'">
                <label class="tick"
                    ><Checkbox binary :model-value="options.own" @update:model-value="set({ own: $event })" /> each its own axis</label
                >
                <label class="tick wide"
                    ><Checkbox binary :model-value="options.stacked" @update:model-value="set({ stacked: $event })" /> on top of each other,
                    as areas</label
                >
            </template>
            <fieldset v-if="kind !== 'table' && kind !== 'histogram'" class="wide three">
                <legend>Lines and bands across</legend>
                <p v-for="(m, i) in options.marks ?? []" :key="i" class="have">
                    <span>{{ markWords(m, look.elements, unit) }}</span><Button
                        class="icon-button"
                        :aria-label="`Remove the line ${markWords(m, look.elements, unit)}`"
                        @click="set({ marks: (options.marks ?? []).filter((_, k) => k !== i) })"
                        ><X :size="12" :stroke-width="1.8"
                    /></Button>
                </p>
                <label>at <InputText v-model="mark.at" class="field" list="mark-things" placeholder="45" /></label>
                <label>to <InputText v-model="mark.to" class="field" list="mark-things" placeholder="a line" /></label>
                <label
                    >called <InputText v-model="mark.name" class="field" maxlength="60" placeholder="harmful" @keydown.enter="addMark"
                /></label>
                <datalist id="mark-things">
                    <option v-for="t in model.known.filter((t) => t.kind !== 'curve')" :key="t.id" :value="t.name" />
                </datalist>
                <Button
                    class="icon-button add"
                    aria-label="Add the line or band"
                    title="Add it"
                    :disabled="!mark.at.trim()"
                    @click="addMark"
                    ><Plus :size="14" :stroke-width="1.8"
                /></Button>
                <p v-if="(options.marks ?? []).length && options.measure && options.measure !== 'value'" class="soft wide">
                    They are shown with plain values only.
                </p>
            </fieldset>
            <fieldset v-if="overTime" class="wide three">
                <legend>Shaded times</legend>
                <p v-for="(p, i) in options.periods ?? []" :key="i" class="have">
                    <span>{{ p.name ? `${p.name}, ` : '' }}{{ literal(p.from) }} to {{ literal(p.until) }}</span
                    ><Button
                        class="icon-button"
                        aria-label="Remove the shaded time"
                        @click="set({ periods: (options.periods ?? []).filter((_, k) => k !== i) })"
                        ><X :size="12" :stroke-width="1.8"
                    /></Button>
                </p>
                <label>from <InputText v-model="period.from" class="field" inputmode="decimal" /></label>
                <label>until <InputText v-model="period.until" class="field" inputmode="decimal" /></label>
                <label
                    >called <InputText v-model="period.name" class="field" maxlength="60" placeholder="drought" @keydown.enter="addPeriod"
                /></label>
                <Button
                    class="icon-button add"
                    aria-label="Add the shaded time"
                    title="Add it"
                    :disabled="!period.from.trim() || !period.until.trim()"
                    @click="addPeriod"
                    ><Plus :size="14" :stroke-width="1.8"
                /></Button>
            </fieldset>
            <p v-if="trouble" class="trouble wide" role="alert">{{ trouble }}</p>
            <slot />
        </div>
    </Popover>
</template>

<style scoped>
.options {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 10px 12px;
    width: 310px;
    max-height: min(70vh, 560px);
    padding: 4px;
    overflow-y: auto;
}
.wide {
    grid-column: 1 / -1;
}
fieldset {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 6px 12px;
    margin: 0;
    padding: 6px 0 0;
    border: 0;
    border-top: 1px solid var(--hairline);
}
fieldset.three {
    grid-template-columns: 1fr 1fr 1.3fr auto;
    align-items: end;
    gap: 6px;
}
legend {
    float: left;
    grid-column: 1 / -1;
    font-size: 13px;
    font-weight: 700;
    color: var(--ink);
}
.have {
    grid-column: 1 / -1;
    display: flex;
    justify-content: space-between;
    align-items: center;
}
label {
    display: grid;
    gap: 3px;
    font-size: 13px;
    color: var(--ink-soft);
    min-width: 0;
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
    min-width: 0;
}
.have .icon-button,
.add {
    width: 26px;
    height: 26px;
}
.trouble {
    color: var(--brick);
    font-size: 13px;
}
</style>
