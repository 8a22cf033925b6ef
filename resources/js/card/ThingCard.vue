<script setup lang="ts">
import { Activity, GitBranch, LineChart, Trash2 } from '@lucide/vue'
import { computed, ref, watch } from 'vue'
import type { Thing } from '@/api/types'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useTracks } from '@/stores/tracks'
import { useView } from '@/stores/view'
import { between, fieldText, full, short, shownUnit, withUnit } from '@/ui/numbers'
import SaidText from '@/ui/SaidText.vue'
import CurveField from './CurveField.vue'
import DialField from './DialField.vue'
import EquationPart from './EquationPart.vue'
import ExceptionsPart from './ExceptionsPart.vue'
import FlowRules from './FlowRules.vue'
import FormulaField from './FormulaField.vue'
import GripField from './GripField.vue'
import GroupField from './GroupField.vue'
import MapPart from './MapPart.vue'
import MendList from './MendList.vue'
import NoteField from './NoteField.vue'
import OverPart from './OverPart.vue'
import SeriesCourses from './SeriesCourses.vue'
import StockRules from './StockRules.vue'
import SymbolField from './SymbolField.vue'
import TalkPart from '@/talk/TalkPart.vue'
import UncertainPart from './UncertainPart.vue'
import { useNamePreview } from './useNamePreview'
import ValueGrid from './ValueGrid.vue'

const { thing } = defineProps<{ thing: Thing }>()
const model = useModel()
const tracks = useTracks()
const runs = useRuns()
const view = useView()
const look = useLook()

const name = ref('')
const nameSentence = ref('')
/** So many formulas that a new name would change are shown. */
const MOST = 5
const { followers, refusal } = useNamePreview(() => thing, name)
const unit = ref('')
// Each only when it is another: what is being typed stays while anything else about the thing changes.
watch(
    [() => thing.id, () => thing.name],
    () => {
        name.value = thing.name
        nameSentence.value = ''
    },
    { immediate: true },
)
watch(
    [() => thing.id, () => thing.unit],
    () => {
        unit.value = thing.unit
    },
    { immediate: true },
)

const value = computed(() => runs.value(thing.id))
/** The thing as the window looks at it along its dimensions, if it has some. */
const seen = computed(() => look.extended[thing.id])
const untold = computed(() => runs.untold(thing.id))
const hasDimensions = computed(() => model.model.dimensions.length > 0)
const waits = computed(() => {
    const cause = model.model.waiting[thing.id]
    return cause && cause !== thing.id ? model.model.elements[cause] : undefined
})
const inflows = computed(() => model.things.filter((t) => t.kind === 'flow' && t.to === thing.id))
const outflows = computed(() => model.things.filter((t) => t.kind === 'flow' && t.from === thing.id))
const change = computed(() => {
    const sum = (flows: Thing[]) => flows.reduce((s, f) => s + (runs.value(f.id) ?? NaN), 0)
    return sum(inflows.value) - sum(outflows.value)
})
const things = (ids: string[]) => [...new Set(ids)].map((id) => model.model.elements[id]).filter((t): t is Thing => t !== undefined)
const fedBy = computed(() => things(model.model.links.filter((l) => l.to === thing.id && l.kind !== 'unused').map((l) => l.from)))
const waiting = computed(() => things(model.model.links.filter((l) => l.to === thing.id && l.kind === 'unused').map((l) => l.from)))
const feeds = computed(() => things(model.model.links.filter((l) => l.from === thing.id).map((l) => l.to)))
/** The same list as long as it is the same thing: a moved dial draws the card often. */
const self = computed(() => [thing.id])
const isEcho = computed(() => view.node !== thing.id)
const sheetName = computed(() => model.model.sheets.find((s) => s.id === model.sheetOf(thing.id))?.name)
const echoes = computed(() =>
    Object.entries(model.model.echoes)
        .filter(([, e]) => e.element === thing.id)
        .map(([id, e]) => ({ id, sheet: model.model.sheets.find((s) => s.id === e.sheet)?.name ?? '' })),
)
const plotted = computed(() => model.model.placements[thing.id]?.plot === true)
const tracked = computed(() => tracks.has(thing.id))
const ends = computed(() => {
    const end = (id?: string | null) => (id ? model.model.elements[id]?.name : undefined) ?? 'outside'
    return `${end(thing.from)} → ${end(thing.to)}`
})
const moment = computed(() => `at ${model.moment(view.playhead)}`)
/** Whose mean is shown: members of a roster come and go, and have no numbers of their own here. */
const ofMembers = computed(() => model.model.dimensions.find((d) => d.id === thing.members)?.name ?? '')
const stopped = computed(() => {
    const run = runs.shown
    return run?.fault && view.playhead > (run.span[1] ?? Infinity) ? `stopped at ${model.moment(run.fault.time, false)}` : ''
})
/** The dimensions along which several elements are looked at. */
const open = computed(() => look.openOf(thing).filter((d) => look.at(d.id) === ''))
/** What a flow brings or takes; of several elements between which values. */
function told(flow: Thing, sign: 1 | -1): string {
    const size = runs.size(flow.id)
    const spread = look.keyOf(flow.id) === undefined ? runs.spread(flow.id) : undefined
    if (spread) {
        return between(sign === 1 ? spread : [-spread[1], -spread[0]], flow.unit, size)
    }
    const value = runs.value(flow.id)
    return short(value === undefined ? undefined : sign * value, { unit: flow.unit, size })
}
const flowSize = computed(() => Math.max(0, ...[...inflows.value, ...outflows.value].map((f) => runs.size(f.id))))
/** A dial that was turned where things are tried rules here too. */
const turned = computed(() => {
    const now = runs.setting.parameters?.[thing.id]
    return now === undefined || runs.dials[thing.id] !== undefined || thing.kind !== 'parameter' ? null : { now, own: thing.value ?? 0 }
})

