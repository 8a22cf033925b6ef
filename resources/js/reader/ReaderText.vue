<script setup lang="ts">
import { computed } from 'vue'
import type { ShownResult } from '@/api/shown'
import { fromMarkdown } from '@/ui/markdown'
import { plainly } from '@/ui/numbers'

/** Words in which numbers of the run stand: `{id}` is one of them. */
const { words, result = {} } = defineProps<{ words: string; result?: ShownResult; large?: boolean }>()
const html = computed(() =>
    fromMarkdown(
        words.replace(/\{([a-z0-9-]+)\}/g, (whole, id: string) => {
            const number = result.numbers?.[id]
            return number ? plainly(number.value, number.unit) : whole
        }),
    ),
)
</script>

<template>
    <!-- eslint-disable-next-line vue/no-v-html -- fromMarkdown lets through a few elements without attributes and nothing else -->
    <div class="text" :class="{ large }" :aria-live="large ? 'polite' : undefined" v-html="html" />
</template>

<style scoped>
.text {
    font-size: 16px;
    line-height: 1.5;
    max-width: 66ch;
}
.text.large {
    font-size: 21px;
    line-height: 1.4;
    color: var(--ink-soft);
}
.text.large :deep(strong) {
    color: var(--ink);
    text-decoration: underline dotted;
    text-decoration-thickness: 1px;
    text-underline-offset: 5px;
}
.text :deep(p) {
    margin: 0 0 0.7em;
}
.text :deep(a) {
    color: inherit;
}
@media (width < 720px) {
    .text.large {
        font-size: 18px;
    }
}
</style>
