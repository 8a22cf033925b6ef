<script setup lang="ts">
import { Eye, EyeOff, Play, Trash2 } from '@lucide/vue'
import { computed, ref } from 'vue'
import type { Scenario, Setting } from '@/api/types'
import VariableField from '@/find/VariableField.vue'
import { useCatalogue } from '@/stores/catalogue'
import { useCourses } from '@/stores/courses'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import ChoiceField from '@/ui/ChoiceField.vue'
import { putBack } from '@/ui/controls'
import { fieldText, fieldValue, literal, shownUnit } from '@/ui/numbers'
import { without } from '@/ui/records'
import { Column, DataTable, naming } from '@/ui/table'

/** What each scenario changes: a row for each thing, a column for each scenario. */
const { scenarios } = defineProps<{ scenarios: Scenario[] }>()
const TIME = { start: 'starts at', end: 'ends at', step: 'time step', saveEvery: 'saves every', method: 'method' } as const
type Row = { part: 'parameters' | 'time' | 'curves' | 'grips'; id: string }

const model = useModel()
const runs = useRuns()
const courses = useCourses()
const view = useView()
const look = useLook()
const catalogue = useCatalogue()
const notices = useNotices()

const added = ref<Row[]>([])
/** A row for everything that some scenario changes, in the order of the model. */
const rows = computed<Row[]>(() => {
    const found = new Map<string, Row>()
    for (const part of ['parameters', 'grips', 'curves', 'time'] as const) {
        for (const s of scenarios) {
            for (const id of Object.keys(s.setting[part] ?? {})) {
                found.set(`${part}|${id}`, { part, id })
            }
        }
    }
    for (const row of added.value) {
        found.set(`${row.part}|${row.id}`, row)
    }
    const order = (r: Row) => (r.part === 'time' ? 1e6 : model.model.order.indexOf(look.ownerOf(r.id)))
    return [...found.values()].sort((a, b) => order(a) - order(b))
})
const nameOf = (row: Row) => (row.part === 'time' ? TIME[row.id as keyof typeof TIME] : (look.nameOf(row.id) ?? 'gone from the model'))
const parametersLeft = computed(() =>
    model.things.filter((t) => t.kind === 'parameter' && !rows.value.some((r) => r.part === 'parameters' && r.id === t.id)),
)
const addable = computed(() =>
    [
        ...model.things.filter((t) => t.points).map((t) => ({ key: `curves|${t.id}`, name: `${t.name} (points of another)` })),
        ...Object.entries(TIME).map(([id, name]) => ({ key: `time|${id}`, name: `time: ${name}` })),
    ].filter((a) => !rows.value.some((r) => `${r.part}|${r.id}` === a.key)),
)
const keyOf = (row: Row) => `${row.part}|${row.id}`
const unitOf = (id: string) => model.model.elements[look.ownerOf(id)]?.unit ?? ''
function add(key = '') {
    const [part, id] = key.split('|') as [Row['part'], string]
    if (id) {
        added.value = [...added.value, { part, id }]
    }
}
function base(row: Row): string {
    if (row.part === 'parameters') {
        const value = model.model.elements[row.id]?.value
        return value === null || value === undefined ? '' : fieldText(value, unitOf(row.id))
    }
    if (row.part === 'time') {
        const value = model.model.time[row.id as keyof typeof TIME]
        return value === null ? 'every step' : typeof value === 'number' ? literal(value) : String(value)
    }
    return row.part === 'curves' ? 'its own points' : '–'
}
function cell(s: Scenario, row: Row, from: Setting = s.setting): string {
    const value = from[row.part]?.[row.id]
    return value === undefined
        ? ''
        : typeof value === 'number'
          ? row.part === 'parameters'
              ? fieldText(value, unitOf(row.id))
              : literal(value)
          : typeof value === 'string'
            ? row.part === 'curves'
                ? (model.model.elements[value]?.name ?? 'gone')
                : value
            : value.signal + (value.on === false ? ', off' : '')
}
/** What a cell that is left empty takes from below. */
const inherited = (s: Scenario, row: Row) => cell(s, row, s.resolved ?? {}) || base(row)

