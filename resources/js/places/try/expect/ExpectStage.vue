<script setup lang="ts">
import { Check, CircleHelp, LineChart, Pencil, Plus, Trash2, X } from '@lucide/vue'
import { computed, ref } from 'vue'
import { uncertain } from '@/api/uncertain'
import type { Expected, Plot } from '@/api/types'
import { useCourses } from '@/stores/courses'
import { useDrafts } from '@/stores/drafts'
import { useEnsembles } from '@/stores/ensembles'
import { useExpectations } from '@/stores/expectations'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useView } from '@/stores/view'
import { newId } from '@/ui/ids'
import { counted } from '@/ui/numbers'
import TryTabs from '../TryTabs.vue'
import ExpectationForm from './ExpectationForm.vue'

/** What the model must satisfy, checked at every change. */
const model = useModel()
const view = useView()
const courses = useCourses()
const drafts = useDrafts()
const notices = useNotices()
const expectations = useExpectations()
const ensembles = useEnsembles()
/** What is open: the id of one, or `new`. */
const open = ref('')

const rows = computed(() =>
    expectations.all.map((e) => {
        const told = expectations.told[e.id]
        return {
            ...e,
            told,
            state: e.off
                ? 'off'
                : told === undefined
                  ? 'asked'
                  : told.holds === true
                    ? 'holds'
                    : told.holds === false
                      ? 'fails'
                      : 'unknown',
        }
    }),
)
const counts = computed(() => {
    const of = (state: string) => rows.value.filter((r) => r.state === state).length
    return [
        of('fails') ? counted(of('fails'), 'fails', 'fail') : '',
        of('unknown') ? `${of('unknown')} cannot be checked` : '',
        of('holds') ? counted(of('holds'), 'holds', 'hold') : '',
        of('off') ? `${of('off')} off` : '',
    ]
        .filter(Boolean)
        .join(' · ')
})

// Extreme conditions, proposed by the engine and tried before they are taken over.
const proposed = ref<{ fields: Record<string, unknown>; sentence: string; told?: Expected; taken: boolean }[] | null>(null)
const looking = ref(false)
async function propose() {
    looking.value = true
    try {
        const found = await uncertain.proposed(model.id)
        const tried = found.length
            ? await uncertain.tryExpectations(
                  model.id,
                  found.map((p) => p.fields),
              )
            : []
        proposed.value = found.map((p, i) => ({ ...p, told: tried[i], taken: true }))
    } catch (error) {
        notices.trouble((error as Error).message)
    }
    looking.value = false
}
const chosen = computed(() => (proposed.value ?? []).filter((p) => p.taken))
async function takeOver() {
    const from = Math.max(0, ...expectations.all.map((e) => e.place ?? 0)) + 1
    const taken = chosen.value
    const done = await model.together(
        taken.map((p, i) => ({ kind: 'put', part: 'expectations', id: newId(), fields: { ...p.fields, place: from + i } })),
        `Took over ${counted(taken.length, 'extreme condition')}`,
    )
    if (done) {
        proposed.value = null
    }
}
async function remove(id: string) {
    if (await model.attempt({ kind: 'drop', part: 'expectations', id })) {
        notices.say('Removed the expectation.', { words: 'Undo', run: () => void model.step('undo') })
    }
}

