<script setup lang="ts">
import { BookOpenText, ChartLine, Gauge, GitBranch, Rows3, Star } from '@lucide/vue'
import type { TryStage } from '@/stores/view'
import { useView } from '@/stores/view'

const view = useView()
const TABS: { stage: TryStage, words: string, icon: unknown }[] = [
    { stage: 'plot', words: 'Plots', icon: ChartLine },
    { stage: 'scenarios', words: 'Scenarios', icon: Rows3 },
    { stage: 'trail', words: 'Trail', icon: GitBranch },
    { stage: 'values', words: 'Values', icon: Gauge },
    { stage: 'logbook', words: 'Logbook', icon: BookOpenText },
    { stage: 'findings', words: 'Findings', icon: Star },
]
</script>

<template>
    <div class="tabs" :class="{ alone: !view.outline }">
        <div class="list" role="tablist" aria-label="Ways to look"><button v-for="tab in TABS" :key="tab.stage" type="button" role="tab" :aria-selected="view.stage === tab.stage" @click="view.stage !== tab.stage && view.go({ stage: tab.stage, selection: view.selection })"><component :is="tab.icon" :size="15" :stroke-width="1.6" />{{ tab.words }}</button></div>
        <span class="space" />
        <slot />
    </div>
</template>

<style scoped>
.tabs {
    display: flex;
    align-items: center;
    gap: 1px;
    min-height: 42px;
    padding: 0 10px;
    container-type: inline-size;
    border-bottom: 1px solid var(--hairline);
    background: var(--paper);
    overflow-x: auto;
}

.tabs.alone {
    padding-left: 46px;
}
button[role='tab'] {
    display: flex;
    align-items: center;
    gap: 6px;
    padding: 5px 9px;
    border-radius: 8px;
    color: var(--ink-soft);
    white-space: nowrap;
}
button[role='tab']:hover {
    background: var(--hover);
}
button[aria-selected='true'] {
    color: var(--ink);
    font-weight: 700;
    background: var(--card);
    box-shadow: inset 0 0 0 1px var(--hairline);
}
@container (width < 780px) {
    button[role='tab'] :deep(svg) {
        display: none;
    }
}
.list {
    display: flex;
    gap: 1px;
}
.space {
    flex: 1;
}
</style>
