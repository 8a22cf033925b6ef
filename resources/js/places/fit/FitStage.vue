<script setup lang="ts">
import { ChevronDown, FlaskRound, Play, Square, Target, Trash2 } from '@lucide/vue'
import { computed, onMounted, ref, watch } from 'vue'
import UnderlinedWord from '@/places/ask/UnderlinedWord.vue'
import SincePart from '@/places/try/SincePart.vue'
import { useFits } from '@/stores/fits'
import { useModel } from '@/stores/model'
import { usePolicies } from '@/stores/policies'
import { useView } from '@/stores/view'
import ChoiceField from '@/ui/ChoiceField.vue'
import { counted, literal, short } from '@/ui/numbers'
import OpenPart from './OpenPart.vue'
import PolicyStage from './PolicyStage.vue'
import SeriesChoices from './SeriesChoices.vue'
import SeriesPicture from './SeriesPicture.vue'
import { searches } from './names'

/** The question as a sentence, and the nearest run over the data as it comes nearer. */
const fits = useFits()
const model = useModel()
const view = useView()
const policies = usePolicies()
onMounted(() => void fits.load())
const open = ref<'series' | 'search' | ''>('')
const measured = computed(() => Object.values(model.model.evidence ?? {}).filter((e) => model.model.elements[e.of]))
const told = computed(() => fits.told)
const fit = computed(() => fits.fit)
const WAYS = [
    { value: 'least-squares' as const, words: 'least squares' },
    { value: 'simplex' as const, words: 'a simplex' },
    { value: 'evolution' as const, words: 'an evolving cloud' },
]
const wayWords = computed(() => WAYS.find((w) => w.value === (fits.plan?.using ?? 'least-squares'))?.words ?? '')
const STARTS = [1, 2, 4, 8, 16, 32, 64].map((n) => ({ value: n, words: counted(n, 'start') }))
const starts = computed(() => fits.plan?.starts ?? 8)
function time(field: 'from' | 'until', text: string) {
    const value = Number(text.replace(',', '.').replace('−', '-'))
    if (text.trim() === '' || Number.isFinite(value)) {
        void fits.change({ [field]: text.trim() === '' ? null : value })
    }
}
const timeText = (value: number | undefined) => (value === undefined ? '' : literal(value))
const unit = computed(() => model.model.time.unit || 'time')
const progress = computed(() => {
    const f = fit.value
    if (!f) {
        return ''
    }
    const all = searches(f)
    const ended = all.filter((w) => w.made).length
    const runs = `${f.runs.toLocaleString()} ${f.runs === 1 ? 'run' : 'runs'}`
    return f.finished
        ? `${runs} made`
        : `${runs} · ${f.stage === 'chain' ? 'drawing what is left open' : f.stage === 'profile' ? 'looking around the nearest' : `${ended} of ${counted(all.length, 'start')} ended`}`
})
const series = computed(() =>
    (fits.picture?.series ?? []).map((s, i) => {
        const evidence = model.model.evidence?.[s.evidence]
        return {
            series: s,
            of: i,
            name: fits.nameOf(s.key),
            unit: evidence ? (model.model.elements[evidence.of]?.unit ?? '') : '',
            column: fits.plan?.trial ? 'made by the model, with noise' : `“${evidence?.column ?? 'measured'}”`,
        }
    }),
)
/** What is over the data now: with fits made before the wishes changed, only the model as it is. */
const runs = computed(() => fits.picture?.runs ?? [])
/** How well the model fitted as it stood before, of each series that counts. */
const before = computed(() => {
    const fitted = runs.value.find((r) => r.kind === 'before')?.series ?? []
    const known = fitted.flatMap((s) => (typeof s.counted?.r2 === 'number' ? [{ name: fits.nameOf(s.key), r2: s.counted.r2 }] : []))
    return known.length ? `The model before: R² ${known.map((k) => `${short(k.r2)} of ${k.name}`).join(', ')}.` : ''
})
const held = computed(() => told.value?.held ?? 0)
const canTake = computed(
    () => !fits.running && !fits.older && fit.value?.best !== null && fit.value !== null && !fits.plan?.trial && !fits.taken,
)
const menu = ref(false)
watch(
    () => fits.plan?.id,
    () => {
        open.value = ''
        menu.value = false
    },
)
function addTrial() {
    const p = fits.plan
    if (p) {
        void fits.add({ name: `Found again? ${p.name}`.slice(0, 120), free: p.free, to: p.to, from: p.from, until: p.until, trial: true })
    }
}
const untried = computed(() => !fits.plan?.trial && !fit.value && !fits.plans.some((p) => p.trial))
</script>

