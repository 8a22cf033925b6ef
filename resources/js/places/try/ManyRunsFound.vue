<script setup lang="ts">
import { computed } from 'vue'
import type { EnsembleWish } from '@/api/uncertain'
import type { Edit, Finding } from '@/api/types'
import { keyOf, useEnsembles } from '@/stores/ensembles'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import { newId } from '@/ui/ids'
import { short, shownUnit } from '@/ui/numbers'

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
    effects?: { name: string; low: number | null; high: number | null }[]
}
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
