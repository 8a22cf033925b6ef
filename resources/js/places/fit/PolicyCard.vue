<script setup lang="ts">
import { computed } from 'vue'
import VariableField from '@/find/VariableField.vue'
import { isOf, replaced } from '@/stores/fitting'
import { useModel } from '@/stores/model'
import { usePolicies, type Lever } from '@/stores/policies'
import { counted } from '@/ui/numbers'
import SaidText from '@/ui/SaidText.vue'
import FreedNumber from './FreedNumber.vue'

/** What can be chosen, each between its bounds, and from where to where it is nearly as good. */
const policies = usePolicies()
const model = useModel()
const levers = computed(() => policies.policy?.choose ?? [])
const found = computed(() => (policies.older ? null : policies.found))
const numbers = computed(() =>
    levers.value.flatMap((lever, i) => {
        const thing = model.model.elements[lever.of]
        const told = policies.search && !policies.older ? policies.search.numbers : (policies.foreseen?.numbers ?? [])
        const j = told.findIndex((n) => isOf(n, lever))
        const own = j < 0 ? undefined : told[j]
        const best = policies.older ? undefined : (found.value?.choice ?? policies.search?.best?.point)
        const near = found.value?.near[j]
        return thing
            ? [
                  {
                      free: lever,
                      i,
                      thing,
                      name: own?.name ?? thing.name,
                      unit: thing.unit,
                      before: own?.value ?? null,
                      now: best?.[j] ?? null,
                      result: near
                          ? { name: '', value: 0, standard_error: null, low: near[0] ?? null, high: near[1] ?? null, at_bound: false }
                          : undefined,
                      profile: undefined,
                      open: undefined,
                  },
              ]
            : []
    }),
)
const choices = computed(() => model.things.filter((t) => t.kind === 'parameter'))
const taken = computed(() => levers.value.filter((l) => !l.at?.length).map((l) => l.of))
function add(id: string) {
    const thing = model.model.elements[id]
    if (thing) {
        void policies.change((p) => ({ choose: [...(p.choose ?? []), policies.lever(thing)] }))
    }
}
const change = (lever: Lever, fields?: Partial<Lever>) => policies.change((p) => ({ choose: replaced(p.choose ?? [], lever, fields) }))
</script>

<template>
    <div class="levers" role="region" aria-label="What can be chosen">
        <section v-if="found?.sentences.length">
            <h2>What it says</h2>
            <ul>
                <li v-for="s in found.sentences" :key="s"><SaidText :text="s" /></li>
            </ul>
        </section>
        <section>
            <header>
                <h2>{{ numbers.length ? `${counted(numbers.length, 'number')} to choose` : 'What can be chosen' }}</h2>
                <span v-if="found" class="soft legend">bar: nearly as good</span>
            </header>
            <FreedNumber
                v-for="n in numbers"
                :key="n.i"
                v-bind="n"
                plain
                :locked="policies.running"
                @bounds="change(n.free, $event)"
                @remove="change(n.free)"
            />
            <p v-if="!numbers.length" class="soft">Choose a parameter that somebody can decide: a price, a cap, a number of boats.</p>
            <VariableField
                v-if="!policies.running"
                label="Another number that can be chosen"
                :placeholder="numbers.length ? 'Another number' : 'Which number can be chosen?'"
                :only="choices"
                :except="taken"
                @choose="add"
            />
        </section>
    </div>
</template>

<style scoped>
@import './card.css';
</style>
