<script setup lang="ts">
import { ref, useId, watch } from 'vue'

/** A word of a sentence that can be changed where it stands. */
const {
    value,
    label,
    placeholder = '…',
    names = undefined,
} = defineProps<{
    value: string
    label: string
    placeholder?: string
    /** What is offered while one types. */
    names?: readonly string[]
}>()
const emit = defineEmits<{ change: [text: string] }>()
const draft = ref(value)
const list = useId()
watch(
    () => value,
    (now) => {
        draft.value = now
    },
)
function keep() {
    if (draft.value.trim() !== value) {
        emit('change', draft.value.trim())
    }
}
</script>

<template>
    <span class="underlined"
        ><i aria-hidden="true">{{ draft || placeholder }}</i
        ><InputText
            v-model="draft"
            class="word"
            :aria-label="label"
            :placeholder="placeholder"
            :list="names ? list : undefined"
            maxlength="120"
            autocomplete="off"
            @change="keep"
            @keydown.enter="($event.target as HTMLElement).blur()"
            @keydown.escape="draft = value" /><datalist v-if="names" :id="list"><option v-for="n in names" :key="n" :value="n" /></datalist
    ></span>
</template>

<style scoped>
.underlined {
    position: relative;
    display: inline-block;
    min-width: 0.9em;
    white-space: pre;
}
.underlined i {
    visibility: hidden;
    font-style: normal;
    font-weight: 700;
}
.word {
    position: absolute;
    inset: 0;
    width: calc(100% + 3px);
    padding: 0;
    border: 0;
    border-radius: 3px;
    border-bottom: 1.5px dotted var(--line);
    background: none;
    font: inherit;
    font-weight: 700;
    color: var(--ink);
}
.word:hover {
    background: var(--hover);
}
.word::-webkit-calendar-picker-indicator {
    display: none !important;
}
</style>
