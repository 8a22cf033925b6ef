<script setup lang="ts">
import { computed, ref } from 'vue'
import { useMap } from '../useMap'
import TallyMarks from './TallyMarks.vue'
import { useRoom } from './useRoom'

/** Pairs that people believe connected, and how many of them believe it: the top ones start the map. */
const room = useRoom()
const map = useMap()
const draft = ref('')
const said = ref('')
const chosen = ref('')
const index = computed(() => room.pairs.findIndex((p) => p.id === chosen.value))
async function add() {
    const text = draft.value.trim()
    if (text) {
        draft.value = ''
        said.value = await room.pair(text)
        // What is typed meanwhile stays.
        draft.value ||= said.value ? text : ''
    }
}
function move(by: number) {
    const next = room.pairs[Math.min(room.pairs.length - 1, Math.max(0, index.value + by))]
    chosen.value = next?.id ?? ''
}
function link(id: string) {
    const pair = room.pairs.find((p) => p.id === id)
    if (pair) {
        room.begun = map.nameOf(pair.one)
        room.step = 'links'
    }
}
function key(event: KeyboardEvent) {
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
        move(event.key === 'ArrowDown' ? 1 : -1)
    } else if (!draft.value && chosen.value && (event.key === '+' || event.key === '-')) {
        void room.vote(chosen.value, event.key === '+' ? 1 : -1)
    } else if (!draft.value && chosen.value && event.key === 'Enter') {
        link(chosen.value)
    } else if (!draft.value && chosen.value && event.key === 'Delete') {
        void room.drop('pairs', chosen.value)
    } else if (event.key === 'Enter') {
        void add()
    } else {
        return
    }
    event.preventDefault()
}
</script>

<template>
    <div class="pairs-step">
        <div>
            <InputText
                v-model="draft"
                class="typing"
                data-first
                aria-label="Two that are connected"
                placeholder="Which two are connected? waves, silt"
                maxlength="240"
                autocomplete="off"
                @keydown="key"
            />
            <p class="hint" role="status">
                {{ said
                }}<template v-if="!said"
                    ><kbd>Enter</kbd> a vote · <b>waves, silt 9</b> nine · <kbd>↑</kbd> <kbd>↓</kbd> choose, then <kbd>+</kbd>
                    <kbd>−</kbd> vote, <kbd>Enter</kbd> make it a link</template
                >
            </p>
        </div>
        <ol aria-label="Pairs by votes">
            <li v-for="p in room.pairs" :key="p.id" :class="{ chosen: p.id === chosen, linked: p.linked }">
                <Button class="pair" :aria-pressed="p.id === chosen" @click="chosen = p.id"
                    >{{ map.nameOf(p.one) }}, {{ map.nameOf(p.other) }}</Button
                >
                <TallyMarks :count="p.votes" />
                <b>{{ p.votes }}</b>
                <span class="state">{{ p.linked ? 'linked' : '' }}</span>
            </li>
        </ol>
    </div>
</template>

<style scoped>
.pairs-step {
    display: grid;
    gap: 1em;
    grid-template-rows: auto 1fr;
    height: 100%;
}
ol {
    margin: 0;
    padding: 0;
    overflow-y: auto;
    list-style: none;
}
li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) 2em 4em;
    align-items: center;
    padding: 0.2em 0.6em;
    border-radius: 12px;
}
li.chosen {
    background: var(--card);
    box-shadow: -5px 0 0 var(--ember);
}
li.linked {
    color: var(--ink-soft);
}
.pair {
    text-align: left;
}
b {
    text-align: right;
}
.state {
    padding-left: 0.8em;
    font-size: 24px;
    color: var(--ink-soft);
}
</style>