<template>
    <section class="leaf" aria-label="Fit">
        <div class="stage" tabindex="0">
            <PolicyStage v-if="policies.policy" />
            <div v-else-if="!measured.length && !fits.plan" class="empty">
                <Target :size="30" :stroke-width="1.3" />
                <p>
                    Here numbers of the model are brought near to what was measured, and you see how far each can be trusted. Nothing is
                    measured yet: tie a series of a table to a variable first.
                </p>
                <Button class="button strong" @click="view.go({ place: 'data', stage: 'data', selection: [] })">Go to Data</Button>
                <Button class="link" @click="policies.add({ name: 'Policy' })">Or look for the policy that does best</Button>
            </div>
            <div v-else-if="!fits.plan" class="empty">
                <Target :size="30" :stroke-width="1.3" />
                <p>
                    Here numbers of the model are brought near to what was measured, and you see how far each can be trusted.
                    {{ counted(measured.length, 'series is', 'series are') }} measured. Say which numbers may move, and start.
                </p>
                <Button class="button strong" @click="fits.add({ name: 'Calibration' })">Begin a calibration</Button>
                <Button class="link" @click="policies.add({ name: 'Policy' })">Or look for the policy that does best</Button>
            </div>
            <template v-else>
                <header :class="{ alone: !view.outline }">
                    <div class="line">
                        <UnderlinedWord
                            class="name"
                            :value="fits.plan.name"
                            label="Name of this calibration"
                            @change="$event && fits.change({ name: $event })"
                        />
                        <Button
                            class="icon-button"
                            aria-label="Remove this calibration"
                            title="Remove this calibration"
                            :disabled="fits.running"
                            @click="model.attempt({ kind: 'drop', part: 'calibrations', id: fits.plan.id })"
                            ><Trash2 :size="15" :stroke-width="1.6"
                        /></Button>
                    </div>
                    <h2>
                        {{ fits.plan.trial ? 'Find again' : 'Fit' }}
                        <b>{{ counted(fits.free.length, 'number') }}</b>
                        {{ fits.plan.trial ? 'from' : 'to' }}
                        <b>{{ told ? counted(told.points, fits.plan.trial ? 'made value' : 'measured value') : '…' }}</b> in
                        <Button
                            class="word"
                            :aria-expanded="open === 'series'"
                            title="Which series count, and how exact they are"
                            @click="open = open === 'series' ? '' : 'series'"
                            >{{ told ? counted(told.series, 'series', 'series') : 'series' }}<ChevronDown :size="15" :stroke-width="1.8"
                        /></Button>
                    </h2>
                    <div class="line">
                        <div class="soft said">
                            <p>
                                From {{ unit }}
                                <UnderlinedWord
                                    :value="timeText(fits.plan.from)"
                                    :placeholder="literal(model.model.time.start)"
                                    label="What was measured before does not count"
                                    @change="time('from', $event)"
                                />
                                to
                                <UnderlinedWord
                                    :value="timeText(fits.plan.until)"
                                    placeholder="the last"
                                    label="What was measured later is held back"
                                    @change="time('until', $event)"
                                /><template v-if="held">; {{ counted(held, 'value') }} held back, to judge by</template>.
                            </p>
                            <p v-if="before">{{ before }}</p>
                            <p>
                                Looked for by
                                <Button class="word" :aria-expanded="open === 'search'" @click="open = open === 'search' ? '' : 'search'"
                                    >{{ wayWords }}, {{ counted(starts, 'start') }}<ChevronDown :size="13" :stroke-width="1.8"
                                /></Button>
                            </p>
                        </div>
                        <div class="acts">
                            <Button v-if="fits.running" class="button strong" @click="fits.stop"
                                ><Square :size="12" :stroke-width="1.8" />Stop</Button
                            >
                            <template v-else>
                                <Button v-if="fit?.stopped && !fits.older && !fit.trouble" class="button strong" @click="fits.goOn"
                                    >Go on</Button
                                >
                                <Button
                                    class="button"
                                    :class="{ strong: !canTake && !fit?.stopped }"
                                    :disabled="!told || fits.trouble !== ''"
                                    @click="fits.begin"
                                    ><Play :size="13" :stroke-width="1.8" />{{ fit ? 'Start anew' : 'Start' }}</Button
                                >
                                <Button
                                    v-if="canTake"
                                    class="button strong"
                                    title="The model gets these values, as one edit"
                                    @click="fits.takeOver"
                                    >Take over</Button
                                >
                                <Button
                                    v-if="canTake"
                                    class="button"
                                    title="Beside the model as it is, to be compared"
                                    @click="fits.asScenario"
                                    >As a scenario</Button
                                >
                            </template>
                        </div>
                    </div>
                </header>
                <SeriesChoices v-if="open === 'series'" />
                <div v-if="open === 'search'" class="search">
                    <ChoiceField
                        :model-value="fits.plan.using ?? 'least-squares'"
                        label="How it is looked for"
                        :choices="WAYS"
                        @update:model-value="fits.change({ using: $event })"
                    />
                    <ChoiceField
                        :model-value="starts"
                        label="From how many starts"
                        :choices="STARTS"
                        @update:model-value="fits.change({ starts: $event })"
                    />
                    <span class="soft"
                        >The first start is the model as it is, the others are spread over the bounds. Least squares go by slopes and are
                        quick; a cloud finds its way where there are many valleys.</span
                    >
                </div>
                <p v-if="fits.trouble" class="caution" role="alert">{{ fits.trouble }}</p>
                <p v-if="fit?.trouble" class="caution" role="alert">{{ fit.trouble }}</p>
                <p v-if="fits.older && !fits.running" class="caution" role="status">
                    The model, the data or what is wanted has changed since it was fitted: below is the model as it is.
                    <SincePart :revision="fit?.revision ?? 0" />
                    <Button v-if="!fits.trouble" class="link" @click="fits.begin">Fit again</Button>
                </p>
                <p v-if="untried && fits.free.length && !fits.trouble" class="hint soft">
                    <FlaskRound :size="14" :stroke-width="1.6" /> Can these data tell these numbers at all?
                    <Button class="link" @click="addTrial">Try it first with data that the model makes itself</Button>
                </p>
                <p v-if="fit && (!fits.older || fits.running)" class="soft progress" role="status">
                    <progress
                        v-if="fits.running && fit.stage !== 'chain'"
                        :value="fit.walks.filter((w) => w.made).length"
                        :max="fit.stage === 'profile' ? fit.walks.length : searches(fit).length"
                        aria-label="How far the fit is"
                    />
                    {{ progress
                    }}<template v-if="fit.best && fit.before !== null"
                        >; off by {{ short(fit.best.distance) }}, before by {{ short(fit.before) }}</template
                    ><template v-if="fits.taken">; the model has these values</template>
                </p>
                <SeriesPicture
                    v-for="s in series"
                    :key="s.series.evidence"
                    v-bind="s"
                    :runs="runs"
                    :size="fits.result?.sizes[s.series.evidence]"
                    :band="fits.open?.bands.find((b) => b.key === s.series.key)"
                    :nearest="fits.running && fit?.stage === 'search' ? 'best so far' : 'best'"
                    :was="fits.plan.trial ? 'made with' : runs.length > 1 ? 'before' : 'the model as it is'"
                />
                <OpenPart v-if="fits.result?.profiles && !fits.plan.trial" />
            </template>
        </div>
    </section>
</template>

<style scoped>
@import '../try/many.css';
@import './head.css';

.leaf {
    grid-template-rows: minmax(0, 1fr);
    background: var(--paper);
}
.stage {
    padding: 14px 18px 30px;
}
.said {
    display: grid;
    gap: 3px;
    padding-top: 4px;
}
.word {
    display: inline-flex;
    align-items: center;
    gap: 1px;
    border-bottom: 1.5px dotted var(--line);
    border-radius: 3px;
    font-weight: 700;
    color: var(--ink);
}
.word:hover {
    background: var(--hover);
}
.search {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px 10px;
    margin: 8px 0;
}
.search .soft {
    flex-basis: 100%;
    font-size: 13px;
}
.hint,
.progress {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 4px 8px;
    margin: 2px 0 10px;
    font-size: 13px;
}
.empty {
    display: grid;
    justify-items: center;
    gap: 12px;
    max-width: 460px;
    margin: 12vh auto 0;
    text-align: center;
    color: var(--ink-soft);
}
</style>
