<script setup lang="ts">
import DOMPurify from 'dompurify'
import { marked } from 'marked'
import { computed, nextTick, ref } from 'vue'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import type { Field } from '@/ui/controls'

const { note, label, hint } = defineProps<{ note: string; label: string; hint: string }>()
const emit = defineEmits<{ keep: [text: string] }>()
const model = useModel()
const view = useView()
const typing = ref(false)
const draft = ref('')
const field = ref<Field>()

/** Markdown, with [[names]] as links to things of the model. */
const html = computed(() =>
    DOMPurify.sanitize(
        marked.parse(
            note.replace(/\[\[([^\]]+)\]\]/g, (_, name: string) => {
                const id = model.idByName.get(name.trim().toLowerCase())
                const shown = name.replace(/[<>&"]/g, '')
                return id ? `<a href="#${id}" data-thing="${id}">${shown}</a>` : shown
            }),
            { async: false },
        ),
    ),
)

function edit() {
    draft.value = note
    typing.value = true
    void nextTick(() => field.value?.$el.focus())
}

function press(event: MouseEvent) {
    const link = (event.target as Element).closest('a')
    if (!link) {
        edit()
        return
    }
    if (link.dataset.thing) {
        event.preventDefault()
        view.goTo(link.dataset.thing)
    }
}

function keep() {
    typing.value = false
    if (draft.value.trim() !== note) {
        emit('keep', draft.value)
    }
}
</script>

<template>
    <div class="note">
        <span class="label">Note</span>
        <Textarea
            v-if="typing"
            ref="field"
            v-model="draft"
            class="field"
            rows="5"
            :aria-label="label"
            @blur="keep"
            @keydown.escape.stop="keep"
            @keydown.ctrl.enter="keep"
        />
        <!-- eslint-disable-next-line vue/no-v-html -- sanitised above -->
        <div v-else-if="note" class="text" @click="press" v-html="html" />
        <Button v-if="!typing" class="write" @click="edit">{{ note ? 'Edit the note' : hint }}</Button>
    </div>
</template>

<style scoped>
.text {
    cursor: text;
    overflow-wrap: anywhere;
}
.text :deep(p) {
    margin: 3px 0 7px;
}
.text :deep(a) {
    color: var(--ink);
    text-underline-offset: 3px;
}
.field {
    margin-top: 4px;
    resize: vertical;
}
.write {
    color: var(--ink-soft);
    font-size: 13px;
    text-decoration: underline;
    text-decoration-color: var(--hairline);
    text-underline-offset: 3px;
}
.write:hover {
    text-decoration-color: currentcolor;
}
</style>