/** The run under its conditions, plotted, with the playhead where it breaks. */
function show(row: (typeof rows.value)[number]) {
    const ids = [...new Set((row.of ?? []).flatMap((p) => (typeof p !== 'string' && p.id && model.model.elements[p.id] ? [p.id] : [])))]
    const of = ids.length
        ? ids
        : model.things
              .filter((t) => t.kind === 'stock')
              .slice(0, 4)
              .map((t) => t.id)
    const setting = row.told?.setting
    if (row.runs && row.told?.holds === true) {
        // No single run shows it.
        ensembles.of = of[0] ?? ''
        view.go({ place: 'try', stage: 'spread' })
        return
    }
    if (!setting) {
        notices.say('A run with another start of a stock cannot be plotted; what was found stands in the sentence.')
        return
    }
    const key = `expected:${row.id}${row.runs ? JSON.stringify(setting.parameters) : ''}`
    const worst = row.runs ? `furthest off of ${counted(row.runs, 'run')}` : ''
    if (Object.keys(setting).length && !courses.called.some((c) => c.key === key)) {
        courses.call(key, worst || (row.told?.expected.split(',')[0] ?? 'expected'), { setting })
    }
    if (typeof row.told?.at === 'number') {
        view.playhead = Math.min(model.model.time.end, Math.max(model.model.time.start, row.told.at))
    }
    const value = row.value
    const isLimit = row.shape === 'never-below' || row.shape === 'never-above' || row.shape === 'within' || row.shape === 'reaches'
    view.plot = drafts.make({
        id: newId(),
        name: worst ? `The run ${worst}` : (row.told?.expected ?? ''),
        of,
        ...(isLimit && ids.length === 1 && value !== undefined
            ? {
                  options: {
                      marks: [
                          { at: value, ...(row.shape === 'within' && row.high !== undefined ? { to: row.high } : {}), name: 'expected' },
                      ],
                  },
              }
            : {}),
    } as Plot)
    view.go({ place: 'try', stage: 'plot', selection: of.slice(0, 1) })
}
</script>

<template>
    <section class="leaf" aria-label="Expectations">
        <TryTabs />
        <div class="stage" tabindex="0">
            <div class="bar">
                <Button class="button strong" :disabled="open === 'new'" @click="open = 'new'"
                    ><Plus :size="14" :stroke-width="1.8" />New expectation</Button
                >
                <Button class="button" :disabled="looking" @click="proposed === null ? propose() : (proposed = null)">{{
                    proposed === null ? 'Extreme conditions …' : 'Hide the extreme conditions'
                }}</Button>
                <span class="soft" role="status">{{ expectations.checking || looking ? 'checking …' : counts }}</span>
            </div>
            <p v-if="expectations.trouble" class="caution" role="alert">{{ expectations.trouble }}</p>
            <ExpectationForm v-if="open === 'new'" @close="open = ''" />
            <section v-if="proposed" class="proposed" aria-label="Extreme conditions">
                <p v-if="!proposed.length" class="soft">All that the engine would propose is expected already.</p>
                <template v-else>
                    <header>
                        <h2>Whatever the model is about, it should make sense when</h2>
                        <Button class="button strong" :disabled="!chosen.length" @click="takeOver"
                            >Take over {{ counted(chosen.length, 'expectation') }}</Button
                        >
                    </header>
                    <ul>
                        <li v-for="(p, i) in proposed" :key="i" :class="p.told?.holds === true ? 'holds' : 'fails'">
                            <label
                                ><Checkbox v-model="p.taken" binary /><span
                                    >{{ p.sentence
                                    }}<small v-if="p.told && p.told.holds !== true">{{ p.told.sentence.replaceAll('`', '') }}</small></span
                                ></label
                            >
                            <span class="mark" :title="p.told?.sentence">{{ p.told?.holds === true ? 'holds' : 'fails' }}</span>
                        </li>
                    </ul>
                </template>
            </section>
            <p v-if="!rows.length && open !== 'new' && !proposed" class="empty soft">
                Sentences that the model must satisfy, whatever is changed: “kelp is never below 0”, “halving boats never raises visitors”.
                Each is checked at every change; the head says when one fails. Begin one, or let the engine propose extreme conditions.
            </p>
            <ol class="rows">
                <li v-for="r in rows" :key="r.id" :class="r.state">
                    <div class="line">
                        <span class="sign" :title="r.state"
                            ><Check v-if="r.state === 'holds'" :size="16" :stroke-width="2.2" /><X
                                v-else-if="r.state === 'fails'"
                                :size="16"
                                :stroke-width="2.4" /><CircleHelp v-else :size="16" :stroke-width="1.7"
                        /></span>
                        <span class="words"
                            ><b>{{ r.name || r.told?.expected || 'not checked' }}</b
                            ><small v-if="r.name && r.told">{{ r.told.expected }}</small
                            ><small v-if="r.told && !r.off" :class="{ broken: r.state !== 'holds' }">{{
                                r.told.sentence.replaceAll('`', '')
                            }}</small></span
                        >
                        <label class="soft watched"
                            ><Checkbox
                                :model-value="!r.off"
                                binary
                                :aria-label="`Check ${r.told?.expected ?? 'it'}`"
                                @update:model-value="
                                    model.attempt({ kind: 'put', part: 'expectations', id: r.id, fields: { off: $event ? null : true } })
                                "
                            />
                            checked</label
                        >
                        <Button
                            class="icon-button"
                            :aria-label="`Plot: ${r.told?.expected ?? ''}`"
                            title="See it in a plot"
                            @click="show(r)"
                            ><LineChart :size="15" :stroke-width="1.6"
                        /></Button>
                        <Button
                            class="icon-button"
                            :aria-label="`Change: ${r.told?.expected ?? ''}`"
                            title="Change it"
                            :aria-expanded="open === r.id"
                            @click="open = open === r.id ? '' : r.id"
                            ><Pencil :size="14" :stroke-width="1.6"
                        /></Button>
                        <Button class="icon-button" :aria-label="`Remove: ${r.told?.expected ?? ''}`" title="Remove" @click="remove(r.id)"
                            ><Trash2 :size="14" :stroke-width="1.6"
                        /></Button>
                    </div>
                    <ExpectationForm v-if="open === r.id" :known="r" @close="open = ''" />
                </li>
            </ol>
        </div>
    </section>
