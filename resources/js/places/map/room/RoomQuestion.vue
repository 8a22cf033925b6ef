<script setup lang="ts">
import { useRoom } from './useRoom'

/** What the room has come together for. */
const room = useRoom()
const emit = defineEmits<{ next: [] }>()
function keep(event: Event) {
    const text = (event.target as HTMLTextAreaElement).value.trim()
    if (text !== (room.question?.text ?? '')) {
        void room.ask(text)
    }
}
function enter(event: KeyboardEvent) {
    keep(event)
    emit('next')
}
</script>

<template>
    <div class="question-step">
        <label for="room-question">What do we want to understand?</label>
        <Textarea
            id="room-question"
            class="typing"
            :model-value="room.question?.text ?? ''"
            placeholder="Why …?"
            rows="2"
            auto-resize
            maxlength="1000"
            @change="keep"
            @keydown.enter.prevent="enter"
        />
        <p class="hint"><kbd>Enter</kbd> on to the factors</p>
    </div>
</template>

<style scoped>
.question-step {
    display: grid;
    align-content: center;
    height: 100%;
    max-width: 30em;
    margin: 0 auto;
    gap: 0.6em;
}
.typing {
    font-size: 2em;
    font-weight: 700;
    line-height: 1.2;
    resize: none;
}
</style>
