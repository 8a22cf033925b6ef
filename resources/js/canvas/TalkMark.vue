<script setup lang="ts">
import { counted } from '@/ui/numbers'

/** That something is said about a thing and not settled yet; its card has the words. */
defineProps<{ count: number }>()
</script>

<template>
    <span class="talk" :title="`${counted(count, 'comment')}: they stand on its card`">
        <svg width="17" height="15" viewBox="0 0 17 15" aria-hidden="true">
            <path
                d="M3 1.5h11a1.5 1.5 0 0 1 1.5 1.5v6a1.5 1.5 0 0 1 -1.5 1.5H8L4.5 13.5V10.5H3A1.5 1.5 0 0 1 1.5 9V3A1.5 1.5 0 0 1 3 1.5Z"
                fill="var(--card)"
                stroke="var(--ink-soft)"
                stroke-width="1.4"
                stroke-linejoin="round"
            />
            <text v-if="count > 1" x="8.5" y="8.9" text-anchor="middle">{{ count > 9 ? '9+' : count }}</text>
        </svg>
        <span class="visually-hidden">{{ counted(count, 'open comment') }}</span>
    </span>
</template>

<style scoped>
.talk {
    position: absolute;
    left: -9px;
    top: -11px;
    z-index: 3;
    line-height: 0;
}
text {
    fill: var(--ink);
    font-size: 8px;
    font-weight: 700;
}
</style>
