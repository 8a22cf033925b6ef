<script setup lang="ts">
import { X } from '@lucide/vue'
import { useNotices } from '@/stores/notices'
import SaidText from '@/ui/SaidText.vue'

const notices = useNotices()
</script>

<template>
    <div class="notices" role="status" aria-live="polite">
        <div v-for="notice in notices.all" :key="notice.id" class="notice" :class="notice.tone">
            <SaidText class="words" :text="notice.words" />
            <Button
                v-if="notice.action"
                class="act"
                @click="
                    () => {
                        notice.action?.run()
                        notices.dismiss(notice.id)
                    }
                "
                >{{ notice.action.words }}</Button
            >
            <Button class="icon-button" aria-label="Dismiss" @click="notices.dismiss(notice.id)"
                ><X :size="16" :stroke-width="1.5"
            /></Button>
        </div>
    </div>
</template>

<style scoped>
.notices {
    position: fixed;
    /* At the foot, over the ruler's empty left end: nothing that is worked with lies there. */
    left: 68px;
    bottom: 12px;
    display: flex;
    flex-direction: column;
    gap: 8px;
    align-items: flex-start;
    z-index: 50;
    pointer-events: none;
}
.notice {
    display: flex;
    align-items: center;
    gap: 10px;
    max-width: min(620px, 90vw);
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
.words {
    overflow-wrap: anywhere;
}
.act {
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
