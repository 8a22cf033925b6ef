<script setup lang="ts">
import { computed } from 'vue'
import type { CalibrationRecord, EvidenceRecord } from '@/api/parts'
import MeasuredError from '@/places/data/MeasuredError.vue'
import { useFits } from '@/stores/fits'
import { useModel } from '@/stores/model'
import ChoiceField from '@/ui/ChoiceField.vue'
import { counted } from '@/ui/numbers'

/** Which series count, how exact they are, and how their misses are counted. */
const fits = useFits()
const model = useModel()
type To = NonNullable<CalibrationRecord['to']>[number]
const MISSES: { value: NonNullable<To['misses']>; words: string }[] = [
    { value: 'normal', words: 'normal' },
    { value: 'factor', words: 'normal, as factors (of the logarithm)' },
    { value: 'outliers', words: 'with some outliers (Huber)' },
    { value: 'tails', words: 'with long tails (Student t, 4)' },
    { value: 'count', words: 'of counts (Poisson)' },
    { value: 'clustered', words: 'of counts in clusters (negative binomial)' },
]
const evidence = computed(() => Object.values(model.model.evidence ?? {}).filter((e) => model.model.elements[e.of]))
const to = computed<To[]>(() => fits.plan?.to ?? [])
const chosen = (id: string) => to.value.length === 0 || to.value.some((t) => t.evidence === id)
const missesOf = (id: string) => to.value.find((t) => t.evidence === id)?.misses ?? 'normal'
const nameOf = (e: EvidenceRecord) => fits.nameOf(fits.keyOf(e))
/** None said means all; as soon as something is said of one, all that count are named. */
const change = (make: (said: To[]) => To[]) =>
    fits.change((p) => {
        const said: To[] = p.to?.length ? p.to : evidence.value.map((e) => ({ evidence: e.id }))
        const next = make(said)
        return { to: next.length ? next : said }
    })
const tick = (id: string, on: boolean) => change((said) => [...said.filter((t) => t.evidence !== id), ...(on ? [{ evidence: id }] : [])])
const count = (id: string, misses: To['misses']) =>
    change((said) => said.map((t) => (t.evidence === id ? { evidence: id, ...(misses === 'normal' ? {} : { misses }) } : t)))
const only = computed(() => evidence.value.filter((e) => chosen(e.id)).length === 1)
</script>

<template>
    <div class="series" role="group" aria-label="What is measured">
        <div v-for="e in evidence" :key="e.id" class="one">
            <label
                ><Checkbox
                    :model-value="chosen(e.id)"
                    binary
                    :disabled="fits.running || (chosen(e.id) && only)"
                    @update:model-value="tick(e.id, $event === true)"
                /><b>{{ nameOf(e) }}</b></label
            >
            <span class="soft">{{ counted(e.points.length, 'value') }} of {{ e.column || 'a table' }}</span>
            <template v-if="chosen(e.id)">
                <span class="misses"
                    >misses
                    <ChoiceField
                        :model-value="missesOf(e.id)"
                        :label="`How misses of ${nameOf(e)} are counted`"
                        :choices="MISSES"
                        @update:model-value="count(e.id, $event)"
                /></span>
                <MeasuredError :evidence="e" :unit="model.model.elements[e.of]?.unit ?? ''" />
            </template>
        </div>
    </div>
</template>

<style scoped>
.series {
    display: grid;
    gap: 6px;
    margin: 8px 0 4px;
    padding: 8px 12px;
    border: 1px solid var(--hairline);
    border-radius: 8px;
    background: var(--card);
}
.one {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 4px 14px;
    min-height: 32px;
}
.misses {
    display: inline-flex;
    align-items: center;
    gap: 6px;
}
</style>
