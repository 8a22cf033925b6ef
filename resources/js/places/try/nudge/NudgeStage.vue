<script setup lang="ts">
import { EyeOff, LineChart } from '@lucide/vue'
import { computed, ref } from 'vue'
import type { Nudged } from '@/api/types'
import { useCourses } from '@/stores/courses'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import ChoiceField from '@/ui/ChoiceField.vue'
import { newId } from '@/ui/ids'
import { counted, niceAbove, short, shownUnit, withUnit } from '@/ui/numbers'
import OneOf from '@/ui/OneOf.vue'
import FindingForm from '../FindingForm.vue'
import OutcomeChips from '../OutcomeChips.vue'
import SincePart from '../SincePart.vue'
import TryTabs from '../TryTabs.vue'
import NudgeRow from './NudgeRow.vue'
import { useNudge } from './useNudge'

/** Which inputs matter: each goes down and up alone, and what that does is ranked. */
type Effect = Nudged['effects'][number]
const model = useModel()
const look = useLook()
const view = useView()
const runs = useRuns()
const courses = useCourses()
const notices = useNotices()
const nudge = useNudge()
const { wish, outcome, told, trouble, busy, older, at, what } = nudge

const BY = [
    { value: 0.01, words: 'a hundredth' },
    { value: 0.05, words: 'a twentieth' },
    { value: 0.1, words: 'a tenth' },
    { value: 0.2, words: 'a fifth' },
    { value: 0.5, words: 'a half' },
    { value: 0, words: 'the range of each dial' },
]
const sought = ref('')
const order = ref<'effect' | 'name' | 'model'>('effect')
const picked = ref('')
const size = (e: Effect) => e.results[at.value]?.size ?? null
const all = computed(() => {
    const list = [...(told.value?.effects ?? [])]
    if (order.value === 'name') {
        return list.sort((a, b) => a.name.localeCompare(b.name))
    }
    if (order.value === 'model') {
        const place = new Map(model.things.map((t, i) => [t.id, i]))
        return list.sort((a, b) => (place.get(a.id) ?? 0) - (place.get(b.id) ?? 0))
    }
    return list.sort((a, b) => (size(b) ?? Infinity) - (size(a) ?? Infinity))
})
const shown = computed(() => all.value.filter((e) => e.name.toLowerCase().includes(sought.value.trim().toLowerCase())))
const most = computed(() => Math.max(0, ...(told.value?.effects ?? []).map((e) => size(e) ?? 0)))
const without = computed(() => shown.value.filter((e) => (size(e) ?? 1) <= 1e-9 * most.value).length)
const course = computed(() => told.value?.base.course ?? [])
const reach = computed(() => {
    const moved = (told.value?.effects ?? []).flatMap((e) =>
        [e.lower, e.higher].flatMap((c) =>
            (c ?? []).map((v, i) => {
                const b = course.value[i]
                return v === null || b === null || b === undefined ? 0 : Math.abs(v - b)
            }),
        ),
    )
    return niceAbove(moved.reduce((a, b) => Math.max(a, b), 0))
})
const unitOf = (id: string) => model.model.elements[id]?.unit ?? ''
const courseUnit = computed(() => unitOf(look.ownerOf(told.value?.of ?? '')))
const courseName = computed(() => look.nameOf(told.value?.of ?? '') ?? '')
const base = computed(() => told.value?.base.results[at.value] ?? null)
const byWords = computed(() => BY.find((b) => b.value === wish.value.by)?.words ?? `${short(wish.value.by, { unit: '%' })} %`)

