<script setup lang="ts">
import { RotateCcw } from '@lucide/vue'
import { computed, ref, shallowRef, watch } from 'vue'
import type { Shown, ShownPage, ShownStep, Wish } from '@/api/shown'
import ReaderInput from './ReaderInput.vue'
import ReaderPlot from './ReaderPlot.vue'
import ReaderText from './ReaderText.vue'

/** One step of a page: its words, what can be moved, and what follows. */
const { page, step, at, ask } = defineProps<{
    page: ShownPage
    step: ShownStep
    /** Which of how many, where they are turned. */ at: string
    ask: (wish: Wish) => Promise<Shown>
}>()
const results = shallowRef<Shown | null>(null)
const trouble = ref('')
/** What readers have moved; all else is as the author left it. */
const set = ref<Record<string, number>>({})
const inputs = computed(() => page.inputs.filter((i) => step.inputs.includes(i.id)))
const blocks = computed(() => page.blocks.filter((b) => b.step === '' || b.step === step.id))
const author = computed(() => results.value?.author ?? {})
const moved = computed(() => inputs.value.some((i) => (set.value[i.id] ?? author.value[i.id]) !== author.value[i.id]))
const WORDS = { own: 'yours', author: 'the author’s' }

/** One question at a time: what is moved meanwhile is asked for when the answer is there. */
let busy = false
let again = false
async function follow() {
    if (busy) {
        again = true
        return
    }
    busy = true
    do {
        again = false
        try {
            const asked = step.id
            const answer = await ask({ step: asked, inputs: set.value })
            // One that was turned meanwhile is asked for next.
            results.value = asked === step.id ? answer : null
            trouble.value = ''
        } catch (error) {
            trouble.value = (error as Error).message
        }
    } while (again)
    busy = false
}
watch([() => step.id, () => page], () => {
    set.value = {}
    results.value = null
    void follow()
})
watch(set, follow, { deep: true })
void follow()

function move(id: string, value: number) {
    set.value = { ...set.value, [id]: value }
}
</script>

<template>
    <section
        class="step"
        :class="{ alone: !inputs.length && !step.words && !step.title }"
        :aria-label="step.title || page.title"
        :aria-busy="!results"
    >
        <div class="words">
            <p v-if="at" class="soft">{{ at }}</p>
            <h2 v-if="step.title">{{ step.title }}</h2>
            <ReaderText v-if="step.words" :words="step.words" />
        </div>
        <div v-if="inputs.length" class="inputs">
            <template v-if="results">
                <ReaderInput
                    v-for="i in inputs"
                    :key="i.id"
                    :input="i"
                    :author="author[i.id] ?? i.low"
                    :fixed="page.may === 'look'"
                    :model-value="set[i.id] ?? author[i.id] ?? i.low"
                    @update:model-value="move(i.id, $event)"
                />
                <Button v-if="moved" class="back" @click="set = {}"
                    ><RotateCcw :size="15" :stroke-width="1.6" /><span>Back to the author’s setting</span></Button
                >
            </template>
        </div>
        <div class="blocks">
            <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
            <template v-if="results">
                <div v-for="b in blocks" :key="b.id" class="block" :style="{ '--width': b.width }">
                    <ReaderText v-if="b.kind === 'text'" :words="b.words" :result="results.blocks[b.id]" large />
                    <ReaderPlot
                        v-else-if="results.blocks[b.id]"
                        :block="b"
                        :result="results.blocks[b.id]!"
                        :times="results.times"
                        :time="page.time"
                        :words="WORDS"
                    />
                </div>
            </template>
        </div>
    </section>
</template>

<style scoped>
.step {
    display: grid;
    grid-template: auto 1fr / minmax(260px, 330px) minmax(0, 1fr);
    grid-template-areas: 'words blocks' 'inputs blocks';
    gap: 18px 64px;
    align-items: start;
}
.words {
    grid-area: words;
}
.words h2 {
    margin: 2px 0 10px;
    font-size: 23px;
    line-height: 1.2;
}
.inputs {
    grid-area: inputs;
    min-height: 40px;
    border-top: 1.5px solid var(--ink);
}
.back {
    display: flex;
    align-items: center;
    gap: 8px;
    min-height: 32px;
    margin-top: 10px;
}
.back span {
    text-decoration: underline;
    text-underline-offset: 3px;
}
.blocks {
    grid-area: blocks;
    display: grid;
    grid-template-columns: repeat(12, minmax(0, 1fr));
    gap: 22px 28px;
    min-height: 300px;
}
.block {
    grid-column: span var(--width);
    min-width: 0;
}
.trouble {
    grid-column: 1 / -1;
    color: var(--brick);
}
/* Nothing to say and nothing to move: what there is to see has all the room. */
.step.alone {
    grid-template: auto / minmax(0, 1fr);
    grid-template-areas: 'blocks';
}
.alone .words {
    display: none;
}
@container (width < 760px) {
    .step:not(.alone) {
        grid-template: auto auto auto / minmax(0, 1fr);
        grid-template-areas: 'words' 'blocks' 'inputs';
    }
    .block {
        grid-column: 1 / -1;
    }
}
</style>
