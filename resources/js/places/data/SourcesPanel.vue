<script setup lang="ts">
import { FileSpreadsheet, Map as MapIcon, PanelLeftClose, Plus, Radio, X } from '@lucide/vue'
import { useIntervalFn } from '@vueuse/core'
import { computed } from 'vue'
import { useView } from '@/stores/view'
import { counted } from '@/ui/numbers'
import StepsList from './StepsList.vue'
import { useAreas } from './useAreas'
import { useData } from './useData'
import { useStations } from './useStations'
import { useTableDrop } from './useTableDrop'

/** The files that data came from, and what is kept of each. */
const data = useData()
const view = useView()
const areas = useAreas()
const stations = useStations()
const { over, onto, choose } = useTableDrop()
const isOpen = (source: string) => view.stage === 'data' && data.source === source
function open(source: string) {
    view.go({ place: 'data', stage: 'data', selection: view.selection })
    void data.open(source)
}
/** Offered where nothing else is looked at. */
const unheard = computed(() => (data.table || view.stage !== 'data' ? [] : stations.unheard))
function hearFirst(station: string) {
    view.go({ place: 'data', stage: 'data', selection: view.selection })
    void data.listen(station)
}
/** So often stations are asked what is new, in milliseconds. */
const PACE = 20_000
useIntervalFn(() => void stations.hear(), PACE, { immediateCallback: true })
function see(map: string) {
    areas.open = map
    view.go({ place: 'data', stage: 'areas', selection: view.selection })
}
</script>

<template>
    <aside class="sources" :class="{ over }" aria-label="Sources" v-on="onto">
        <header>
            <h2>Sources</h2>
            <Button class="icon-button" aria-label="Add a file" title="Add a file" @click="choose()"
                ><Plus :size="17" :stroke-width="1.5"
            /></Button>
            <Button class="icon-button" aria-label="Hide the sources" title="Hide the sources" @click="view.outline = false"
                ><PanelLeftClose :size="17" :stroke-width="1.5"
            /></Button>
        </header>
        <ul>
            <li v-for="s in data.sources" :key="s.id" :class="{ open: isOpen(s.id) }">
                <Button class="source" :aria-pressed="isOpen(s.id)" @click="open(s.id)">
                    <component :is="s.station ? Radio : FileSpreadsheet" :size="17" :stroke-width="1.5" />
                    <span
                        ><b>{{ s.name }}</b
                        ><span class="soft">{{
                            data.of(s.id).length ? `${counted(data.of(s.id).length, 'series', 'series')} kept` : 'nothing kept'
                        }}</span></span
                    >
                </Button>
                <Button v-if="stations.news(s.id)" class="news" @click="data.listen(s.station ?? '')">{{
                    counted(stations.news(s.id), 'new reading')
                }}</Button>
                <Button
                    class="icon-button"
                    :aria-label="`Remove ${s.name}`"
                    title="Remove, with what was kept of it"
                    @click="data.remove(s.id)"
                    ><X :size="14" :stroke-width="1.6"
                /></Button>
            </li>
        </ul>
        <template v-if="areas.maps.length">
            <h3>Area maps</h3>
            <ul>
                <li v-for="m in areas.maps" :key="m.id" :class="{ open: view.stage === 'areas' && areas.map?.id === m.id }">
                    <Button class="source" :aria-pressed="view.stage === 'areas' && areas.map?.id === m.id" @click="see(m.id)">
                        <MapIcon :size="17" :stroke-width="1.5" />
                        <span
                            ><b>{{ m.name }}</b></span
                        >
                    </Button>
                    <Button class="icon-button" :aria-label="`Remove ${m.name}`" title="Remove this area map" @click="areas.remove(m.id)"
                        ><X :size="14" :stroke-width="1.6"
                    /></Button>
                </li>
            </ul>
        </template>
        <p v-if="!data.sources.length" class="soft none">Files that data came from will be listed here.</p>
        <StepsList v-if="data.table && view.stage === 'data'" />
        <Button v-for="w in unheard" :key="w" class="hint station" @click="hearFirst(w)">
            <Radio :size="15" :stroke-width="1.5" /> Listen to the measuring station “{{ w }}”
        </Button>
        <Button class="hint" @click="choose()">
            {{
                data.sources.length
                    ? 'Next time, drop the newer file here: it is read the same way again.'
                    : 'Drop a table here, or choose a file.'
            }}
        </Button>
    </aside>
</template>

<style scoped>
.sources {
    display: flex;
    flex-direction: column;
    min-height: 0;
    overflow-y: auto;
    border-right: 1px solid var(--hairline);
    background: var(--card);
}
.over {
    background: var(--hover);
}
header {
    display: flex;
    align-items: center;
    gap: 2px;
    padding: 8px 8px 4px 16px;
}
header h2 {
    flex: 1;
}
h3 {
    padding: 10px 16px 2px;
    border-top: 1px solid var(--hairline);
    font-size: 14px;
}
ul {
    margin: 0;
    padding: 0;
    list-style: none;
}
li {
    display: flex;
    align-items: center;
    padding-right: 6px;
    border-left: 3px solid transparent;
}
li.open {
    border-left-color: var(--ember);
    background: var(--hover);
}
.source {
    flex: 1;
    display: grid;
    grid-template-columns: 22px 1fr;
    gap: 8px;
    align-items: start;
    min-width: 0;
    padding: 9px 6px 9px 13px;
    text-align: left;
}
.source > span {
    display: grid;
    min-width: 0;
}
.source b {
    font-weight: 400;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
.none {
    padding: 6px 16px;
}
.news {
    padding: 2px 8px;
    border-radius: 10px;
    background: var(--ink);
    color: var(--paper);
    font-size: 12.5px;
    white-space: nowrap;
}
.hint {
    margin: auto 16px 16px;
    padding: 11px 14px;
    border: 1.5px dashed var(--line);
    border-radius: 10px;
    text-align: left;
    line-height: 1.4;
    color: var(--ink-soft);
}
.hint.station {
    display: flex;
    align-items: center;
    gap: 8px;
    margin: 6px 16px;
    padding: 7px 14px;
}
</style>
