<script setup lang="ts">
import { computed, ref } from 'vue'
import type { TimeSettings } from '@/api/types'
import { useModel } from '@/stores/model'
import { literal } from '@/ui/numbers'
import BoundaryArcs from './BoundaryArcs.vue'
import UnderlinedWord from './UnderlinedWord.vue'
import { useAsk } from './useAsk'

/** The question of a study, set like the opening of a report: what is underlined can be changed. */
const ask = useAsk()
const model = useModel()
const time = computed(() => model.model.time)
const names = computed(() => model.all.map((t) => t.name))
const more = ref('')

function text(field: 'text' | 'who' | 'decision', event: Event) {
    const words = (event.target as HTMLTextAreaElement).value.trim()
    if (words !== (ask.question[field] ?? '')) {
        void ask.ask({ [field]: words })
    }
}
function setTime(fields: Partial<TimeSettings>) {
    void model.setTime(fields)
}
function setNumber(field: 'start' | 'end', words: string) {
    const value = Number(words.replace(',', '.'))
    if (words && Number.isFinite(value)) {
        setTime({ [field]: value })
    }
}
function setUnit(words: string) {
    if (ask.followed) {
        void model.attempt({ kind: 'unit', id: ask.followed.id, text: words })
    }
}
const answers = computed(() => ask.question.answers ?? [])
function setAnswer(at: number, words: string) {
    const all = [...answers.value]
    all[at] = words
    void ask.ask({ answers: all.filter((a) => a.trim()) })
}
function addAnswer() {
    if (more.value.trim()) {
        void ask.ask({ answers: [...answers.value, more.value.trim()] })
        more.value = ''
    }
}
</script>

<template>
    <div class="ask">
        <div class="main">
            <label class="visually-hidden" for="the-question">The question</label>
            <Textarea
                id="the-question"
                class="question"
                :model-value="ask.question.text ?? ''"
                placeholder="What do you want to know? Begin with why, or with what if."
                rows="1"
                auto-resize
                maxlength="1000"
                @change="text('text', $event)"
                @keydown.enter.prevent="($event.target as HTMLElement).blur()"
            />
            <p class="sentence">
                We follow the
                <UnderlinedWord
                    :value="ask.followed?.name ?? ''"
                    label="What is followed"
                    placeholder="what it is about"
                    :names="names"
                    @change="ask.follow"
                /><template v-if="ask.followed">
                    in <UnderlinedWord :value="ask.followed.unit" label="Unit" placeholder="some unit" @change="setUnit" /></template
                >, from <UnderlinedWord :value="literal(time.start)" label="From" @change="setNumber('start', $event)" /> to
                <UnderlinedWord :value="literal(time.end)" label="To" @change="setNumber('end', $event)" />, {{ time.unit }} by
                <UnderlinedWord :value="time.unit" label="Unit of time" @change="setTime({ unit: $event })" />.
            </p>
        </div>
        <aside class="beside" aria-label="Who asks, and for what">
            <label class="label" for="who-asks">Who asks</label>
            <Textarea
                id="who-asks"
                class="plain"
                :model-value="ask.question.who ?? ''"
                placeholder="whose question it is, and who sits at the table"
                rows="2"
                auto-resize
                maxlength="1000"
                @change="text('who', $event)"
            />
            <label class="label" for="decision">What will be decided, and when</label>
            <Textarea
                id="decision"
                class="plain"
                :model-value="ask.question.decision ?? ''"
                placeholder="what hangs on the answer"
                rows="2"
                auto-resize
                maxlength="1000"
                @change="text('decision', $event)"
            />
        </aside>
        <BoundaryArcs class="boundary" />
        <section class="beside answers" aria-label="What would count as an answer">
            <h2>What would count as an answer</h2>
            <ol>
                <li v-for="(a, i) in answers" :key="i">
                    <Textarea
                        class="plain"
                        :model-value="a"
                        rows="1"
                        auto-resize
                        maxlength="1000"
                        :aria-label="`Answer ${i + 1}`"
                        @change="setAnswer(i, ($event.target as HTMLTextAreaElement).value)"
                    />
                </li>
                <li v-if="answers.length < 12">
                    <InputText
                        v-model="more"
                        class="plain"
                        :placeholder="answers.length ? 'and …' : 'It draws what was seen without having been told it …'"
                        aria-label="One more that would count as an answer"
                        maxlength="1000"
                        @keydown.enter="addAnswer"
                        @blur="addAnswer"
                    />
                </li>
            </ol>
        </section>
    </div>
</template>

<style scoped>
.ask {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 300px;
    grid-template-rows: auto 1fr;
    gap: 14px 56px;
    height: 100%;
    overflow-y: auto;
    padding: 34px 44px 24px 56px;
    background: var(--paper);
    container-type: inline-size;
}
.question,
.plain {
    display: block;
    width: 100%;
    padding: 2px 6px;
    margin-left: -6px;
    border: 1px solid transparent;
    border-radius: 8px;
    background: none;
    color: var(--ink);
    resize: none;
    font: inherit;
}
.question {
    font-size: 40px;
    font-weight: 700;
    line-height: 1.15;
    letter-spacing: -0.01em;
}
.question:hover,
.plain:hover {
    background: var(--hover);
}
.question:focus,
.plain:focus {
    background: var(--card);
    border-color: var(--line);
}
.question::placeholder,
.plain::placeholder {
    color: var(--ink-soft);
    font-weight: 400;
}
.sentence {
    margin: 12px 0 0;
    font-size: 19px;
    line-height: 1.7;
    color: var(--ink-soft);
}
.beside {
    display: grid;
    align-content: start;
    gap: 4px;
    font-size: 14.5px;
    line-height: 1.5;
}
.beside .label:not(:first-child) {
    margin-top: 12px;
}
.boundary,
.answers {
    border-top: 1px solid var(--hairline);
    padding-top: 16px;
}
h2 {
    font-size: 15px;
}
ol {
    margin: 6px 0 0;
    padding-left: 22px;
}
li::marker {
    color: var(--ink-soft);
}
@container (width < 940px) {
    .question {
        font-size: 31px;
    }
}
@media (width < 1080px) {
    .ask {
        grid-template-columns: minmax(0, 1fr);
        grid-template-rows: none;
        padding: 24px 26px;
    }
}
</style>
