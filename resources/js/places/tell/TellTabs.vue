<script setup lang="ts">
import { BookOpen, FileText, MessagesSquare, Users } from '@lucide/vue'
import Tab from 'primevue/tab'
import TabList from 'primevue/tablist'
import Tabs from 'primevue/tabs'
import { useTalk } from '@/stores/talk'
import { useView } from '@/stores/view'

const view = useView()
const talk = useTalk()
const WAYS = [
    { name: 'people', words: 'People', icon: Users },
    { name: 'page', words: 'Page for readers', icon: BookOpen },
    { name: 'report', words: 'Report', icon: FileText },
    { name: 'comments', words: 'Comments', icon: MessagesSquare },
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
            <TabList unstyled :pt="{ tabList: { class: 'list', 'aria-label': 'Ways to tell' }, activeBar: { style: 'display: none' } }">
                <Tab v-for="way in WAYS" :key="way.name" :value="way.name" unstyled :pt="{ root: { 'aria-controls': undefined } }">
                    <component :is="way.icon" :size="15" :stroke-width="1.6" />{{ way.words
                    }}<span v-if="way.name === 'comments' && talk.open.length" class="soft">{{ talk.open.length }} open</span>
                </Tab>
            </TabList>
        </Tabs>
    </div>
</template>

<style scoped>
.tabs {
    display: flex;
    align-items: center;
    min-height: 42px;
    padding: 3px 20px;
    border-bottom: 1px solid var(--hairline);
    background: var(--paper);
}
.tabs :deep(.list) {
    display: flex;
    gap: 4px;
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
    box-shadow: inset 0 -2px var(--ink);
    border-radius: 8px 8px 0 0;
}
</style>
