<script setup lang="ts">
import { computed } from 'vue'
import type { Thing } from '@/api/types'
import { useModel } from '@/stores/model'

const { thing } = defineProps<{ thing: Thing }>()
const model = useModel()

const stock = computed(() => (thing.from ? model.model.elements[thing.from] : undefined))
const rivals = computed(() => model.things.filter((t) => t.kind === 'flow' && t.from && t.from === thing.from).length)
/** Where a stock may have too little for all, the order in which they take matters. */
const ranked = computed(() => rivals.value > 1 && (stock.value?.neverNegative || stock.value?.travel))

/** What is not said stays as it is, also when an edit before it is still on its way. */
function keep(changes: Record<string, unknown>) {
    void model.attempt({ kind: 'flow', id: thing.id, ...changes })
}

function rank(text: string) {
    const value = Number(text)
    keep({ priority: text.trim() === '' || !Number.isFinite(value) ? null : value })
}
</script>

<template>
    <div class="rules">
        <label class="check"
            ><Checkbox binary :model-value="thing.oneWay" @update:model-value="keep({ oneWay: $event })" />One-way: never flows
            backward</label
        >
        <label v-if="ranked" class="soft rank"
            >Its turn to take from {{ stock?.name }}
            <InputText
                class="field"
                type="number"
                :model-value="String(thing.priority ?? '')"
                placeholder="0"
                aria-label="Priority; the smallest takes first"
                @change="rank(($event.target as HTMLInputElement).value)"
        /></label>
    </div>
</template>

<style scoped>
.rules {
    display: grid;
    gap: 8px;
}
.check {
    display: flex;
    align-items: center;
    gap: 8px;
}
.rank {
    display: flex;
    align-items: center;
    gap: 10px;
}
.rank .field {
    width: 70px;
}
</style>
