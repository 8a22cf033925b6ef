<script setup lang="ts">
import { GripVertical, RotateCcw } from '@lucide/vue'
import { computed, ref, shallowRef, watch } from 'vue'
import type { Shown, ShownPage, ShownStep, Wish } from '@/api/shown'
import { useArranging, widen, type Arranging } from './arranging'
import ReaderInput from './ReaderInput.vue'
import ReaderPlot from './ReaderPlot.vue'
import ReaderStanding from './ReaderStanding.vue'
import ReaderText from './ReaderText.vue'

/** One step of a page: its words, what can be moved, and what follows. */
const {
    page,
    step,
    at,
    ask,
    arranging = undefined,
} = defineProps<{
    page: ShownPage
    step: ShownStep
    /** Which of how many, where they are turned. */ at: string
    ask: (wish: Wish) => Promise<Shown>
    /** Of who writes the page. */ arranging?: Arranging
}>()
const results = shallowRef<Shown | null>(null)
const trouble = ref('')
/** What readers have moved; all else is as the author left it. */
const set = ref<Record<string, number>>({})
const inputs = computed(() => page.inputs.filter((i) => step.inputs.includes(i.id)))
const blocks = computed(() => page.blocks.filter((b) => b.step === '' || b.step === step.id))
const author = computed(() => results.value?.author ?? {})
const moved = computed(() => inputs.value.some((i) => (set.value[i.id] ?? author.value[i.id]) !== author.value[i.id]))
const grid = ref<HTMLElement>()
useArranging(grid, () => arranging)
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
        <div ref="grid" class="blocks">
            <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
            <template v-if="results">
                <div
                    v-for="(b, i) in blocks"
                    :key="`${b.id} ${b.width}`"
                    class="block"
                    :class="{ arranged: arranging }"
                    :data-block="b.id"
                    :style="{ '--width': b.width }"
                >
                    <template v-if="arranging">
                        <Button
                            class="grip"
                            data-grip
                            :aria-label="`Move block ${i + 1}`"
                            title="Drag it to another place"
                            @keydown.up.prevent="i && arranging.move(b.id, blocks[i - 1]?.id ?? null)"
                            @keydown.down.prevent="blocks[i + 1] && arranging.move(b.id, blocks[i + 2]?.id ?? null)"
                            ><GripVertical :size="16" :stroke-width="1.6"
                        /></Button>
                        <i class="edge" title="Drag it wider or narrower" @pointerdown="widen($event, b.id, arranging)" />
                    </template>
                    <ReaderText v-if="b.kind === 'text'" :words="b.words" :result="results.blocks[b.id]" large />
                    <ReaderStanding v-else-if="b.stands" :block="b" />
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
.block.arranged {
    position: relative;
}
.grip {
    position: absolute;
    left: -26px;
    top: 0;
    width: 24px;
    height: 28px;
    color: var(--ink-soft);
    cursor: grab;
    opacity: 0;
    touch-action: none;
}
.edge {
    position: absolute;
    right: -14px;
    top: 0;
    bottom: 0;
    width: 12px;
    border-right: 3px solid transparent;
    cursor: ew-resize;
    touch-action: none;
}
.arranged:hover > .grip,
.grip:focus-visible {
    opacity: 1;
}
.arranged:hover > .edge {
    border-color: var(--hairline);
}
.edge:hover {
    border-color: var(--line) !important;
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
