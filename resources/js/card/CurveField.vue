<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import type { Thing } from '@/api/types'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import type { Field } from '@/ui/controls'
import { literal } from '@/ui/numbers'
import SaidText from '@/ui/SaidText.vue'
import CurvePlot from './CurvePlot.vue'
import { normalised, pairsOf, reversed, scaled, stretched, type Pair } from './curvePoints'

const { thing } = defineProps<{ thing: Thing }>()
const model = useModel()
const view = useView()
const text = ref('')
const area = ref<Field>()
const sentence = ref('')

const BETWEEN = [
    { value: 'straight', words: 'Straight' },
    { value: 'smooth', words: 'Smooth' },
    { value: 'stepped', words: 'Stepped' },
]
const BEYOND = [
    { value: 'held', words: 'Held' },
    { value: 'extended', words: 'Extended' },
]

const points = computed<Pair[]>(() => (thing.points ?? []) as Pair[])
/** What was sent and is not answered yet: the next press builds on it. */
const sent = ref<Pair[]>()
const latest = computed(() => sent.value ?? points.value)
const written = computed(() => points.value.map(([x, y]) => `${literal(x)}\t${literal(y)}`).join('\n'))
// Only when they are others: what is being typed stays while anything else about the thing changes.
watch(
    [() => thing.id, written],
    () => {
        text.value = written.value
        sentence.value = ''
    },
    { immediate: true },
)

// A curve has no formula: whoever asks for it is led to its points.
watch(
    () => view.saying === thing.id,
    async (asked) => {
        if (asked) {
            await nextTick()
            view.saying = ''
            area.value?.$el.focus()
        }
    },
    { immediate: true },
)

const factor = ref('')
const ends = computed(() =>
    ([0, 1] as const).map((axis) => {
        const values = points.value.map((p) => p[axis])
        return [Math.min(...values), Math.max(...values)] as const
    }),
)

function put(list: Pair[]) {
    text.value = list.map(([x, y]) => `${literal(x)}\t${literal(y)}`).join('\n')
    keepPoints()
}
function scale() {
    const by = Number(factor.value.replace(',', '.'))
    if (factor.value.trim() && Number.isFinite(by) && by !== 0) {
        factor.value = ''
        put(scaled(latest.value, by))
    } else {
        sentence.value = 'Give a number to multiply the outputs by, such as 1.2 or 0.5.'
    }
}
function stretch(axis: 0 | 1, end: 0 | 1, typed: string) {
    const value = Number(typed.replace(',', '.'))
    const range = [...(ends.value[axis] ?? [0, 1])] as [number, number]
    range[end] = value
    if (!typed.trim() || !Number.isFinite(value) || range[1] <= range[0]) {
        sentence.value = 'A range needs two numbers, the second larger than the first.'
        return
    }
    put(stretched(latest.value, axis, ...range))
}

function parsed(): Pair[] | null {
    const read = pairsOf(text.value)
    if (typeof read === 'string') {
        sentence.value = read
        return null
    }
    return read
}

/** What is not said stays as it is, also when an edit before it is still on its way. */
async function keep(changes: Record<string, unknown>) {
    sentence.value = ''
    try {
        await model.edit({ kind: 'curve', id: thing.id, ...changes })
    } catch (error) {
        sentence.value = (error as Error).message
    }
}

function keepPoints() {
    sentence.value = ''
    const rows = parsed()
    if (rows) {
        const list = rows as Pair[]
        sent.value = list
        void keep({ points: rows }).finally(() => {
            if (sent.value === list) {
                sent.value = undefined
            }
        })
    }
}
</script>

