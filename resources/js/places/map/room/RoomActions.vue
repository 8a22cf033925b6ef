<script setup lang="ts">
import { computed, ref } from 'vue'
import { SIZES, useRoom } from './useRoom'

/** What could be done, pinned to a factor or a link: much effect for little effort comes first. */
const room = useRoom()
const draft = ref('')
const chosen = ref('')
const index = computed(() => room.ideas.findIndex((i) => i.id === chosen.value))
function add() {
    const text = draft.value.trim()
    if (text) {
        draft.value = ''
        void room.propose(text)
    }
}
function key(event: KeyboardEvent) {
    const at = ['1', '2', '3'].indexOf(event.key)
    const effort = ['4', '5', '6'].indexOf(event.key)
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
        const next = Math.min(room.ideas.length - 1, Math.max(0, index.value + (event.key === 'ArrowDown' ? 1 : -1)))
        chosen.value = room.ideas[next]?.id ?? ''
    } else if (!draft.value && chosen.value && at >= 0) {
        void room.weigh(chosen.value, { effect: SIZES[at] ?? 'middle' })
    } else if (!draft.value && chosen.value && effort >= 0) {
        void room.weigh(chosen.value, { effort: SIZES[effort] ?? 'middle' })
    } else if (!draft.value && chosen.value && event.key === 'Delete') {
        void room.drop('actions', chosen.value)
    } else if (event.key === 'Enter') {
        add()
    } else {
        return
    }
    event.preventDefault()
}
const turn = (size: (typeof SIZES)[number]) => SIZES[(SIZES.indexOf(size) + 1) % SIZES.length] ?? 'middle'
</script>

<template>
    <div class="actions-step">
        <div>
            <InputText
                v-model="draft"
                class="typing"
                data-first
                aria-label="An action idea"
                placeholder="What could be done? fences @ bare slopes"
                maxlength="400"
                autocomplete="off"
                @keydown="key"
            />
            <p class="hint">
                <kbd>Enter</kbd> one more · <b>@</b> at a factor, <b>@ a &gt; b</b> at a link · <kbd>↑</kbd> <kbd>↓</kbd> choose, then
                <kbd>1</kbd>–<kbd>3</kbd> effect, <kbd>4</kbd>–<kbd>6</kbd> effort
            </p>
        </div>
        <table v-if="room.ideas.length">
            <thead>
                <tr>
                    <th scope="col">idea</th>
                    <th scope="col">at</th>
                    <th scope="col">effect</th>
                    <th scope="col">effort</th>
                </tr>
            </thead>
            <tbody>
                <tr v-for="i in room.ideas" :key="i.id" :class="{ chosen: i.id === chosen }">
                    <td>
                        <Button class="text" :aria-pressed="i.id === chosen" @click="chosen = i.id">{{ i.text }}</Button>
                    </td>
                    <td>{{ i.at }}</td>
                    <td>
                        <Button :aria-label="`Effect: ${i.effect}`" @click="room.weigh(i.id, { effect: turn(i.effect) })">{{
                            i.effect
                        }}</Button>
                    </td>
                    <td>
                        <Button :aria-label="`Effort: ${i.effort}`" @click="room.weigh(i.id, { effort: turn(i.effort) })">{{
                            i.effort
                        }}</Button>
                    </td>
                </tr>
            </tbody>
        </table>
        <p v-else class="hint">No idea yet. Look for factors that many loops pass.</p>
    </div>
</template>

<style scoped>
.actions-step {
    display: grid;
    gap: 1em;
    align-content: start;
}
table {
    width: 100%;
    border-collapse: collapse;
}
th {
    padding: 0 0.6em 0.3em;
    text-align: left;
    font-size: 24px;
    color: var(--ink-soft);
}
td {
    padding: 0.25em 0.6em;
    border-top: 1px solid var(--hairline);
}
.chosen td:first-child {
    box-shadow: inset 6px 0 0 var(--ember);
}
.text {
    text-align: left;
}
</style>
