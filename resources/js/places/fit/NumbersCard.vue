<script setup lang="ts">
import { computed } from 'vue'
import VariableField from '@/find/VariableField.vue'
import { useFits, type Free } from '@/stores/fits'
import { isAt, isOf, pointsOf, replaced } from '@/stores/fitting'
import { useModel } from '@/stores/model'
import { usePolicies } from '@/stores/policies'
import { counted } from '@/ui/numbers'
import SaidText from '@/ui/SaidText.vue'
import FreedNumber from './FreedNumber.vue'
import PairEllipse from './PairEllipse.vue'
import PolicyCard from './PolicyCard.vue'

/** Each number that may move: its bounds, where it is nearest, and what the data leave open of it. */
const fits = useFits()
const model = useModel()
const policies = usePolicies()
const numbers = computed(() =>
    fits.free.flatMap((free, i) => {
        const thing = model.model.elements[free.of]
        const j = (fits.told?.numbers ?? []).findIndex((n) => isOf(n, free))
        const own = j < 0 ? undefined : fits.told?.numbers[j]
        return thing
            ? [
                  {
                      free,
                      i,
                      thing,
                      name: own?.name ?? thing.name,
                      unit: thing.unit,
                      before: own?.value ?? null,
                      now: j < 0 || fits.older ? null : (fits.fit?.best?.point[j] ?? null),
                      result: j < 0 ? undefined : fits.result?.parameters[j],
                      profile: j < 0 ? undefined : fits.result?.profiles?.[j],
                      open: j < 0 ? undefined : fits.open?.parameters[j],
                  },
              ]
            : []
    }),
)
const choices = computed(() =>
    model.things.filter(
        (t) =>
            t.kind === 'parameter' ||
            pointsOf(t).some((p) => !fits.free.some((f) => f.of === t.id && isAt(p, f.at?.[0]))) ||
            (t.kind === 'stock' && t.formula.trim() !== '' && Number.isFinite(Number(t.formula))),
    ),
)
const taken = computed(() => fits.free.filter((f) => !f.at?.length).map((f) => f.of))
function add(id: string) {
    const thing = model.model.elements[id]
    if (thing) {
        void fits.setFree((list) => [...list, fits.freed(thing)])
    }
}
const change = (free: Free, fields: Partial<Free>) => fits.setFree((list) => replaced(list, free, fields))
const remove = (free: Free) => fits.setFree((list) => replaced(list, free))
/** Numbers that can hardly be told apart. */
const pairs = computed(() => (fits.result?.together ?? []).map(([one = 0, other = 0, r = 0]) => ({ one, other, r })))
const profiled = computed(() => (fits.result?.profiles?.length ?? 0) > 0)
</script>

<template>
    <PolicyCard v-if="policies.policy" />
    <div v-else class="numbers" role="region" aria-label="The numbers that may move">
        <section v-if="fits.result" class="says">
            <h2>What it says</h2>
            <ul>
                <li v-for="s in [...fits.result.sentences, ...(fits.open?.sentences ?? [])]" :key="s"><SaidText :text="s" /></li>
            </ul>
        </section>
        <section v-if="fits.plan">
            <header>
                <h2>{{ numbers.length ? counted(numbers.length, 'number') : 'Numbers that may move' }}</h2>
                <span v-if="fits.result" class="soft legend"
                    ><template v-if="fits.open">hill: draws of what is left open<br /></template
                    ><template v-else-if="profiled">curve: how far off when held there<br /></template>bar: where it lies, 19 times in
                    20</span
                >
            </header>
            <FreedNumber
                v-for="n in numbers"
                :key="n.i"
                v-bind="n"
                :locked="fits.running"
                @bounds="change(n.free, $event)"
                @remove="remove(n.free)"
            />
            <p v-if="!numbers.length" class="soft">
                Choose a parameter, a stock whose initial value may move, or a curve of which a point may. Each has bounds: what lies beyond
                is not looked at.
            </p>
            <VariableField
                v-if="!fits.running"
                label="Another number that may move"
                :placeholder="numbers.length ? 'Another number' : 'Which number may move?'"
                :only="choices"
                :except="taken"
                @choose="add"
            />
        </section>
        <section v-for="p in pairs" :key="`${p.one}-${p.other}`" class="pair">
            <PairEllipse :fit="fits.fit!" :one="p.one" :other="p.other" :r="p.r" />
        </section>
    </div>
</template>

<style scoped>
@import './card.css';
</style>
