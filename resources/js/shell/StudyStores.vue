<script setup lang="ts">
import { onUnmounted } from 'vue'
import { forgetStudy, provideStudy } from '@/stores/studyStore'

/** What stands in here has the stores of this study; they go with it. */
const { study } = defineProps<{ study: string }>()
provideStudy(study)
onUnmounted(() => {
    forgetStudy(study)
})
</script>

<template>
    <slot />
</template>
