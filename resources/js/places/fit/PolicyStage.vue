<script setup lang="ts">
import { Play, Square, Trash2, X } from '@lucide/vue'
import { computed } from 'vue'
import VariableField from '@/find/VariableField.vue'
import UnderlinedWord from '@/places/ask/UnderlinedWord.vue'
import { outcomeWords } from '@/places/try/outcomes'
import SincePart from '@/places/try/SincePart.vue'
import { keyOf } from '@/stores/ensembles'
import { replaced } from '@/stores/fitting'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { usePolicies, type Limit, type Summand } from '@/stores/policies'
import { useView } from '@/stores/view'
import ChoiceField from '@/ui/ChoiceField.vue'
import { counted, fieldValue, literal, short, withUnit } from '@/ui/numbers'
import OneOf from '@/ui/OneOf.vue'
import PolicyPicture from './PolicyPicture.vue'
import SoughtRow from './SoughtRow.vue'

/** What is looked for, as a sentence whose words can be changed, and what was found beside what there was. */
const policies = usePolicies()
const model = useModel()
const look = useLook()
const view = useView()
const policy = computed(() => policies.policy)
const sum = computed(() => policy.value?.sum ?? [])
const limits = computed(() => policy.value?.limits ?? [])
const found = computed(() => (policies.older ? null : policies.found))
const wordsOf = (one: Summand) => outcomeWords({ key: keyOf(one), kind: one.kind ?? 'last', time: one.time ?? 0 }, model, look).words
const sought = computed(() =>
    sum.value.length
        ? sum.value.map((s) => `${(s.weight ?? 1) === 1 ? '' : `${literal(s.weight ?? 1)} × `}${wordsOf(s)}`).join(' + ')
        : 'an outcome',
)
const outcomes = computed(() => model.things.filter((t) => !['curve', 'factor', 'series'].includes(t.kind)))
const changeSum = (one: Summand, fields?: Partial<Summand>) => policies.change((p) => ({ sum: replaced(p.sum ?? [], one, fields) }))
const changeLimit = (one: Limit, fields?: Partial<Limit>) => policies.change((p) => ({ limits: replaced(p.limits ?? [], one, fields) }))
const addSummand = (of: string) => policies.change((p) => ({ sum: [...(p.sum ?? []), { of, kind: 'last' }] }))
const addLimit = (of: string) => policies.change((p) => ({ limits: [...(p.limits ?? []), { of, kind: 'min', least: true, number: 0 }] }))
function number(text: string, unit: string, then: (value: number) => unknown) {
    const value = fieldValue(text, unit)
    if (Number.isFinite(value)) {
        then(value)
    }
}
const OVER = [
    { value: 'mean' as const, words: 'on average' },
    { value: 'worst-twentieth' as const, words: 'in the worst twentieth' },
    { value: 'worst' as const, words: 'in the worst run' },
    { value: 'regret' as const, words: 'with the least regret' },
    { value: 'p5' as const, words: 'at the 5th percentile' },
    { value: 'p95' as const, words: 'at the 95th percentile' },
]
const RUNS = computed(() =>
    [...new Set([0, 20, 50, 100, 200, policy.value?.runs ?? 0])]
        .sort((a, b) => a - b)
        .map((n) => ({ value: n, words: n ? `in ${n} runs under uncertainty` : 'in one run, as all stands' })),
)
const runs = computed(() => policy.value?.runs ?? 0)
const unit = computed(() => policies.search?.unit ?? '')
const measured = computed(() => (runs.value ? (OVER.find((o) => o.value === policy.value?.over)?.words ?? 'on average') : ''))
const canTake = computed(() => found.value !== null && found.value.value !== null && !policies.running && !policies.taken)
const courses = computed(() =>
    (found.value?.courses.best ?? []).map((best) => ({
        best,
        before: found.value?.courses.before.find((b) => b.key === best.key),
        name: look.nameOf(best.key) ?? '',
        unit: model.model.elements[look.ownerOf(best.key)]?.unit ?? '',
        marks: (found.value?.limits ?? []).filter((l) => l.key === best.key && !['total', 'peak'].includes(l.kind)),
    })),
)
</script>