function put(s: Scenario, change: Partial<Scenario>) {
    const { id, name, note, on, setting, place } = { ...s, ...change }
    return model.attempt({ kind: 'scenario', id, name, note, on, setting, place })
}
/** What can be chosen in a cell that takes no number: another curve, another method. */
function offered(s: Scenario, row: Row) {
    const curves = () => model.things.filter((x) => x.points && x.id !== row.id).map((t) => ({ value: t.id, words: t.name }))
    const methods = () => catalogue.content.methods.map((m) => ({ value: m.name as string, words: m.title }))
    return [{ value: '', words: inherited(s, row) }, ...(row.part === 'curves' ? curves() : methods())]
}
const chosenIn = (s: Scenario, row: Row) =>
    (row.part === 'curves' ? s.setting.curves?.[row.id] : String(s.setting.time?.method ?? '')) ?? ''

function type(s: Scenario, row: Row, typed: string) {
    const text = typed.trim()
    const rest = without((s.setting[row.part] ?? {}) as Record<string, unknown>, row.id)
    const numeric = row.part === 'parameters' || (row.part === 'time' && row.id !== 'method')
    const value = row.part === 'parameters' ? fieldValue(text, unitOf(row.id)) : Number(text)
    const key = `${s.id}|${row.part}|${row.id}`
    wrong.value = without(wrong.value, key)
    if (text !== '' && numeric && !Number.isFinite(value)) {
        // What was typed stays in its cell.
        wrong.value = {
            ...wrong.value,
            [key]: `“${text}” is no number. Write one such as 0.5, or leave the cell empty to take ${inherited(s, row)}.`,
        }
        return
    }
    void put(s, { setting: { ...s.setting, [row.part]: text === '' ? rest : { ...rest, [row.id]: numeric ? value : text } } })
}
const wrong = ref<Record<string, string>>({})
function rename(s: Scenario, event: Event) {
    const field = event.target as HTMLInputElement
    if (field.value.trim() && field.value.trim() !== s.name) {
        void put(s, { name: field.value.trim() }).then((done) => {
            if (!done) putBack(field, s.name)
        })
    } else {
        putBack(field, s.name)
    }
}
async function remove(s: Scenario) {
    if (await model.attempt({ kind: 'discard', what: 'scenario', id: s.id })) {
        notices.say(`Removed the scenario “${s.name}”.`, {
            words: 'Undo',
            run: () => {
                void model.step('undo')
            },
        })
    }
}
const stacking = (s: Scenario) => scenarios.filter((o) => o.id !== s.id)
function build(s: Scenario, id?: string) {
    if (id) {
        void put(s, { on: s.on.includes(id) ? s.on.filter((o) => o !== id) : [...s.on, id] })
    }
}
/** What is tried in this window, on the dials again. */
function load(s: Scenario) {
    runs.put(s.resolved ?? s.setting)
    if (s.resolved?.time || s.resolved?.curves) {
        notices.say('Dials and hands are set as in this scenario; its times and curves act only in its own run.')
    }
}

const busy = computed(() => courses.batch !== null && !courses.batch.finished)
const stateOf = (s: Scenario) => courses.batch?.runs.find((r) => r.scenario === s.id)
</script>

