<script setup lang="ts">
import { computed } from 'vue'
import type { Thing } from '@/api/types'
import { useRuns } from '@/stores/runs'
import { full, short, shownUnit } from '@/ui/numbers'

/** What the elements of a thing along its dimensions are worth at the playhead: the first of them. */
const { thing } = defineProps<{ thing: Thing }>()
const runs = useRuns()
const rows = computed(() => (thing.along?.parts ?? []).map((part) => ({ ...part, value: runs.value(part.key), size: runs.size(part.key) })))
const more = computed(() => (thing.along?.size ?? 0) - rows.value.length)
</script>

<template>
    <section v-if="thing.along" class="along" aria-label="By element">
        <h3>By {{ thing.along.dimensions.join(' and ') }}</h3>
        <dl>
            <div v-for="row in rows" :key="row.key">
                <dt :title="row.name">{{ row.name }}</dt>
                <dd :title="row.value === undefined ? '' : `${full(row.value, thing.unit)} ${shownUnit(thing.unit)}`">
                    {{ short(row.value, { unit: thing.unit, size: row.size }) }}
                </dd>
            </div>
        </dl>
        <p v-if="more > 0" class="soft">and {{ more }} more</p>
    </section>
</template>

<style scoped>
h3 {
    margin-bottom: 4px;
    font-size: 13.5px;
}
dl > div {
    display: flex;
    justify-content: space-between;
    gap: 12px;
    padding: 2px 0;
    border-bottom: 1px solid var(--hairline);
}
dt {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
dd {
    font: 13.5px var(--mono);
    font-variant-numeric: tabular-nums;
}
p {
    margin-top: 4px;
    font-size: 13px;
}
</style>
