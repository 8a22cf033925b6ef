<script setup lang="ts">
import { ArrowDown, ArrowUp, GripVertical, X } from '@lucide/vue'
import { useVirtualizer } from '@tanstack/vue-virtual'
import { computed, nextTick, ref, useTemplateRef } from 'vue'
import { readableId } from '@/stores/dimensions'

/** The elements of a listed dimension, in order: typed, pasted, dragged, moved with Alt and arrows. */
const {
    elements,
    limitedTo = null,
    limiting = false,
} = defineProps<{
    elements: readonly Element[]
    /** Ids of those that are left of them. */ limitedTo?: string[] | null
    /** Whether they are ticked. */ limiting?: boolean
}>()
interface Element {
    id: string
    name: string
}
const emit = defineEmits<{ change: [elements: Element[]]; limit: [ids: string[]] }>()

const MANY = 12
const ROW = 31
const wanted = ref('')
const adding = ref('')
const found = computed(() => {
    const text = wanted.value.trim().toLowerCase()
    const rows = elements.map((element, index) => ({ element, index }))
    return text ? rows.filter((r) => r.element.name.toLowerCase().includes(text)) : rows
})
const box = useTemplateRef('box')
const list = useVirtualizer(
    computed(() => ({
        count: found.value.length,
        getScrollElement: () => box.value,
        estimateSize: () => ROW,
        getItemKey: (i: number) => found.value[i]?.element.id ?? i,
        overscan: 12,
    })),
)
const shown = computed(() =>
    list.value.getVirtualItems().flatMap(({ index, start }) => {
        const row = found.value[index]
        return row ? [{ ...row, start }] : []
    }),
)
const left = computed(() => new Set(limitedTo ?? elements.map((e) => e.id)))

function rename(index: number, event: Event) {
    const field = event.target as HTMLInputElement
    const name = field.value.trim()
    const now = elements[index]
    if (!name || !now || name === now.name) {
        field.value = now?.name ?? ''
        return
    }
    emit(
        'change',
        elements.map((e, i) => (i === index ? { ...e, name } : e)),
    )
}
function remove(index: number) {
    emit(
        'change',
        elements.filter((_, i) => i !== index),
    )
}
async function shift(index: number, to: number) {
    const all = [...elements]
    const [one] = all.splice(index, 1)
    if (!one || to < 0 || to > all.length || to === index) {
        return
    }
    all.splice(to, 0, one)
    emit('change', all)
    await nextTick()
    window.setTimeout(() => box.value?.querySelector<HTMLElement>(`[data-element="${one.id}"] input`)?.focus(), 120)
}
/** Several lines, or cells of a row, are several elements. */
function add(text: string) {
    const names = text
        .split(/[\n\t;]+/)
        .map((n) => n.trim())
        .filter(Boolean)
    const taken = new Set(elements.map((e) => e.id))
    const known = new Set(elements.map((e) => e.name.toLowerCase()))
    const more: { id: string; name: string }[] = []
    for (const name of names) {
        if (!known.has(name.toLowerCase())) {
            const id = readableId(name, taken)
            taken.add(id)
            known.add(name.toLowerCase())
            more.push({ id, name })
        }
    }
    adding.value = ''
    if (more.length) {
        emit('change', [...elements, ...more])
    }
}
function paste(event: ClipboardEvent) {
    const text = event.clipboardData?.getData('text') ?? ''
    if (/[\n\t]/.test(text.trim())) {
        event.preventDefault()
        add(text)
    }
}
const dragged = ref<number>()
function drop(index: number) {
    if (dragged.value !== undefined) {
        void shift(dragged.value, index)
    }
    dragged.value = undefined
}
function tick(id: string, on: boolean) {
    emit(
        'limit',
        elements.map((e) => e.id).filter((e) => (e === id ? on : left.value.has(e))),
    )
}
</script>

<template>
    <div>
        <InputText
            v-if="elements.length > MANY"
            v-model="wanted"
            class="field find"
            type="search"
            aria-label="Find an element"
            :placeholder="`Find among ${elements.length}`"
        />
        <div ref="box" class="box" role="list" aria-label="Elements">
            <div :style="{ height: `${list.getTotalSize()}px` }" class="rows">
                <div
                    v-for="{ element, index, start } in shown"
                    :key="element.id"
                    class="row"
                    role="listitem"
                    :data-element="element.id"
                    :class="{ over: dragged !== undefined && dragged !== index, away: !left.has(element.id) }"
                    :style="{ transform: `translateY(${start}px)` }"
                    @dragover.prevent
                    @drop.prevent="drop(index)"
                >
                    <Checkbox
                        v-if="limiting"
                        :model-value="left.has(element.id)"
                        binary
                        :aria-label="`${element.name} is there`"
                        @update:model-value="tick(element.id, $event as boolean)"
                    />
                    <span
                        v-else
                        class="grip"
                        draggable="true"
                        title="Drag to another place, or Alt and arrow keys"
                        @dragstart="dragged = index"
                        @dragend="dragged = undefined"
                        ><GripVertical :size="14" :stroke-width="1.6"
                    /></span>
                    <InputText
                        class="field"
                        :model-value="element.name"
                        :aria-label="`Element ${index + 1}`"
                        maxlength="120"
                        spellcheck="false"
                        @change="rename(index, $event)"
                        @keydown.enter="($event.target as HTMLElement).blur()"
                        @keydown.alt.up.prevent="shift(index, index - 1)"
                        @keydown.alt.down.prevent="shift(index, index + 1)"
                    />
                    <span class="tools">
                        <Button
                            class="icon-button"
                            :disabled="index === 0"
                            :aria-label="`Move ${element.name} up`"
                            title="Up (Alt ↑)"
                            @click="shift(index, index - 1)"
                            ><ArrowUp :size="14" :stroke-width="1.6"
                        /></Button>
                        <Button
                            class="icon-button"
                            :disabled="index === elements.length - 1"
                            :aria-label="`Move ${element.name} down`"
                            title="Down (Alt ↓)"
                            @click="shift(index, index + 1)"
                            ><ArrowDown :size="14" :stroke-width="1.6"
                        /></Button>
                        <Button class="icon-button" :aria-label="`Remove ${element.name}`" title="Remove" @click="remove(index)"
                            ><X :size="14" :stroke-width="1.6"
                        /></Button>
                    </span>
                </div>
            </div>
        </div>
        <InputText
            v-model="adding"
            class="field"
            aria-label="Add an element"
            placeholder="Add an element, or paste a list"
            spellcheck="false"
            @keydown.enter="add(adding)"
            @change="add(adding)"
            @paste="paste"
        />
    </div>
</template>

<style scoped>
.find {
    width: 100%;
    margin-bottom: 4px;
}
.box {
    max-height: 290px;
    overflow-y: auto;
    margin-bottom: 4px;
}
.rows {
    position: relative;
}
.row {
    position: absolute;
    inset: 0 0 auto;
    display: flex;
    align-items: center;
    gap: 4px;
    height: 31px;
}
.row .field {
    flex: 1;
    min-width: 0;
    height: 27px;
}
.grip {
    display: grid;
    cursor: grab;
    color: var(--ink-soft);
}
.tools {
    display: none;
    flex: none;
}
.row:hover .tools,
.row:focus-within .tools {
    display: flex;
}
.tools .icon-button {
    width: 24px;
    height: 24px;
}
.away .field {
    color: var(--ink-soft);
    text-decoration: line-through;
}
.field {
    width: 100%;
}
</style>
