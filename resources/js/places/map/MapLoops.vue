<script setup lang="ts">
import { ChevronLeft, ChevronRight, X } from '@lucide/vue'
import { computed, nextTick, ref, watch } from 'vue'
import { counted } from '@/ui/numbers'
import SaidText from '@/ui/SaidText.vue'
import LoopSign from './LoopSign.vue'
import { useMap } from './useMap'

/** The feedback loops of the map, and the one that is walked, told step by step. */
const map = useMap()
const KINDS = { '+': 'reinforcing', '-': 'balancing', '?': 'of open sign' } as const
const MOST = 14
const whole = ref(false)
const list = ref<HTMLElement>()

const turned = computed(() => {
    const path = map.walked?.path ?? []
    return path.filter((id, i) => map.between.get(`${id}>${path[(i + 1) % path.length]}`)?.sign === '-').length
})
const shown = computed(() => (whole.value ? map.loops : map.loops.slice(0, MOST)))
/** The sentences of the links; before them stands how it begins, behind them what it comes to. */
const begin = computed(() => map.story[0] ?? '')
const steps = computed(() => map.story.slice(1, -1))
const end = computed(() => map.story[map.story.length - 1] ?? '')
/** Other loops that pass one of its factors. */
const meets = computed(() => {
    const path = map.walked?.path ?? []
    return map.loops
        .filter((l) => l !== map.loop && l.path.some((id) => path.includes(id)))
        .slice(0, 6)
        .map((l) => ({ loop: l, at: l.path.find((id) => path.includes(id)) ?? '' }))
})
const open = computed(() => {
    const count = new Map<string, number>()
    for (const loop of map.loops.filter((l) => l.polarity === '?')) {
        loop.path.forEach((id, i) => {
            const link = map.between.get(`${id}>${loop.path[(i + 1) % loop.path.length]}`)
            if (link?.sign === '?') {
                count.set(link.id, (count.get(link.id) ?? 0) + 1)
            }
        })
    }
    return [...count].map(([id, number]) => ({ id, number })).sort((a, b) => b.number - a.number)
})
const pathOf = (path: string[]) => path.map(map.nameOf).join(' → ')
watch(
    () => map.walked?.step,
    () =>
        void nextTick(() => {
            list.value?.querySelector('.now')?.scrollIntoView({ block: 'nearest' })
        }),
)
</script>

