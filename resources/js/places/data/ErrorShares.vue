<script setup lang="ts">
import { computed } from 'vue'
import type { Fit } from '@/api/types'

/** The squared error in its three shares. */
const { fit } = defineProps<{ fit: Pick<Fit, 'bias' | 'variation' | 'covariation'> }>()
const shares = computed(() => [
    { name: 'bias', words: 'too high or too low throughout', share: fit.bias ?? 0 },
    { name: 'variation', words: 'swings too wide or too little', share: fit.variation ?? 0 },
    { name: 'covariation', words: 'each point for itself', share: fit.covariation ?? 0 },
])
const percent = (share: number) => `${Math.round(100 * share)} %`
</script>

<template>
    <div>
        <div class="bar" aria-hidden="true">
            <i v-for="s in shares" :key="s.name" :class="s.name" :style="{ width: `${100 * s.share}%` }" />
        </div>
        <ul>
            <li v-for="s in shares" :key="s.name">
                <span class="head"
                    ><i :class="s.name" aria-hidden="true" /> <b>{{ percent(s.share) }}</b></span
                >
                {{ s.name }}
                <span class="soft">{{ s.words }}</span>
            </li>
        </ul>
    </div>
</template>

<style scoped>
.bar {
    display: flex;
    height: 16px;
    border: 1.2px solid var(--ink);
}
.bar i + i {
    border-left: 1.2px solid var(--ink);
}
.bias {
    background: var(--ink);
}
.covariation {
    background: repeating-linear-gradient(var(--ink) 0 1px, transparent 1px 4px);
}
ul {
    display: grid;
    grid-template-columns: repeat(3, 1fr);
    gap: 8px;
    margin: 8px 0 0;
    padding: 0;
    list-style: none;
    font-size: 13px;
}
li {
    display: grid;
    align-content: start;
    line-height: 1.3;
}
.head {
    display: flex;
    align-items: center;
    gap: 6px;
}
.head i {
    width: 11px;
    height: 11px;
    border: 1.2px solid var(--ink);
}
.soft {
    font-size: 12px;
}
</style>
