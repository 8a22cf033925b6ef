<script setup lang="ts">
import { useModel } from '@/stores/model'

/** What is only painted can be pointed at all the same, and says its name. */
defineProps<{ thing: string }>()
const model = useModel()
</script>

<template>
    <i class="far-thing" :title="model.model.elements[thing]?.name" />
</template>

<style scoped>
.far-thing {
    display: block;
    width: 100%;
    height: 100%;
}
</style>
