<script setup lang="ts">
import type { Problem } from '@/api/types'
import SaidText from '@/ui/SaidText.vue'

defineProps<{ problem: Problem }>()
</script>

<template>
    <span class="mark" :class="problem.severity" tabindex="-1">
        <svg v-if="problem.severity === 'remark'" width="16" height="15" viewBox="0 0 16 15" aria-hidden="true">
            <path d="M8 1.5 15 13.5H1z" fill="var(--card)" stroke="var(--ochre)" stroke-width="1.6" stroke-linejoin="round" />
        </svg>
        <i v-else />
        <span class="sentence" role="tooltip"><SaidText :text="problem.sentence" /></span>
    </span>
</template>

<style scoped>
.mark {
    position: absolute;
    right: -12px;
    top: -12px;
    display: grid;
    place-items: center;
    width: 24px;
    height: 24px;
    z-index: 3;
}
i {
    width: 10px;
    height: 10px;
    border: 2px solid var(--card);
    border-radius: 50%;
    box-sizing: content-box;
    background: var(--brick);
}
.sentence {
    position: absolute;
    left: 20px;
    bottom: 20px;
    width: max-content;
    max-width: 240px;
    padding: 6px 10px;
    border: 1px solid var(--line);
    border-radius: 8px;
    background: var(--card);
    color: var(--ink);
    font-size: 13px;
    font-weight: 400;
    text-align: left;
    white-space: normal;
    box-shadow: var(--shadow);
    visibility: hidden;
}
.mark:hover .sentence {
    visibility: visible;
}
</style>
