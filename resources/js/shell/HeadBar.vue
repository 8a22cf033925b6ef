<script setup lang="ts">
import { Download, Moon, PanelRight, Redo2, Sun, Undo2 } from '@lucide/vue'
import { nextTick, ref } from 'vue'
import { api } from '@/api/client'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import StateChip from './StateChip.vue'

const model = useModel()
const view = useView()
const typing = ref(false)
const draft = ref('')
const field = ref<HTMLInputElement>()

function rename() {
    draft.value = model.model.name
    typing.value = true
    void nextTick(() => field.value?.select())
}

function keep() {
    if (!typing.value) {
        return
    }
    typing.value = false
    if (draft.value.trim() && draft.value.trim() !== model.model.name) {
        void model.attempt({ kind: 'title', name: draft.value })
    }
}
</script>

<template>
    <header class="head">
        <div class="name">
            <input v-if="typing" ref="field" v-model="draft" class="field" aria-label="Name of the study" maxlength="120" @keydown.enter="keep" @keydown.escape="typing = false" @blur="keep" />
            <h1 v-else><button type="button" :title="`${model.model.name} – click to rename`" @click="rename">{{ model.model.name }}</button></h1>
            <span class="sheet soft">{{ model.model.sheets[0]?.name }}</span>
        </div>
        <StateChip />
        <div class="tools">
            <button class="icon-button" type="button" :disabled="!model.steps.undo" :title="model.steps.undo ? `Undo: ${model.steps.undo} (Ctrl Z)` : 'Nothing to undo'" aria-label="Undo" @click="model.step('undo')"><Undo2 :size="18" :stroke-width="1.5" /></button>
            <button class="icon-button" type="button" :disabled="!model.steps.redo" :title="model.steps.redo ? `Redo: ${model.steps.redo} (Ctrl Shift Z)` : 'Nothing to redo'" aria-label="Redo" @click="model.step('redo')"><Redo2 :size="18" :stroke-width="1.5" /></button>
            <a class="icon-button" :href="api.fileAddress(model.study)" title="Export as a file" aria-label="Export as a file"><Download :size="18" :stroke-width="1.5" /></a>
            <button class="icon-button" type="button" :aria-label="view.theme === 'dark' ? 'Light theme' : 'Dark theme'" :title="view.theme === 'dark' ? 'Light theme' : 'Dark theme'" @click="view.changeTheme"><Sun v-if="view.theme === 'dark'" :size="18" :stroke-width="1.5" /><Moon v-else :size="18" :stroke-width="1.5" /></button>
            <button class="icon-button" type="button" :aria-pressed="view.card" aria-label="Card" title="Show or hide the card" @click="view.card = !view.card"><PanelRight :size="18" :stroke-width="1.5" /></button>
        </div>
    </header>
</template>

<style scoped>
.head {
    display: grid;
    grid-template-columns: 1fr auto 1fr;
    align-items: center;
    gap: 16px;
    padding: 0 12px 0 16px;
    border-bottom: 1px solid var(--hairline);
    background: var(--card);
}
.name {
    display: flex;
    align-items: center;
    gap: 12px;
    min-width: 0;
}
h1 {
    min-width: 0;
    margin-left: -6px;
}
h1 button {
    display: block;
    max-width: 100%;
    font-size: 17px;
    font-weight: 700;
    padding: 2px 6px;
    border-radius: 6px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
h1 button:hover {
    background: var(--hover);
}
.sheet {
    flex: none;
    padding-left: 12px;
    border-left: 1px solid var(--hairline);
}
.tools {
    display: flex;
    justify-content: end;
    gap: 2px;
}
</style>
