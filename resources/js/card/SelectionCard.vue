<script setup lang="ts">
import {
    AlignCenterHorizontal,
    AlignCenterVertical,
    AlignEndHorizontal,
    AlignEndVertical,
    AlignHorizontalSpaceBetween,
    AlignStartHorizontal,
    AlignStartVertical,
    AlignVerticalSpaceBetween,
    Copy,
    LineChart,
    Trash2,
    Wand2,
} from '@lucide/vue'
import { computed, ref, watch } from 'vue'
import { ARRANGEMENTS } from '@/ui/arrange'
import { newId } from '@/ui/ids'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import KindIcon from '@/ui/KindIcon.vue'
import GroupField from './GroupField.vue'

const model = useModel()
const view = useView()
const sheet = ref('')
const newName = ref('')
const ICONS: Record<string, unknown> = {
    left: AlignStartVertical,
    centre: AlignCenterVertical,
    right: AlignEndVertical,
    top: AlignStartHorizontal,
    middle: AlignCenterHorizontal,
    bottom: AlignEndHorizontal,
    'spread-across': AlignHorizontalSpaceBetween,
    'spread-down': AlignVerticalSpaceBetween,
}

const things = computed(() => view.selectedThings.map((id) => model.model.elements[id]).filter((t) => t !== undefined))
const others = computed(() => model.model.sheets.filter((s) => s.id !== view.sheet))
const plotted = computed(() => things.value.every((t) => model.model.placements[t.id]?.plot))
watch(
    () => view.sheet,
    () => {
        sheet.value = ''
    },
)

async function moveTo(target: string) {
    if (await model.attempt({ kind: 'to-sheet', ids: view.selectedThings, sheet: target })) {
        view.go({ place: 'model', stage: 'sheet', sheet: target, selection: view.selectedThings })
    }
    sheet.value = ''
}
/** Makes the sheet and moves the things there, as one edit. */
async function moveToNew() {
    const id = `s${newId()}`
    const name = newName.value.trim() || `Sheet ${model.model.sheets.length + 1}`
    const ids = view.selectedThings
    if (
        await model.together(
            [
                { kind: 'sheet-add', id, name },
                { kind: 'to-sheet', ids, sheet: id },
            ],
            `Moved ${ids.length === 1 ? `\`${things.value[0]?.name}\`` : `${ids.length} things`} to the new sheet “${name}”`,
        )
    ) {
        newName.value = ''
        view.go({ place: 'model', stage: 'sheet', sheet: id, selection: ids })
    }
}
</script>

<template>
    <section class="several" :aria-label="`${view.selection.length} things selected`">
        <h2>{{ view.selection.length }} selected</h2>
        <ul class="chips">
            <li v-for="t in things.slice(0, 12)" :key="t.id">
                <Button class="chip" @click="view.select(t.id)"><KindIcon :kind="t.kind" :size="13" /> {{ t.name }}</Button>
            </li>
            <li v-if="things.length > 12" class="soft">and {{ things.length - 12 }} more</li>
        </ul>
        <div>
            <span class="label">Line up</span>
            <div class="tools">
                <Button
                    v-for="a in ARRANGEMENTS"
                    :key="a.key"
                    class="icon-button"
                    :aria-label="a.words"
                    :title="a.words"
                    @click="view.asked = a.key"
                    ><component :is="ICONS[a.key]" :size="18" :stroke-width="1.5"
                /></Button>
            </div>
        </div>
        <div class="acts">
            <Button class="button" @click="view.asked = 'tidy'"><Wand2 :size="15" :stroke-width="1.6" />Tidy up</Button>
            <Button class="button" title="Ctrl C; Ctrl V puts them on any sheet" @click="view.asked = 'copy'"
                ><Copy :size="15" :stroke-width="1.6" />Copy</Button
            >
            <Button
                class="button"
                :aria-pressed="plotted"
                @click="model.attempt({ kind: 'plot', ids: view.selectedThings, shown: !plotted })"
                ><LineChart :size="15" :stroke-width="1.6" />{{ plotted ? 'Hide small plots' : 'Small plots' }}</Button
            >
            <Button
                class="button"
                @click="
                    () => {
                        const ids = view.selection
                        view.select()
                        model.remove(ids)
                    }
                "
                ><Trash2 :size="15" :stroke-width="1.6" />Delete</Button
            >
        </div>
        <GroupField :ids="view.selectedThings" />
        <div>
            <label class="label" for="to-sheet">Move to a sheet</label>
            <p class="soft small">Where links need them, echoes stay behind.</p>
            <div class="chips">
                <Button v-for="s in others" :key="s.id" class="chip" @click="moveTo(s.id)">{{ s.name }}</Button>
            </div>
            <form class="new" @submit.prevent="moveToNew">
                <InputText id="to-sheet" v-model="newName" class="field" placeholder="Name of a new sheet" maxlength="120" /><Button
                    type="submit"
                    class="button"
                    >Move</Button
                >
            </form>
        </div>
    </section>
</template>

<style scoped>
.several {
    display: grid;
    gap: 18px;
    padding: 14px 18px 24px;
}
h2 {
    font-size: 17px;
}
.chips {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    margin: 6px 0 0;
    padding: 0;
    list-style: none;
}
.chip {
    display: inline-flex;
    align-items: center;
    gap: 5px;
}
.tools {
    display: flex;
    justify-content: space-between;
    margin: 4px -4px 0;
}
.acts {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 8px;
}
.small {
    font-size: 13px;
}
.new {
    display: flex;
    gap: 8px;
    margin-top: 8px;
}
</style>
