<script setup lang="ts">
import { computed, ref } from 'vue'
import { useModel } from '@/stores/model'
import { useTalk, type Thread } from '@/stores/talk'
import { useView } from '@/stores/view'
import SayField from '@/talk/SayField.vue'
import TalkThread from '@/talk/TalkThread.vue'
import OneOf from '@/ui/OneOf.vue'
import { subjectOf } from './subject'
import TellTabs from './TellTabs.vue'

/** All that is said about the study, with what each is about. */
const talk = useTalk()
const model = useModel()
const view = useView()
const which = ref<'open' | 'settled' | 'all'>('open')
const WHICH = [
    { value: 'open', words: 'Open' },
    { value: 'settled', words: 'Settled' },
    { value: 'all', words: 'All' },
] as const
/** The one in which something was said last comes first. */
const last = (t: Thread) => (t.answers.at(-1) ?? t.first).at
const shown = computed(() =>
    talk.threads
        .filter((t) => which.value === 'all' || (t.first.settled !== null) === (which.value === 'settled'))
        .sort((a, b) => last(b).localeCompare(last(a))),
)

function show(t: Thread) {
    const { about, subject, time } = t.first
    if (about === 'plot') {
        view.go({ place: 'try', stage: 'plot' })
        view.plot = subject
    } else if (about === 'link') {
        const [, to] = subject.split('>')
        view.goTo(to ?? '')
        view.selection = []
        view.link = subject
    } else {
        view.goTo(subject)
    }
    if (time !== null) {
        view.playhead = time
    }
}
</script>

<template>
    <div class="leaf">
        <TellTabs />
        <div class="scroll">
            <div class="sheet">
                <div class="line">
                    <h2>What people say about it</h2>
                    <OneOf v-if="talk.threads.length" v-model="which" :choices="WHICH" label="Which comments" />
                </div>
                <SayField class="say" about="study" label="Say something about the study as a whole" />
                <p v-if="!talk.threads.length && talk.loaded" class="none soft">
                    Nothing yet. What is said about a thing or a link is said on its card, about a plot beside it; it all comes together
                    here.
                </p>
                <p v-else-if="!shown.length && talk.loaded" class="none soft">
                    {{ which === 'open' ? 'All of it is settled.' : 'None of it is settled.' }}
                </p>
                <section v-for="t in shown" :key="t.first.id" class="one">
                    <p class="about">
                        <Button v-if="subjectOf(model.model, t.first, model.moment)?.there" class="to" @click="show(t)">{{
                            subjectOf(model.model, t.first, model.moment)?.words
                        }}</Button>
                        <span v-else class="soft">{{
                            subjectOf(model.model, t.first, model.moment)?.words ?? 'The study as a whole'
                        }}</span>
                    </p>
                    <TalkThread :thread="t" />
                </section>
            </div>
        </div>
    </div>
</template>

<style scoped>
.leaf {
    background: var(--paper);
}
.scroll {
    overflow: auto;
}
.sheet {
    max-width: 720px;
    margin: 0 auto;
    padding: 32px 32px 60px;
}
.line {
    display: flex;
    align-items: center;
    justify-content: space-between;
    gap: 20px;
    margin-bottom: 14px;
}
.leaf h2 {
    font-size: 24px;
}
.say {
    margin-bottom: 24px;
}
.one {
    padding: 16px 0 18px;
    border-top: 1px solid var(--hairline);
}
.about {
    margin-bottom: 8px;
}
.to {
    font-weight: 700;
    text-decoration: underline;
    text-underline-offset: 3px;
}
.none {
    padding: 40px 20px;
    border: 1px dashed var(--line);
    border-radius: 14px;
    text-align: center;
}
@media (width < 900px) {
    .sheet {
        padding: 20px 16px;
    }
}
</style>
