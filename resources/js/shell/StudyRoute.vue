<script setup lang="ts">
import AddressedWindow from './AddressedWindow.vue'
import StudyStores from './StudyStores.vue'

/** A study at an address of its own: place, stage and what is looked at follow behind it. */
defineProps<{ study: string }>()
</script>

<template>
    <StudyStores :key="study" :study="study"><AddressedWindow :study="study" /></StudyStores>
</template>
