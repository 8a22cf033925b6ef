<script setup lang="ts">
import { computed, ref } from 'vue'
import type { About } from '@/api/people'
import { useModel } from '@/stores/model'
import { useTalk } from '@/stores/talk'
import { useView } from '@/stores/view'

/** Where something is said about something. About a thing, also about what it does at the moment that is shown. */
const { about, subject = '' } = defineProps<{ about: About; subject?: string; label: string }>()
const talk = useTalk()
const model = useModel()
const view = useView()
const text = ref('')
const atMoment = ref(false)
/** The moment stays the one that was meant when the writing began. */
const meant = ref<number | null>(null)
const moment = computed(() => model.moment(meant.value ?? view.playhead))

function begin() {
    meant.value ??= view.playhead
}
async function say() {
    if (!text.value.trim()) {
        return
    }
    const kind = about === 'thing' && atMoment.value ? 'moment' : about
    if (await talk.say(kind, subject, text.value, kind === 'moment' ? meant.value : null)) {
        text.value = ''
        atMoment.value = false
        meant.value = null
    }
}
</script>

<template>
    <form v-if="model.mayComment" class="say" @submit.prevent="say">
        <Textarea
            v-model="text"
            class="field"
            rows="1"
            auto-resize
            maxlength="4000"
            :aria-label="label"
            :placeholder="label"
            @input="begin"
            @keydown.ctrl.enter="say"
        />
        <p v-if="text.trim()" class="acts">
            <Button type="submit" class="button">Say it</Button>
            <label v-if="about === 'thing'"><Checkbox v-model="atMoment" binary /> of {{ moment }}</label>
        </p>
    </form>
</template>

<style scoped>
.say {
    display: grid;
    gap: 8px;
}
.field {
    width: 100%;
    padding: 6px 9px;
    border: 1px solid var(--line);
    border-radius: 8px;
    background: var(--paper);
    resize: none;
}
.acts {
    display: flex;
    align-items: center;
    gap: 14px;
}
</style>
