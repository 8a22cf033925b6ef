<script setup lang="ts">
import { X } from '@lucide/vue'
import { useStorage } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api } from '@/api/client'
import type { Summary } from '@/api/types'
import SmallLines from '@/charts/SmallLines.vue'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import VariableField from '@/find/VariableField.vue'
import { between, full, literal, short, shownUnit } from '@/ui/numbers'
import TryTabs from './TryTabs.vue'

const model = useModel()
const look = useLook()
const runs = useRuns()
const view = useView()
const kept = useStorage<string[]>(() => `merry-orbit:pinned:${model.id}`, [])
const things = computed(() => view.pinned.map((id) => look.elements[id]).filter((t) => t !== undefined))

watch(
    () => model.loaded,
    () => {
        if (!view.pinned.length) {
            const known = kept.value.filter((id) => model.model.elements[id])
            view.pinned = known.length
                ? known
                : model.things
                      .filter((t) => t.kind === 'stock')
                      .slice(0, 6)
                      .map((t) => t.id)
        }
    },
    { immediate: true },
)
watch(
    () => view.pinned,
    (ids) => {
        kept.value = ids
        runs.need('values', ids)
    },
    { immediate: true },
)

const summaries = ref<Record<string, Summary | null>>({})
/** Of what shows one value under the looks along dimensions. */
const keys = computed(() => view.pinned.map((id) => look.keyOf(id)).filter((key) => key !== undefined))
let asked = 0
watch(
    [keys, () => runs.shown],
    async () => {
        const mine = ++asked
        if (runs.held || !keys.value.length) {
            return
        }
        const answer = await api.summary(model.id, [runs.ref], keys.value).catch(() => undefined)
        if (answer && mine === asked) {
            summaries.value = Object.fromEntries(answer.rows.map((r) => [look.ownerOf(r.element), r.cells[0] ?? null]))
        }
    },
    { immediate: true },
)

const unitOf = (id: string) => model.model.elements[id]?.unit ?? ''
/** A value of a card, told by the size of its variable. */
const told = (id: string, value: number | undefined) => short(value, { unit: unitOf(id), size: runs.size(id) })
const at = (time: number) => literal(Number(time.toPrecision(5)))
const stopped = computed(() =>
    runs.shown?.fault && view.playhead > (runs.shown.span[1] ?? Infinity) ? `stopped at ${at(runs.shown.fault.time)}` : '',
)
</script>

<template>
    <section class="leaf tooled" aria-label="Values side by side">
        <TryTabs />
        <div class="bar">
            <VariableField :except="view.pinned" @choose="view.pinned = [...view.pinned, $event]" />
            <span class="soft"
                >at <b class="now">{{ model.moment(view.playhead) }}</b>, in {{ runs.tried ? 'the present run' : 'the baseline' }}</span
            >
        </div>
        <div class="cards" tabindex="0">
            <article v-for="t in things" :key="t.id" :aria-label="t.name">
                <header>
                    <Button class="who" :title="t.name" @click="view.select(t.id)">{{ t.name }}</Button><Button
                        class="icon-button"
                        :aria-label="`Take ${t.name} away`"
                        @click="view.pinned = view.pinned.filter((id) => id !== t.id)"
                        ><X :size="13" :stroke-width="1.8"
                    /></Button>
                </header>
                <p class="value">
                    <strong v-if="t.along && t.along.size !== 1">{{
                        runs.spread(t.id) ? between(runs.spread(t.id)!, '', runs.size(t.id)) : `${t.along.size} values`
                    }}</strong>
                    <strong v-else :title="runs.value(t.id) === undefined ? '' : full(runs.value(t.id)!, t.unit)">{{
                        told(t.id, runs.value(t.id))
                    }}</strong>
                    {{ ' ' }}
                    <span class="soft">{{ stopped || shownUnit(t.unit) }}</span>
                </p>
                <p v-if="t.along" class="soft rest">
                    {{ runs.untold(t.id) ?? (t.along.looked || `by ${t.along.dimensions.join(' and ')}`) }}
                </p>
                <SmallLines :element="t.id" :width="196" :height="54" />
                <dl v-if="summaries[t.id]">
                    <dt>first</dt>
                    <dd>{{ told(t.id, summaries[t.id]!.first) }}</dd>
                    <dt>last</dt>
                    <dd>{{ told(t.id, summaries[t.id]!.last) }}</dd>
                    <dt>least</dt>
                    <dd>
                        {{ told(t.id, summaries[t.id]!.least) }} <span class="soft">at {{ at(summaries[t.id]!.leastAt) }}</span>
                    </dd>
                    <dt>most</dt>
                    <dd>
                        {{ told(t.id, summaries[t.id]!.most) }} <span class="soft">at {{ at(summaries[t.id]!.mostAt) }}</span>
                    </dd>
                    <dt>mean</dt>
                    <dd>{{ told(t.id, summaries[t.id]!.mean) }}</dd>
                </dl>
                <p v-if="summaries[t.id]" class="soft rest">
                    {{
                        summaries[t.id]!.settled === null
                            ? 'not at rest at the end'
                            : `at rest since ${model.model.time.unit} ${at(summaries[t.id]!.settled ?? 0)}`
                    }}
                </p>
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
