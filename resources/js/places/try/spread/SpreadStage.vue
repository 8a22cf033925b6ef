<script setup lang="ts">
import { Dices, Plus, Square } from '@lucide/vue'
import { computed, onMounted, ref } from 'vue'
import VariableField from '@/find/VariableField.vue'
import { useCourses } from '@/stores/courses'
import { useEnsembles } from '@/stores/ensembles'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import ChoiceField from '@/ui/ChoiceField.vue'
import { counted, shownUnit } from '@/ui/numbers'
import OneOf from '@/ui/OneOf.vue'
import FindingForm from '../FindingForm.vue'
import OutcomeChips from '../OutcomeChips.vue'
import SincePart from '../SincePart.vue'
import TryTabs from '../TryTabs.vue'
import BandsPicture from './BandsPicture.vue'
import DrawsTable from './DrawsTable.vue'
import LyingPicture from './LyingPicture.vue'
import MattersPart from './MattersPart.vue'
import RunsWish from './RunsWish.vue'
import SummaryTable from './SummaryTable.vue'
import { useSpread } from './useSpread'

/** Many runs under uncertainty: where a variable goes in them, and what they come to. */
const model = useModel()
const look = useLook()
const view = useView()
const runs = useRuns()
const courses = useCourses()
const ensembles = useEnsembles()
const spread = useSpread()
const { shown, of, name, unit, outcome, side, shares, above, bands, lying, scale, sideScale, trouble } = spread
onMounted(() => void ensembles.load())

const shape = ref<'density' | 'histogram' | 'cumulative'>('density')
const below = ref<'summary' | 'matters' | 'draws'>('summary')
const others = computed(() =>
    ensembles.all.flatMap((e) => {
        const own = spread.others.value[e.id]
        return own && e.id !== shown.value?.id
            ? [{ name: ensembles.nameOf(e), look: courses.looks[`scenario:${e.scenario}`] ?? ensembles.all.indexOf(e), bands: own }]
            : []
    }),
)
const kept = computed(() => (shown.value?.columns ?? []).map((k) => look.ownerOf(k)))
const choices = computed(() => model.things.filter((t) => kept.value.includes(t.id)))
function choose(id: string) {
    ensembles.of = shown.value?.columns.find((k) => look.ownerOf(k) === id) ?? ''
    outcome.value = ''
}
const parts = computed(() => (shown.value?.columns ?? []).filter((k) => look.ownerOf(k) === look.ownerOf(of.value) && k.includes('[')))
/** Whose inputs are told: the first one, as long as none is chosen. */
const asked = computed(() => outcome.value || (shown.value?.outcomes[0]?.id ?? ''))
/** An outcome is looked at with its variable. */
function pick(id: string) {
    const found = shown.value?.outcomes.find((o) => o.id === id)
    if (found && shown.value?.columns.includes(found.key)) {
        ensembles.of = found.key
    }
    outcome.value = id
}
const progress = computed(() => {
    const e = shown.value
    if (!e) {
        return ''
    }
    const left = e.seconds_left === null ? '' : ` · ${Math.max(1, Math.round(e.seconds_left))} s left`
    return `${e.done.toLocaleString()} of ${counted(e.runs, 'run').replace(String(e.runs), e.runs.toLocaleString())}${e.finished ? '' : e.stopped ? ', stopped' : left}`
})
const sideTitle = computed(() => (side.value ? side.value.words : `${name.value} at ${model.moment(lying.value?.time ?? view.playhead)}`))
const sideUnit = computed(() => side.value?.unit ?? unit.value)
const sampled = computed(() => {
    const e = shown.value
    const how = { latin: 'Latin hypercube', random: 'plain chance', sobol: 'Sobol sequence' }
    const first = e?.blocks[0] ?? 0
    const other = e?.blocks.findIndex((b) => b !== first) ?? -1
    const alike = other < 0 ? (e?.blocks.length ?? 0) : other
    const rest = e?.blocks.slice(alike) ?? []
    const blocks = [
        alike > 1 ? `${alike.toLocaleString()} blocks of ${first.toLocaleString()}` : first.toLocaleString(),
        ...rest.map((b) => b.toLocaleString()),
    ]
    return e
        ? `${how[e.sample]}, seed ${e.seed}, ${alike > 1 ? '' : 'blocks of '}${blocks.join(' + ')}; courses kept of ${counted(e.columns.length, 'variable')} at ${e.moments} moments, to seven digits${e.courses < e.runs ? `, of the first ${e.courses.toLocaleString()} runs` : ''}`
        : ''
})
const finding = () => ({
    kind: 'spread' as const,
    of: of.value,
    wish: { ...ensembles.wish, scenarios: ensembles.all.map((e) => e.scenario), setting: runs.setting },
    inputs: shown.value?.inputs ?? [],
    together: shown.value?.together.map(({ one, other, rank }) => ({ one, other, rank })) ?? [],
    ...(above.value === null ? {} : { above: above.value }),
})
/** More of them than are behind these already, up to what the server makes. */
const room = computed(() => (shown.value ? Math.min(shown.value.runs, shown.value.room) : 0))
const older = computed(() => shown.value !== null && ensembles.isOlder(shown.value))
const failed = computed(() => shown.value?.failed ?? 0)
</script>

