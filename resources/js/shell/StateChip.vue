<script setup lang="ts">
import { computed } from 'vue'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'

const model = useModel()
const runs = useRuns()
const view = useView()

const state = computed(() => {
    const waiting = model.pending.length
    if (model.offline) {
        return { tone: 'trouble', words: waiting ? `no connection · ${waiting} ${waiting === 1 ? 'edit waits' : 'edits wait'} here` : 'no connection' }
    }
    const missing = model.hindrances.length
    if (missing) {
        return { tone: 'missing', words: missing === 1 ? '1 thing missing' : `${missing} things missing` }
    }
    if (runs.refusal) {
        return { tone: 'trouble', words: runs.refusal }
    }
    if (runs.shown?.fault) {
        return { tone: 'trouble', words: `stopped at ${runs.shown.unit} ${Number(runs.shown.fault.time.toPrecision(6))}` }
    }
    if (!model.things.length) {
        return { tone: 'plain', words: 'empty sheet' }
    }
    const remarks = model.remarks.length
    return { tone: 'plain', words: `up to date${runs.shown ? ` · ${Math.max(1, Math.round(runs.shown.milliseconds))} ms` : ''}${remarks ? ` · ${remarks} ${remarks === 1 ? 'remark' : 'remarks'}` : ''}` }
})
const busy = computed(() => runs.running || model.pending.length > 0)
</script>

<template>
    <button type="button" class="state" :class="[state.tone, { busy }]" :title="state.words" @click="view.select(); view.card = true">
        <svg width="16" height="16" viewBox="0 0 16 16" aria-hidden="true">
            <circle cx="8" cy="8" r="5.5" fill="none" stroke="currentColor" stroke-width="1.4" />
            <circle class="dot" cx="8" cy="2.5" r="2.2" />
        </svg>
        <span role="status">{{ state.words }}</span>
    </button>
</template>

<style scoped>
.state {
    display: flex;
    align-items: center;
    gap: 8px;
    max-width: 420px;
    height: 26px;
    padding: 0 12px 0 8px;
    border: 1px solid var(--hairline);
    border-radius: 13px;
    background: var(--paper);
    color: var(--ink-soft);
    white-space: nowrap;
}
.state span {
    overflow: hidden;
    text-overflow: ellipsis;
}
.state.missing,
.state.trouble {
    border-color: var(--brick);
    color: var(--brick);
}
svg {
    flex: none;
}
.dot {
    fill: var(--ember);
    stroke: var(--paper);
    stroke-width: 1;
    transform-origin: 8px 8px;
}
.missing .dot,
.trouble .dot {
    fill: var(--brick);
}
.busy .dot {
    animation: circle 0.9s linear 0.25s infinite;
}
@keyframes circle {
    to {
        transform: rotate(360deg);
    }
}
</style>
