<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api } from '@/api/client'
import type { FeedbackLoop, FeedbackLoops } from '@/api/types'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import SaidText from '@/ui/SaidText.vue'

/** A long list is shown in parts. */
const MOST = 30
const SIGNS = 'Signs that formulas leave open are those of this run; one that changes stays open.'
const KINDS = { '+': 'reinforcing', '-': 'balancing', '?': 'open' } as const

const model = useModel()
const runs = useRuns()
const view = useView()
const independent = ref(false)
const answer = ref<FeedbackLoops | null>(null)
const refusal = ref('')
let answered = ''
const whole = ref(false)

const shown = computed(() => (whole.value ? answer.value?.loops : answer.value?.loops.slice(0, MOST)) ?? [])
const count = computed(() => answer.value?.loops.length ?? 0)
const summary = computed(() => {
    if (!answer.value) {
        return ''
    }
    if (!answer.value.complete) {
        return `There are more than ${count.value}; these are the shorter ones. ${SIGNS}`
    }
    return count.value ? SIGNS : 'Nothing acts back on itself: there is no loop.'
})
const nameOf = (id: string) => model.model.elements[id]?.name ?? id
const keyOf = (loop: FeedbackLoop) => loop.path.join(' ')
const wayOf = (loop: FeedbackLoop) => [...loop.path, loop.path[0] ?? ''].map(nameOf).join(' → ')

/** What the answer depends on. */
const question = computed(() => `${model.id} ${model.revision} ${independent.value} ${JSON.stringify(runs.setting)}`)

// Only who reads them waits for them; they follow the model and the run while they are open.
watch(
    [() => view.loops.open, question, () => runs.shown],
    async () => {
        const asked = question.value
        if (!view.loops.open || asked === answered) {
            return
        }
        try {
            const loops = await api.loops(model.id, runs.ref, independent.value)
            if (asked === question.value) {
                answer.value = loops
                refusal.value = ''
                answered = asked
            }
        } catch (e) {
            if (asked === question.value) {
                answer.value = null
                refusal.value = e instanceof Error ? e.message : 'The loops could not be found.'
            }
        }
    },
    { immediate: true },
)

function show(loop: FeedbackLoop) {
    const [first] = loop.path
    if (first) {
        view.go({ place: 'model', stage: 'sheet', sheet: model.sheetOf(first), selection: loop.path })
        view.asked = 'fit-selection'
    }
}
</script>

<template>
    <div class="loops">
        <Button class="label toggle" :aria-expanded="view.loops.open" @click="view.loops.open = !view.loops.open"
            >{{ view.loops.open ? '▾' : '▸' }} Feedback loops</Button
        >
        <template v-if="view.loops.open">
            <p v-if="refusal" class="soft" role="alert">{{ refusal }}</p>
            <p v-else-if="summary" class="soft" role="status">{{ summary }}</p>
            <label v-if="count > 1 || independent" class="few"
                ><Checkbox v-model="independent" binary /><span>Only those that make up all others</span></label
            >
            <ul v-if="count" aria-label="Feedback loops">
                <li v-for="loop in shown" :key="keyOf(loop)">
                    <Button
                        class="loop"
                        :aria-expanded="view.loops.told === keyOf(loop)"
                        @click="view.loops.told = view.loops.told === keyOf(loop) ? '' : keyOf(loop)"
                    >
                        <b>{{ loop.name }}</b><span
                            ><span class="soft">{{ KINDS[loop.polarity] }}{{ loop.delayed ? ', late' : '' }}</span
                            ><br />{{ wayOf(loop) }}</span
                        >
                    </Button>
                    <div v-if="view.loops.told === keyOf(loop)" class="story">
                        <ol>
                            <li v-for="(sentence, i) in loop.story" :key="i"><SaidText :text="sentence" /></li>
                        </ol>
                        <Button class="button" @click="show(loop)">Select it on the sheet</Button>
                    </div>
                </li>
            </ul>
            <Button v-if="count > MOST && !whole" class="button" @click="whole = true">{{ count - MOST }} more</Button>
        </template>
    </div>
</template>

<style scoped>
.loops > p {
    margin: 6px 0 0;
}
.few {
    display: flex;
    gap: 8px;
    align-items: flex-start;
    margin: 8px 0 4px;
    font-size: 13px;
}
ul {
    margin: 4px 0 0;
    padding: 0;
    list-style: none;
}
.loop {
    display: grid;
    grid-template-columns: 34px 1fr;
    gap: 6px;
    align-items: baseline;
    width: 100%;
    padding: 5px 6px;
    border-radius: 8px;
    text-align: left;
    overflow-wrap: anywhere;
}
.loop:hover {
    background: var(--hover);
}
.story {
    margin: 2px 0 10px 46px;
}
ol {
    display: grid;
    gap: 4px;
    margin: 0 0 8px;
    padding: 0;
    list-style: none;
}
</style>
