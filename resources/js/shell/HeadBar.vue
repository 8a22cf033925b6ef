<script setup lang="ts">
import { ChevronLeft, ChevronRight, Download, History, Moon, PanelRight, Redo2, Search, Sun, TextSearch, Undo2 } from '@lucide/vue'
import Menu from 'primevue/menu'
import { computed, nextTick, ref } from 'vue'
import type { FileFormat, Level } from '@/api/types'
import PersonMenu from '@/people/PersonMenu.vue'
import { useExports } from '@/stores/exports'
import { useKeys } from '@/stores/keys'
import { useLook } from '@/stores/look'
import { isOpen } from '@/stores/members'
import { useModel } from '@/stores/model'
import { usePage } from '@/stores/page'
import { useView } from '@/stores/view'
import type { Field } from '@/ui/controls'
import DimensionLooks from './DimensionLooks.vue'
import SheetsMenu from './SheetsMenu.vue'
import StateChip from './StateChip.vue'
import WhoIsHere from './WhoIsHere.vue'

const model = useModel()
const look = useLook()
const page = usePage()
const view = useView()
const keys = useKeys()
const typing = ref(false)
const draft = ref('')
const exports = useExports()
const menu = ref<InstanceType<typeof Menu>>()
const FORMATS: { label: string; format: FileFormat; needs?: 'map' | 'data' | 'members' | 'classes'; level?: Level['level'] }[] = [
    { label: 'Merry Orbit file', format: 'native' },
    { label: 'With the files of its data (ZIP)', format: 'archive', needs: 'data' },
    { label: 'XMILE, the open standard', format: 'xmile' },
    { label: 'XMILE, members in classes', format: 'xmile', needs: 'classes', level: 'classes' },
    { label: 'XMILE, members as one aggregate', format: 'xmile', needs: 'members', level: 'one' },
    { label: 'The map as a table (CSV)', format: 'map-csv', needs: 'map' },
    { label: 'The map as a graph (GraphML)', format: 'graphml', needs: 'map' },
    { label: 'The record in words (Markdown)', format: 'record', needs: 'map' },
]
/** What there is of the study besides its model. */
const open = computed(() => Object.values(model.model.rosters ?? {}).filter(isOpen))
const there = computed(() => ({
    members: open.value.length > 0,
    classes: open.value.length > 0 && open.value.every((r) => r.classes),
    map: Object.keys(model.model.mapSpots).length > 0,
    data: Object.keys(model.model.sources ?? {}).length + Object.keys(model.model.areas ?? {}).length > 0,
}))
const formats = computed(() =>
    FORMATS.filter((f) => !f.needs || there.value[f.needs]).map(({ label, format, level }) => ({
        label,
        command: () => {
            void exports.exportStudy(model.study, format, level)
        },
    })),
)
const field = ref<Field>()

function turnHistory() {
    if (view.stage === 'history' && view.way.back) {
        view.way.back()
    } else {
        view.go({ place: 'model', stage: view.stage === 'history' ? 'sheet' : 'history' })
    }
}

