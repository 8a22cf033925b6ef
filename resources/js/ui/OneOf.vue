<script setup lang="ts" generic="T extends string | number">
import SelectButton from 'primevue/selectbutton'

/** A choice of a few, all in sight. */
const {
    choices,
    label,
    look = 'chip',
} = defineProps<{
    choices: readonly { value: T; words: string }[]
    label: string
    /** The class of each button. */ look?: string
}>()
const value = defineModel<T>({ required: true })
</script>

<template>
    <SelectButton
        v-model="value"
        unstyled
        :options="[...choices]"
        option-label="words"
        option-value="value"
        :allow-empty="false"
        :aria-label="label"
        :pt="{ root: { class: 'one-of' }, pcToggleButton: { root: { class: look } } }"
    />
</template>
