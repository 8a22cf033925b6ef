<script setup lang="ts">
import { computed, onMounted } from 'vue'
import SaidText from '@/ui/SaidText.vue'
import LoopSign from '../LoopSign.vue'
import { useMap } from '../useMap'

/** The loops that were found, one at a time, told to the room. */
const map = useMap()
const KINDS = { '+': 'reinforcing', '-': 'balancing', '?': 'of open sign' } as const
const MOST = 60
const shown = computed(() => map.loops.slice(0, MOST))
const at = computed(() => shown.value.findIndex((l) => l === map.loop))
function go(by: number) {
    const next = shown.value[Math.min(shown.value.length - 1, Math.max(0, at.value + by))]
    if (next) {
        void map.walk(next.path)
    }
}
function key(event: KeyboardEvent) {
    const by = { ArrowDown: 1, Enter: 1, ArrowUp: -1 }[event.key]
    if (by) {
        event.preventDefault()
        go(by)
    }
}
onMounted(() => {
    if (!map.walked && shown.value[0]) {
        void map.walk(shown.value[0].path)
    }
})
</script>

<template>
    <div class="loops-step" data-first tabindex="0" role="group" aria-label="Loops, one at a time" @keydown="key">
        <template v-if="map.loop">
            <div class="story">
                <h2>
                    <LoopSign :sign="map.loop.polarity" /> {{ map.loop.name }} ·
                    {{ map.calledOf(map.loop.path) || KINDS[map.loop.polarity] }}
                </h2>
                <ol>
                    <li v-for="(s, i) in map.story" :key="i"><SaidText :text="s" /></li>
                </ol>
            </div>
            <div class="list">
                <ul>
                    <li v-for="l in shown" :key="map.keyOf(l.path)">
                        <Button class="loop" :aria-pressed="l === map.loop" @click="map.walk(l.path)"
                            ><LoopSign :sign="l.polarity" /> {{ l.name }}</Button
                        >
                    </li>
                </ul>
                <p class="hint">
                    <kbd>↓</kbd> next <kbd>↑</kbd> back · {{ at + 1 }} of {{ map.read?.complete ? '' : 'more than ' }}{{ map.loops.length }}
                </p>
            </div>
        </template>
        <p v-else class="hint none">No loop yet. Ask of what was named last: on what does it act in turn?</p>
    </div>
</template>

<style scoped>
.loops-step {
    display: grid;
    grid-template-columns: 1.7fr 1fr;
    gap: 2em;
    height: 100%;
}
.loops-step:focus-visible {
    outline-offset: -4px;
    border-radius: 12px;
}
.story,
.list {
    overflow-y: auto;
    padding: 0.3em 0.6em;
}
h2 {
    display: flex;
    align-items: center;
    gap: 0.4em;
    font-size: 1.3em;
}
h2 :deep(svg) {
    width: 48px;
    height: 38px;
}
ol {
    display: grid;
    gap: 0.35em;
    padding-left: 0;
    list-style: none;
    font-size: 1.12em;
}
ul {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3em;
    margin: 0;
    padding: 0;
    list-style: none;
}
.loop {
    padding: 0.2em 0.6em;
    border-radius: 10px;
    border: 1.5px solid transparent;
}
.loop[aria-pressed='true'] {
    border-color: var(--ember);
    background: var(--card);
    font-weight: 700;
}
.none {
    grid-column: 1 / -1;
    align-self: center;
    text-align: center;
}
</style>
