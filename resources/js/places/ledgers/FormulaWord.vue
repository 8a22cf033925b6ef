<script setup lang="ts">
import type { EditorView } from '@codemirror/view'
import { nextTick, onBeforeUnmount, ref } from 'vue'
import { formulaEditor } from '@/card/formulaEditor'
import { useCatalogue } from '@/stores/catalogue'
import { useModel } from '@/stores/model'

/** A formula as a word of a ledger: it is written where it stands, and names are completed. */
const { value, label, placeholder } = defineProps<{ value: string; label: string; placeholder: string }>()
const emit = defineEmits<{ change: [text: string] }>()
const model = useModel()
const catalogue = useCatalogue()
const host = ref<HTMLElement>()
const rest = ref<{ $el: HTMLElement }>()
const writing = ref(false)
let editor: EditorView | null = null
async function begin() {
    writing.value = true
    await nextTick()
    if (!host.value) {
        return
    }
    let text = value
    editor = formulaEditor(host.value, value, {
        words: () => ({
            things: model.known,
            catalogue: catalogue.content,
            dimensions: model.model.dimensions.filter((d) => !d.shared),
            mappings: Object.values(model.model.mappings ?? {}),
        }),
        self: '',
        label,
        hint: placeholder,
        changed: (now) => {
            text = now
        },
        commit: () => {
            end(text, true)
        },
        leave: () => {
            end(value, true)
        },
        blurred: () => {
            end(text, false)
        },
        check: () => Promise.resolve([]),
    })
    editor.dispatch({ selection: { anchor: 0, head: editor.state.doc.length } })
    editor.focus()
}
function end(text: string, back: boolean) {
    if (!writing.value) {
        return
    }
    writing.value = false
    editor?.destroy()
    editor = null
    if (text.trim() !== value) {
        emit('change', text.trim())
    }
    if (back) {
        void nextTick(() => {
            rest.value?.$el.focus()
        })
    }
}
onBeforeUnmount(() => {
    writing.value = false
    editor?.destroy()
})
</script>

<template>
    <div v-if="writing" ref="host" class="host" @keydown.stop />
    <Button v-else ref="rest" class="rest" :class="{ none: !value }" :aria-label="`${label}: ${value || 'nothing yet'}`" @click="begin">{{
        value || placeholder
    }}</Button>
</template>

<style scoped src="../../card/formula.css"></style>
<style scoped>
.host {
    border: 1px solid var(--ink);
    border-radius: 4px;
    background: var(--card);
}
.host :deep(.cm-editor) {
    font: 12px/1.5 var(--mono);
    outline: none;
}
.host :deep(.cm-content) {
    padding: 2px 4px;
    font-family: var(--mono);
    text-align: left;
    caret-color: var(--ink);
}
.host :deep(.cm-line) {
    padding: 0;
}
.rest {
    display: block;
    max-width: 100%;
    min-height: 24px;
    overflow: hidden;
    border-bottom: 1px dotted var(--line);
    font: 12px/22px var(--mono);
    color: var(--ink-soft);
    text-align: left;
    text-overflow: ellipsis;
    white-space: nowrap;
}
.rest:hover {
    border-bottom-color: var(--ink);
    color: var(--ink);
}
.none {
    font-style: italic;
}
</style>
