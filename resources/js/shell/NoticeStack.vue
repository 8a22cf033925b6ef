<script setup lang="ts">
import { X } from '@lucide/vue'
import Toast from 'primevue/toast'
import ToastEventBus from 'primevue/toasteventbus'
import { watch } from 'vue'
import { useNotices, type Notice } from '@/stores/notices'
import SaidText from '@/ui/SaidText.vue'

const notices = useNotices()

/** What PrimeVue shows of a notice; the store knows how long. */
const shown = new Map<number, { id: number; notice: Notice }>()
watch(
    () => notices.all,
    (all) => {
        for (const [id, message] of shown) {
            if (!all.some((n) => n.id === id)) {
                ToastEventBus.emit('remove', message)
                shown.delete(id)
            }
        }
        for (const notice of all) {
            if (!shown.has(notice.id)) {
                const message = { id: notice.id, notice }
                shown.set(notice.id, message)
                ToastEventBus.emit('add', message)
            }
        }
    },
    { flush: 'post', immediate: true },
)
</script>

<template>
    <Toast
        unstyled
        :pt="{
            root: { class: 'notices', role: 'status', 'aria-live': 'polite' },
            message: { role: null, 'aria-live': null },
        }"
    >
        <template #container="{ message }">
            <div class="notice" :class="message.notice.tone">
                <SaidText class="words" :text="message.notice.words" />
                <Button
                    v-if="message.notice.action"
                    class="act"
                    @click="
                        () => {
                            message.notice.action.run()
                            notices.dismiss(message.notice.id)
                        }
                    "
                    >{{ message.notice.action.words }}</Button
                >
                <Button class="icon-button" aria-label="Dismiss" @click="notices.dismiss(message.notice.id)"
                    ><X :size="16" :stroke-width="1.5"
                /></Button>
            </div>
        </template>
    </Toast>
</template>

<style>
.notices {
    position: fixed !important;
    /* At the foot, over the ruler's empty left end: nothing that is worked with lies there. */
    inset: auto auto 12px 68px !important;
    z-index: 50;
    pointer-events: none;
}
.notice {
    display: flex;
    align-items: center;
    gap: 10px;
    width: fit-content;
    max-width: min(620px, 90vw);
    margin-top: 8px;
    padding: 6px 8px 6px 16px;
    border-radius: 12px;
    background: var(--ink);
    color: var(--paper);
    box-shadow: var(--shadow);
    pointer-events: auto;
}
.notice.trouble {
    background: var(--card);
    color: var(--ink);
    border: 1px solid var(--brick);
    border-left-width: 5px;
}
.notice .words {
    overflow-wrap: anywhere;
}
.notice .act {
    font-weight: 700;
    text-decoration: underline;
    text-underline-offset: 3px;
    padding: 4px 6px;
}
.notice .icon-button {
    color: inherit;
}
.notice .icon-button:hover {
    background: transparent;
    color: inherit;
    opacity: 0.7;
}
</style>
