<script setup lang="ts" generic="V extends string | number">
import { computed } from 'vue'

interface Choice {
    value: V
    words: string
    disabled?: boolean
}

/** One of several by its words: all in a row, or in groups with heads. A long list can be searched. */
const {
    choices = [],
    groups = undefined,
    label,
    placeholder = '',
} = defineProps<{
    label: string
    choices?: readonly Choice[]
    groups?: readonly { words: string; choices: readonly Choice[] }[]
    placeholder?: string
}>()
const chosen = defineModel<V>()

/** From here on a list is searched rather than read. */
const MANY = 12

const all = computed(() => groups?.flatMap((g) => g.choices) ?? choices)
const options = computed<readonly unknown[]>(() => groups?.filter((g) => g.choices.length) ?? choices)
const inGroups = computed(() => (groups ? { optionGroupLabel: 'words', optionGroupChildren: 'choices' } : {}))
/** Esc on a closed list belongs to what the list stands in. */
function pass(event: KeyboardEvent) {
    const list = event.currentTarget as HTMLElement
    if (list.querySelector('[aria-expanded="false"]')) {
        event.stopPropagation()
        list.parentElement?.dispatchEvent(
            new KeyboardEvent('keydown', { key: event.key, code: event.code, bubbles: true, cancelable: true }),
        )
    }
}
/** The choice itself stands for its value, which may be an empty text. */
const choice = computed(() => all.value.find((c) => c.value === chosen.value) ?? null)
</script>

<template>
    <Select
        class="choice"
        :model-value="choice"
        :options="options as Choice[]"
        v-bind="inGroups"
        option-label="words"
        option-disabled="disabled"
        :aria-label="label"
        :placeholder="placeholder"
        :filter="all.length > MANY"
        auto-filter-focus
        reset-filter-on-hide
        filter-placeholder="Search"
        scroll-height="320px"
        @update:model-value="chosen = $event.value"
        @keydown.escape.capture="pass"
    />
</template>

<style scoped>
.choice {
    min-width: 0;
    border-radius: 8px;
    box-shadow: none;
}
.choice :deep(.p-select-label) {
    padding: 3px 2px 3px 9px;
    line-height: 22px;
}
.choice :deep(.p-select-dropdown) {
    width: 26px;
}
</style>
