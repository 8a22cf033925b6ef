<script setup lang="ts">
import { Plus, Trash2 } from '@lucide/vue'
import { computed, ref, watch } from 'vue'
import type { Books } from '@/api/types'
import { useLedgers } from '@/stores/ledgers'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import ChoiceField from '@/ui/ChoiceField.vue'
import { short } from '@/ui/numbers'
import FormulaWord from './FormulaWord.vue'

/** What a claim is: whose debt, in what unit and currency, along what, and rows that only revalue it. */
const { claim } = defineProps<{ claim: Books['claims'][number] }>()
const ledgers = useLedgers()
const model = useModel()
const notices = useNotices()
const put = (fields: Record<string, unknown>) => ledgers.put('claims', claim.id, fields)
const REAL = '*'
const debtors = computed(() => [
    ...ledgers.parties.filter((p) => p.id !== claim.holder).map((p) => ({ value: p.id, words: p.name })),
    { value: REAL, words: 'nobody: a real thing' },
])
const holders = computed(() => ledgers.parties.filter((p) => p.id !== claim.debtor).map((p) => ({ value: p.id, words: p.name })))
const owe = (to: string | undefined) => to && void put(to === REAL ? { debtor: null, real: true } : { debtor: to, real: null })
const unit = ref('')
watch(
    () => claim.unit,
    (now) => {
        unit.value = now
    },
    { immediate: true },
)
const dimensions = computed(() => model.model.dimensions.filter((d) => !d.shared))
const along = (id: string, on: boolean) => put({ over: on ? [...claim.over, id] : claim.over.filter((d) => d !== id) })
const isForeign = computed(() => claim.rate !== '')
const books = computed(() => ledgers.unit)
async function drop() {
    if (await ledgers.drop('claims', claim.id)) {
        notices.say(`Removed ${claim.name}.`, { words: 'Undo', run: () => void model.step('undo') })
    }
}
</script>

<template>
    <div class="part">
        <div class="line">
            <span>Owed by</span>
            <ChoiceField
                :model-value="claim.real ? REAL : claim.debtor || undefined"
                :label="`Who owes ${claim.name}`"
                placeholder="nobody yet"
                :choices="debtors"
                @update:model-value="owe"
            />
        </div>
        <div class="line">
            <span>Held by</span>
            <ChoiceField
                v-if="!claim.holder"
                :model-value="undefined"
                :label="`Who is to hold ${claim.name}`"
                placeholder="nobody yet"
                :choices="holders"
                @update:model-value="$event && put({ holder: $event })"
            />
            <span v-else>{{ ledgers.partyName(claim.holder) }} <small class="soft">(“Another holder” below turns its rows)</small></span>
        </div>
        <label class="line"
            >Unit<InputText
                v-model="unit"
                class="field"
                placeholder="such as crown"
                spellcheck="false"
                @change="put({ unit: unit.trim() || null })"
                @keydown.enter="($event.target as HTMLElement).blur()"
        /></label>
        <div class="line">
            <span>One is worth</span>
            <FormulaWord
                :value="claim.rate"
                :label="`What one ${claim.unit || 'unit'} of ${claim.name} is worth`"
                :placeholder="`1 ${books}: the same currency`.replace('  ', ' ')"
                @change="put({ rate: $event || null })"
            />
        </div>
        <p v-if="isForeign" class="soft">
            {{ short(ledgers.now(claim.stock), { unit: claim.unit }) }} {{ claim.unit }} now. The books count its value; by its rate alone
            it has moved by {{ short(ledgers.now(claim.revalued), { unit: books }) }} {{ books }} since the start.
        </p>
        <div v-if="dimensions.length" class="ways" role="group" :aria-label="`Along what ${claim.name} is several`">
            <span>Several, one for each</span>
            <label v-for="d in dimensions" :key="d.id" class="check"
                ><Checkbox binary :model-value="claim.over.includes(d.id)" @update:model-value="along(d.id, $event)" />{{ d.name }}</label
            >
        </div>
        <label class="check"
            ><Checkbox binary :model-value="claim.limited" @update:model-value="put({ limited: $event || null })" />Never below 0: rows that
            would take more are cut, on all sides</label
        >
        <div class="ways">
            <Button class="link" @click="ledgers.revalue(claim.id)"
                ><Plus :size="13" :stroke-width="1.8" />{{ claim.real ? 'A row that revalues it' : 'A row that writes it off' }}</Button
            >
            <Button class="link" @click="drop"><Trash2 :size="13" :stroke-width="1.6" />Remove it</Button>
        </div>
    </div>
</template>

<style scoped src="./part.css"></style>
