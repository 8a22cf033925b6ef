<script setup lang="ts">
import { Activity, BookOpen, Copy, GitBranch, Trash2 } from '@lucide/vue'
import { computed } from 'vue'
import type { Thing } from '@/api/types'
import SmallLines from '@/charts/SmallLines.vue'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useTracks } from '@/stores/tracks'
import { useView } from '@/stores/view'
import { besideAll } from '@/ui/beside'
import { newId } from '@/ui/ids'
import { full, short, shownUnit } from '@/ui/numbers'

/** What a ledger makes, as the rest of the study sees it: looked at here, changed there. */
const { thing } = defineProps<{ thing: Thing }>()
const model = useModel()
const runs = useRuns()
const look = useLook()
const tracks = useTracks()
const view = useView()
const party = (id?: string) => model.model.parties?.[id ?? '']?.name
const what = computed(() => {
    if (thing.made?.part === 'claims') {
        const claim = model.model.claims?.[thing.made.id]
        const sides = [
            claim?.real ? 'nobody’s debt' : `owed by ${party(claim?.debtor) ?? 'nobody yet'}`,
            `held by ${party(claim?.holder) ?? 'nobody yet'}`,
        ]
        return `${claim?.real ? 'real thing' : 'claim'} · ${sides.join(', ')}`
    }
    return thing.made?.part === 'transactions' ? 'row of the ledgers' : 'what is owned, less what is owed'
})
/** Rows that a claim takes part in, with what they do to it now. */
const rows = computed(() =>
    thing.made?.part !== 'claims'
        ? []
        : Object.values(model.model.transactions ?? {}).flatMap((row) => {
              const entry = row.entries?.find((e) => e.claim === thing.made?.id)
              const flow = model.made.find((t) => t.made?.part === 'transactions' && t.made.id === row.id)
              return entry && flow ? [{ id: flow.id, name: row.name, sign: entry.sign === '-' ? -1 : 1, unit: flow.unit }] : []
          }),
)
/** As ledgers tell it: where it is several, what is looked at of them, or all together. */
const now = (id: string) => runs.ofColumn(runs.shown, look.drawnKey(id))
function told(row: { id: string; sign: number; unit: string }) {
    const value = now(row.id)
    return short(value === undefined ? undefined : row.sign * value, { unit: row.unit, size: runs.size(row.id) })
}
const value = computed(() => now(thing.id))
const things = (ids: string[]) => [...new Set(ids)].map((id) => model.model.elements[id]).filter((t): t is Thing => t !== undefined)
const fedBy = computed(() => things(model.model.links.filter((l) => l.to === thing.id).map((l) => l.from)))
const feeds = computed(() => things(model.model.links.filter((l) => l.from === thing.id).map((l) => l.to)))
const echo = computed(() => (view.node && model.model.echoes[view.node] ? view.node : undefined))
const sheet = computed(() => model.model.sheets.find((s) => s.id === view.sheet))
const isHere = computed(() => Object.values(model.model.echoes).some((e) => e.element === thing.id && e.sheet === view.sheet))
const tracked = computed(() => tracks.has(thing.id))
/** Beside what stands on the sheet. */
async function show() {
    const id = newId()
    const at = besideAll(model.model, view.sheet, model.sheetOf)
    if (await model.attempt({ kind: 'echo', id, element: thing.id, at, sheet: view.sheet })) {
        view.go({ place: 'model', stage: 'sheet', selection: [id] })
    }
}
</script>

<template>
    <section class="card" :aria-label="`Card of ${thing.name}`">
        <header>
            <div class="who">
                <h2 class="given">{{ thing.name }}</h2>
                <p class="soft">{{ what }}</p>
            </div>
            <div class="now">
                <strong :title="value === undefined ? undefined : `${full(value, thing.unit)} ${shownUnit(thing.unit)}`"
                    >{{ short(value, { unit: thing.unit, size: runs.size(thing.id) }) }} <small>{{ shownUnit(thing.unit) }}</small></strong
                >
                <p>at {{ model.moment(view.playhead) }}</p>
            </div>
        </header>
        <SmallLines :key="thing.id" :element="thing.id" :width="250" :height="46" />
        <div v-if="thing.made?.part !== 'parties' && view.place !== 'ledgers'">
            <span class="label">{{ thing.made?.part === 'claims' ? 'At the start' : `For each ${model.model.time.unit || 'time'}` }}</span>
            <code class="formula">{{ thing.formula || 'nothing yet' }}</code>
        </div>
        <div v-if="rows.length && view.place !== 'ledgers'" class="changes">
            <span class="label">Changes by</span>
            <Button v-for="row in rows" :key="row.id" class="row" @click="view.goTo(row.id)"
                ><span>{{ row.sign > 0 ? '+' : '−' }} {{ row.name }}</span
                ><span>{{ told(row) }}</span></Button
            >
        </div>
        <div
            v-for="[words, list] in [
                ['Fed by', fedBy],
                ['Feeds', feeds],
            ] as const"
            v-show="list.length && view.place !== 'ledgers'"
            :key="words"
        >
            <span class="label">{{ words }}</span>
            <p class="chips">
                <Button v-for="t in list" :key="t.id" class="chip" @click="view.goTo(t.id)">{{ t.name }}</Button>
            </p>
        </div>
        <footer>
            <Button v-if="view.place !== 'ledgers'" class="button" @click="view.goTo(thing.id)"
                ><BookOpen :size="15" :stroke-width="1.6" />Open in Ledgers</Button
            >
            <Button class="button" :aria-pressed="tracked" @click="tracks.show([thing.id], !tracked)"
                ><Activity :size="15" :stroke-width="1.6" />{{ tracked ? 'Hide track' : 'Show track' }}</Button
            >
            <Button
                class="button"
                title="Why does it change? Follow its causes"
                @click="((view.trail = thing.id), view.go({ place: 'try', stage: 'trail', selection: [thing.id] }))"
                ><GitBranch :size="15" :stroke-width="1.6" />Why</Button
            >
            <Button v-if="!isHere" class="button" @click="show"
                ><Copy :size="15" :stroke-width="1.6" />Echo on {{ sheet?.name ?? 'the sheet' }}</Button
            >
            <Button v-else-if="echo" class="button" @click="(view.select(), model.remove([echo]))"
                ><Trash2 :size="15" :stroke-width="1.6" />Remove this echo</Button
            >
        </footer>
    </section>
</template>

<style scoped src="./ThingCard.css"></style>
<style scoped>
.given {
    margin: 0;
    font-size: 17px;
}
.formula {
    display: block;
    padding: 6px 9px;
    border: 1px solid var(--hairline);
    border-radius: 6px;
    background: var(--paper);
}
</style>
