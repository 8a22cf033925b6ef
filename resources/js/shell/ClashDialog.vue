<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { computed } from 'vue'
import { useModel } from '@/stores/model'
import SaidText from '@/ui/SaidText.vue'

const model = useModel()

const mine = computed(() => {
    const edit: Record<string, unknown> | undefined = model.clash?.edit
    return typeof edit?.text === 'string' ? edit.text : typeof edit?.name === 'string' ? edit.name : (model.clash?.edit.kind ?? '')
})
const theirs = computed(() => {
    const { edit, theirs: now } = model.clash ?? {}
    if (!now) {
        return 'deleted'
    }
    return edit?.kind === 'formula'
        ? now.formula
        : edit?.kind === 'rename'
          ? now.name
          : edit?.kind === 'unit'
            ? now.unit
            : edit?.kind === 'note'
              ? now.note
              : now.name
})
</script>

<template>
    <Dialog :visible="model.clash !== null" modal header="Two versions" :closable="false" :style="{ width: '520px' }">
        <p><SaidText :text="model.clash?.sentence ?? ''" /></p>
        <div class="both">
            <div>
                <span class="label">Yours</span>
                <pre>{{ mine }}</pre>
            </div>
            <div>
                <span class="label">In the other window</span>
                <pre>{{ theirs }}</pre>
            </div>
        </div>
        <template #footer>
            <Button class="button" @click="model.settleClash(false)">Keep the other one</Button>
            <Button class="button strong" @click="model.settleClash(true)">Keep mine</Button>
        </template>
    </Dialog>
</template>

<style scoped>
.both {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 12px;
    margin-top: 14px;
}
pre {
    margin: 4px 0 0;
    padding: 8px 10px;
    border: 1px solid var(--hairline);
    border-radius: 8px;
    background: var(--paper);
    font: 13px var(--mono);
    white-space: pre-wrap;
    overflow-wrap: anywhere;
}
</style>