/** Real runs of both ends, with all else as it is tried. */
function runEnds(e: Effect) {
    const parameters = runs.setting.parameters ?? {}
    for (const [end, value] of [
        ['less', e.low],
        ['more', e.high],
    ] as const) {
        const key = `nudge:${e.id}:${end}`
        if (value !== null && !courses.called.some((c) => c.key === key)) {
            courses.call(key, `${e.name} ${short(value, { unit: unitOf(e.id) })}`, {
                setting: { ...runs.setting, parameters: { ...parameters, [e.id]: value } },
            })
        }
    }
    notices.say(`${e.name} low and high are shown among the runs.`, {
        words: 'See the plots',
        run: () => {
            view.go({ place: 'try', stage: 'plot' })
        },
    })
}
async function mute(e: Effect) {
    if (await model.attempt({ kind: 'put', part: 'muted', id: newId(), fields: { of: e.id } })) {
        notices.say(`${e.name} is not nudged any more.`, { words: 'Undo', run: () => void model.step('undo') })
    }
}
const finding = () => ({
    kind: 'nudge' as const,
    wish: { ...wish.value },
    by: byWords.value,
    outcome: what.value.words,
    unit: what.value.unit,
    base: base.value,
    setting: runs.setting,
    effects: all.value
        .slice(0, 12)
        .map((e) => ({ name: e.name, low: e.results[at.value]?.low ?? null, high: e.results[at.value]?.high ?? null })),
})
</script>

<template>
    <section class="leaf" aria-label="Nudges">
        <TryTabs><FindingForm v-if="told" :view="finding" :title="`What moves ${what.words}`" /></TryTabs>
        <div class="stage" tabindex="0">
            <div class="bar">
                <label class="soft">Each alone, down and up by <ChoiceField v-model="wish.by" :choices="BY" label="By how much" /></label>
                <label class="soft"><Checkbox v-model="wish.initials" binary /> initial values too</label>
                <label class="soft"><Checkbox v-model="wish.curves" binary /> curves too</label>
                <span v-if="busy" class="soft" role="status">nudging …</span>
            </div>
            <div v-if="told" class="bar">
                <OutcomeChips
                    :model-value="outcome || (told.outcomes[0]?.id ?? '')"
                    :outcomes="told.outcomes"
                    @update:model-value="outcome = $event"
                />
            </div>
            <p v-if="older" class="caution" role="status">
                The model or its setting has changed since these nudges. <SincePart :revision="told?.revision ?? 0" />
                <Button class="link" @click="nudge.ask">Nudge again</Button>
            </p>
            <p v-if="trouble" class="caution" role="alert">{{ trouble }}</p>
            <template v-if="told">
                <p v-if="!told.effects.length && !told.muted.length" class="empty">
                    There is nothing to nudge: this model has no parameter that is a plain number.
                </p>
                <template v-else>
                    <div class="bar tools">
                        <h2>
                            {{ what.words }} is {{ withUnit(base, what.unit) }} in the {{ runs.tried ? 'present run' : 'baseline' }}; each
                            input alone by
                            {{ byWords }}
                        </h2>
                        <InputText v-model="sought" class="field" type="search" placeholder="Search inputs" aria-label="Search inputs" />
                        <OneOf
                            v-model="order"
                            label="Order"
                            :choices="[
                                { value: 'effect', words: 'by effect' },
                                { value: 'name', words: 'by name' },
                                { value: 'model', words: 'as in the model' },
                            ]"
                        />
                    </div>
                    <div class="rows" role="list">
                        <div class="heads soft">
                            <span>input</span><span class="right">its value</span>
                            <span
                                >what it does to {{ courseName }} over time, each strip ± {{ withUnit(reach, courseUnit) }}
                                <span class="keys"
                                    ><span class="key"
                                        ><svg width="20" height="8" aria-hidden="true">
                                            <line x1="0" x2="20" y1="4" y2="4" class="solid" /></svg
                                        >more</span
                                    ><span class="key"
                                        ><svg width="20" height="8" aria-hidden="true">
                                            <line x1="0" x2="20" y1="4" y2="4" class="dashed" /></svg
                                        >less of it</span
                                    ></span
                                ></span
                            >
                            <span class="middle">{{ what.words }}{{ shownUnit(what.unit) ? `, in ${shownUnit(what.unit)}` : '' }}</span
                            ><span />
                        </div>
                        <div v-for="e in shown" :key="e.id" class="item" :class="{ on: picked === e.id }" role="listitem">
                            <NudgeRow
                                :effect="e"
                                :base="base"
                                :at="at"
                                :times="told.times"
                                :course="course"
                                :reach="reach"
                                :most="most"
                                :unit="what.unit"
                                :own="unitOf(e.id)"
                                ><Button class="who" :aria-expanded="picked === e.id" @click="picked = picked === e.id ? '' : e.id">{{
                                    e.name
                                }}</Button></NudgeRow
                            >
                            <div v-if="picked === e.id" class="acts">
                                <Button
                                    class="button"
                                    :disabled="e.kind !== 'parameter' || e.low === null"
                                    :title="
                                        e.kind === 'parameter'
                                            ? 'Two runs with all else as it is: plots, differences, trail'
                                            : 'Only a parameter can be set in a run'
                                    "
                                    @click="runEnds(e)"
                                    ><LineChart :size="14" :stroke-width="1.6" />Run both ends</Button
                                >
                                <Button class="button" title="Not nudged any more; it can be brought back below" @click="mute(e)"
                                    ><EyeOff :size="14" :stroke-width="1.6" />Mute</Button
                                >
                                <Button class="link" @click="view.goTo(e.id)">show it in the model</Button>
                                <span v-if="e.low !== null" class="soft"
                                    >from {{ withUnit(e.low, unitOf(e.id)) }} to {{ withUnit(e.high, unitOf(e.id)) }}</span
                                >
                                <span v-if="e.note" class="soft">{{ e.note }}</span>
                            </div>
                        </div>
                    </div>
                    <p v-if="!shown.length && sought" class="soft foot">No input that is nudged is called like “{{ sought }}”.</p>
                    <p v-if="without" class="soft foot">
                        {{ counted(without, 'of these has', 'of these have') }} no effect on {{ what.words }}.
                    </p>
                    <p v-if="told.muted.length" class="foot muted">
                        <EyeOff :size="14" :stroke-width="1.6" /> Muted:
                        <span v-for="m in told.muted" :key="m.id"
                            >{{ m.name }}
                            <Button class="link" @click="model.attempt({ kind: 'drop', part: 'muted', id: m.part })">nudge it</Button></span
                        >
                    </p>
                </template>
            </template>
        </div>
    </section>
