<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { uncertain } from '@/api/uncertain'
import type { ExpectationRecord } from '@/api/parts'
import type { Expected } from '@/api/types'
import VariableField from '@/find/VariableField.vue'
import { useExpectations } from '@/stores/expectations'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import ChoiceField from '@/ui/ChoiceField.vue'
import type { Field } from '@/ui/controls'
import { newId } from '@/ui/ids'
import { literal, shownUnit } from '@/ui/numbers'
import { formulaText, SHAPES, type Shape } from './shapes'

/** A sentence put together from parts, with a live check beside. */
const { known = undefined } = defineProps<{ known?: ExpectationRecord }>()
const emit = defineEmits<{ close: [] }>()
const model = useModel()
const runs = useRuns()
const expectations = useExpectations()

type How = 'is' | 'times' | 'starts'
const conditions = ref<{ id: string; how: How; value: string }[]>([
    ...Object.entries(known?.when?.parameters ?? {}).map(([id, v]) => ({ id, how: 'is' as How, value: literal(v) })),
    ...Object.entries(known?.factors ?? {}).map(([id, v]) => ({ id, how: 'times' as How, value: literal(v) })),
    ...Object.entries(known?.starts ?? {}).map(([id, v]) => ({ id, how: 'starts' as How, value: literal(v) })),
])
const grips = ref(known?.when?.grips)
const of = ref(formulaText(known?.of, model.model))
const other = ref(formulaText(known?.other, model.model))
const shape = ref<Shape>(known?.shape ?? 'never-below')
const name = ref(known?.name ?? '')
const about = computed(() => SHAPES.find((s) => s.name === shape.value))
const numbers = ref<Record<string, string>>({})
function numberOf(field: string, percent?: boolean): string {
    const value = known?.[field as 'value']
    return value === undefined ? '' : literal(percent ? 100 * value : value)
}
watch(
    shape,
    () => {
        for (const f of about.value?.fields ?? []) {
            if (f.name !== 'other' && numbers.value[f.name] === undefined) {
                const given = numberOf(f.name, f.percent)
                numbers.value[f.name] = given || (f.usual === undefined ? '' : literal(f.percent ? 100 * f.usual : f.usual))
            }
        }
    },
    { immediate: true },
)
const inputs = computed(() => model.things.filter((t) => t.kind === 'parameter' || t.kind === 'stock'))
function addCondition(id: string) {
    const thing = model.model.elements[id]
    conditions.value.push(thing?.kind === 'stock' ? { id, how: 'starts', value: '0' } : { id, how: 'times', value: '0.5' })
}
const waysOf = (id: string): { value: How; words: string }[] =>
    model.model.elements[id]?.kind === 'stock'
        ? [{ value: 'starts', words: 'starts at' }]
        : [
              { value: 'is', words: 'is' },
              { value: 'times', words: 'is so many times as much:' },
          ]
/** In the run as it is, or in many with draws of what is uncertain. */
const extent = ref<'one' | 'many'>(known?.runs ? 'many' : 'one')
const many = ref(literal(known?.runs ?? 100))
const part = ref(literal(100 * (known?.part ?? 1)))
const read = (text: string) => (text.trim() === '' ? NaN : Number(text.replace('−', '-').replace(',', '.')))