async function rename() {
    if (name.value.trim() === thing.name) {
        return
    }
    try {
        await model.edit({ kind: 'rename', id: thing.id, name: name.value })
        nameSentence.value = ''
    } catch (error) {
        nameSentence.value = (error as Error).message
    }
}

function keepUnit() {
    if (unit.value.trim() !== thing.unit) {
        void model.attempt({ kind: 'unit', id: thing.id, text: unit.value })
    }
}
</script>

<template>
    <section class="card" :aria-label="`Card of ${thing.name}`">
        <header>
            <div class="who">
                <Textarea
                    v-model="name"
                    class="name"
                    :class="{ wrong: nameSentence }"
                    rows="1"
                    aria-label="Name"
                    spellcheck="false"
                    @change="rename"
                    @keydown.enter.prevent="($event.target as HTMLElement).blur()"
                    @keydown.escape="
                        () => {
                            name = thing.name
                            nameSentence = ''
                        }
                    "
                />
                <p class="soft">
                    {{ thing.kind }}{{ thing.kind === 'flow' ? ` · ${ends}` : ''
                    }}<template v-if="model.model.sheets.length > 1">
                        · <Button v-if="isEcho" class="go" @click="view.goTo(thing.id)">defined on {{ sheetName }}</Button
                        ><template v-else>defined on {{ sheetName }}</template></template
                    >
                </p>
            </div>
            <div v-if="seen?.along && seen.along.size !== 1" class="now">
                <strong>{{ seen.along.size }} <small>values</small></strong>
                <p v-if="thing.kind !== 'parameter'">{{ moment }}</p>
            </div>
            <div v-else-if="thing.kind !== 'curve'" class="now">
                <strong :title="value === undefined ? stopped : `${full(value, thing.unit)} ${shownUnit(thing.unit)}`"
                    >{{ waits ? '–' : short(value, { unit: thing.unit, size: runs.size(thing.id) }) }}
                    <small>{{ shownUnit(thing.unit) }}</small></strong
                >
                <p v-if="seen?.along">{{ untold ? '' : seen.along.looked }}</p>
                <p v-if="thing.kind !== 'parameter'">{{ value === undefined && stopped ? stopped : moment }}</p>
                <p v-if="ofMembers && thing.kind !== 'parameter'">mean of all {{ ofMembers }}s</p>
            </div>
        </header>
        <p v-if="untold" class="soft">{{ untold }}</p>
        <OverPart
            v-if="
                (hasDimensions || thing.kind === 'parameter' || thing.kind === 'stock') && thing.kind !== 'curve' && thing.kind !== 'series'
            "
            :thing="thing"
        />
        <p v-if="nameSentence || refusal" class="trouble" role="alert"><SaidText :text="nameSentence || refusal" /></p>
        <div v-else-if="followers.length" class="followers">
            <p class="soft" role="status">
                {{ followers.length === 1 ? 'One formula will read' : `${followers.length} formulas will read` }}
            </p>
            <ul>
                <li v-for="f in followers.slice(0, MOST)" :key="f.element ?? ''">
                    <b>{{ f.name }}</b><code :title="f.was">{{ f.now }}</code>
                </li>
            </ul>
            <p v-if="followers.length > MOST" class="soft">and {{ followers.length - MOST }} more</p>
        </div>
        <p v-if="turned" class="turned">
            Its dial is turned: {{ fieldText(turned.now, thing.unit) }} instead of the model’s {{ fieldText(turned.own, thing.unit) }}.
            <Button @click="runs.leave(thing.id, undefined)">Reset to the model’s value</Button>
        </p>
        <p v-if="waits" class="waits">
            Waits for <Button class="chip" @click="view.goTo(waits.id)">{{ waits.name }}</Button>
        </p>
        <CurveField v-if="thing.points" :key="thing.id" :thing="thing" />
        <SeriesCourses v-if="thing.kind === 'series' && thing.along" :key="`courses-${thing.id}`" :thing="thing" />
        <p v-else-if="thing.arrives" class="soft">
            What arrives of
            <Button class="chip" @click="view.goTo(thing.from ?? '')">{{ model.model.elements[thing.from ?? '']?.name }}</Button> after its
            travel time. It has no formula of its own.
        </p>
        <FormulaField v-else :key="thing.id" :thing="thing" />
        <ExceptionsPart v-if="thing.along && thing.kind !== 'parameter' && thing.kind !== 'series' && !thing.arrives" :thing="thing" />
        <ValueGrid v-if="thing.along && !waits" :key="`values-${thing.id}`" :thing="thing" />
        <MendList :thing="thing" />
        <MapPart :thing="thing" />
        <GripField v-if="!thing.arrives" :key="`grip-${thing.id}`" :thing="thing" />
        <DialField v-if="thing.kind === 'parameter' && !thing.along && thing.value !== null && thing.value !== undefined" :thing="thing" />
        <UncertainPart v-if="thing.kind === 'parameter'" :thing="thing" />
        <div v-if="thing.kind === 'stock'" class="changes">
            <span class="label">Changes by</span>
            <Button v-for="flow in inflows" :key="flow.id" class="row" @click="view.goTo(flow.id)"
                ><span>+ {{ flow.name }}</span
                ><span>{{ told(flow, 1) }}</span></Button
            >
            <Button v-for="flow in outflows" :key="flow.id" class="row" @click="view.goTo(flow.id)"
                ><span>− {{ flow.name }}</span
                ><span>{{ told(flow, -1) }}</span></Button
            >
            <p v-if="runs.isGripped(thing.id)" class="soft">It is held by hand: its flows do not fill or drain it.</p>
            <p v-else-if="open.length && inflows.length + outflows.length" class="soft">
                Choose one {{ open.map((d) => d.name).join(' and one ') }} above, and it is told what its flows come to.
            </p>
            <p v-else-if="inflows.length + outflows.length" class="row sum">
                <span class="soft">per {{ model.model.time.unit }}</span
                ><strong>{{ withUnit(change, thing.unit, { size: flowSize }) }}</strong>
            </p>
            <p v-else class="soft">Nothing yet: pull a flow out of its ring on the sheet.</p>
        </div>
        <div class="unit-and-symbol">
            <div>
                <label class="label" :for="`unit-${thing.id}`">{{ thing.kind === 'curve' ? 'Unit of the output' : 'Unit' }}</label>
                <InputText
                    :id="`unit-${thing.id}`"
                    v-model="unit"
                    class="field"
                    :placeholder="
                        thing.inferred
                            ? `${thing.inferred} · inferred`
                            : thing.kind === 'flow'
                              ? `such as t/${model.model.time.unit}`
                              : 'such as kg/m^3'
                    "
                    spellcheck="false"
                    @change="keepUnit"
                    @keydown.enter="($event.target as HTMLElement).blur()"
                />
            </div>
            <SymbolField :thing="thing" />
        </div>
        <StockRules v-if="thing.kind === 'stock'" :key="`rules-${thing.id}`" :thing="thing" />
        <FlowRules v-if="thing.kind === 'flow'" :thing="thing" />
        <div v-if="fedBy.length || waiting.length">
            <span class="label">Fed by</span>
            <p class="chips">
                <Button v-for="t in fedBy" :key="t.id" class="chip" @click="view.goTo(t.id)">{{ t.name }}</Button>
                <span v-for="t in waiting" :key="t.id" class="chip unused"
                    >{{ t.name }} · not used yet
                    <Button
                        :aria-label="`Remove the link from ${t.name}`"
                        @click="model.attempt({ kind: 'disconnect', from: t.id, to: thing.id })"
                        >×</Button
                    ></span
                >
            </p>
        </div>
        <div v-if="feeds.length">
            <span class="label">Feeds</span>
            <p class="chips">
                <Button v-for="t in feeds" :key="t.id" class="chip" @click="view.goTo(t.id)">{{ t.name }}</Button>
            </p>
        </div>
        <div v-if="echoes.length">
            <span class="label">Echoes</span>
            <p class="chips">
                <Button v-for="e in echoes" :key="e.id" class="chip" :aria-pressed="view.node === e.id" @click="view.goTo(e.id)"
                    >on {{ e.sheet }}</Button
                >
            </p>
        </div>
        <EquationPart v-if="!thing.points" :key="`equation-${thing.id}`" :thing="thing" />
        <GroupField :key="`group-${thing.id}`" :ids="self" />
        <NoteField
            :key="`note-${thing.id}`"
            :note="thing.note"
            :label="`Note of ${thing.name}`"
            hint="Write a note"
            @keep="model.attempt({ kind: 'note', id: thing.id, text: $event })"
        />
        <footer>
            <Button v-if="thing.kind !== 'curve'" class="button" :aria-pressed="tracked" @click="tracks.show([thing.id], !tracked)"
                ><Activity :size="15" :stroke-width="1.6" />{{ tracked ? 'Hide track' : 'Show track' }}</Button
            >
            <Button
                v-if="thing.kind !== 'curve'"
                class="button"
                :aria-pressed="plotted"
                :title="plotted ? 'Hide the small plot beneath it' : 'Show a small plot beneath it'"
                @click="model.attempt({ kind: 'plot', ids: [thing.id], shown: !plotted })"
                ><LineChart :size="15" :stroke-width="1.6" />{{ plotted ? 'Hide small plot' : 'Small plot' }}</Button
            >
            <Button
                v-if="thing.kind !== 'curve'"
                class="button"
                title="Why does it change? Follow its causes"
                @click="
                    () => {
                        view.trail = thing.id
                        view.go({ place: 'try', stage: 'trail', selection: [thing.id] })
                    }
                "
                ><GitBranch :size="15" :stroke-width="1.6" />Why</Button
            >
            <Button
                class="button"
                @click="
                    () => {
                        view.select()
                        model.remove([thing.id])
                    }
                "
                ><Trash2 :size="15" :stroke-width="1.6" />Delete</Button
            >
        </footer>
        <TalkPart :key="`talk-${thing.id}`" about="thing" :subject="thing.id" />
    </section>
</template>

<style scoped src="./ThingCard.css"></style>
