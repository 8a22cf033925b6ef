<script setup lang="ts">
import { nextTick, ref } from 'vue'
import type { Comment } from '@/api/people'
import { sinceWords } from '@/people/when'
import { useModel } from '@/stores/model'
import { useTalk, type Thread } from '@/stores/talk'
import type { Field } from '@/ui/controls'
import SaidBy from './SaidBy.vue'

/** What somebody said, what was answered, and whether it is settled. */
const { thread } = defineProps<{ thread: Thread }>()
const talk = useTalk()
const model = useModel()
const answering = ref(false)
const text = ref('')
const field = ref<Field>()
/** The comment whose words are being changed. */
const changing = ref('')
const words = ref('')

async function begin() {
    answering.value = true
    await nextTick()
    field.value?.$el.focus()
}
async function answer() {
    if (text.value.trim() && (await talk.answer(thread.first, text.value))) {
        text.value = ''
        answering.value = false
    }
}
function change(one: Comment) {
    changing.value = one.id
    words.value = one.text
}
async function keep(one: Comment) {
    if (words.value.trim() && (await talk.reword(one, words.value))) {
        changing.value = ''
    }
}
</script>

<template>
    <article class="thread" :class="{ settled: thread.first.settled }">
        <div v-for="one in [thread.first, ...thread.answers]" :key="one.id" class="said" :class="{ answer: one.answers }">
            <SaidBy :who="one.who" />
            <div>
                <p class="by">
                    <strong>{{ one.you ? 'You' : one.who }}</strong> <time class="soft" :datetime="one.at">{{ sinceWords(one.at) }}</time>
                </p>
                <template v-if="changing === one.id">
                    <Textarea v-model="words" class="field" rows="2" auto-resize maxlength="4000" aria-label="Other words" />
                    <p class="acts">
                        <Button class="act" @click="keep(one)">Keep these words</Button>
                        <Button class="act" @click="changing = ''">Leave them as they were</Button>
                    </p>
                </template>
                <template v-else>
                    <p class="text">{{ one.text || 'Taken away.' }}</p>
                    <p v-if="one.text && model.mayComment" class="acts">
                        <Button v-if="one.you" class="act" @click="change(one)">Change</Button>
                        <Button v-if="one.you || model.may === 'own'" class="act" @click="talk.drop(one)">Take away</Button>
                    </p>
                </template>
            </div>
        </div>
        <p v-if="thread.first.settled" class="soft end">
            Settled by {{ thread.first.settled.who }}, {{ sinceWords(thread.first.settled.at) }}.
            <Button v-if="model.mayComment" class="act" @click="talk.settle(thread.first, false)">Open it again</Button>
        </p>
        <form v-else-if="answering" class="answering" @submit.prevent="answer">
            <Textarea
                ref="field"
                v-model="text"
                class="field"
                rows="2"
                auto-resize
                maxlength="4000"
                aria-label="Your answer"
                @keydown.ctrl.enter="answer"
                @keydown.escape="answering = false"
            />
            <p class="acts">
                <Button type="submit" class="button" :disabled="!text.trim()">Answer</Button>
                <Button type="button" class="act" @click="answering = false">Not now</Button>
            </p>
        </form>
        <p v-else-if="model.mayComment" class="acts end">
            <Button class="act" @click="begin">Answer</Button>
            <Button class="act" @click="talk.settle(thread.first, true)">It is settled</Button>
        </p>
    </article>
</template>

<style scoped>
.thread {
    display: grid;
    gap: 10px;
}
.settled .text,
.settled .by strong {
    color: var(--ink-soft);
}
.said {
    display: grid;
    grid-template-columns: 26px minmax(0, 1fr);
    gap: 8px;
}
.answer {
    margin-left: 18px;
}
.text {
    white-space: pre-wrap;
    overflow-wrap: anywhere;
}
.acts {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 4px 14px;
    margin-top: 2px;
}
.act {
    color: var(--ink-soft);
    text-decoration: underline;
    text-underline-offset: 3px;
    font-size: 13px;
    min-height: 24px;
}
.act:hover {
    color: var(--ink);
}
.end,
.answering {
    margin-left: 34px;
}
.field {
    width: 100%;
    padding: 6px 9px;
    border: 1px solid var(--line);
    border-radius: 8px;
    background: var(--paper);
    resize: none;
}
</style>