const fields = computed(() => {
    const by = (how: How) => Object.fromEntries(conditions.value.filter((c) => c.how === how).map((c) => [c.id, read(c.value)]))
    const some = (map: Record<string, number>) => (Object.keys(map).length ? map : null)
    const parameters = some(by('is'))
    const when = {
        ...known?.when,
        ...(parameters ? { parameters } : { parameters: undefined }),
        ...(grips.value ? { grips: grips.value } : { grips: undefined }),
    }
    const clean = Object.fromEntries(Object.entries(when).filter(([, v]) => v !== undefined))
    const all: Record<string, unknown> = {
        name: name.value.trim() || null,
        when: Object.keys(clean).length ? clean : null,
        factors: some(by('times')),
        starts: some(by('starts')),
        of: shape.value === 'sound' ? null : of.value,
        shape: shape.value,
        other: null,
        from: null,
        until: null,
        runs: null,
        part: null,
    }
    if (extent.value === 'many') {
        const [count, share] = [read(many.value), read(part.value) / 100]
        all.runs = Number.isFinite(count) ? Math.max(1, Math.round(count)) : 100
        all.part = Number.isFinite(share) && share < 1 ? share : null
    }
    for (const f of about.value?.fields ?? []) {
        if (f.name === 'other') {
            all.other = other.value
        } else {
            const value = read(numbers.value[f.name] ?? '')
            all[f.name] = Number.isFinite(value) ? (f.percent ? value / 100 : value) : f.free ? null : (f.usual ?? 0)
        }
    }
    return all
})
const told = shallowRef<Expected | null>(null)
const refusal = ref('')
let timer = 0
const drawn = computed(() => Object.values(model.model.uncertain ?? {}).filter((u) => !u.off))
watch(
    [fields, () => model.model.meaning, drawn],
    () => {
        window.clearTimeout(timer)
        timer = window.setTimeout(() => {
            void (async () => {
                if (shape.value !== 'sound' && !of.value.trim()) {
                    told.value = null
                    refusal.value = ''
                    return
                }
                try {
                    const sent = Object.fromEntries(Object.entries(fields.value).filter(([, v]) => v !== null))
                    told.value = (await uncertain.tryExpectations(model.id, [sent]))[0] ?? null
                    refusal.value = ''
                } catch (error) {
                    told.value = null
                    refusal.value = (error as Error).message
                }
            })()
        }, 250)
    },
    { immediate: true, deep: true },
)
const first = ref<Field>()
onMounted(() => first.value?.$el.focus())

async function keep() {
    const place = known?.place ?? Math.max(0, ...expectations.all.map((e) => e.place ?? 0)) + 1
    if (await model.attempt({ kind: 'put', part: 'expectations', id: known?.id ?? newId(), fields: { ...fields.value, place } })) {
        emit('close')
    }
}
const verdict = computed(() => {
    const t = told.value
    const said = t?.holds === true ? 'Holds.' : t?.holds === false ? 'Fails.' : 'Cannot be checked.'
    const why = t?.sentence.replaceAll('`', '') ?? ''
    return t?.holds === true && why.startsWith('It holds') ? why : `${said} ${why}`
})
const state = computed(() =>
    told.value === null ? '' : told.value.holds === true ? 'holds' : told.value.holds === false ? 'fails' : 'unknown',
)
</script>