<template>
    <section class="leaf" aria-label="Spread of many runs">
        <TryTabs><FindingForm v-if="shown" :view="finding" :title="`Spread of ${name}`" /></TryTabs>
        <div class="stage" tabindex="0">
            <div class="bar">
                <RunsWish />
                <template v-if="shown">
                    <progress v-if="ensembles.busy" :value="shown.done / shown.runs" max="1" aria-label="How far the runs are" />
                    <span class="soft" role="status" :title="sampled">{{ progress }}</span>
                    <span v-if="shown.courses < shown.runs" class="soft" :title="sampled"
                        >bands of the first {{ shown.courses.toLocaleString() }}</span
                    >
                    <Button v-if="ensembles.busy" class="button" @click="ensembles.stop"
                        ><Square :size="12" :stroke-width="1.8" />Stop</Button
                    >
                    <Button v-else-if="!shown.finished" class="button" @click="ensembles.more(0)">Go on</Button>
                    <Button
                        v-else-if="!older && room > 0"
                        class="button"
                        title="More runs behind these, which stay as they are"
                        @click="ensembles.more(room)"
                        ><Plus :size="14" :stroke-width="1.8" />{{ room.toLocaleString() }} more</Button
                    >
                </template>
            </div>
            <p v-if="older" class="caution" role="status">
                The model or what is uncertain has changed since these runs. <SincePart :revision="shown?.revision ?? 0" />
                <Button class="link" @click="ensembles.make">Run them again</Button>
            </p>
            <p v-if="failed" class="caution" role="status">
                {{ counted(failed, 'run') }} met a numeric fault and {{ failed === 1 ? 'is' : 'are' }} left out of all that is shown.
            </p>
            <p v-if="trouble" class="caution" role="alert">{{ trouble }}</p>
            <div v-if="!ensembles.inputs.length && !shown" class="empty">
                <Dices :size="30" :stroke-width="1.3" />
                <p>
                    One run proves little. Say at the left which parameters are uncertain and how likely their values are; then run the
                    model a thousand times and see where it may go.
                </p>
            </div>
            <div v-else-if="!shown" class="empty">
                <p>
                    {{ counted(ensembles.inputs.length, 'input is', 'inputs are') }} uncertain. Run the model
                    {{ ensembles.wish.runs.toLocaleString() }} times with other draws of
                    {{ ensembles.inputs.length === 1 ? 'it' : 'them' }} to see where it may go.
                </p>
            </div>
            <template v-else>
                <div class="pictures">
                    <header>
                        <h2>
                            Spread of {{ name }}<template v-if="shownUnit(unit)"> in {{ shownUnit(unit) }}</template> over time<small
                                v-if="ensembles.nameOf(shown) !== 'baseline'"
                                class="soft"
                                >, {{ ensembles.nameOf(shown) }}</small
                            >
                        </h2>
                        <VariableField label="Another variable" placeholder="Another variable" :only="choices" @choose="choose" />
                        <ChoiceField
                            v-if="parts.length > 1"
                            :model-value="of"
                            :choices="parts.map((k) => ({ value: k, words: look.nameOf(k) ?? k }))"
                            label="Element"
                            @update:model-value="ensembles.of = $event as string"
                        />
                        <OneOf
                            v-if="ensembles.all.length > 1"
                            :model-value="shown.id"
                            label="Which of them"
                            :choices="ensembles.all.map((e) => ({ value: e.id, words: ensembles.nameOf(e) }))"
                            @update:model-value="ensembles.chosen = $event"
                        />
                    </header>
                    <header class="second">
                        <h2>
                            {{ sideTitle }}<template v-if="shownUnit(sideUnit)">, in {{ shownUnit(sideUnit) }}</template>
                        </h2>
                        <Button v-if="side" class="link" @click="outcome = ''">at the playhead instead</Button>
                        <OneOf
                            v-model="shape"
                            label="How it is drawn"
                            :choices="[
                                { value: 'density', words: 'density' },
                                { value: 'histogram', words: 'bars' },
                                { value: 'cumulative', words: 'cumulative' },
                            ]"
                        />
                    </header>
                    <BandsPicture
                        v-if="bands"
                        v-model:above="above"
                        :bands="bands"
                        :others="others"
                        :scale="scale"
                        :name="name"
                        :unit="unit"
                        :runs="shown.runs"
                        :limited="shares"
                    />
                    <LyingPicture
                        v-if="lying && lying.runs"
                        v-model:above="above"
                        :lying="lying"
                        :scale="sideScale"
                        :unit="sideUnit"
                        :shape="shape"
                        :shares="shares"
                        :title="sideTitle"
                    />
                </div>
                <div class="bar">
                    <OneOf
                        v-model="below"
                        label="What is told below"
                        :choices="[
                            { value: 'summary', words: 'Summary' },
                            { value: 'matters', words: 'What it follows' },
                            { value: 'draws', words: 'All draws' },
                        ]"
                    />
                    <OutcomeChips
                        :model-value="below === 'matters' ? asked : outcome"
                        :outcomes="shown.outcomes"
                        @update:model-value="pick"
                    />
                </div>
                <SummaryTable v-if="below === 'summary'" @pick="pick" />
                <MattersPart v-else-if="below === 'matters'" :ensemble="shown" :outcome="asked" />
                <DrawsTable v-else :ensemble="shown" />
            </template>
        </div>
    </section>
</template>

<style scoped src="../many.css"></style>

<style scoped>
.pictures {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(250px, 34%);
    grid-template-rows: auto clamp(210px, 40vh, 460px);
    gap: 2px 14px;
}
header {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 4px 10px;
    min-height: 32px;
}
h2 {
    font-size: 14.5px;
    font-weight: 700;
}
.second {
    justify-content: space-between;
}
.second h2 {
    flex: 1 1 100%;
}
.empty {
    display: grid;
    justify-items: center;
    gap: 10px;
    max-width: 460px;
    margin: 12vh auto 0;
    text-align: center;
    color: var(--ink-soft);
}
progress {
    width: 120px;
    accent-color: var(--ink);
}
</style>
