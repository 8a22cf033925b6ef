<script setup lang="ts">
import type { Kind } from '@/api/types'

defineProps<{ kind: Kind | 'flow'; size?: number }>()
</script>

<template>
    <svg
        :width="size ?? 16"
        :height="size ?? 16"
        viewBox="0 0 16 16"
        fill="none"
        stroke="currentColor"
        stroke-width="1.3"
        aria-hidden="true"
    >
        <template v-if="kind === 'stock'">
            <path d="M2.5 3.5h11v6a4 4 0 0 1-4 4h-3a4 4 0 0 1-4-4z" fill="var(--card)" />
            <path d="M3.1 7.5h9.8v2a3.4 3.4 0 0 1-3.4 3.4h-3a3.4 3.4 0 0 1-3.4-3.4z" fill="var(--basin-tint)" stroke="none" />
            <path d="M2.5 7.4q2.7 1.2 5.5 0t5.5 0" stroke="var(--basin)" />
            <path d="M2.5 3.5h11v6a4 4 0 0 1-4 4h-3a4 4 0 0 1-4-4z" />
        </template>
        <template v-else-if="kind === 'flow'">
            <circle cx="8" cy="8" r="5.7" fill="var(--card)" />
            <path d="m6.8 5.4 2.6 2.6-2.6 2.6" />
        </template>
        <template v-else-if="kind === 'parameter'">
            <circle cx="8" cy="8" r="5.7" fill="var(--card)" />
            <path d="M8 8 5.4 4.8" stroke-linecap="round" />
        </template>
        <template v-else-if="kind === 'series'">
            <path d="M2 13.5h12" stroke-linecap="round" />
            <path d="M3.5 10.2 6.4 6l3 2.6 3.2-5" stroke-linejoin="round" />
            <circle
                v-for="p in [
                    [3.5, 10.2],
                    [6.4, 6],
                    [9.4, 8.6],
                    [12.6, 3.6],
                ]"
                :key="p[0]"
                :cx="p[0]"
                :cy="p[1]"
                r="1.3"
                fill="var(--card)"
            />
        </template>
        <template v-else-if="kind === 'factor'">
            <path d="M2.6 8C4 1.6 12 1.6 13.4 8C12 14.4 4 14.4 2.6 8Z" fill="var(--card)" />
            <path d="M.6 8H15.4" />
        </template>
        <template v-else-if="kind === 'curve'">
            <rect x="1.8" y="2.8" width="12.4" height="10.4" rx="2.5" fill="var(--card)" />
            <path d="M4 10.6c3.2 0 3.4-5.2 8-5.2" stroke-linecap="round" />
        </template>
        <rect v-else x="1.5" y="4.5" width="13" height="7" rx="3.5" fill="var(--card)" />
    </svg>
</template>