<template>
    <form
        class="form"
        :aria-label="known ? 'Change the expectation' : 'New expectation'"
        @submit.prevent="keep"
        @keydown.escape="emit('close')"
    >
        <div class="parts">
            <div class="part">
                <span class="label">When</span>
                <span v-for="(c, i) in conditions" :key="i" class="condition"
                    ><b>{{ model.model.elements[c.id]?.name ?? 'something that is gone' }}</b
                    ><ChoiceField
                        v-model="c.how"
                        :choices="waysOf(c.id)"
                        :label="`How ${model.model.elements[c.id]?.name} is changed`" /><InputText
                        v-model="c.value"
                        class="field number"
                        inputmode="decimal"
                        :aria-label="`Number for ${model.model.elements[c.id]?.name}`" /><span v-if="c.how !== 'times'" class="soft">{{
                        shownUnit(model.model.elements[c.id]?.unit ?? '')
                    }}</span
                    ><Button
                        class="icon-button"
                        type="button"
                        aria-label="Take this condition away"
                        title="Take away"
                        @click="conditions.splice(i, 1)"
                        ><X :size="13" :stroke-width="1.7" /></Button
                ></span>
                <span v-if="grips" class="condition"
                    ><b>{{
                        Object.keys(grips)
                            .map((id) => model.model.elements[id]?.name)
                            .join(', ')
                    }}</b>
                    taken by hand<Button
                        class="icon-button"
                        type="button"
                        aria-label="Not by hand"
                        title="Take away"
                        @click="grips = undefined"
                        ><X :size="13" :stroke-width="1.7" /></Button
                ></span>
                <VariableField
                    label="Add a condition"
                    :placeholder="conditions.length ? 'and …' : 'as it is, or when …'"
                    :only="inputs"
                    @choose="addCondition"
                />
                <Button
                    v-if="!grips && Object.keys(runs.present.grips).length"
                    class="button"
                    type="button"
                    title="The hands that are on now become a condition"
                    @click="grips = { ...runs.present.grips }"
                    ><Plus :size="13" :stroke-width="1.7" />the present hands</Button
                >
            </div>
            <div class="part">
                <template v-if="shape !== 'sound'">
                    <InputText ref="first" v-model="of" class="field formula" placeholder="a variable, or a formula" aria-label="Of what" />
                    <VariableField
                        label="Put a variable in"
                        placeholder="choose a variable"
                        @choose="
                            of = of.trim()
                                ? `${of} ${model.model.elements[$event]?.name ?? ''}`
                                : (model.model.elements[$event]?.name ?? '')
                        "
                    />
                </template>
                <ChoiceField v-model="shape" :choices="SHAPES.map((s) => ({ value: s.name, words: s.words }))" label="Shape" />
            </div>
            <div v-if="about?.fields.length" class="part">
                <label v-for="f in about.fields" :key="f.name"
                    ><span>{{ f.words }}</span
                    ><InputText v-if="f.name === 'other'" v-model="other" class="field formula" :aria-label="f.words" /><InputText
                        v-else
                        v-model="numbers[f.name]"
                        class="field number"
                        inputmode="decimal"
                        :placeholder="f.free ? (f.name === 'from' ? 'the start' : 'the end') : ''"
                        :aria-label="f.words"
                /></label>
                <label
                    ><span>called</span
                    ><InputText v-model="name" class="field" placeholder="by its sentence" aria-label="Name of the expectation"
                /></label>
            </div>
            <div v-if="drawn.length || extent === 'many'" class="part">
                <span class="label">in</span>
                <ChoiceField
                    v-model="extent"
                    label="In which runs"
                    :choices="[
                        { value: 'one', words: 'the run as it is' },
                        { value: 'many', words: 'many runs with draws of what is uncertain' },
                    ]"
                />
                <template v-if="extent === 'many'">
                    <label
                        ><span>runs</span><InputText v-model="many" class="field number" inputmode="numeric" aria-label="How many runs"
                    /></label>
                    <label
                        ><span>in at least, in %</span
                        ><InputText v-model="part" class="field number" inputmode="decimal" aria-label="In how many of them, in %"
                    /></label>
                </template>
            </div>
            <div class="part">
                <Button class="button strong" type="submit" :disabled="!told || refusal !== ''">{{
                    known ? 'Keep the change' : 'Expect it'
                }}</Button>
                <Button class="button" type="button" @click="emit('close')">Cancel</Button>
            </div>
        </div>
        <div class="live" :class="state" role="status">
            <template v-if="told"
                ><b>{{ told.expected }}</b
                ><span>{{ verdict }}</span></template
            >
            <span v-else-if="refusal">{{ refusal }}</span>
            <span v-else class="soft">Say of what, and which shape it must have: whether it holds is told here.</span>
        </div>
    </form>
</template>

<style scoped>
.form {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(200px, 30%);
    gap: 16px;
    margin: 0 0 12px;
    padding: 12px;
    border: 1px solid var(--line);
    border-radius: 10px;
    background: var(--card);
}
.parts {
    display: grid;
    gap: 10px;
    align-content: start;
}
.part {
    display: flex;
    flex-wrap: wrap;
    align-items: flex-end;
    gap: 8px;
}
.label {
    padding-bottom: 4px;
}
.condition {
    display: inline-flex;
    align-items: center;
    gap: 6px;
    padding: 2px 4px 2px 8px;
    border: 1px solid var(--hairline);
    border-radius: 8px;
}
.field {
    min-height: 28px;
    padding: 2px 8px;
}
.number {
    width: 96px;
}
.formula {
    width: 230px;
    font-family: var(--mono);
    font-size: 13.5px;
}
label {
    display: grid;
    gap: 1px;
    font-size: 12.5px;
    color: var(--ink-soft);
}
label .field {
    color: var(--ink);
}
.icon-button {
    width: 24px;
    height: 24px;
}
.live {
    display: grid;
    align-content: start;
    gap: 6px;
    padding: 8px 12px;
    border-left: 3px solid var(--hairline);
    font-size: 13.5px;
}
.live.holds {
    border-left-color: var(--leaf);
}
.live.fails,
.live.unknown {
    border-left-color: var(--brick);
}
@media (width < 900px) {
    .form {
        grid-template-columns: 1fr;
    }
}
</style>
