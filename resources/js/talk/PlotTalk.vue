<script setup lang="ts">
import { MessageSquare } from '@lucide/vue'
import Popover from 'primevue/popover'
import { computed, ref } from 'vue'
import { useTalk } from '@/stores/talk'
import TalkPart from './TalkPart.vue'

/** What is said about a plot, beside its other tools. */
const { plot } = defineProps<{ plot: string }>()
const talk = useTalk()
const popover = ref<InstanceType<typeof Popover>>()
const open = computed(() => talk.about('plot', plot).filter((t) => t.first.settled === null).length)
</script>

<template>
    <Button
        class="icon-button talk"
        aria-haspopup="dialog"
        :aria-label="open ? `Comments on this plot, ${open} open` : 'Comments on this plot'"
        title="Comments on this plot"
        @click="popover?.toggle($event)"
        ><MessageSquare :size="16" :stroke-width="1.5" /><b v-if="open">{{ open }}</b></Button
    >
    <Popover ref="popover" :pt="{ root: { 'aria-label': 'Comments on this plot' } }"
        ><TalkPart class="part" about="plot" :subject="plot"
    /></Popover>
</template>

<style scoped>
.talk {
    display: inline-flex;
    width: auto;
    min-width: 30px;
    gap: 4px;
    align-items: center;
    justify-content: center;
}
.part {
    width: 320px;
}
</style>