<template>
    <div class="curve">
        <CurvePlot v-if="points.length > 1" :thing="thing" :points="points" @keep="put" />
        <div v-if="points.length > 1" class="tools">
            <Button class="button small" title="The low end becomes the high one" @click="put(reversed(latest))">Reverse</Button>
            <Button class="button small" title="Outputs from 0 to 1" @click="put(normalised(latest))">Normalise</Button>
            <form @submit.prevent="scale">
                <InputText v-model="factor" class="field" placeholder="× 1" aria-label="Multiply the outputs by" /><Button
                    type="submit"
                    class="button small"
                    >Scale</Button
                >
            </form>
        </div>
        <div v-if="points.length > 1" class="ranges soft">
            <template v-for="axis in [0, 1] as const" :key="axis">
                <span>{{ axis ? 'Output' : thing.kind === 'series' ? 'Time' : 'Input' }}</span>
                <InputText
                    v-for="end in [0, 1] as const"
                    :key="`${axis}${end}${ends[axis]?.[end]}`"
                    class="field"
                    :model-value="literal(ends[axis]?.[end] ?? 0)"
                    :aria-label="`${axis ? 'Outputs' : 'Inputs'} ${end ? 'to' : 'from'}`"
                    @change="stretch(axis, end, ($event.target as HTMLInputElement).value)"
                />
            </template>
        </div>
        <label class="label" :for="`points-${thing.id}`">{{ thing.kind === 'series' ? 'Times and values' : 'Points' }}</label>
        <Textarea
            :id="`points-${thing.id}`"
            ref="area"
            v-model="text"
            class="field"
            rows="6"
            spellcheck="false"
            :placeholder="'x  y, one pair a line:\n0  1\n10  0.4'"
            :aria-invalid="sentence !== ''"
            @change="keepPoints"
        />
        <p v-if="sentence" class="trouble" role="alert"><SaidText :text="sentence" /></p>
        <div class="pair">
            <div>
                <span :id="`between-${thing.id}`" class="label">Between</span
                ><Select
                    :model-value="thing.between"
                    :options="BETWEEN"
                    option-label="words"
                    option-value="value"
                    :aria-labelledby="`between-${thing.id}`"
                    @update:model-value="keep({ between: $event })"
                />
            </div>
            <div>
                <span :id="`beyond-${thing.id}`" class="label">Outside</span
                ><Select
                    :model-value="thing.beyond"
                    :options="BEYOND"
                    option-label="words"
                    option-value="value"
                    :aria-labelledby="`beyond-${thing.id}`"
                    @update:model-value="keep({ beyond: $event })"
                />
            </div>
        </div>
        <p v-if="thing.kind === 'curve'" class="soft small">
            Used as <code>{{ thing.written }}(input)</code>
        </p>
        <p v-else class="soft small">
            Times in {{ model.model.time.unit }}. <code>{{ thing.written }}</code> is its value now,
            <code>at({{ thing.written }}, time - 1)</code> its value before.
        </p>
        <div v-if="thing.kind === 'curve'">
            <label class="label" :for="`input-unit-${thing.id}`">Unit of the input</label
            ><InputText
                :id="`input-unit-${thing.id}`"
                class="field one"
                :model-value="thing.inputUnit"
                placeholder="such as person/m^2, 1"
                spellcheck="false"
                @change="keep({ inputUnit: ($event.target as HTMLInputElement).value })"
            />
        </div>
    </div>
</template>

<style scoped>
.curve {
    display: grid;
    gap: 8px;
}
.tools {
    display: flex;
    gap: 6px;
}
.tools form {
    display: flex;
    flex: 1;
    gap: 4px;
}
.button.small {
    height: 28px;
    padding: 0 9px;
    font-size: 13px;
}
.tools .field {
    min-width: 0;
    min-height: 28px;
}
.ranges {
    display: grid;
    grid-template-columns: 52px 1fr 1fr;
    align-items: center;
    gap: 5px 6px;
    font-size: 13px;
}
.ranges .field {
    min-height: 26px;
    color: var(--ink);
    font: 13px var(--mono);
}
textarea,
.one {
    width: 100%;
    font: 13px/1.5 var(--mono);
    tab-size: 12;
}
textarea {
    resize: vertical;
    max-height: 300px;
}
.pair {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 10px;
}
.pair :deep(.p-select) {
    width: 100%;
    margin-top: 4px;
    border-radius: 8px;
}
.pair :deep(.p-select-label) {
    padding: 4px 9px;
}
.small {
    font-size: 13px;
}
.trouble {
    color: var(--brick);
    font-size: 13px;
}
</style>
