<script setup lang="ts">
import { X } from '@lucide/vue'
import { computed } from 'vue'
import VariableField from '@/find/VariableField.vue'
import { useExpectations } from '@/stores/expectations'
import { replaced } from '@/stores/fitting'
import { useModel } from '@/stores/model'
import { usePolicies, type Limit, type Summand } from '@/stores/policies'
import ChoiceField from '@/ui/ChoiceField.vue'
import { fieldValue, literal } from '@/ui/numbers'
import OneOf from '@/ui/OneOf.vue'
import { OVER, runsChoices } from './over'
import { useSought } from './sought'
import SoughtRow from './SoughtRow.vue'

/** What is looked for: outcomes that are added up, over how many runs, limits, and expectations that must hold. */
const policies = usePolicies()
const model = useModel()
const expectations = useExpectations()
const { wordsOf, expectedWords } = useSought()
const policy = computed(() => policies.policy)
const sum = computed(() => policy.value?.sum ?? [])
const limits = computed(() => policy.value?.limits ?? [])
const outcomes = computed(() => model.known.filter((t) => !['curve', 'factor', 'series'].includes(t.kind)))
const changeSum = (one: Summand, fields?: Partial<Summand>) => policies.change((p) => ({ sum: replaced(p.sum ?? [], one, fields) }))
const changeLimit = (one: Limit, fields?: Partial<Limit>) => policies.change((p) => ({ limits: replaced(p.limits ?? [], one, fields) }))
const addSummand = (of: string) => policies.change((p) => ({ sum: [...(p.sum ?? []), { of, kind: 'last' }] }))
const addLimit = (of: string) => policies.change((p) => ({ limits: [...(p.limits ?? []), { of, kind: 'min', least: true, number: 0 }] }))
const expected = computed(() => policy.value?.expect ?? [])
const expectable = computed(() =>
    expectations.all
        .filter((e) => expectations.told[e.id]?.unconditional && !expected.value.includes(e.id))
        .map((e) => ({ value: e.id, words: expectedWords(e.id) })),
)
const expect = (id: string | undefined) => id && policies.change((p) => ({ expect: [...(p.expect ?? []), id] }))
const unexpect = (id: string) => policies.change((p) => ({ expect: (p.expect ?? []).filter((e) => e !== id) }))
function number(text: string, then: (value: number) => unknown) {
    const value = fieldValue(text, '')
    if (Number.isFinite(value)) {
        then(value)
    }
}
const runs = computed(() => policy.value?.runs ?? 0)
</script>

<template>
    <section v-if="policy" class="wish" aria-label="What is looked for">
        <div class="row">
            <span class="soft">Make</span>
            <OneOf
                :model-value="policy.small ? 'small' : 'large'"
                label="Large or small"
                :choices="[
                    { value: 'large', words: 'large' },
                    { value: 'small', words: 'small' },
                ]"
                @update:model-value="policies.change({ small: $event === 'small' ? true : null })"
            />
            <ChoiceField
                :model-value="runs"
                label="In how many runs"
                :choices="runsChoices(runs)"
                @update:model-value="policies.change({ runs: $event })"
            />
            <ChoiceField
                v-if="runs"
                :model-value="policy.over ?? 'mean'"
                label="What many runs come to"
                :choices="OVER"
                @update:model-value="policies.change({ over: $event })"
            />
        </div>
        <div v-for="(s, i) in sum" :key="`s${i}`" class="row">
            <InputText
                class="field weight"
                :model-value="literal(s.weight ?? 1)"
                :aria-label="`How many times ${wordsOf(s)} counts`"
                @change="number(($event.target as HTMLInputElement).value, (v) => changeSum(s, { weight: v }))"
            />
            <span class="soft">×</span>
            <SoughtRow :one="s" :locked="policies.running" @change="changeSum(s, $event)" />
            <Button class="icon-button" :aria-label="`Leave out ${wordsOf(s)}`" title="Leave it out" @click="changeSum(s)"
                ><X :size="14" :stroke-width="1.7"
            /></Button>
        </div>
        <VariableField
            label="Another outcome"
            :placeholder="sum.length ? 'and another outcome' : 'Which outcome?'"
            :only="outcomes"
            @choose="addSummand"
        />
        <div v-for="(l, i) in limits" :key="`l${i}`" class="row">
            <span class="soft">where</span>
            <SoughtRow :one="l" :locked="policies.running" @change="changeLimit(l, $event)" />
            <OneOf
                :model-value="l.least ? 'least' : 'most'"
                :label="`At least or at most of ${wordsOf(l)}`"
                :choices="[
                    { value: 'least', words: 'at least' },
                    { value: 'most', words: 'at most' },
                ]"
                @update:model-value="changeLimit(l, { least: $event === 'least' ? true : undefined })"
            />
            <InputText
                class="field limit"
                :model-value="literal(l.number)"
                :aria-label="`Limit of ${wordsOf(l)}`"
                @change="number(($event.target as HTMLInputElement).value, (v) => changeLimit(l, { number: v }))"
            />
            <Button class="icon-button" :aria-label="`No limit of ${wordsOf(l)}`" title="No such limit" @click="changeLimit(l)"
                ><X :size="14" :stroke-width="1.7"
            /></Button>
        </div>
        <div v-for="id in expected" :key="id" class="row">
            <span class="soft">where it holds that</span> <b>{{ expectedWords(id) }}</b>
            <Button class="icon-button" :aria-label="`Need not hold: ${expectedWords(id)}`" title="It need not hold" @click="unexpect(id)"
                ><X :size="14" :stroke-width="1.7"
            /></Button>
        </div>
        <div class="row">
            <VariableField label="Another limit" placeholder="and a limit of" :only="outcomes" @choose="addLimit" />
            <ChoiceField
                v-if="expectable.length"
                :model-value="undefined"
                label="An expectation that must hold"
                placeholder="and an expectation that must hold"
                :choices="expectable"
                @update:model-value="expect"
            />
        </div>
    </section>
</template>

<style scoped>
@import '../try/many.css';

.wish {
    display: grid;
    gap: 6px;
    margin: 0 0 10px;
    padding: 8px 12px;
    border: 1px solid var(--hairline);
    border-radius: 8px;
    background: var(--card);
}
.row {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 4px 8px;
}
.weight {
    width: 54px;
}
.limit {
    width: 84px;
}
</style>
