<script setup lang="ts">
import { computed } from 'vue'
import type { DimensionView } from '@/api/types'
import { elementsOf, GATHERINGS, isGathering, useLook, wordsOf } from '@/stores/look'
import BeadString from '@/ui/BeadString.vue'

/** Where the whole window looks along one dimension: at each element, at one, or at a sum, mean, least or greatest. */
const { dimension } = defineProps<{ dimension: DimensionView }>()
const look = useLook()

interface Choice {
    value: string
    words: string
}
const here = computed(() => elementsOf(dimension))
const groups = computed<{ words: string; choices: Choice[] }[]>(() => [
    {
        words: 'All elements',
        choices: [
            { value: '', words: `each ${dimension.name}` },
            ...GATHERINGS.map(([value]) => ({ value: value as string, words: wordsOf(dimension, value) })),
        ],
    },
    { words: `One ${dimension.name}`, choices: here.value.map((e) => ({ value: e.id, words: e.name })) },
])
const all = computed(() => groups.value.flatMap((g) => g.choices))
const now = computed(() => all.value.find((c) => c.value === look.at(dimension.id)) ?? all.value[0])
const at = computed(() => {
    const place = here.value.findIndex((e) => e.id === now.value?.value)
    return place < 0 ? undefined : place
})
/** A row of a virtual list: its height is that of the rows. */
const ROW = 34
</script>

<template>
    <Select
        class="look"
        :class="{ one: at !== undefined, gathered: now && isGathering(now.value) }"
        :model-value="now"
        :options="groups"
        option-group-label="words"
        option-group-children="choices"
        option-label="words"
        :aria-label="`Look along ${dimension.name}`"
        :title="`Where the window looks along ${dimension.name}`"
        :filter="here.length > 8"
        auto-filter-focus
        reset-filter-on-hide
        filter-placeholder="Search"
        scroll-height="340px"
        :virtual-scroller-options="here.length > 60 ? { itemSize: ROW } : undefined"
        @update:model-value="look.set(dimension.id, $event.value)"
    >
        <template #value>
            <span class="now">
                <BeadString v-if="here.length <= 8 || at === undefined" :size="here.length" :at="at" />
                <span class="dimension">{{ dimension.name }}</span>
                <b v-if="now?.value">{{ now.words }}</b>
                <b v-else>each</b>
            </span>
        </template>
    </Select>
</template>

<style scoped>
.look {
    min-width: 120px;
    max-width: 200px;
    border-radius: 14px;
    background: var(--paper);
    box-shadow: none;
}
.look :deep(.p-select-label) {
    padding: 2px 0 2px 10px;
    line-height: 22px;
}
.look :deep(.p-select-dropdown) {
    width: 24px;
}
.now {
    display: flex;
    align-items: center;
    gap: 7px;
    min-width: 0;
}
.dimension {
    color: var(--ink-soft);
}
.dimension,
b {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
b {
    min-width: 32px;
}
</style>
