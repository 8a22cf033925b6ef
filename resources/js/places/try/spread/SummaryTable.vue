<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue'
import { uncertain } from '@/api/uncertain'
import type { BeatenBy, OutcomeSummary } from '@/api/types'
import { useEnsembles } from '@/stores/ensembles'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { full, short, shownUnit, signed } from '@/ui/numbers'
import { Column, DataTable, naming } from '@/ui/table'
import { outcomeWords } from '../outcomes'

/** What each outcome comes to in all runs, under each setting; and how settings stand against the first, run by run. */
const emit = defineEmits<{ pick: [outcome: string] }>()
const model = useModel()
const look = useLook()
const ensembles = useEnsembles()
const told = shallowRef<Record<string, OutcomeSummary[]>>({})
const against = shallowRef<Record<string, BeatenBy>>({})
let mine = 0
watch(
    () => ensembles.all.map((e) => `${e.id} ${e.done}`).join(),
    async () => {
        const ticket = ++mine
        const all = ensembles.all.filter((e) => e.done > 0)
        try {
            const lists = await Promise.all(all.map((e) => uncertain.summary(model.id, e.id)))
            const first = all[0]
            const pairs = first ? all.slice(1).flatMap((e) => e.outcomes.map((o) => ({ e, o }))) : []
            const beaten = await Promise.all(pairs.map(({ e, o }) => uncertain.against(model.id, e.id, first?.id ?? '', o.id)))
            if (ticket === mine) {
                told.value = Object.fromEntries(all.map((e, i) => [e.id, lists[i] ?? []]))
                against.value = Object.fromEntries(pairs.map(({ e, o }, i) => [`${e.id} ${o.id}`, beaten[i] as BeatenBy]))
            }
        } catch {
            // What cannot be had is said where it is drawn.
        }
    },
    { immediate: true },
)
const rows = computed(() => {
    const first = ensembles.all[0]
    return (first?.outcomes ?? []).flatMap((o) =>
        ensembles.all.flatMap((e, i) => {
            const summary = told.value[e.id]?.find((s) => s.outcome === o.id)
            const { words, unit } = outcomeWords(o, model, look)
            return summary
                ? [
                      {
                          key: `${o.id} ${e.id}`,
                          id: o.id,
                          words,
                          unit,
                          setting: ensembles.nameOf(e),
                          first: i === 0,
                          summary,
                          beaten: against.value[`${e.id} ${o.id}`],
                          size: Math.max(Math.abs(summary.min ?? 0), Math.abs(summary.max ?? 0)),
                      },
                  ]
                : []
        }),
    )
})
const several = computed(() => ensembles.all.length > 1)
type Row = (typeof rows.value)[number]
const numbers: { head: string; of: (r: Row) => number | null | undefined; title?: string }[] = [
    { head: 'middle run', of: (r) => r.summary.central, title: 'the run with every input at its median' },
    { head: 'mean', of: (r) => r.summary.mean },
    { head: 'sd', of: (r) => r.summary.sd, title: 'standard deviation' },
    { head: 'least', of: (r) => r.summary.min },
    ...['5', '25', '50', '75', '95'].map((p) => ({
        head: `${p} %`,
        of: (r: Row) => r.summary.percentiles?.[p],
        title: `${p} % of the runs are not above`,
    })),
    { head: 'greatest', of: (r) => r.summary.max },
]
const firstName = computed(() => (ensembles.all[0] ? ensembles.nameOf(ensembles.all[0]) : ''))
const percent = (s: number | null) => (s === null ? '–' : `${short(s, { unit: '%', digits: 3 })} %`)
</script>

<template>
    <DataTable :value="rows" data-key="key" size="small" scrollable class="summary in-text">
        <Column header="Outcome" frozen :pt="naming">
            <template #body="{ data: row }"
                ><template v-if="row.first"
                    ><Button class="who" @click="emit('pick', row.id)">{{ row.words }}</Button
                    ><small v-if="shownUnit(row.unit)" class="soft"> {{ shownUnit(row.unit) }}</small></template
                ></template
            >
        </Column>
        <Column v-if="several" header="Setting">
            <template #body="{ data: row }">{{ row.setting }}</template>
        </Column>
        <Column v-for="n in numbers" :key="n.head" :header="n.head" :pt="{ headerCell: { title: n.title } }">
            <template #body="{ data: row }"
                ><span :title="typeof n.of(row) === 'number' ? full(n.of(row) as number, row.unit) : ''">{{
                    short(n.of(row), { unit: row.unit, size: row.size })
                }}</span></template
            >
        </Column>
        <Column v-if="several" :header="`has more than ${firstName}`">
            <template #body="{ data: row }"
                ><template v-if="row.beaten"
                    ><b>{{ percent(row.beaten.more) }}</b> of the runs<small class="soft"
                        >, by {{ signed(row.beaten.percentiles?.['50'], { unit: row.unit }) }} ({{
                            signed(row.beaten.percentiles?.['5'], { unit: row.unit })
                        }}
                        to {{ signed(row.beaten.percentiles?.['95'], { unit: row.unit }) }})</small
                    ></template
                ></template
            >
        </Column>
    </DataTable>
</template>

<style scoped>
.summary :deep(td) {
    white-space: nowrap;
    font-variant-numeric: tabular-nums;
}
small {
    margin-left: 5px;
}
.who {
    text-align: left;
}
.who:hover {
    text-decoration: underline;
    text-underline-offset: 3px;
}
</style>
