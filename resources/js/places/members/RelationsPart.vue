<script setup lang="ts">
import { ListRestart, Plus, X } from '@lucide/vue'
import { computed, ref } from 'vue'
import type { MappingRecord, RosterRecord } from '@/api/parts'
import VariableField from '@/find/VariableField.vue'
import { useMembers } from '@/stores/members'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { counted } from '@/ui/numbers'
import RelationDialog from './RelationDialog.vue'
import RosterDialog from './RosterDialog.vue'

/** Who the members are, and who is related to whom: by tables of pairs, and by chance while a run goes on. */
type Tie = NonNullable<RosterRecord['ties']>[number]
const members = useMembers()
const model = useModel()
const view = useView()
const listing = ref(false)
const relating = ref<'' | 'new' | { name: string; back: string; to: string }>('')
const relations = computed(() =>
    Object.values(model.model.mappings ?? {}).filter((m) => m.from === members.roster?.of && members.rosters.some((r) => r.of === m.to)),
)
/** What the same pairs are called from the other side. */
function turned(of: MappingRecord) {
    const pairs = new Set(of.pairs.map(([a, b]) => `${b} ${a}`))
    const isTurned = (r: MappingRecord) => r.pairs.length === pairs.size && r.pairs.every(([a, b]) => pairs.has(`${a} ${b}`))
    return relations.value.find((r) => r.id !== of.id && pairs.size && isTurned(r))?.name ?? ''
}
const each = computed(() =>
    model.known.filter((t) => {
        const over = t.members ? [t.members] : (t.along?.over ?? [])
        return ['auxiliary', 'flow', 'parameter'].includes(t.kind) && over.length === 1 && over[0] === members.roster?.of
    }),
)
const RULES = [
    { field: 'made', words: 'made by chance, as likely as', add: 'Ties are made' },
    { field: 'ended', words: 'ended by chance, as likely as', add: 'Ties end' },
] as const
type Rule = (typeof RULES)[number]['field']
const ties = computed<Tie[]>(() => members.roster?.ties ?? [])
const tieOf = (relation: string) => ties.value.find((t) => t.of === relation)
const nameOf = (id: string | undefined) => model.model.elements[id ?? '']?.name ?? 'what is not there any more'
/** Which rule of which relation is being added. */
const adding = ref<{ of: string; rule: Rule } | null>(null)
function put(of: string, fields: Partial<Tie>) {
    const next = { ...tieOf(of), of, ...fields }
    const rest = ties.value.filter((t) => t.of !== of)
    adding.value = null
    return members.put({ ties: next.made || next.ended ? [...rest, next] : rest })
}
function goTo(id: string) {
    view.go({ place: 'model', selection: [id] })
    view.goTo(id)
}
</script>

<template>
    <section class="rules" aria-label="Who they are">
        <RosterDialog v-if="listing && members.roster" :roster="members.roster" @done="listing = false" />
        <RelationDialog
            v-if="relating && members.roster"
            :roster="members.roster"
            :known="relating === 'new' ? null : relating"
            @done="relating = ''"
        />
        <h3>Who they are</h3>
        <Button v-if="model.mayEdit" class="add" @click="listing = true"><ListRestart :size="14" /> Another list</Button>
        <h3>How they are related</h3>
        <ul>
            <template v-for="r in relations" :key="r.id">
                <li>
                    <span
                        ><b>{{ r.name }}</b
                        >, <span class="soft">{{ counted(r.pairs.length, 'pair') }}{{ tieOf(r.id) ? ' at the start' : '' }}</span></span
                    >
                    <Button
                        v-if="model.mayEdit"
                        class="icon-button"
                        :aria-label="`Other pairs for “${r.name}”`"
                        title="Other pairs"
                        @click="relating = { name: r.name, back: turned(r), to: r.to }"
                        ><ListRestart :size="14" :stroke-width="1.7"
                    /></Button>
                </li>
                <template v-for="rule in RULES" :key="rule.field">
                    <li v-if="tieOf(r.id)?.[rule.field]">
                        <span
                            >{{ rule.words }}
                            <Button class="link" @click="goTo(tieOf(r.id)?.[rule.field] ?? '')">{{
                                nameOf(tieOf(r.id)?.[rule.field])
                            }}</Button></span
                        >
                        <Button
                            v-if="model.mayEdit"
                            class="icon-button"
                            :aria-label="`Take away that ties of “${r.name}” are ${rule.field}`"
                            title="Take away"
                            @click="put(r.id, { [rule.field]: '' })"
                            ><X :size="14" :stroke-width="1.7"
                        /></Button>
                    </li>
                </template>
                <li v-if="tieOf(r.id)?.made" class="both">
                    <label
                        ><Checkbox
                            binary
                            :model-value="tieOf(r.id)?.both ?? false"
                            :disabled="!model.mayEdit"
                            @update:model-value="put(r.id, { both: $event })"
                        />each is the other’s</label
                    >
                </li>
                <li v-if="adding?.of === r.id">
                    <VariableField
                        :only="each"
                        label="How likely in a time unit"
                        placeholder="a variable of each of them"
                        @choose="put(r.id, { [adding.rule]: $event })"
                    />
                    <Button class="button" @click="adding = null">Cancel</Button>
                </li>
                <li v-else-if="model.mayEdit && r.to === r.from && RULES.some((rule) => !tieOf(r.id)?.[rule.field])" class="adds">
                    <template v-for="rule in RULES" :key="rule.field">
                        <Button
                            v-if="!tieOf(r.id)?.[rule.field]"
                            class="add"
                            :aria-label="`${rule.add}, of “${r.name}”`"
                            @click="adding = { of: r.id, rule: rule.field }"
                            ><Plus :size="14" /> {{ rule.add }}</Button
                        >
                    </template>
                </li>
            </template>
            <li v-if="!relations.length" class="soft">Nobody is related to another.</li>
        </ul>
        <Button v-if="model.mayEdit" class="add" @click="relating = 'new'"><Plus :size="14" /> A relation of pairs</Button>
    </section>
</template>

<style scoped src="./rules.css"></style>
<style scoped>
.adds {
    justify-content: start;
    gap: 14px;
}
label {
    display: flex;
    align-items: center;
    gap: 7px;
}
</style>
