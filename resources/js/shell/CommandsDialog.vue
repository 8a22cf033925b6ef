<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { computed, nextTick, ref, watch } from 'vue'
import { useView } from '@/stores/view'
import type { Field } from '@/ui/controls'
import { useCommands } from './useCommands'

const view = useView()
const commands = useCommands()
const wanted = ref('')
const chosen = ref(0)
const field = ref<Field>()
const open = computed({
    get: () => view.over === 'commands',
    set: (on) => {
        if (!on) view.over = ''
    },
})
/** Every word that was typed must begin a word of the command or stand in it. */
const found = computed(() => {
    const words = wanted.value.toLowerCase().split(/\s+/).filter(Boolean)
    return commands.value.filter((c) => words.every((w) => `${c.words} ${c.also ?? ''}`.toLowerCase().includes(w)))
})
watch(wanted, () => {
    chosen.value = 0
})
watch(
    () => view.over,
    (over) => {
        if (over === 'commands') {
            wanted.value = ''
            void nextTick(() =>
                window.setTimeout(() => {
                    field.value?.$el.focus()
                }, 60),
            )
        }
    },
)
function run(index: number) {
    const command = found.value[index]
    if (command) {
        view.over = ''
        // The dialog gives the focus back first.
        window.setTimeout(() => {
            command.run()
        }, 30)
    }
}
function key(event: KeyboardEvent) {
    const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0
    if (by) {
        chosen.value = Math.min(Math.max(0, chosen.value + by), found.value.length - 1)
        void nextTick(() => {
            document.querySelector('.command.chosen')?.scrollIntoView({ block: 'nearest' })
        })
    } else if (event.key === 'Enter') {
        run(chosen.value)
    } else {
        return
    }
    event.preventDefault()
}
</script>

<template>
    <Dialog
        v-model:visible="open"
        modal
        header="Commands"
        dismissable-mask
        position="top"
        :style="{ width: '520px', marginTop: '60px' }"
        :pt="{ content: { style: 'padding-top: 5px' } }"
    >
        <InputText
            ref="field"
            v-model="wanted"
            autofocus
            class="field big"
            placeholder="What would you like to do?"
            aria-label="Command"
            role="combobox"
            aria-expanded="true"
            aria-controls="commands"
            spellcheck="false"
            @keydown="key"
        />
        <ul id="commands" role="listbox" aria-label="Commands">
            <li
                v-for="(c, i) in found"
                :key="c.words"
                role="option"
                :aria-selected="i === chosen"
                class="command"
                :class="{ chosen: i === chosen }"
                @click="run(i)"
                @pointermove="chosen = i"
            >
                <span :title="c.words">{{ c.words }}</span><kbd v-if="c.key">{{ c.key }}</kbd>
            </li>
        </ul>
        <p v-if="!found.length" class="soft none">There is no such command.</p>
    </Dialog>
</template>

<style scoped>
.big {
    min-height: 38px;
    font-size: 16px;
}
ul {
    max-height: 50vh;
    margin: 8px 0 0;
    padding: 0;
    overflow-y: auto;
    list-style: none;
}
.command {
    display: flex;
    justify-content: space-between;
    gap: 12px;
    padding: 7px 10px;
    border-radius: 8px;
    cursor: pointer;
}
.command span {
    min-width: 0;
    overflow: hidden;
    text-overflow: ellipsis;
}
.chosen {
    background: var(--hover);
}
kbd {
    flex: none;
    font: 12px var(--mono);
    color: var(--ink-soft);
}
.none {
    padding: 12px 8px;
}
</style>