<template>
    <template v-if="policy">
        <header :class="{ alone: !view.outline }">
            <div class="line">
                <UnderlinedWord
                    class="name"
                    :value="policy.name"
                    label="Name of this policy"
                    @change="$event && policies.change({ name: $event })"
                />
                <Button
                    class="icon-button"
                    aria-label="Remove this policy"
                    title="Remove this policy"
                    :disabled="policies.running"
                    @click="model.attempt({ kind: 'drop', part: 'policies', id: policy.id })"
                    ><Trash2 :size="15" :stroke-width="1.6"
                /></Button>
            </div>
            <h2>
                Make <b>{{ sought }}</b> as {{ policy.small ? 'small' : 'large' }} as can be{{ measured ? ` ${measured}` : ''
                }}{{ limits.length ? `, within ${counted(limits.length, 'limit')}` : '' }}
            </h2>
            <div class="acts">
                <Button v-if="policies.running" class="button strong" @click="policies.stop"
                    ><Square :size="12" :stroke-width="1.8" />Stop</Button
                >
                <template v-else>
                    <Button v-if="policies.search?.stopped && !policies.older" class="button strong" @click="policies.goOn">Go on</Button>
                    <Button
                        class="button"
                        :class="{ strong: !canTake && !policies.search?.stopped }"
                        :disabled="policies.trouble !== ''"
                        @click="policies.begin"
                        ><Play :size="13" :stroke-width="1.8" />{{ policies.search ? 'Look anew' : 'Look for it' }}</Button
                    >
                    <Button v-if="canTake" class="button strong" title="The model gets these values, as one edit" @click="policies.takeOver"
                        >Take over</Button
                    >
                    <Button v-if="canTake" class="button" @click="policies.asScenario">As a scenario</Button>
                </template>
            </div>
        </header>
        <section class="wish" aria-label="What is looked for">
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
                    :choices="RUNS"
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
                    @change="number(($event.target as HTMLInputElement).value, '', (v) => changeSum(s, { weight: v }))"
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
                    @change="number(($event.target as HTMLInputElement).value, '', (v) => changeLimit(l, { number: v }))"
                />
                <Button class="icon-button" :aria-label="`No limit of ${wordsOf(l)}`" title="No such limit" @click="changeLimit(l)"
                    ><X :size="14" :stroke-width="1.7"
                /></Button>
            </div>
            <VariableField label="Another limit" placeholder="and a limit of" :only="outcomes" @choose="addLimit" />
        </section>
        <p v-if="policies.trouble" class="caution" role="alert">{{ policies.trouble }}</p>
        <p v-if="policies.search?.trouble" class="caution" role="alert">{{ policies.search.trouble }}</p>
        <p v-if="policies.older && !policies.running" class="caution" role="status">
            The model or what is looked for has changed since it was found.
            <SincePart :revision="policies.search?.revision ?? 0" />
            <Button v-if="!policies.trouble" class="link" @click="policies.begin">Look again</Button>
        </p>
        <template v-if="found">
            <p v-if="found.value !== null" class="value" role="status">
                <b>{{ withUnit(found.value, unit) }}</b>{{ measured ? ` ${measured}` : ''
                }}<template v-if="found.base !== null">, before {{ withUnit(found.base, unit) }}</template
                ><template v-if="policies.taken">; the model follows it</template>
            </p>
            <p v-if="found.against" class="soft">
                Better than before in {{ Math.round(100 * found.against.better) }} % of the same {{ counted(found.against.runs, 'draw') }},
                by {{ withUnit(found.against.mean, unit) }} on average.
            </p>
            <ul v-if="found.limits.length" class="kept">
                <li v-for="l in found.limits" :key="`${l.key} ${l.kind}`">
                    {{ wordsOf({ of: look.ownerOf(l.key), kind: l.kind as Summand['kind'], time: l.time }) }}
                    {{ runs ? 'in the worst run' : '' }} <b>{{ withUnit(l.worst, l.unit) }}</b>, {{ l.least ? 'at least' : 'at most' }}
                    {{ short(l.number, { unit: l.unit }) }}; before {{ short(l.before, { unit: l.unit })
                    }}<b v-if="l.binds" class="binds"> · binds</b>
                </li>
            </ul>
            <PolicyPicture v-for="c in courses" :key="c.best.key" v-bind="c" />
        </template>
    </template>
</template>

<style scoped>
@import '../try/many.css';
@import './head.css';

header .acts {
    margin-top: 8px;
}
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
.value {
    font-size: 18px;
}
.kept {
    margin: 6px 0 10px;
    padding-left: 16px;
}
.binds {
    color: var(--ochre);
}
</style>
