<script setup lang="ts">
import Tab from 'primevue/tab'
import TabList from 'primevue/tablist'
import Tabs from 'primevue/tabs'
import { useView } from '@/stores/view'
import { WAYS } from './ways'

const view = useView()

function look(stage: string) {
    if (view.stage !== stage) {
        view.go({ stage, selection: view.selection })
    }
}
</script>

<template>
    <div class="tabs" :class="{ alone: !view.outline }">
        <Tabs :value="view.stage" unstyled @update:value="look(String($event))">
            <TabList unstyled :pt="{ tabList: { class: 'list', 'aria-label': 'Ways to look' }, activeBar: { style: 'display: none' } }">
                <Tab v-for="way in WAYS" :key="way.name" :value="way.name" unstyled :pt="{ root: { 'aria-controls': undefined } }">
                    <component :is="way.icon" :size="15" :stroke-width="1.6" />{{ way.words }}
                </Tab>
            </TabList>
        </Tabs>
        <span class="space" />
        <slot />
    </div>
</template>

<style scoped>
.tabs {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 2px 1px;
    min-height: 42px;
    padding: 3px 10px;
    container-type: inline-size;
    border-bottom: 1px solid var(--hairline);
    background: var(--paper);
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
@container (width < 1120px) {
    button[role='tab'] :deep(svg) {
        display: none;
    }
}
@container (width < 800px) {
    button[role='tab'] {
        padding: 4px 5px;
    }
}
.tabs :deep(.list) {
    display: flex;
    flex-wrap: wrap;
    gap: 1px;
}
.space {
    flex: 1;
}
</style>
