<script setup lang="ts">
import { Pencil, Play, X } from '@lucide/vue'
import { computed, ref } from 'vue'
import type { Thing } from '@/api/types'
import VariableField from '@/find/VariableField.vue'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useRuns } from '@/stores/runs'
import { fieldText, fieldValue, shownUnit, short } from '@/ui/numbers'
import FindingForm from '../FindingForm.vue'
import OutcomeChips from '../OutcomeChips.vue'
import TryTabs from '../TryTabs.vue'
import CombinedTable from './CombinedTable.vue'
import CombinedPicture from './CombinedPicture.vue'
import { AT_ONCE, useCandidates } from './useCandidates'

/** Values that parameters may have: those that are ticked are tried in all combinations. */
const model = useModel()
const notices = useNotices()
const runs = useRuns()
const candidates = useCandidates()
const { all, count, outcome, told, trouble, busy, older, what } = candidates
const parameters = computed(() => model.things.filter((t) => t.kind === 'parameter' && !t.along))
/** What was just ticked: hands are quicker than the page. */
const ticking = ref<Record<string, number[]>>({})
async function tick(id: string, value: number) {
    const now = ticking.value[id] ?? all.value.find((c) => c.id === id)?.ticked ?? []
    const next = now.includes(value) ? now.filter((v) => v !== value) : [...now, value]
    ticking.value = { ...ticking.value, [id]: next }
    await candidates.put(id, { ticked: next })
    if (ticking.value[id] === next || ticking.value[id]?.join() === next.join()) {
        ticking.value = Object.fromEntries(Object.entries(ticking.value).filter(([k]) => k !== id))
    }
}
const rows = computed(() =>
    all.value.flatMap((c) => {
        const thing = model.model.elements[c.of]
        return thing ? [{ ...c, ticked: ticking.value[c.id] ?? c.ticked, thing }] : []
    }),
)
const shownValue = (thing: Thing, value: number) =>
    thing.choices?.find((c) => c.value === value)?.name ?? short(value, { unit: thing.unit, digits: 4 })
const editing = ref('')
const typed = ref('')
function edit(id: string, thing: Thing, values: number[]) {
    editing.value = editing.value === id ? '' : id
    typed.value = values.map((v) => fieldText(v, thing.unit)).join('; ')
}
async function keep(id: string, thing: Thing) {
    const values = typed.value
        .split(/[;\n\t]|,\s|\s{1,}/)
        .map((t) => t.trim())
        .filter(Boolean)
        .map((t) => fieldValue(t, thing.unit))
    if (!values.length || values.some((v) => !Number.isFinite(v))) {
        notices.trouble('Write the values as numbers with semicolons between: 1; 2; 3.')
        return
    }
    if (await candidates.put(id, { values })) {
        editing.value = ''
    }
}
const words = computed(() => {
    const open = rows.value.filter((r) => (r.ticked?.length ?? 0) > 1)
    const product = open.map((r) => r.ticked?.length).join(' × ')
    return open.length > 1
        ? `${product} = ${count.value.toLocaleString()} runs`
        : count.value === 1
          ? '1 run'
          : `${count.value.toLocaleString()} runs`
})
/** The list of values and the ticks come back with it; the numbers stand in words. */
const finding = () => ({
    kind: 'candidates' as const,
    outcome: what.value.words,
    unit: what.value.unit,
    setting: runs.setting,
    lists: rows.value.map((r) => ({ of: r.of, values: r.values, ticked: r.ticked ?? [] })),
    dimensions: told.value?.dimensions ?? [],
    fixed: told.value?.fixed ?? {},
    results: (told.value?.results ?? []).map((r) => r?.[candidates.at.value] ?? null),
})
/** All of a list, or none of it. */
function tickAll(id: string, values: number[]) {
    ticking.value = { ...ticking.value, [id]: values }
    void candidates.put(id, { ticked: values })
}
</script>

