<script setup lang="ts">
import Popover from 'primevue/popover'
import { Star } from '@lucide/vue'
import { nextTick, ref } from 'vue'
import type { Finding } from '@/api/types'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useView } from '@/stores/view'
import type { Field } from '@/ui/controls'
import { newId } from '@/ui/ids'
import { placeBehind } from '@/ui/records'

/** Keeps what is on the stage, with words. */
const { view: shown, title } = defineProps<{ view: () => Finding['view']; title: string }>()
const model = useModel()
const view = useView()
const notices = useNotices()
const popover = ref<InstanceType<typeof Popover>>()
const field = ref<Field>()
const name = ref('')
const words = ref('')

async function open(event: Event) {
    name.value = title
    words.value = ''
    popover.value?.show(event)
    await nextTick()
    window.setTimeout(() => field.value?.$el.select(), 60)
}
async function keep() {
    if (!name.value.trim()) {
        return
    }
    if (
        await model.attempt({
            kind: 'finding',
            id: newId(),
            title: name.value.trim(),
            words: words.value,
            view: { playhead: view.playhead, ...(Object.keys(view.look).length ? { look: { ...view.look } } : {}), ...shown() },
            place: placeBehind(model.model.findings),
        })
    ) {
        popover.value?.hide()
        notices.say('Saved as a finding.', {
            words: 'Show it',
            run: () => {
                view.go({ place: 'try', stage: 'findings' })
            },
        })
    }
}
</script>

<template>
    <Button class="button save" aria-label="Save as finding" title="Save as finding" @click="open"
        ><Star :size="14" :stroke-width="1.6" /><span class="words">Save as finding</span></Button
    >
    <Popover ref="popover" :pt="{ root: { 'aria-label': 'Save as finding' } }">
        <form class="form" @submit.prevent="keep">
            <label>Title <InputText ref="field" v-model="name" class="field" maxlength="80" /></label>
            <label
                >What it shows <Textarea v-model="words" class="field" rows="4" placeholder="In your own words; Markdown is fine"
            /></label>
            <Button type="submit" class="button strong">Save the finding</Button>
        </form>
    </Popover>
</template>

<style scoped>
/* Where the tabs leave no room for words. */
@container (width < 800px) {
    .save .words {
        display: none;
    }
}
.form {
    display: grid;
    gap: 10px;
    width: 300px;
    padding: 4px;
}
label {
    display: grid;
    gap: 3px;
    font-size: 13px;
    color: var(--ink-soft);
}
.field {
    color: var(--ink);
}
.button:not(.strong) {
    flex: none;
    min-height: 30px;
    padding: 0 10px;
}
</style>
