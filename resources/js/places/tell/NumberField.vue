<script setup lang="ts">
/** A number that is kept when the field is left. */
const { value, label } = defineProps<{ value: number; label: string }>()
const emit = defineEmits<{ keep: [value: number] }>()
function keep(event: Event) {
    const field = event.target as HTMLInputElement
    const number = Number(field.value.replace(',', '.'))
    if (field.value.trim() && Number.isFinite(number)) {
        emit('keep', number)
    } else {
        field.value = String(value)
    }
}
</script>

<template>
    <label
        >{{ label }}
        <InputText class="field" inputmode="decimal" :model-value="String(value)" @change="keep" />
    </label>
</template>
