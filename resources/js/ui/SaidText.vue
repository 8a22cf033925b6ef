<script setup lang="ts">
import { computed } from 'vue'

const { text } = defineProps<{ text: string }>()

/** Sentences of the engine set names and pieces of formulas in backticks. */
const pieces = computed(() => text.split(/`([^`]*)`/))
</script>

<template>
    <span
        ><template v-for="(piece, i) in pieces" :key="i"
            ><b v-if="i % 2" class="said">{{ piece }}</b
            ><template v-else>{{ piece }}</template></template
        ></span
    >
</template>

<style scoped>
.said {
    padding: 0 3px;
    border-radius: 4px;
    background: color-mix(in srgb, currentcolor 9%, transparent);
    font-weight: 700;
}
</style>
