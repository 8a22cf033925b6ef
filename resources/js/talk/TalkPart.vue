<script setup lang="ts">
import { computed, ref } from 'vue'
import type { About } from '@/api/people'
import { useModel } from '@/stores/model'
import { useTalk } from '@/stores/talk'
import { useView } from '@/stores/view'
import SayField from './SayField.vue'
import TalkThread from './TalkThread.vue'

/** What is said about one thing, on its card. */
const { about, subject } = defineProps<{ about: About; subject: string }>()
const talk = useTalk()
const model = useModel()
const view = useView()
const all = computed(() => talk.about(about, subject))
const open = computed(() => all.value.filter((t) => t.first.settled === null))
const settled = computed(() => all.value.length - open.value.length)
const withSettled = ref(false)
</script>

<template>
    <section v-if="model.mayComment || all.length" class="talk" aria-label="Comments">
        <h3 class="label">Comments</h3>
        <div v-for="t in withSettled ? all : open" :key="t.first.id" class="one">
            <Button v-if="t.first.about === 'moment' && t.first.time !== null" class="moment" @click="view.playhead = t.first.time ?? 0"
                >at {{ model.moment(t.first.time) }}</Button
            >
            <TalkThread :thread="t" />
        </div>
        <Button v-if="settled" class="more" @click="withSettled = !withSettled">{{
            withSettled ? 'Without those that are settled' : `${settled} settled`
        }}</Button>
        <SayField :about="about" :subject="subject" label="Say something about it" />
    </section>
</template>

<style scoped>
.talk {
    display: grid;
    gap: 10px;
}
.one {
    display: grid;
    gap: 6px;
    padding-bottom: 8px;
    border-bottom: 1px solid var(--hairline);
}
.moment,
.more {
    justify-self: start;
    color: var(--ink-soft);
    font-size: 13px;
    text-decoration: underline;
    text-underline-offset: 3px;
}
</style>
