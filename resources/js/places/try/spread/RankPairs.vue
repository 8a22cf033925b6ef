<script setup lang="ts">
import { Link2, X } from '@lucide/vue'
import { computed, ref } from 'vue'
import { useEnsembles } from '@/stores/ensembles'
import { useModel } from '@/stores/model'
import ChoiceField from '@/ui/ChoiceField.vue'
import { newId } from '@/ui/ids'
import { short } from '@/ui/numbers'

/** Which uncertain inputs go together: where one is high, the other is high too, or low. */
const { inputs } = defineProps<{ inputs: { of: string; name: string }[] }>()
const model = useModel()
const ensembles = useEnsembles()
const pairs = computed(() => Object.values(model.model.rankPairs ?? {}))
const nameOf = (id: string) => model.model.elements[id]?.name ?? 'something that is gone'
const reached = (one: string, other: string) => {
    const found = ensembles.shown?.together.find((t) => (t.one === one && t.other === other) || (t.one === other && t.other === one))
    return found?.reached ?? null
}
const adding = ref(false)
const one = ref('')
const other = ref('')
function begin() {
    adding.value = true
    one.value = inputs[0]?.of ?? ''
    other.value = inputs[1]?.of ?? ''
}
async function add() {
    if (await model.attempt({ kind: 'put', part: 'rankPairs', id: newId(), fields: { one: one.value, other: other.value, rank: 0.5 } })) {
        adding.value = false
    }
}
function change(id: string, text: string) {
    const rank = Number(text.replace('−', '-').replace(',', '.'))
    void model.attempt({ kind: 'put', part: 'rankPairs', id, fields: { rank: Number.isFinite(rank) ? rank : 0 } })
}
const choices = computed(() => inputs.map((i) => ({ value: i.of, words: i.name })))
/** A cloud of so many dots as would go together like this. */
const DOTS = Array.from({ length: 60 }, (_, i) => {
    const normal = (k: number) => {
        let sum = 0
        for (let n = 0; n < 6; n++) {
            sum += Math.abs(Math.sin(12.9898 * (i * 13 + k * 71 + n * 37) + 4.1) * 43758.5453) % 1
        }
        return (sum - 3) / 0.71
    }
    return [normal(1), normal(2)] as const
})
const cloud = (rank: number) =>
    DOTS.map(([a, b]) => ({ x: 22 + 6.2 * a, y: 18 - 5.4 * (rank * a + Math.sqrt(Math.max(0, 1 - rank * rank)) * b) }))
</script>

<template>
    <section class="pairs" aria-label="Inputs that go together">
        <header>
            <h2>Going together</h2>
            <Button class="icon-button" aria-label="Let two inputs go together" title="Let two inputs go together" @click="begin"
                ><Link2 :size="15" :stroke-width="1.7"
            /></Button>
        </header>
        <form v-if="adding" @submit.prevent="add">
            <ChoiceField v-model="one" :choices="choices" label="One input" />
            <ChoiceField v-model="other" :choices="choices" label="The other input" />
            <Button type="submit" class="button" :disabled="!one || one === other">They go together</Button>
        </form>
        <div v-for="p in pairs" :key="p.id" class="pair">
            <svg width="44" height="36" aria-hidden="true">
                <circle v-for="(d, i) in cloud(p.rank)" :key="i" :cx="d.x" :cy="d.y" r="1.1" />
            </svg>
            <span class="words"
                >{{ nameOf(p.one) }} with {{ nameOf(p.other) }}
                <span class="rank"
                    ><InputText
                        class="field"
                        inputmode="decimal"
                        :model-value="String(p.rank)"
                        :aria-label="`How ${nameOf(p.one)} goes with ${nameOf(p.other)}, from −1 to 1`"
                        title="Correlation of their ranks, from −1 to 1"
                        @change="change(p.id, ($event.target as HTMLInputElement).value)"
                    /><small v-if="reached(p.one, p.other) !== null" class="soft"
                        >{{ short(reached(p.one, p.other), { digits: 2 }) }} reached, by rank</small
                    ></span
                ></span
            >
            <Button
                class="icon-button"
                :aria-label="`${nameOf(p.one)} does not go with ${nameOf(p.other)}`"
                title="Remove"
                @click="model.attempt({ kind: 'drop', part: 'rankPairs', id: p.id })"
                ><X :size="13" :stroke-width="1.7"
            /></Button>
        </div>
        <p v-if="!pairs.length && !adding" class="soft">Each input is drawn by itself.</p>
    </section>
</template>

<style scoped>
.pairs {
    padding: 8px 12px 10px 14px;
    border-bottom: 1px solid var(--hairline);
}
header {
    display: flex;
    align-items: center;
    min-height: 28px;
}
h2 {
    flex: 1;
    font-size: 14px;
    font-weight: 700;
}
.icon-button {
    flex: none;
    width: 26px;
    height: 26px;
}
form {
    display: grid;
    gap: 6px;
    margin-bottom: 8px;
}
.pair {
    display: flex;
    align-items: center;
    gap: 8px;
    margin: 4px 0;
    font-size: 13px;
}
.pair svg {
    flex: none;
    border-left: 1px solid var(--line);
    border-bottom: 1px solid var(--line);
}
circle {
    fill: var(--ribbon);
}
.words {
    flex: 1;
    min-width: 0;
}
.rank {
    display: grid;
    justify-items: start;
    gap: 1px;
    margin-top: 2px;
}
.field {
    width: 56px;
    min-height: 26px;
    padding: 1px 6px;
}
.soft {
    font-size: 12.5px;
}
</style>
