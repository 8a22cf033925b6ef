<script setup lang="ts">
import { computed } from 'vue'
import type { EnsembleWish } from '@/api/uncertain'
import type { Combined, Edit, Finding, Setting } from '@/api/types'
import { keyOf, useEnsembles } from '@/stores/ensembles'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import { newId } from '@/ui/ids'
import { counted, short, shownUnit } from '@/ui/numbers'
import { nameOf as combination } from './candidates/combined'

/** A finding of many runs: with what they were made, and how they are made again. */
const { view: kept } = defineProps<{ view: Finding['view'] }>()
const model = useModel()
const look = useLook()
const view = useView()
const runs = useRuns()
const ensembles = useEnsembles()
interface Found {
    kind: string
    of?: string
    wish?: EnsembleWish
    inputs?: { key: string; law: string }[]
    together?: { one: string; other: string; rank: number }[]
    by?: string
    unit?: string
    outcome?: string
    base?: number | null
    setting?: Setting
    lists?: { of: string; values: number[]; ticked: number[] }[]
    dimensions?: Combined['dimensions']
    fixed?: Record<string, number>
    results?: (number | null)[]
    effects?: { name: string; low: number | null; high: number | null }[]
}
/** So many combinations are told one by one. */
const FEW = 12
const found = computed(() => kept as Found)
const nameOf = (key: string) => look.nameOf(key) ?? 'something that is gone'
/** What is uncertain otherwise today. */
const changed = computed(() =>
    (found.value.inputs ?? []).filter((i) => !ensembles.inputs.some((u) => keyOf(u) === i.key && u.law.trim() === i.law)),
)
/** Distributions, and what goes together, are put back too, as are the dials: then the same draws come again. */
async function again() {
    const { wish, of } = found.value
    const laws = changed.value.flatMap((i): Edit[] => {
        const own = Object.values(model.model.uncertain ?? {}).find((u) => keyOf(u) === i.key)
        return own ? [{ kind: 'put', part: 'uncertain', id: own.id, fields: { law: i.law, off: null } }] : []
    })
    const pairs = (found.value.together ?? []).flatMap((t): Edit[] => {
        const own = Object.values(model.model.rankPairs ?? {}).find((p) => p.one === t.one && p.other === t.other)
        return own?.rank === t.rank ? [] : [{ kind: 'put', part: 'rankPairs', id: own?.id ?? newId(), fields: { ...t } }]
    })
    const edits = [...laws, ...pairs]
    if (edits.length && !(await model.together(edits, 'Put distributions back as a finding has them'))) {
        return
    }
    if (wish) {
        ensembles.wish = { runs: wish.runs, sample: wish.sample, seed: wish.seed, scenarios: wish.scenarios }
        if (wish.scenarios.includes('')) {
            runs.put(wish.setting)
        }
    }
    ensembles.of = of ?? ''
    view.go({ place: 'try', stage: 'spread' })
    await ensembles.make()
}
/** All of few combinations; of many, the least and the greatest. */
const combinations = computed(() => {
    const { dimensions = [], fixed = {}, results = [] } = found.value
    const all = results.map((r, i) => ({ name: combination({ dimensions, fixed }, i, model) || 'as it is', result: r }))
    const known = all.filter((c) => c.result !== null).sort((a, b) => (a.result as number) - (b.result as number))
    return all.length <= FEW ? all : [...known.slice(0, 1), ...known.slice(-1)]
})
/** Lists and ticks as they were, and the dials: all that is ticked since is unticked. */
async function tickAgain() {
    const own = Object.values(model.model.candidates ?? {})
    const lists = (found.value.lists ?? []).filter((l) => model.model.elements[l.of])
    const edits = [
        ...lists.map((l): Edit => {
            const id = own.find((c) => c.of === l.of)?.id ?? newId()
            return { kind: 'put', part: 'candidates', id, fields: { ...l } }
        }),
        ...own
            .filter((c) => c.ticked?.length && !lists.some((l) => l.of === c.of))
            .map((c): Edit => ({ kind: 'put', part: 'candidates', id: c.id, fields: { ticked: [] } })),
    ]
    if (edits.length && !(await model.together(edits, 'Ticked the candidates of a finding'))) {
        return
    }
    runs.put(found.value.setting ?? {})
    view.go({ place: 'try', stage: 'candidates' })
}
</script>

<template>
    <div v-if="found.kind === 'spread'" class="found">
        <p>
            {{ found.wish?.runs.toLocaleString() }} runs, seed {{ found.wish?.seed }}, of <b>{{ nameOf(found.of ?? '') }}</b>, with
            <template v-for="(i, k) in found.inputs ?? []" :key="i.key">{{ k ? '; ' : '' }}{{ nameOf(i.key) }} {{ i.law }}</template
            >.
        </p>
        <p v-if="changed.length" class="soft">{{ changed.map((i) => nameOf(i.key)).join(', ') }} is given otherwise today.</p>
        <Button class="button" @click="again">Make these runs again</Button>
    </div>
    <div v-else-if="found.kind === 'candidates'" class="found">
        <p>
            <b>{{ found.outcome }}</b><template v-if="shownUnit(found.unit ?? '')">, in {{ shownUnit(found.unit ?? '') }}</template
            >:
            <template v-if="(found.results?.length ?? 0) > FEW"
                >the least and the greatest of {{ counted(found.results?.length ?? 0, 'combination') }}: </template
            ><template v-for="(c, k) in combinations" :key="c.name"
                >{{ k ? '; ' : '' }}{{ c.name }} <b>{{ short(c.result, { unit: found.unit }) }}</b></template
            >.
        </p>
        <Button class="button" @click="tickAgain">Tick these again</Button>
    </div>
    <div v-else class="found">
        <p>
            What moved {{ found.outcome }}, which was {{ short(found.base, { unit: found.unit }) }} {{ shownUnit(found.unit ?? '') }}, when
            nudged by {{ found.by }}, to
            <template v-for="(e, k) in found.effects ?? []" :key="e.name"
                >{{ k ? '; ' : '' }}<b>{{ e.name }}</b> {{ short(e.low, { unit: found.unit }) }} and
                {{ short(e.high, { unit: found.unit }) }}</template
            >.
        </p>
        <Button class="button" @click="view.go({ place: 'try', stage: 'nudge' })">Nudge again</Button>
    </div>
</template>

<style scoped>
.found {
    display: grid;
    gap: 8px;
    justify-items: start;
}
</style>
