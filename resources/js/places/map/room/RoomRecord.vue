<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { api } from '@/api/client'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { download } from '@/ui/download'
import { fromMarkdown } from '@/ui/markdown'
import PrintedSheet from '@/ui/PrintedSheet.vue'

/** What was asked, said and found, to take home: as Markdown, or printed. */
const model = useModel()
const notices = useNotices()
const text = ref('')
const html = computed(() => fromMarkdown(text.value))
onMounted(async () => {
    try {
        text.value = await api.record(model.id)
    } catch (error) {
        notices.trouble((error as Error).message)
    }
})
function save() {
    download(`${model.model.name}.md`, new Blob([text.value], { type: 'text/markdown' }))
}
function print() {
    window.print()
}
async function copy() {
    await navigator.clipboard.writeText(text.value)
    notices.say('The record is copied.')
}
</script>

<template>
    <div class="record-step">
        <p class="acts">
            <Button class="big" data-first @click="save">Save as Markdown</Button>
            <Button class="big" @click="print">Print</Button>
            <Button class="big" @click="copy">Copy</Button>
        </p>
        <!-- eslint-disable-next-line vue/no-v-html -- sanitised -->
        <div class="record" tabindex="0" role="document" aria-label="Record of the workshop" v-html="html" />
        <!-- eslint-disable-next-line vue/no-v-html -- sanitised -->
        <PrintedSheet><div v-html="html" /></PrintedSheet>
    </div>
</template>

<style scoped>
.acts {
    display: flex;
    gap: 0.6em;
    margin: 0 0 0.8em;
}
.record {
    max-width: 44em;
    font-size: 24px;
    line-height: 1.45;
}
.record :deep(h1) {
    font-size: 1.5em;
}
.record :deep(h2) {
    margin-top: 1.4em;
    font-size: 1.25em;
}
.record :deep(:is(th, td)) {
    padding: 0.15em 1em 0.15em 0;
    border-bottom: 1px solid var(--hairline);
    text-align: left;
}
</style>
