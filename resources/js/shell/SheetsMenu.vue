<script setup lang="ts">
import { ArrowDown, ArrowUp, ChevronDown, Network, Pencil, Plus, Trash2 } from '@lucide/vue'
import Popover from 'primevue/popover'
import { computed, nextTick, ref } from 'vue'
import SheetPicture from '@/canvas/SheetPicture.vue'
import { newId } from '@/ui/ids'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'

const model = useModel()
const view = useView()
const panel = ref<InstanceType<typeof Popover>>()
const naming = ref('')
const draft = ref('')
const open = ref(false)

const sheets = computed(() => model.model.sheets)
const now = computed(() =>
    view.stage === 'atlas' ? 'Atlas' : view.stage === 'history' ? 'History' : (sheets.value.find((s) => s.id === view.sheet)?.name ?? ''),
)
const count = (sheet: string) => model.things.filter((t) => model.sheetOf(t.id) === sheet).length

function show(sheet: string) {
    panel.value?.hide()
    view.go({ place: 'model', stage: 'sheet', sheet })
}
async function add() {
    const id = `s${newId()}`
    let name = `Sheet ${sheets.value.length + 1}`
    for (let i = 2; sheets.value.some((s) => s.name.toLowerCase() === name.toLowerCase()); i++) {
        name = `Sheet ${sheets.value.length + i}`
    }
    if (await model.attempt({ kind: 'sheet-add', id, name })) {
        view.go({ place: 'model', stage: 'sheet', sheet: id })
        rename(id, name)
    }
}
function rename(id: string, name: string) {
    naming.value = id
    draft.value = name
    void nextTick(() => {
        document.querySelector<HTMLInputElement>('.sheets input')?.select()
    })
}
function keep() {
    const sheet = sheets.value.find((s) => s.id === naming.value)
    naming.value = ''
    if (sheet && draft.value.trim() && draft.value.trim() !== sheet.name) {
        void model.attempt({ kind: 'sheet-rename', id: sheet.id, name: draft.value })
    }
}
function shift(index: number, by: number) {
    const ids = sheets.value.map((s) => s.id)
    const [id] = ids.splice(index, 1)
    if (id) {
        ids.splice(index + by, 0, id)
        void model.attempt({ kind: 'sheet-order', ids })
    }
}
</script>

<template>
    <Button class="now" aria-haspopup="dialog" :aria-expanded="open" title="Sheets" @click="panel?.toggle($event)"
        ><span>{{ now }}</span
        ><ChevronDown :size="15" :stroke-width="1.6"
    /></Button>
    <Popover ref="panel" @show="open = true" @hide="open = false">
        <div class="sheets" aria-label="Sheets" role="group">
            <div
                v-for="(sheet, i) in sheets"
                :key="sheet.id"
                class="sheet"
                :class="{ here: sheet.id === view.sheet && view.stage === 'sheet' }"
            >
                <Button class="open" :aria-label="`Open the sheet ${sheet.name}`" @click="show(sheet.id)">
                    <span class="thumb"><SheetPicture v-if="open" :model="model.model" :sheet="sheet.id" :names="false" /></span>
                    <span v-if="naming !== sheet.id" class="what"
                        ><b>{{ sheet.name }}</b
                        ><small class="soft">{{ count(sheet.id) }} things</small></span
                    >
                </Button>
                <InputText
                    v-if="naming === sheet.id"
                    v-model="draft"
                    class="field"
                    aria-label="Name of the sheet"
                    maxlength="120"
                    @keydown.enter="keep"
                    @keydown.escape.stop="naming = ''"
                    @blur="keep"
                />
                <span v-else class="acts">
                    <Button class="icon-button" :aria-label="`Rename ${sheet.name}`" title="Rename" @click="rename(sheet.id, sheet.name)"
                        ><Pencil :size="14" :stroke-width="1.6"
                    /></Button>
                    <Button class="icon-button" :disabled="i === 0" :aria-label="`Move ${sheet.name} up`" title="Up" @click="shift(i, -1)"
                        ><ArrowUp :size="14" :stroke-width="1.6"
                    /></Button>
                    <Button
                        class="icon-button"
                        :disabled="i === sheets.length - 1"
                        :aria-label="`Move ${sheet.name} down`"
                        title="Down"
                        @click="shift(i, 1)"
                        ><ArrowDown :size="14" :stroke-width="1.6"
                    /></Button>
                    <Button
                        class="icon-button"
                        :disabled="sheets.length === 1"
                        :aria-label="`Remove ${sheet.name}`"
                        title="Remove"
                        @click="model.attempt({ kind: 'sheet-remove', id: sheet.id })"
                        ><Trash2 :size="14" :stroke-width="1.6"
                    /></Button>
                </span>
            </div>
            <div class="foot">
                <Button class="button" @click="add"><Plus :size="15" :stroke-width="1.6" />New sheet</Button>
                <Button
                    class="button"
                    @click="
                        () => {
                            panel?.hide()
                            view.go({ place: 'model', stage: 'atlas' })
                        }
                    "
                    ><Network :size="15" :stroke-width="1.6" />Atlas</Button
                >
            </div>
        </div>
    </Popover>
</template>

<style scoped>
.now {
    display: flex;
    align-items: center;
    gap: 4px;
    min-width: 0;
    max-width: 170px;
    padding: 3px 8px;
    border-radius: 7px;
}
.now:hover {
    background: var(--hover);
}
.now span {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
.now svg {
    flex: none;
}
.sheets {
    display: grid;
    gap: 4px;
    width: 340px;
    max-height: 70vh;
    overflow-y: auto;
    padding: 2px;
}
.sheet {
    display: flex;
    align-items: center;
    gap: 6px;
    padding: 4px;
    border: 1px solid transparent;
    border-radius: 9px;
}
.sheet.here {
    border-color: var(--hairline);
    background: var(--hover);
}
.open {
    flex: 1;
    min-width: 0;
    display: flex;
    align-items: center;
    gap: 10px;
    text-align: left;
    border-radius: 6px;
}
.thumb {
    flex: none;
    width: 76px;
    height: 50px;
    padding: 2px;
    border: 1px solid var(--hairline);
    border-radius: 6px;
    background: var(--paper);
}
.what {
    min-width: 0;
    display: grid;
}
.what b {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
.acts {
    flex: none;
    display: flex;
}
.acts .icon-button {
    width: 26px;
}
.foot {
    display: flex;
    gap: 8px;
    margin-top: 8px;
}
</style>
