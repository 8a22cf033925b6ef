<script setup lang="ts">
import { initials } from '@/people/initials'

/** A person in small: the letters of the name, in a circle. */
defineProps<{ who: string }>()
</script>

<template>
    <span class="person" aria-hidden="true" :title="who">{{ initials(who) }}</span>
</template>

<style scoped>
.person {
    display: inline-grid;
    place-items: center;
    width: 26px;
    height: 26px;
    border: 1px solid var(--line);
    border-radius: 50%;
    background: var(--paper);
    font-size: 11px;
    font-weight: 700;
}
</style>
