<script setup lang="ts">
import { X } from '@lucide/vue'
import { computed, ref, watch } from 'vue'
import { api } from '@/api/client'
import type { Summary } from '@/api/types'
import SmallLines from '@/charts/SmallLines.vue'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import { full, short, shownUnit } from '@/ui/numbers'
import TryTabs from './TryTabs.vue'

const model = useModel()
const runs = useRuns()
const view = useView()
const place = computed(() => `merry-orbit:pinned:${model.id}`)
const things = computed(() => view.pinned.map((id) => model.model.elements[id]).filter((t) => t !== undefined))
const addable = computed(() => model.things.filter((t) => t.kind !== 'curve' && !view.pinned.includes(t.id)))

watch(() => model.loaded, () => {
    if (!view.pinned.length) {
        try {
            view.pinned = (JSON.parse(localStorage.getItem(place.value) ?? '[]') as string[]).filter((id) => model.model.elements[id])
        } catch {
            view.pinned = []
        }
        if (!view.pinned.length) {
            view.pinned = model.things.filter((t) => t.kind === 'stock').slice(0, 6).map((t) => t.id)
        }
    }
}, { immediate: true })
watch(() => view.pinned, (ids) => {
    localStorage.setItem(place.value, JSON.stringify(ids))
    runs.need('values', ids)
}, { immediate: true })

const summaries = ref<Record<string, Summary | null>>({})
let asked = 0
watch(() => [view.pinned, runs.shown], async () => {
    const mine = ++asked
    if (runs.held || !view.pinned.length) {
        return
    }
    const answer = await api.summary(model.id, [runs.ref], view.pinned).catch(() => undefined)
    if (answer && mine === asked) {
        summaries.value = Object.fromEntries(answer.rows.map((r) => [r.element, r.cells[0] ?? null]))
    }
}, { immediate: true })

function add(event: Event) {
    const field = event.target as HTMLInputElement
    const thing = addable.value.find((t) => t.name.toLowerCase() === field.value.trim().toLowerCase())
    if (thing) {
        view.pinned = [...view.pinned, thing.id]
        field.value = ''
    }
}
</script>

<template>
    <section class="leaf tooled" aria-label="Values side by side">
        <TryTabs />
        <div class="bar">
            <input class="field" list="values-addable" placeholder="Add a variable" aria-label="Add a variable" @change="add" /><datalist id="values-addable"><option v-for="t in addable" :key="t.id" :value="t.name" /></datalist>
            <span class="soft">at {{ model.model.time.unit }} <b class="now">{{ short(view.playhead) }}</b></span>
        </div>
        <div class="cards" tabindex="0">
            <article v-for="t in things" :key="t.id" :aria-label="t.name">
                <header><button type="button" class="who" :title="t.name" @click="view.select(t.id)">{{ t.name }}</button><button type="button" class="icon-button" :aria-label="`Take ${t.name} away`" @click="view.pinned = view.pinned.filter((id) => id !== t.id)"><X :size="13" :stroke-width="1.8" /></button></header>
                <p class="value"><strong :title="runs.value(t.id) === undefined ? '' : full(runs.value(t.id)!)">{{ short(runs.value(t.id)) }}</strong> <span class="soft">{{ t.unit === '1' ? '' : shownUnit(t.unit) }}</span></p>
                <SmallLines :element="t.id" :width="196" :height="54" />
                <dl v-if="summaries[t.id]">
                    <dt>first</dt><dd>{{ short(summaries[t.id]!.first) }}</dd><dt>last</dt><dd>{{ short(summaries[t.id]!.last) }}</dd>
                    <dt>least</dt><dd>{{ short(summaries[t.id]!.least) }} <span class="soft">at {{ short(summaries[t.id]!.leastAt) }}</span></dd>
                    <dt>most</dt><dd>{{ short(summaries[t.id]!.most) }} <span class="soft">at {{ short(summaries[t.id]!.mostAt) }}</span></dd>
                    <dt>mean</dt><dd>{{ short(summaries[t.id]!.mean) }}</dd>
                </dl>
                <p v-if="summaries[t.id]" class="soft rest">{{ summaries[t.id]!.settled === null ? 'not at rest at the end' : `at rest since ${model.model.time.unit} ${short(summaries[t.id]!.settled)}` }}</p>
            </article>
            <p v-if="!things.length" class="soft">Add variables to see their values side by side.</p>
        </div>
    </section>
</template>

<style scoped>
.bar {
    display: flex;
    align-items: center;
    gap: 14px;
    padding: 10px 16px 0;
}
.bar .field {
    width: 200px;
    min-height: 30px;
}
.now {
    color: var(--ember);
}
.cards {
    display: flex;
    flex-wrap: wrap;
    align-content: start;
    gap: 12px;
    overflow: auto;
    padding: 14px 16px 30px;
}
article {
    width: 222px;
    padding: 8px 12px 10px;
    border: 1px solid var(--hairline);
    border-radius: 10px;
    background: var(--paper);
}
header {
    display: flex;
    align-items: center;
}
.who {
    flex: 1;
    min-width: 0;
    font-weight: 700;
    text-align: left;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
header .icon-button {
    width: 24px;
    height: 24px;
}
.value strong {
    font-size: 19px;
}
dl {
    display: grid;
    grid-template-columns: auto 1fr auto 1fr;
    gap: 1px 8px;
    margin: 6px 0 0;
    font-size: 12.5px;
}
dt {
    color: var(--ink-soft);
}
dd {
    margin: 0;
}
.rest {
    margin-top: 4px;
    font-size: 12.5px;
}
</style>