</template>

<style scoped src="../many.css"></style>

<style scoped>
header {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px 12px;
    margin: 4px 0 10px;
}
h2 {
    flex: 1;
    font-size: 14.5px;
    font-weight: 700;
}
.rows,
ul {
    list-style: none;
    padding: 0;
    margin: 0;
}
.rows > li {
    border-bottom: 1px solid var(--hairline);
}
.line {
    display: flex;
    align-items: flex-start;
    gap: 8px;
    padding: 7px 4px;
}
.sign {
    flex: none;
    width: 20px;
    padding-top: 2px;
    color: var(--ink-soft);
}
.holds .sign {
    color: var(--leaf);
}
.fails .sign {
    color: var(--brick);
}
.words {
    flex: 1;
    display: grid;
    min-width: 0;
}
.words b {
    font-weight: 500;
}
.fails .words b {
    font-weight: 700;
}
.words small {
    font-size: 13px;
    color: var(--ink-soft);
}
.words small.broken {
    color: var(--brick);
}
.off .words {
    opacity: 0.6;
}
.watched {
    display: inline-flex;
    align-items: center;
    gap: 6px;
    font-size: 13px;
    padding-top: 2px;
}
.icon-button {
    flex: none;
    width: 28px;
    height: 28px;
}
.proposed {
    margin-bottom: 14px;
    padding: 4px 12px 10px;
    border: 1px solid var(--hairline);
    border-radius: 10px;
    background: var(--card);
}
.proposed ul {
    max-height: 46vh;
    overflow: auto;
}
.proposed li {
    display: flex;
    gap: 10px;
    align-items: flex-start;
    padding: 3px 0;
}
.proposed label {
    flex: 1;
    display: flex;
    gap: 8px;
    align-items: flex-start;
}
.proposed small {
    display: block;
    font-size: 12.5px;
    color: var(--brick);
}
.mark {
    flex: none;
    font-size: 12.5px;
    color: var(--ink-soft);
}
.fails .mark {
    color: var(--brick);
    font-weight: 700;
}
.empty {
    max-width: 480px;
    margin: 10vh auto 0;
    text-align: center;
}
</style>
