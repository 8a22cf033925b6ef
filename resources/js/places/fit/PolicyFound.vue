<script setup lang="ts">
import { computed } from 'vue'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { usePolicies, type Summand } from '@/stores/policies'
import ChoiceField from '@/ui/ChoiceField.vue'
import { counted, short, withUnit } from '@/ui/numbers'
import { OVER } from './over'
import PolicyPicture from './PolicyPicture.vue'
import { useSought } from './sought'

/** What was found, beside what there was or something else, under the same draws. */
const policies = usePolicies()
const model = useModel()
const look = useLook()
const { wordsOf, expectedWords } = useSought()
const found = computed(() => policies.found)
const unit = computed(() => policies.search?.unit ?? '')
const runs = computed(() => policies.policy?.runs ?? 0)
/** As they were said: with the element, and with the course to follow. */
const limits = computed(() => policies.policy?.limits ?? [])
const measured = computed(() => (runs.value ? (OVER.find((o) => o.value === policies.policy?.over)?.words ?? 'on average') : ''))
/** Beside what was chosen; else beside what there was, which is known from the search. */
const held = computed(() => policies.beside?.held ?? found.value)
const other = computed(() => policies.beside?.name ?? 'before')
const groups = computed(() => [
    { words: 'As it was', choices: [{ value: '', words: 'what there was before' }] },
    ...policies.besides.map((g) => ({ words: g.words, choices: g.choices.map((c) => ({ value: c.key, words: c.words })) })),
])
const courses = computed(() =>
    (held.value?.courses.best ?? []).map((best) => ({
        best,
        before: held.value?.courses.before.find((b) => b.key === best.key),
        name: look.nameOf(best.key) ?? '',
        unit: model.model.elements[look.ownerOf(best.key)]?.unit ?? '',
        marks: (held.value?.limits ?? []).filter((l) => l.key === best.key && !['total', 'peak', 'apart'].includes(l.kind)),
        other: other.value,
    })),
)
const sums = computed(() => (policies.policy?.sum ?? []).map(wordsOf).join(' + '))
const better = computed(() => {
    const a = held.value?.against
    if (!a) {
        return ''
    }
    const often = `better in ${Math.round(100 * a.better)} % of the same ${counted(a.runs, 'draw')}`
    const mean = a.mean ?? 0
    return `${often}, on average ${mean < 0 ? 'worse ' : ''}by ${withUnit(Math.abs(mean), unit.value)}`
})
const numbers = computed(() => policies.search?.numbers ?? [])
</script>

<template>
    <template v-if="found && held">
        <p v-if="found.value !== null" class="value" role="status">
            <b>{{ withUnit(found.value, unit) }}</b>{{ measured ? ` ${measured}` : ''
            }}<template v-if="found.base !== null">, before {{ withUnit(found.base, unit) }}</template
            ><template v-if="policies.taken">; the model follows it</template>
        </p>
        <p class="soft beside">
            Beside
            <ChoiceField
                :model-value="policies.besideKey"
                label="Beside what"
                :groups="groups"
                @update:model-value="policies.holdAgainst($event ?? '')"
            />
            <template v-if="policies.holding">…</template>
            <template v-else-if="held.against">{{ better }}</template>
        </p>
        <p v-if="policies.besideTrouble" class="caution" role="alert">{{ policies.besideTrouble }}</p>
        <ul v-if="held.limits.length || held.expected.length" class="kept">
            <li v-for="(l, i) in held.limits" :key="i">
                {{ wordsOf(limits[i] ?? { of: look.ownerOf(l.key), kind: l.kind as Summand['kind'], time: l.time }) }}
                {{ runs ? 'in the worst run' : '' }} <b>{{ withUnit(l.worst, l.unit) }}</b>, {{ l.least ? 'at least' : 'at most' }}
                {{ short(l.number, { unit: l.unit }) }}; {{ other }} {{ short(l.before, { unit: l.unit })
                }}<b v-if="l.binds" class="binds"> · binds</b>
            </li>
            <li v-for="e in held.expected" :key="e.expectation">
                {{ expectedWords(e.expectation) }}:
                <b>{{ e.runs > 1 ? `in ${e.held} of ${e.runs} runs` : e.holds ? 'holds' : 'does not hold' }}</b>; {{ other }}
                {{ e.runs > 1 ? `in ${e.before}` : e.before ? 'it holds' : 'it does not' }}
            </li>
        </ul>
        <table v-if="found.others.length" class="others">
            <caption>
                Also good, elsewhere
            </caption>
            <thead>
                <tr>
                    <th v-for="n in numbers" :key="n.key" scope="col">{{ n.name }}</th>
                    <th scope="col">{{ sums }}</th>
                    <td></td>
                </tr>
            </thead>
            <tbody>
                <tr v-for="(o, i) in found.others" :key="i">
                    <td v-for="(v, j) in o.choice" :key="j">{{ withUnit(v, model.model.elements[numbers[j]?.of ?? '']?.unit ?? '') }}</td>
                    <td>
                        <b>{{ withUnit(o.value, unit) }}</b>
                    </td>
                    <td>
                        <Button
                            class="link"
                            :aria-label="`Hold the best against choice ${i + 2}`"
                            @click="policies.holdAgainst(`other:${i}`)"
                            >compare</Button
                        >
                    </td>
                </tr>
            </tbody>
        </table>
        <PolicyPicture v-for="c in courses" :key="c.best.key" v-bind="c" />
    </template>
</template>

<style scoped>
@import '../try/many.css';

.value {
    margin: 0 0 4px;
    font-size: 18px;
}
.beside {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 4px 8px;
    margin: 0 0 6px;
}
.kept {
    margin: 6px 0 10px;
    padding-left: 16px;
}
.binds {
    color: var(--ochre);
}
.others {
    margin: 0 0 12px;
    border-spacing: 0;
}
.others caption {
    padding-bottom: 2px;
    text-align: left;
    color: var(--ink-soft);
}
.others th,
.others td {
    padding: 2px 14px 2px 0;
    font-weight: 400;
    text-align: left;
    font-variant-numeric: tabular-nums;
}
.others .link {
    min-height: 24px;
}
.others th {
    max-width: 240px;
    color: var(--ink-soft);
}
</style>
