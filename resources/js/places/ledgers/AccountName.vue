<script setup lang="ts">
import { nextTick, ref } from 'vue'

/** The name of an account over its column: it wraps, and is changed where it stands. */
const { name, label } = defineProps<{ name: string; label: string }>()
const emit = defineEmits<{ change: [name: string] }>()
const draft = ref('')
const writing = ref(false)
const box = ref<HTMLElement>()
async function begin() {
    draft.value = name
    writing.value = true
    await nextTick()
    box.value?.querySelector('input')?.select()
}
function end(keep: boolean) {
    if (writing.value && keep && draft.value.trim() && draft.value.trim() !== name) {
        emit('change', draft.value.trim())
    }
    writing.value = false
}
</script>

<template>
    <span ref="box">
        <InputText
            v-if="writing"
            v-model="draft"
            class="field"
            :aria-label="label"
            maxlength="110"
            autocomplete="off"
            @blur="end(true)"
            @keydown.enter="end(true)"
            @keydown.escape.stop="end(false)"
        />
        <Button v-else class="account" :title="label" @click="begin">{{ name }}</Button>
    </span>
</template>

<style scoped>
.account {
    min-height: 24px;
    font-weight: 700;
    text-align: right;
    line-height: 1.2;
}
.account:hover {
    text-decoration: underline dotted;
}
.field {
    width: 100%;
    min-width: 90px;
}
</style>