function rename() {
    draft.value = model.model.name
    typing.value = true
    void nextTick(() => field.value?.$el.select())
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
    <header class="head" :class="{ looking: look.dimensions.length }">
        <div class="name">
            <InputText
                v-if="typing"
                ref="field"
                v-model="draft"
                class="field"
                aria-label="Name of the study"
                maxlength="120"
                @keydown.enter="keep"
                @keydown.escape="typing = false"
                @blur="keep"
            />
            <h1 v-else>
                <Button :title="`${model.model.name} – click to rename`" @click="rename">{{ model.model.name }}</Button>
            </h1>
            <span class="where">
                <Button
                    class="icon-button"
                    :disabled="!view.way.back"
                    aria-label="Back to where you were"
                    :title="`Back (${keys.word('back')})`"
                    @click="view.way.back?.()"
                    ><ChevronLeft :size="17" :stroke-width="1.6"
                /></Button>
                <Button
                    class="icon-button"
                    :disabled="!view.way.ahead"
                    aria-label="Forward again"
                    :title="`Forward (${keys.word('ahead')})`"
                    @click="view.way.ahead?.()"
                    ><ChevronRight :size="17" :stroke-width="1.6"
                /></Button>
                <SheetsMenu v-if="view.place !== 'map' && view.place !== 'ask'" />
            </span>
            <DimensionLooks />
        </div>
        <StateChip />
        <div class="tools">
            <WhoIsHere />
            <Button
                class="find"
                aria-label="Find in the model"
                title="Find by name, formula, unit, note or value"
                @click="view.over = 'find'"
                ><Search :size="15" :stroke-width="1.6" /><span>Find in the model</span
                ><kbd v-if="keys.word('find')">{{ keys.word('find') }}</kbd></Button
            >
            <Button
                class="icon-button"
                :disabled="!model.steps.undo || !model.mayEdit"
                :title="model.steps.undo ? `Undo: ${model.steps.undo} (Ctrl Z)` : 'Nothing to undo'"
                aria-label="Undo"
                @click="model.step('undo')"
                ><Undo2 :size="18" :stroke-width="1.5"
            /></Button>
            <Button
                class="icon-button"
                :disabled="!model.steps.redo || !model.mayEdit"
                :title="model.steps.redo ? `Redo: ${model.steps.redo} (Ctrl Shift Z)` : 'Nothing to redo'"
                aria-label="Redo"
                @click="model.step('redo')"
                ><Redo2 :size="18" :stroke-width="1.5"
            /></Button>
            <Button
                class="icon-button"
                :aria-pressed="view.stage === 'history'"
                aria-label="History"
                title="History: what was done, old versions"
                @click="turnHistory"
                ><History :size="18" :stroke-width="1.5"
            /></Button>
            <Button class="icon-button" aria-label="Commands" title="All commands (Ctrl K)" @click="view.over = 'commands'"
                ><TextSearch :size="18" :stroke-width="1.5"
            /></Button>
            <Button
                class="icon-button"
                aria-haspopup="menu"
                aria-label="Export the study"
                title="Export the study as a file"
                @click="menu?.toggle($event)"
                ><Download :size="18" :stroke-width="1.5"
            /></Button>
            <Menu ref="menu" :model="formats" popup />
            <Button
                class="icon-button"
                :aria-label="page.theme === 'dark' ? 'Light theme' : 'Dark theme'"
                :title="page.theme === 'dark' ? 'Light theme' : 'Dark theme'"
                @click="page.changeTheme"
                ><Sun v-if="page.theme === 'dark'" :size="18" :stroke-width="1.5" /><Moon v-else :size="18" :stroke-width="1.5"
            /></Button>
            <Button
                class="icon-button"
                :aria-pressed="view.card"
                aria-label="Card"
                title="Show or hide the card"
                @click="view.card = !view.card"
                ><PanelRight :size="18" :stroke-width="1.5"
            /></Button>
            <PersonMenu />
        </div>
    </header>
</template>

<style scoped>
.head {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto minmax(max-content, 1fr);
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
.where {
    flex: none;
    display: flex;
    align-items: center;
    padding-left: 6px;
    border-left: 1px solid var(--hairline);
}
.where .icon-button {
    width: 24px;
}
.find {
    display: flex;
    align-items: center;
    gap: 8px;
    width: 190px;
    height: 28px;
    margin-right: 8px;
    padding: 0 9px;
    border: 1px solid var(--line);
    border-radius: 8px;
    background: var(--paper);
    color: var(--ink-soft);
    white-space: nowrap;
    overflow: hidden;
}
.find span {
    flex: 1;
    text-align: left;
}
.find kbd {
    padding: 0 6px;
    border: 1px solid var(--line);
    border-radius: 4px;
    font: 11px var(--mono);
}
.icon-button[aria-pressed='true'] {
    color: var(--ink);
}
/* Where the window looks along dimensions comes before the words of finding. */
.looking {
    grid-template-columns: minmax(0, 1fr) auto max-content;
}
@media (width < 1200px) {
    .find {
        width: 34px;
        margin-right: 2px;
    }
    .find span,
    .find kbd {
        display: none;
    }
}
@media (width < 1600px) {
    .looking .find {
        width: 34px;
        margin-right: 2px;
    }
    .looking .find span,
    .looking .find kbd {
        display: none;
    }
}
.tools {
    display: flex;
    align-items: center;
    justify-content: end;
    gap: 2px;
}
</style>
