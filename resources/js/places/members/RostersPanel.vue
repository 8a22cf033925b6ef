<script setup lang="ts">
import { PanelLeftClose, Plus, Shapes } from '@lucide/vue'
import { computed, ref, watch } from 'vue'
import { isOpen, useMembers } from '@/stores/members'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import ChoiceField from '@/ui/ChoiceField.vue'
import { shownUnit } from '@/ui/numbers'
import AgesPicture from './AgesPicture.vue'
import ComeAndGo from './ComeAndGo.vue'
import KeptPart from './KeptPart.vue'
import RelationsPart from './RelationsPart.vue'
import RosterDialog from './RosterDialog.vue'

/** The rosters; how many there are now, how they are spread, and by what they come and go. */
const members = useMembers()
const model = useModel()
const view = useView()
const making = ref(false)
const listed = (of: string) => model.model.dimensions.find((d) => d.id === of)?.elements.length ?? 0
const spread = ref('')
const choices = computed(() => (members.muster?.columns ?? []).map((c) => ({ value: c.key, words: c.name })))
/** Ages, if they have some; else what is drawn. */
watch(
    () => members.muster?.roster,
    () => {
        spread.value = members.muster?.columns.find((c) => /^age$/i.test(c.name))?.key ?? ''
    },
    { immediate: true },
)
const shown = computed(() => members.muster?.columns.find((c) => c.key === spread.value) ?? members.column ?? members.muster?.columns[0])
const of = computed({ get: () => shown.value?.key ?? '', set: (key: string) => (spread.value = key) })
</script>

<template>
    <nav class="panel" aria-label="Rosters">
        <RosterDialog v-if="making" @done="making = false" />
        <header>
            <h2>Rosters</h2>
            <Button
                v-if="model.mayEdit"
                class="icon-button"
                aria-label="Make a roster of a table"
                title="Make a roster of a table"
                @click="making = true"
                ><Plus :size="16" :stroke-width="1.7"
            /></Button>
            <Button class="icon-button" aria-label="Hide this column" title="Hide this column" @click="view.outline = false"
                ><PanelLeftClose :size="15" :stroke-width="1.6"
            /></Button>
        </header>
        <ul>
            <li v-for="r in members.rosters" :key="r.id">
                <Button class="roster" :aria-current="r.id === members.roster?.id" @click="members.wanted = r.id">
                    <Shapes :size="16" :stroke-width="1.5" />
                    <span
                        ><b>{{ r.name }}</b
                        ><small class="soft"
                            >{{ listed(r.of) }} on the list{{
                                r.entries?.length ? `, then ${r.entries.map((e) => e.words).join(', ')}` : ''
                            }}</small
                        ></span
                    >
                </Button>
            </li>
        </ul>
        <p v-if="!members.rosters.length" class="soft none">Rosters will be listed here.</p>
        <template v-if="members.muster && members.roster">
            <p class="now">
                <b>{{ members.rows.length }}</b> {{ members.muster.name }}{{ members.rows.length === 1 ? '' : 's' }}
                <em v-if="Number.isFinite(members.time)">at {{ model.moment(members.time) }}</em>
            </p>
            <section v-if="shown" class="spread" aria-label="How they are spread">
                <ChoiceField v-model="of" label="Which of their numbers" :choices="choices" />
                <AgesPicture :of="shown.key" :name="shown.name" :unit="shown.unit" />
                <p class="soft">
                    {{ members.muster.name }}s by {{ shown.name }}{{ shownUnit(shown.unit) ? `, ${shownUnit(shown.unit)}` : '' }}
                </p>
            </section>
            <ComeAndGo />
            <RelationsPart />
            <KeptPart v-if="isOpen(members.roster)" />
        </template>
    </nav>
</template>

<style scoped>
.panel {
    overflow-y: auto;
    border-right: 1px solid var(--hairline);
    background: var(--card);
    padding-bottom: 20px;
}
header {
    display: flex;
    align-items: center;
    gap: 2px;
    padding: 8px 8px 4px 14px;
}
h2 {
    flex: 1;
    font-size: 14px;
}
header .icon-button {
    width: 26px;
    height: 26px;
}
ul {
    margin: 0;
    padding: 0;
    list-style: none;
}
.roster {
    display: flex;
    gap: 9px;
    width: 100%;
    padding: 7px 12px 7px 14px;
    text-align: left;
    border-left: 3px solid transparent;
}
.roster svg {
    flex: none;
    margin-top: 2px;
}
.roster:hover {
    background: var(--hover);
}
.roster[aria-current='true'] {
    border-left-color: var(--ember);
    background: var(--hover);
}
.roster span {
    display: grid;
    min-width: 0;
}
small {
    font-size: 13px;
}
.now {
    padding: 12px 14px 6px;
}
.now b {
    font-size: 30px;
    line-height: 1;
}
.now em {
    font-style: normal;
    font-weight: 700;
    color: var(--ember);
}
.spread {
    display: grid;
    gap: 6px;
    padding: 4px 14px 10px;
}
.soft {
    font-size: 13px;
    color: var(--ink-soft);
}
.none {
    padding: 8px 14px;
}
</style>
