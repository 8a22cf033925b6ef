<script setup lang="ts">
import { useView } from '@/stores/view'
import UncertainPanel from './spread/UncertainPanel.vue'
import TryPanel from './TryPanel.vue'

/** What the stage is about: what is uncertain where that is run, else dials, hands and runs. */
const view = useView()
</script>

<template>
    <UncertainPanel v-if="view.stage === 'spread'" />
    <TryPanel v-else />
</template>
