<script setup lang="ts">
import { computed, provide, ref, watch } from 'vue'
import type { RunRef, TrailAnswer } from '@/api/types'
import { useCourses } from '@/stores/courses'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import { short } from '@/ui/numbers'
import FindingForm from './FindingForm.vue'
import { asTrail } from './trail'
import TrailNode from './TrailNode.vue'
import TryTabs from './TryTabs.vue'

const model = useModel()
const runs = useRuns()
const courses = useCourses()
const view = useView()

const run = ref('shown')
const base = ref('')
const towards = ref<'causes' | 'effects'>('causes')
const stopAtStocks = ref(false)
const open = ref(new Set<string>())
const answers = new Map<string, TrailAnswer>()

const candidates = computed(() => model.things.filter((t) => t.kind !== 'curve'))
const root = computed(() => (model.model.elements[view.trail] ? view.trail : undefined))
watch(() => model.loaded, () => {
    if (!root.value) {
        view.trail = view.selectedThings.find((id) => model.model.elements[id]?.kind !== 'curve') ?? model.model.tracks[0]?.of[0] ?? candidates.value.find((t) => t.kind === 'stock')?.id ?? candidates.value[0]?.id ?? ''
    }
}, { immediate: true })
watch(root, (id) => { open.value = new Set(id ? [id] : []) }, { immediate: true })
// A run that is not shown any more is not asked about.
watch(() => courses.named, (named) => {
    const known = (key: string) => named.some((c) => c.key === key)
    run.value = known(run.value) ? run.value : 'shown'
    base.value = base.value === 'baseline' || known(base.value) ? base.value : ''
})

const refOf = (key: string): RunRef => courses.named.find((c) => c.key === key)?.ref ?? {}
/** A moving playhead asks when it rests. */
const time = ref(view.playhead)
let rest = 0
watch(() => view.playhead, (now) => {
    window.clearTimeout(rest)
    rest = window.setTimeout(() => { time.value = now }, 250)
})
const others = computed(() => [...(runs.tried ? [] : [{ key: 'baseline', name: 'baseline' }]), ...courses.named].filter((c) => c.key !== run.value && !(c.key === 'baseline' && run.value === 'shown' && !runs.tried)))
const trail = {
    run: computed(() => refOf(run.value)), base: computed(() => (base.value ? refOf(base.value) : undefined)), parting: computed(() => base.value === 'baseline' && towards.value === 'causes'), towards, time: computed(() => time.value), stopAtStocks, open,
    question: computed(() => JSON.stringify([run.value, base.value, towards.value, time.value, runs.shown?.revision, runs.setting])),
    toggle: (key: string) => {
        const next = new Set(open.value)
        if (!next.delete(key)) {
            next.add(key)
        }
        open.value = next
    },
    told: (key: string, answer: TrailAnswer) => { answers.set(key, answer) },
}
provide(asTrail, trail)

const nameOf = (key: string) => courses.named.find((c) => c.key === key)?.name ?? 'baseline'
const title = computed(() => (root.value ? `Why ${model.model.elements[root.value]?.name}${base.value ? ` differs, ${nameOf(run.value)} against ${nameOf(base.value)}` : ''}` : 'Trail'))
/** The trail as it is open, with its numbers. */
const finding = () => ({
    kind: 'trail' as const, element: root.value, towards: towards.value, time: time.value, run: { name: nameOf(run.value), ref: { revision: model.revision, ...trail.run.value } }, ...(trail.base.value ? { base: { name: nameOf(base.value), ref: { revision: model.revision, ...trail.base.value } } } : {}),
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
            <select v-model="towards" class="field" aria-label="Which way"><option value="causes">Why does</option><option value="effects">What follows from</option></select>
            <select v-model="view.trail" class="field what" aria-label="Of which variable"><option v-for="t in candidates" :key="t.id" :value="t.id">{{ t.name }}</option></select>
            <template v-if="towards === 'causes'"><select v-model="base" class="field" aria-label="Change or difference"><option value="">change</option><option v-for="c in others" :key="c.key" :value="c.key">differ from {{ c.name }}</option></select></template>
            <label v-if="courses.named.length > 1">in <select v-model="run" class="field" aria-label="In which run"><option v-for="c in courses.named" :key="c.key" :value="c.key">{{ c.name }}</option></select></label>
            <span class="when">at {{ model.model.time.unit }} <b>{{ short(view.playhead) }}</b></span>
            <label class="tick"><input v-model="stopAtStocks" type="checkbox" /> stop at stocks</label>
        </div>
        <ul v-if="root" :key="root" class="tree"><TrailNode :element="root" :path="[]" /></ul>
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
.what {
    font-weight: 700;
}
.when b {
    color: var(--ember);
}
.tick {
    display: flex;
    gap: 6px;
    align-items: center;
    margin-left: auto;
}
.tree {
    overflow: auto;
    padding: 8px 18px 30px;
}
.empty {
    padding: 30px;
}
</style>