</template>

<style scoped src="../many.css"></style>

<style scoped>
.bar label {
    display: inline-flex;
    align-items: center;
    gap: 7px;
    font-size: 13.5px;
}
.tools h2 {
    flex: 1;
    min-width: 220px;
    font-size: 14.5px;
    font-weight: 700;
}
.field {
    min-height: 28px;
    padding: 2px 8px;
    width: 150px;
}
.rows {
    display: grid;
    grid-template-columns: minmax(110px, 190px) minmax(60px, 120px) minmax(140px, 1.3fr) minmax(200px, 1fr) auto;
    gap: 0 12px;
}
.heads,
.item {
    display: grid;
    grid-template-columns: subgrid;
    grid-column: 1 / -1;
}
.heads {
    align-items: end;
    padding: 2px 0 4px 8px;
    font-size: 12.5px;
    border-bottom: 1px solid var(--line);
}
.right {
    text-align: right;
}
.middle {
    text-align: center;
}
.item {
    padding-left: 8px;
    border-bottom: 1px solid var(--hairline);
    border-left: 3px solid transparent;
    margin-left: -3px;
}
.item.on {
    border-left-color: var(--ember);
}
.who {
    font-weight: 500;
    text-align: left;
    max-width: 100%;
    overflow: hidden;
    text-overflow: ellipsis;
}
.on .who {
    font-weight: 700;
}
.acts {
    grid-column: 1 / -1;
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px;
    padding: 0 0 7px;
    font-size: 13px;
}
.acts .button {
    min-height: 28px;
    padding: 0 9px;
    font-size: 13px;
}
.keys {
    display: block;
}
.key {
    display: inline-flex;
    align-items: center;
    gap: 4px;
    margin-right: 10px;
    white-space: nowrap;
}
.solid,
.dashed {
    stroke: var(--ink);
    stroke-width: 1.5;
}
.dashed {
    stroke-dasharray: 3 3;
}
.foot {
    margin-top: 10px;
    font-size: 13px;
}
.muted {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 4px 10px;
    color: var(--ink-soft);
}
.empty {
    max-width: 460px;
    margin: 12vh auto 0;
    text-align: center;
    color: var(--ink-soft);
}
</style>