<template>
    <DataTable :value="rows" :data-key="keyOf" size="small" scrollable class="settings in-text">
        <Column header="What is changed" frozen :pt="naming">
            <template #body="{ data: row }">
                <Button v-if="model.model.elements[row.id]" class="who" @click="view.select(row.id)">{{ nameOf(row) }}</Button><template
                    v-else
                    >{{ nameOf(row) }}</template
                ><small v-if="row.part === 'parameters' && (model.model.elements[row.id]?.unit ?? '1') !== '1'">
                    {{ shownUnit(model.model.elements[row.id]?.unit ?? '') }}</small
                ><small v-if="row.part === 'grips'"> by hand</small>
            </template>
        </Column>
        <Column header="baseline" body-class="base" header-class="base">
            <template #body="{ data: row }">{{ base(row) }}</template>
        </Column>
        <Column v-for="s in scenarios" :key="s.id" header-class="scenario">
            <template #header>
                <div>
                    <InputText
                        class="field title"
                        :model-value="s.name"
                        :title="s.name"
                        :aria-label="`Name of ${s.name}`"
                        maxlength="80"
                        @change="rename(s, $event)"
                        @keydown.enter="($event.target as HTMLElement).blur()"
                    />
                    <span class="actions">
                        <Button
                            class="icon-button"
                            :aria-pressed="courses.scenarios.includes(s.id)"
                            :aria-label="`${courses.scenarios.includes(s.id) ? 'Hide' : 'Plot'} ${s.name}`"
                            :title="courses.scenarios.includes(s.id) ? 'Hide in plots' : 'Show in plots'"
                            @click="courses.toggleScenario(s.id)"
                            ><Eye v-if="courses.scenarios.includes(s.id)" :size="14" :stroke-width="1.6" /><EyeOff
                                v-else
                                :size="14"
                                :stroke-width="1.6"
                        /></Button>
                        <Button
                            class="icon-button"
                            :aria-label="`Run ${s.name}`"
                            title="Run this one"
                            :disabled="busy"
                            @click="courses.runScenarios([s.id])"
                            ><Play :size="13" :stroke-width="1.6"
                        /></Button>
                        <Button
                            class="icon-button load"
                            :aria-label="`Put the dials as in ${s.name}`"
                            title="Put the dials as in this scenario"
                            @click="load(s)"
                            >dials</Button
                        >
                        <Button class="icon-button" :aria-label="`Remove ${s.name}`" title="Remove" @click="remove(s)"
                            ><Trash2 :size="13" :stroke-width="1.6"
                        /></Button>
                    </span>
                    <span class="on soft">
                        <Button
                            v-for="id in s.on"
                            :key="id"
                            class="chip"
                            :title="`Builds on it; click to stop`"
                            :aria-label="`${s.name} builds on ${model.model.scenarios[id]?.name}; click to stop`"
                            @click="put(s, { on: s.on.filter((o) => o !== id) })"
                            >on {{ model.model.scenarios[id]?.name }} ×</Button
                        >
                        <ChoiceField
                            v-if="stacking(s).length"
                            :label="`What ${s.name} builds on`"
                            :placeholder="s.on.length ? 'and on …' : 'builds on …'"
                            :model-value="undefined"
                            :choices="
                                stacking(s)
                                    .filter((x) => !s.on.includes(x.id))
                                    .map((o) => ({ value: o.id, words: o.name }))
                            "
                            @update:model-value="build(s, $event)"
                        />
                    </span>
                    <span v-if="stateOf(s)?.words" class="words" :title="stateOf(s)?.words">{{ stateOf(s)?.words }}</span>
                </div>
            </template>
            <template #body="{ data: row }">
                <template v-if="row.part === 'grips'"
                    ><Button
                        v-if="s.setting.grips?.[row.id]"
                        class="chip plum"
                        title="Click to release it in this scenario"
                        @click="put(s, { setting: { ...s.setting, grips: without(s.setting.grips ?? {}, row.id) } })"
                        >{{ cell(s, row) }} ×</Button
                    ><span v-else class="soft">{{ inherited(s, row) }}</span></template
                >
                <ChoiceField
                    v-else-if="row.part === 'curves' || row.id === 'method'"
                    :label="`${nameOf(row)} in ${s.name}`"
                    :choices="offered(s, row)"
                    :model-value="chosenIn(s, row)"
                    @update:model-value="type(s, row, $event ?? '')"
                />
                <InputText
                    v-else
                    class="field"
                    :class="{ wrong: wrong[`${s.id}|${row.part}|${row.id}`] }"
                    inputmode="decimal"
                    :aria-label="`${nameOf(row)} in ${s.name}`"
                    :aria-invalid="Boolean(wrong[`${s.id}|${row.part}|${row.id}`])"
                    :title="wrong[`${s.id}|${row.part}|${row.id}`]"
                    :model-value="cell(s, row)"
                    :placeholder="inherited(s, row)"
                    @change="type(s, row, ($event.target as HTMLInputElement).value)"
                    @keydown.enter="($event.target as HTMLElement).blur()"
                />
                <p v-if="wrong[`${s.id}|${row.part}|${row.id}`]" class="trouble" role="alert">
                    {{ wrong[`${s.id}|${row.part}|${row.id}`] }}
                </p>
            </template>
        </Column>
    </DataTable>
    <p class="more">
        <VariableField
            v-if="parametersLeft.length"
            :only="parametersLeft"
            label="Change a parameter"
            @choose="added = [...added, { part: 'parameters', id: $event }]"
        />
        {{ ' ' }}
        <ChoiceField
            label="Add a row"
            placeholder="or a curve or the time …"
            :model-value="undefined"
            :choices="addable.map((a) => ({ value: a.key, words: a.name }))"
            @update:model-value="add"
        />
    </p>
</template>

<style scoped src="./ScenarioTable.css"></style>
