<script setup lang="ts">
import { ref } from 'vue'
import { useRoom } from './useRoom'

/** What is put aside, so that it is not lost and does not hold the room up. */
const room = useRoom()
const draft = ref('')
function add() {
    const text = draft.value.trim()
    if (text) {
        draft.value = ''
        void room.park(text)
    }
}
</script>

<template>
    <div class="later-step">
        <InputText
            v-model="draft"
            class="typing"
            data-first
            aria-label="For later"
            placeholder="What do we come back to?"
            maxlength="400"
            autocomplete="off"
            @keydown.enter="add"
        />
        <ul>
            <li v-for="p in room.parked" :key="p.id" :class="{ done: p.done }">
                <label
                    ><Checkbox :model-value="p.done === true" binary @update:model-value="room.settle(p.id, Boolean($event))" /><span>{{
                        p.text
                    }}</span></label
                >
            </li>
        </ul>
        <p v-if="!room.parked.length" class="hint">Nothing waits.</p>
    </div>
</template>

<style scoped>
ul {
    margin: 0.8em 0 0;
    padding: 0;
    list-style: none;
}
label {
    display: flex;
    gap: 0.6em;
    align-items: center;
    padding: 0.2em 0;
}
.done span {
    color: var(--ink-soft);
    text-decoration: line-through;
}
</style>
