<script setup lang="ts">
import { computed } from 'vue'
import VariableField from '@/find/VariableField.vue'
import { useModel } from '@/stores/model'
import { newId } from '@/ui/ids'
import NumberField from './NumberField.vue'
import { useShowcases, type PageInput } from './useShowcases'

/** What readers can move, in words and bounds of the page's own. */
const pages = useShowcases()
const model = useModel()
const KINDS = [
    { value: 'dial', label: 'a dial' },
    { value: 'number', label: 'a number' },
    { value: 'switch', label: 'a switch' },
    { value: 'list', label: 'a list' },
]
const parameters = computed(() => model.things.filter((t) => t.kind === 'parameter' && !t.along))
/** Of which the study says how likely they are. */
const likely = computed(() => new Set(Object.values(model.model.uncertain ?? {}).map((u) => u.of)))
const taken = computed(() => pages.inputs.map((i) => i.of))
function add(of: string) {
    const thing = model.model.elements[of]
    const value = thing?.value ?? 1
    const [low, high] = [thing?.low ?? Math.min(0, 2 * value), thing?.high ?? (value === 0 ? 1 : Math.max(0, 2 * value))]
    void pages.addInput({
        id: newId(),
        of,
        words: (thing?.name ?? '').replace(/^./, (c) => c.toUpperCase()),
        low,
        high,
        step: thing?.step ?? 0,
    })
}
/** `1: no` on a line of its own. */
const choicesOf = (input: PageInput) => (input.choices ?? []).map((c) => `${c.value}: ${c.words}`).join('\n')
function keepChoices(input: PageInput, text: string) {
    const choices = text
        .split('\n')
        .map((line) => /^\s*(-?[\d.]+(?:e-?\d+)?)\s*:\s*(.+)$/i.exec(line))
        .filter((m) => m !== null)
        .map((m) => ({ value: Number(m[1]), words: (m[2] ?? '').trim() }))
    if (choices.length) {
        void pages.input(input.id, { choices })
    }
}
function become(input: PageInput, kind: string) {
    const choices =
        kind === 'list' && !input.choices?.length
            ? {
                  choices: [
                      { value: input.low ?? 0, words: 'little' },
                      { value: input.high ?? 1, words: 'much' },
                  ],
              }
            : {}
    void pages.input(input.id, { kind: kind as PageInput['kind'], ...choices })
}
</script>

<template>
    <p v-if="!pages.inputs.length" class="soft">Nothing can be moved yet. Choose a parameter, and readers get a dial for it.</p>
    <section v-for="i in pages.inputs" :key="i.id" class="card" :aria-label="`Input ${i.words}`">
        <p>
            <strong>{{ pages.nameOf(i.of) }}</strong> is moved by
            <Select
                :model-value="i.kind ?? 'dial'"
                :options="KINDS"
                option-label="label"
                option-value="value"
                :aria-label="`How ${i.words} is moved`"
                @update:model-value="become(i, $event)"
            />
        </p>
        <label
            >What readers call it
            <InputText
                class="field"
                :model-value="i.words"
                maxlength="200"
                @change="pages.input(i.id, { words: ($event.target as HTMLInputElement).value })"
        /></label>
        <label
            >A hint under it
            <InputText
                class="field"
                :model-value="i.hint ?? ''"
                maxlength="200"
                @change="pages.input(i.id, { hint: ($event.target as HTMLInputElement).value })"
        /></label>
        <label v-if="i.kind === 'list'"
            >Choices, a line each: the number, a colon, the words
            <Textarea
                class="field"
                :model-value="choicesOf(i)"
                rows="3"
                auto-resize
                @change="keepChoices(i, ($event.target as HTMLTextAreaElement).value)"
            />
        </label>
        <template v-else>
            <div class="pair">
                <NumberField
                    :label="i.kind === 'switch' ? 'Off is' : 'From'"
                    :value="i.low ?? 0"
                    @keep="pages.input(i.id, { low: $event })"
                />
                <NumberField
                    :label="i.kind === 'switch' ? 'On is' : 'To'"
                    :value="i.high ?? 1"
                    @keep="pages.input(i.id, { high: $event })"
                />
            </div>
            <div class="pair">
                <label
                    >{{ i.kind === 'switch' ? 'Off is called' : 'The least is called' }}
                    <InputText
                        class="field"
                        :model-value="i.lowWords ?? ''"
                        maxlength="200"
                        @change="pages.input(i.id, { lowWords: ($event.target as HTMLInputElement).value })"
                /></label>
                <label
                    >{{ i.kind === 'switch' ? 'On is called' : 'The most is called' }}
                    <InputText
                        class="field"
                        :model-value="i.highWords ?? ''"
                        maxlength="200"
                        @change="pages.input(i.id, { highWords: ($event.target as HTMLInputElement).value })"
                /></label>
            </div>
        </template>
        <label v-if="likely.has(i.of)" class="tick"
            ><Checkbox :model-value="i.likely ?? false" binary @update:model-value="pages.input(i.id, { likely: Boolean($event) })" />
            Readers may look at how likely its values are</label
        >
        <p class="acts"><Button class="act" @click="pages.dropInput(i.id)">Take it away</Button></p>
    </section>
    <VariableField :only="parameters" :except="taken" label="Add an input" placeholder="Add a parameter" @choose="add" />
</template>
