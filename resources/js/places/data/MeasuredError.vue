<script setup lang="ts">
import { computed, useId } from 'vue'
import type { EvidenceRecord } from '@/api/parts'
import { useModel } from '@/stores/model'
import ChoiceField from '@/ui/ChoiceField.vue'
import { counted, shownUnit } from '@/ui/numbers'

/** How exact what was measured is, how much it counts, and where it comes from. */
const { evidence, unit } = defineProps<{ evidence: EvidenceRecord; unit: string }>()
const model = useModel()
const id = useId()
const units = computed(() => [
    { value: 'unit' as const, words: shownUnit(unit) || 'of its numbers' },
    { value: '%' as const, words: '% of each value' },
])
const said = computed(() =>
    evidence.errors?.some((e) => e > 0)
        ? 'exact as its column says'
        : evidence.error
          ? `± ${evidence.error} ${evidence.errorIn === '%' ? '%' : shownUnit(unit)}`.trim()
          : 'not said how exact',
)
function set(fields: Partial<EvidenceRecord>) {
    void model.together(
        [{ kind: 'put', part: 'evidence', id: evidence.id, fields }],
        `Say how exact ${evidence.column ?? 'what was measured'} is`,
    )
}
function typed(field: 'error' | 'weight', text: string) {
    const number = Number(text.trim().replace(',', '.'))
    if (text.trim() === '' || (Number.isFinite(number) && number >= 0)) {
        set({ [field]: text.trim() === '' ? (field === 'error' ? 0 : 1) : number })
    }
}
</script>

<template>
    <details class="exact">
        <summary>
            {{ said }}<template v-if="(evidence.weight ?? 1) !== 1"> · counts {{ evidence.weight }} times</template>
        </summary>
        <div class="fields">
            <label :for="`${id}-error`">standard deviation of a point</label>
            <InputText
                :id="`${id}-error`"
                class="field"
                inputmode="decimal"
                :model-value="evidence.error ? String(evidence.error) : ''"
                placeholder="not known"
                @change="typed('error', ($event.target as HTMLInputElement).value)"
            />
            <span>in</span>
            <ChoiceField
                :model-value="evidence.errorIn ?? 'unit'"
                label="The standard deviation is in"
                :choices="units"
                @update:model-value="set({ errorIn: $event })"
            />
            <label :for="`${id}-weight`">counts so many times</label>
            <InputText
                :id="`${id}-weight`"
                class="field"
                inputmode="decimal"
                :model-value="String(evidence.weight ?? 1)"
                @change="typed('weight', ($event.target as HTMLInputElement).value)"
            />
        </div>
        <p v-if="evidence.cells?.length" class="soft">
            Its {{ counted(evidence.points.length, 'point') }} stand in {{ evidence.cells.slice(0, 3).join('; ')
            }}{{ evidence.cells.length > 3 ? ' …' : '' }}
        </p>
    </details>
</template>

<style scoped>
summary {
    cursor: pointer;
}
.fields {
    display: grid;
    grid-template-columns: auto minmax(0, 1fr);
    gap: 6px 10px;
    align-items: center;
    margin: 6px 0;
}
p {
    margin: 4px 0 0;
}
</style>
