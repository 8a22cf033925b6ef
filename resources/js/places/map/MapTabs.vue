<script setup lang="ts">
import Tab from 'primevue/tab'
import TabList from 'primevue/tablist'
import Tabs from 'primevue/tabs'
import { useView } from '@/stores/view'

const view = useView()
const STAGES = [
    { name: 'map', words: 'Map' },
    { name: 'sentences', words: 'Sentences' },
    { name: 'structures', words: 'Structures' },
    { name: 'room', words: 'Room' },
]
function look(stage: string) {
    if (view.stage !== stage) {
        view.go({ stage, selection: view.selection })
    }
}
</script>

<template>
    <div class="tabs">
        <Tabs :value="view.stage" unstyled @update:value="look(String($event))">
            <TabList unstyled :pt="{ tabList: { class: 'list', 'aria-label': 'Ways to look' }, activeBar: { style: 'display: none' } }">
                <Tab v-for="s in STAGES" :key="s.name" :value="s.name" unstyled :pt="{ root: { 'aria-controls': undefined } }">{{
                    s.words
                }}</Tab>
            </TabList>
        </Tabs>
        <span class="space" />
        <slot />
    </div>
</template>

<style scoped>
.tabs {
    display: flex;
    align-items: center;
    gap: 12px;
    min-height: 42px;
    padding: 0 14px 0 10px;
    overflow: hidden;
}
button[role='tab'] {
    padding: 5px 10px;
    border-radius: 8px;
    color: var(--ink-soft);
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
.tabs :deep(.list) {
    display: flex;
    gap: 2px;
}
.space {
    flex: 1;
}
</style>