<template>
    <section v-if="map.walked && map.loop" class="walked" aria-label="The loop that is walked">
        <header>
            <h2><LoopSign :sign="map.loop.polarity" /> {{ map.loop.name }}</h2>
            <span class="walk">
                <Button class="icon-button" aria-label="One step back" @click="map.stepTo(map.walked.step - 1)"
                    ><ChevronLeft :size="16" :stroke-width="1.6"
                /></Button>
                <span role="status"
                    ><b>{{ map.walked.step }}</b> of {{ map.walked.path.length }}</span
                >
                <Button class="icon-button" aria-label="One step on" @click="map.stepTo(map.walked.step + 1)"
                    ><ChevronRight :size="16" :stroke-width="1.6"
                /></Button>
                <Button class="icon-button" aria-label="Leave this loop" title="Leave this loop (Esc)" @click="map.walk(null)"
                    ><X :size="16" :stroke-width="1.6"
                /></Button>
            </span>
        </header>
        <InputText
            class="called"
            :model-value="map.calledOf(map.loop.path)"
            placeholder="give it a name"
            aria-label="What people call this loop"
            maxlength="120"
            @change="map.call(map.walked.path, ($event.target as HTMLInputElement).value.trim())"
            @keydown.enter="($event.target as HTMLElement).blur()"
        />
        <p class="soft">
            {{ KINDS[map.loop.polarity] }} · {{ counted(map.walked.path.length, 'link') }},
            {{ turned === 0 ? 'none turns over' : turned === 1 ? 'one turns over' : `${turned} turn over` }}
        </p>
        <p><SaidText :text="begin" /></p>
        <ol ref="list">
            <li v-for="(s, i) in steps" :key="i" :class="{ now: map.walked.step === i + 1 }">
                <Button class="step" :aria-current="map.walked.step === i + 1 ? 'step' : undefined" @click="map.stepTo(i + 1)"
                    ><span class="number">{{ i + 1 }}</span
                    ><SaidText :text="s"
                /></Button>
            </li>
        </ol>
        <p><SaidText :text="end" /></p>
        <p v-if="meets.length" class="soft">
            It meets
            <template v-for="(m, i) in meets" :key="m.loop.name"
                >{{ i ? ', ' : '' }}<Button class="words" @click="map.walk(m.loop.path)">{{ m.loop.name }}</Button> at
                <b>{{ map.nameOf(m.at) }}</b></template
            >.
        </p>
    </section>
    <section class="loops" aria-label="Feedback loops of the map">
        <header>
            <h3>{{ map.walked ? 'All loops' : 'Feedback loops' }}</h3>
            <span v-if="map.loops.length" class="soft">{{ map.read?.complete ? '' : 'more than ' }}{{ map.loops.length }}</span>
        </header>
        <p v-if="map.refusal" class="soft" role="alert">{{ map.refusal }}</p>
        <p v-else-if="!map.loops.length" class="soft">
            No loop yet. A loop is closed when a factor acts, by way of others, on itself: say what comes back.
        </p>
        <label v-if="map.loops.length > 3 || map.independent" class="few"
            ><Checkbox v-model="map.independent" binary /><span>Only those that make up all others</span></label
        >
        <ul v-if="map.loops.length">
            <li v-for="l in shown" :key="map.keyOf(l.path)">
                <Button
                    class="loop"
                    :class="{ on: map.loop === l }"
                    :title="pathOf(l.path)"
                    :aria-label="`Walk ${l.name}, ${KINDS[l.polarity]}${l.delayed ? ', late' : ''}: ${pathOf(l.path)}`"
                    @click="map.walk(map.loop === l ? null : l.path)"
                    ><LoopSign :sign="l.polarity" /><b>{{ l.name }}</b
                    ><span class="path">{{ map.calledOf(l.path) || pathOf(l.path) }}</span
                    ><span class="soft">{{ l.path.length }}</span></Button
                >
            </li>
        </ul>
        <Button v-if="map.loops.length > MOST && !whole" class="button" @click="whole = true"
            >{{ map.loops.length - MOST }} longer ones</Button
        >
        <p v-for="o in open" :key="o.id" class="soft">
            <LoopSign sign="?" /> {{ o.number }} left open by
            <Button class="words" @click="map.pick(o.id)"
                >{{ map.nameOf(map.linkOf.get(o.id)?.from ?? '') }} → {{ map.nameOf(map.linkOf.get(o.id)?.to ?? '') }}</Button
            >
        </p>
    </section>
</template>

<style scoped>
.few {
    display: flex;
    gap: 8px;
    font-size: 13.5px;
}
.called {
    width: 100%;
    padding: 2px 3px;
    border: 0;
    border-bottom: 1px dotted var(--line);
    background: none;
    font-size: 17px;
    font-weight: 700;
    color: var(--ink);
}
.called::placeholder {
    font-weight: 400;
    font-size: 14px;
    color: var(--ink-soft);
}
header {
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 8px;
}
h2 {
    display: flex;
    align-items: center;
    gap: 8px;
    font-size: 18px;
}
h3 {
    font-size: 15px;
}
.walk {
    display: flex;
    align-items: center;
    gap: 2px;
    white-space: nowrap;
}
.walk b {
    color: var(--ember);
}
ol,
ul {
    display: grid;
    gap: 2px;
    margin: 0 -6px;
    padding: 0;
    list-style: none;
}
.step {
    display: grid;
    grid-template-columns: 30px 1fr;
    width: 100%;
    padding: 6px;
    border-radius: 10px;
    text-align: left;
}
.step:hover,
.loop:hover {
    background: var(--hover);
}
.number {
    display: grid;
    place-items: center;
    width: 21px;
    height: 21px;
    border: 1.5px solid var(--ember);
    border-radius: 50%;
    font-size: 12px;
    font-weight: 700;
    color: var(--ember);
}
.now .step {
    background: var(--paper);
    box-shadow: -3px 0 0 var(--ember);
}
.now .number {
    background: var(--ember);
    color: var(--card);
}
.loop {
    display: grid;
    grid-template-columns: 22px 34px 1fr auto;
    gap: 6px;
    align-items: center;
    width: 100%;
    padding: 4px 6px;
    border-radius: 8px;
    text-align: left;
}
.loop.on {
    background: var(--paper);
}
.path {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
.words {
    text-decoration: underline;
    text-underline-offset: 3px;
    color: var(--ink);
}
</style>
