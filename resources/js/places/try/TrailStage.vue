<script setup lang="ts">
import { storeToRefs } from 'pinia'
import { computed, provide, ref, watch } from 'vue'
import type { RunRef, TrailAnswer } from '@/api/types'
import VariableField from '@/find/VariableField.vue'
import { useCourses } from '@/stores/courses'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useTrail } from '@/places/try/useTrail'
import { useView } from '@/stores/view'
import ChoiceField from '@/ui/ChoiceField.vue'
import FindingForm from './FindingForm.vue'
import { asTrail } from './trailWords'
import TrailNode from './TrailNode.vue'
import TryTabs from './TryTabs.vue'

const model = useModel()
const look = useLook()
const runs = useRuns()
const courses = useCourses()
const view = useView()
const store = useTrail()
const { towards, over, stopAtStocks, open } = storeToRefs(store)
const { run, against: base } = storeToRefs(view)
const answers = new Map<string, TrailAnswer>()

const candidates = computed(() => model.known.filter((t) => t.kind !== 'curve'))
/** What is asked about: of a thing along dimensions the element that the window looks at. */
const root = computed(() => (model.model.elements[view.trail] ? look.subjectOf(view.trail) : undefined))
watch(
    () => model.loaded,
    () => {
        if (!root.value) {
            view.trail =
                view.selectedThings.find((id) => model.model.elements[id]?.kind !== 'curve') ??
                model.model.tracks[0]?.of[0] ??
                candidates.value.find((t) => t.kind === 'stock')?.id ??
                candidates.value[0]?.id ??
                ''
        }
    },
    { immediate: true },
)
// Another variable begins anew; what was open of this one stays so.
watch(
    root,
    (id) => {
        if (id && ![...open.value].some((key) => key.split('>')[0] === id)) {
            store.begin(id)
        }
    },
    { immediate: true },
)

/** The runs of the day, and those that a finding was kept with. */
const named = computed(() => {
    const list: { key: string; name: string; ref: RunRef }[] = courses.named.map(({ key, name, ref: one }) => ({ key, name, ref: one }))
    for (const [key, one] of [
        ['kept-run', store.brought.run],
        ['kept-base', store.brought.base],
    ] as const) {
        if (one) {
            list.push({ key, name: `${one.name}, as it was saved`, ref: one.ref })
        }
    }
    return list
})
// A run that is not shown any more is not asked about.
watch(named, (list) => {
    const known = (key: string) => list.some((c) => c.key === key)
    run.value = known(run.value) ? run.value : 'shown'
    base.value = base.value === 'baseline' || known(base.value) ? base.value : ''
})

const refOf = (key: string): RunRef => named.value.find((c) => c.key === key)?.ref ?? {}
/** A moving playhead asks when it rests. */
const time = ref(view.playhead)
let rest = 0
watch(
    () => view.playhead,
    (now) => {
        window.clearTimeout(rest)
        rest = window.setTimeout(() => {
            time.value = now
        }, 250)
    },
)
/** What a run can differ from; without anything tried, the run that is shown is the baseline itself. */
const others = computed(() => {
    const all = runs.tried ? named.value : [{ key: 'baseline', name: 'baseline' }, ...named.value.filter((c) => c.key !== 'shown')]
    const own = run.value === 'shown' && !runs.tried ? 'baseline' : run.value
    return all.filter((c) => c.key !== own)
})
const WAYS = [
    { value: 'causes', words: 'Why does' },
    { value: 'effects', words: 'What follows from' },
] as const
const SPANS = [
    { value: 'moment', words: 'at the moment' },
    { value: 'time', words: 'from the start to the playhead' },
] as const
const differences = computed(() => [
    { value: '', words: 'change' },
    ...others.value.map((c) => ({ value: c.key, words: `differ from ${c.name}` })),
])
const trail = {
    run: computed(() => refOf(run.value)),
    base: computed(() => (base.value ? refOf(base.value) : undefined)),
    parting: computed(() => base.value === 'baseline' && towards.value === 'causes'),
    towards,
    over,
    time: computed(() => time.value),
    stopAtStocks,
    open,
    question: computed(() =>
        JSON.stringify([run.value, base.value, towards.value, over.value, time.value, runs.shown?.revision, runs.setting]),
    ),
    toggle: (key: string) => {
        const next = new Set(open.value)
        if (!next.delete(key)) {
            next.add(key)
        }
        open.value = next
    },
    told: (key: string, answer: TrailAnswer) => {
        answers.set(key, answer)
    },
}
provide(asTrail, trail)

const nameOf = (key: string) => named.value.find((c) => c.key === key)?.name ?? 'baseline'
const rootName = computed(() => (root.value ? (look.nameOf(root.value) ?? '') : ''))
const title = computed(() => {
    if (!root.value) {
        return 'Trail'
    }
    return towards.value === 'effects'
        ? `What follows from ${rootName.value}`
        : `Why ${rootName.value} ${base.value ? `differs, ${nameOf(run.value)} against ${nameOf(base.value)}` : 'changes'}`
})
/** The trail as it is open, with its numbers. */
const finding = () => ({
    kind: 'trail' as const,
    element: root.value,
    towards: towards.value,
    over: over.value,
    stopAtStocks: stopAtStocks.value,
    time: time.value,
    run: { name: nameOf(run.value), ref: { revision: model.revision, ...trail.run.value } },
    ...(trail.base.value ? { base: { name: nameOf(base.value), ref: { revision: model.revision, ...trail.base.value } } } : {}),
    steps: [...open.value].flatMap((key) => {
        const answer = answers.get(key)
        return answer ? [{ path: key.split('>'), ...answer }] : []
    }),
})
</script>

<template>
    <section class="leaf tooled" aria-label="Trail">
        <TryTabs><FindingForm v-if="root" :view="finding" :title="title" /></TryTabs>
        <div class="bar">
            <ChoiceField v-model="towards" label="Which way" :choices="WAYS" />
            <b class="root" :title="rootName">{{ rootName }}</b>
            <template v-if="towards === 'causes'">
                <ChoiceField v-model="base" label="Change or difference" :choices="differences" />
                <ChoiceField v-if="base" v-model="over" label="At a moment or over time" :choices="SPANS" />
            </template>
            <label v-if="named.length > 1"
                >in <ChoiceField v-model="run" label="In which run" :choices="named.map((c) => ({ value: c.key, words: c.name }))"
            /></label>
            <span class="when"
                >{{ over === 'time' && base && towards === 'causes' ? 'until' : 'at' }} <b>{{ model.moment(view.playhead) }}</b></span
            >
            <VariableField
                label="Ask about another variable"
                placeholder="Another variable"
                :except="root ? [look.ownerOf(root)] : []"
                @choose="view.trail = $event"
            />
            <label class="tick"><Checkbox v-model="stopAtStocks" binary /> stop at stocks</label>
        </div>
        <ul v-if="root" :key="root" class="tree">
            <TrailNode :element="root" :path="[]" />
        </ul>
        <p v-else class="empty soft">Choose a variable, and open what lies behind it step by step.</p>
    </section>
</template>

<style scoped>
.bar {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px;
    padding: 10px 16px;
    border-bottom: 1px solid var(--hairline);
}
.bar .field {
    width: auto;
    min-height: 30px;
    max-width: 175px;
}
.root {
    max-width: 240px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
.when b {
    color: var(--ember);
}
.tick {
    display: flex;
    gap: 6px;
    align-items: center;
}
.tree {
    overflow: auto;
    padding: 8px 18px 30px;
}
.empty {
    padding: 30px;
}
</style>
