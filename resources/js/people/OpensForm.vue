<script setup lang="ts">
import { nextTick, ref } from 'vue'

/** An act that wants some fields first: they come when it is chosen, so the page stays a page and is no form. */
defineProps<{ words: string }>()
const open = ref(false)
const root = ref<HTMLElement>()

async function show() {
    open.value = true
    await nextTick()
    root.value?.querySelector('input')?.focus()
}
function close() {
    open.value = false
}
defineExpose({ close })
</script>

<template>
    <div ref="root">
        <slot v-if="open" :close="close" />
        <Button v-else class="button" @click="show">{{ words }}…</Button>
    </div>
</template>
