<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api } from '@/api/client'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { download } from '@/ui/download'

/** What was asked, said and found, to take home: as Markdown, or printed. */
const model = useModel()
const notices = useNotices()
const text = ref('')
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
        <p class="acts no-print">
            <Button class="big" data-first @click="save">Save as Markdown</Button>
            <Button class="big" @click="print">Print</Button>
            <Button class="big" @click="copy">Copy</Button>
        </p>
        <pre tabindex="0" aria-label="Record of the workshop">{{ text }}</pre>
    </div>
</template>

<style scoped>
.acts {
    display: flex;
    gap: 0.6em;
    margin: 0 0 0.8em;
}
pre {
    max-width: 44em;
    margin: 0;
    white-space: pre-wrap;
    font: 24px/1.45 var(--sans);
}
@media print {
    pre {
        font-size: 11pt;
    }
}
</style>
