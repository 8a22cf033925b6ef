<script setup lang="ts">
import OneOf from '@/ui/OneOf.vue'
import { useView } from '@/stores/view'

/** Single members over time, where they are, or the same question at three levels. */
const view = useView()
const STAGES = [
    { value: 'members', words: 'One by one' },
    { value: 'where', words: 'Where they are' },
    { value: 'levels', words: 'At three levels' },
]
function go(stage: string) {
    view.go({ place: 'members', stage, selection: view.selection })
}
</script>

<template>
    <OneOf :model-value="view.stage || 'members'" label="What is looked at" :choices="STAGES" @update:model-value="go" />
</template>
