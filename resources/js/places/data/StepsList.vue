<script setup lang="ts">
import { Check, ChevronDown, ChevronUp, Plus, X } from '@lucide/vue'
import Menu from 'primevue/menu'
import { computed, ref } from 'vue'
import SaidText from '@/ui/SaidText.vue'
import { counted } from '@/ui/numbers'
import StepEditor from './StepEditor.vue'
import { STEP_KINDS, titleOf, type CleaningStep } from './steps'
import { useData } from './useData'

/** The way from the file to the series that are kept: each line is a step, and shows the table after it. */
const data = useData()
const adder = ref<{ toggle: (event: Event) => void }>()
const name = (id: string) => data.sources.find((s) => s.id === id)?.name ?? '?'
const GROUPS = ['Other levels', 'Numbers', 'Gaps', 'What there is'] as const
const additions = computed(() =>
    GROUPS.map((group) => ({
        label: group,
        items: STEP_KINDS.filter((k) => k.group === group).map((k) => ({
            label: k.words,
            command: () => data.addStep({ do: k.do, ...k.start } as CleaningStep),
        })),
    })),
)
const lines = computed(() =>
    data.steps.map((step, i) => ({
        step,
        i,
        title: titleOf(step, name),
        said: data.table?.steps[i]?.refusal ?? data.table?.steps[i]?.said ?? '',
        bad: Boolean(data.table?.steps[i]?.refusal),
    })),
)
</script>

<template>
    <section class="steps" aria-label="From file to series">
        <h3>From file to series</h3>
        <ol>
            <li :class="{ shown: data.shown === -1 }">
                <span class="dot" aria-hidden="true" />
                <Button class="line" :aria-pressed="data.shown === -1" @click="data.shown = -1">
                    <b>As it came</b>
                    <span class="soft">{{ counted(data.table?.came.series.length ?? 0, 'series', 'series') }} read</span>
                </Button>
            </li>
            <li v-for="l in lines" :key="l.i" :class="{ shown: data.shown === l.i, off: l.step.off, bad: l.bad }">
                <Button
                    class="dot"
                    role="switch"
                    :aria-checked="!l.step.off"
                    :aria-label="`Step ${l.i + 1}: ${l.title}`"
                    :title="l.step.off ? 'Take this step again' : 'Pass this step over'"
                    @click="data.setStep(l.i, { off: !l.step.off })"
                    ><Check v-if="!l.step.off" :size="11" :stroke-width="2.2"
                /></Button>
                <Button class="line" :aria-pressed="data.shown === l.i" @click="data.shown = l.i">
                    <b>{{ l.title }}</b>
                    <span class="soft said"><SaidText :text="l.said" /></span>
                </Button>
                <div v-if="data.shown === l.i" class="open">
                    <StepEditor :step="l.step" :index="l.i" />
                    <div class="moves">
                        <Button
                            class="icon-button"
                            :disabled="l.i === 0"
                            aria-label="Take it earlier"
                            title="Take it earlier"
                            @click="data.moveStep(l.i, -1)"
                            ><ChevronUp :size="15" :stroke-width="1.6"
                        /></Button>
                        <Button
                            class="icon-button"
                            :disabled="l.i === lines.length - 1"
                            aria-label="Take it later"
                            title="Take it later"
                            @click="data.moveStep(l.i, 1)"
                            ><ChevronDown :size="15" :stroke-width="1.6"
                        /></Button>
                        <Button class="icon-button" aria-label="Remove this step" title="Remove this step" @click="data.removeStep(l.i)"
                            ><X :size="15" :stroke-width="1.6"
                        /></Button>
                    </div>
                </div>
            </li>
        </ol>
        <Button class="add" aria-haspopup="menu" @click="adder?.toggle($event)"><Plus :size="14" :stroke-width="1.6" /> Add a step</Button>
        <Menu ref="adder" :model="additions" popup class="step-menu" />
    </section>
</template>

<style scoped>
.steps {
    border-top: 1px solid var(--hairline);
    padding: 8px 8px 8px 16px;
}
h3 {
    font-size: 14px;
}
.add {
    display: flex;
    align-items: center;
    gap: 10px;
    padding: 4px 1px;
    color: var(--ink-soft);
}
.add:hover {
    color: var(--ink);
}
ol {
    margin: 4px 0 0;
    padding: 0;
    list-style: none;
}
li {
    position: relative;
    display: grid;
    grid-template-columns: 18px minmax(0, 1fr);
    gap: 0 9px;
    padding: 5px 0;
}
/* The thread that runs through the steps. */
li:not(:last-child)::before {
    content: '';
    position: absolute;
    top: 22px;
    bottom: -8px;
    left: 7.5px;
    border-left: 1px solid var(--line);
}
.dot {
    display: grid;
    place-items: center;
    width: 16px;
    height: 16px;
    margin-top: 2px;
    border: 1.4px solid var(--ink);
    border-radius: 50%;
    background: var(--card);
}
span.dot {
    border-style: dotted;
}
.line {
    display: grid;
    text-align: left;
    line-height: 1.3;
    padding: 0 4px 2px;
    border-radius: 6px;
}
.line b {
    font-weight: 400;
    overflow: hidden;
    text-overflow: ellipsis;
}
.shown .line b {
    font-weight: 700;
}
.shown > .line {
    box-shadow: inset 2px 0 0 var(--ember);
    padding-left: 8px;
}
.said {
    font-size: 13px;
}
.off .line b {
    color: var(--ink-soft);
    text-decoration: line-through;
}
.bad .said {
    color: var(--brick);
}
.bad .dot {
    border-color: var(--brick);
}
.open {
    grid-column: 2;
    padding: 4px 0 6px;
}
.moves {
    display: flex;
    justify-content: flex-end;
}
</style>