<template>
    <section class="leaf" aria-label="Candidates">
        <TryTabs><FindingForm v-if="told" :view="finding" :title="`${what.words} by candidates`" /></TryTabs>
        <div class="stage" tabindex="0">
            <div class="bar">
                <VariableField
                    label="Parameter with candidates"
                    placeholder="Which parameter?"
                    :only="parameters"
                    :except="all.map((c) => c.of)"
                    @choose="(id) => model.model.elements[id] && candidates.add(model.model.elements[id]!)"
                />
                <template v-if="rows.length">
                    <span class="soft" role="status">{{ busy ? 'running …' : words }}</span>
                    <Button v-if="count > AT_ONCE" class="button strong" :disabled="busy" @click="candidates.run(true)"
                        ><Play :size="14" :stroke-width="1.8" />Run all {{ count.toLocaleString() }}</Button
                    >
                </template>
            </div>
            <p v-if="count > AT_ONCE" class="caution" role="alert">
                What is ticked comes to {{ count.toLocaleString() }} runs, which are not made by themselves. Untick some, or run them all.
            </p>
            <p v-if="older && count > AT_ONCE" class="caution" role="status">The table below is of what was ticked before.</p>
            <p v-if="trouble" class="caution" role="alert">{{ trouble }}</p>
            <p v-if="!rows.length" class="empty soft">
                Give a parameter a list of values it may have: a price, a number of boats, a switch. Tick those you want to see: one ticked
                is that number, several are tried in all combinations with those of the others.
            </p>
            <ul v-else class="rows">
                <li v-for="r in rows" :key="r.id">
                    <span class="name"
                        >{{ r.thing.name }}<small v-if="shownUnit(r.thing.unit)" class="soft"> {{ shownUnit(r.thing.unit) }}</small></span
                    >
                    <span v-if="editing !== r.id" class="values" role="group" :aria-label="`Candidates of ${r.thing.name}`"
                        ><label v-for="v in r.values" :key="v" class="value" :class="{ on: r.ticked?.includes(v) }"
                            ><Checkbox
                                :model-value="r.ticked?.includes(v) ?? false"
                                binary
                                :aria-label="`${r.thing.name} ${shownValue(r.thing, v)}`"
                                @update:model-value="tick(r.id, v)"
                            />{{ shownValue(r.thing, v) }}</label
                        ><Button
                            class="link"
                            :aria-label="`${r.ticked?.length === r.values.length ? 'Untick' : 'Tick'} all of ${r.thing.name}`"
                            @click="tickAll(r.id, r.ticked?.length === r.values.length ? [] : r.values)"
                            >{{ r.ticked?.length === r.values.length ? 'none' : 'all' }}</Button
                        ></span
                    >
                    <form v-else class="values" @submit.prevent="keep(r.id, r.thing)">
                        <InputText v-model="typed" class="field" :aria-label="`Values of ${r.thing.name}`" @keydown.escape="editing = ''" />
                        <Button class="button" type="submit">Keep</Button>
                    </form>
                    <span class="soft own">{{
                        !r.ticked?.length
                            ? `as in the model: ${shownValue(r.thing, r.thing.value ?? 0)}`
                            : r.ticked.length === 1
                              ? 'one number'
                              : 'a dimension'
                    }}</span>
                    <Button
                        class="icon-button"
                        :aria-label="`Change the values of ${r.thing.name}`"
                        title="Change the values"
                        @click="edit(r.id, r.thing, r.values)"
                        ><Pencil :size="14" :stroke-width="1.6"
                    /></Button>
                    <Button
                        class="icon-button"
                        :aria-label="`Remove the candidates of ${r.thing.name}`"
                        title="Remove"
                        @click="candidates.drop(r.id)"
                        ><X :size="14" :stroke-width="1.7"
                    /></Button>
                </li>
            </ul>
            <template v-if="told && rows.length">
                <div class="bar">
                    <OutcomeChips
                        :model-value="outcome || (told.outcomes[0]?.id ?? '')"
                        :outcomes="told.outcomes"
                        @update:model-value="outcome = $event"
                    />
                </div>
                <h2>
                    {{ what.words }}<template v-if="shownUnit(what.unit)">, in {{ shownUnit(what.unit) }}</template>
                </h2>
                <div class="results">
                    <CombinedTable :told="told" :at="candidates.at.value" :unit="what.unit" />
                    <CombinedPicture v-if="told.courses.length > 1" :told="told" />
                </div>
            </template>
        </div>
    </section>
</template>

<style scoped src="../many.css"></style>

<style scoped>
.rows {
    list-style: none;
    padding: 0;
    margin: 0 0 14px;
}
.rows li {
    display: grid;
    grid-template-columns: minmax(110px, 200px) minmax(0, 1fr) auto 28px 28px;
    align-items: center;
    gap: 4px 12px;
    padding: 4px 0;
    border-bottom: 1px solid var(--hairline);
}
.name {
    font-weight: 500;
}
.name small {
    margin-left: 5px;
    font-weight: 400;
}
.values {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
}
.value {
    display: inline-flex;
    align-items: center;
    gap: 6px;
    padding: 2px 9px 2px 5px;
    border: 1px solid var(--hairline);
    border-radius: 8px;
    font-variant-numeric: tabular-nums;
}
.value.on {
    border-color: var(--ink);
    font-weight: 700;
}
.own {
    font-size: 12.5px;
}
.field {
    min-height: 28px;
    padding: 2px 8px;
    width: min(420px, 60%);
}
.icon-button {
    width: 28px;
    height: 28px;
}
h2 {
    font-size: 14.5px;
    font-weight: 700;
    margin-bottom: 6px;
}
.results {
    display: flex;
    flex-wrap: wrap;
    gap: 12px 24px;
    align-items: flex-start;
}
.empty {
    max-width: 480px;
    margin: 10vh auto 0;
    text-align: center;
}
</style>
