<script setup lang="ts">
import { RotateCcw, X } from '@lucide/vue'
import Dialog from 'primevue/dialog'
import { computed, nextTick, ref, watch } from 'vue'
import { placeOf } from '@/places'
import { KEY_ACTS, keyOf, useKeys, type KeyName } from '@/stores/keys'
import { useView } from '@/stores/view'

const view = useView()
const keys = useKeys()
const open = computed({
    get: () => view.over === 'keys',
    set: (on) => {
        if (!on) view.over = ''
    },
})
/** The act that waits for its new key. */
const waits = ref<KeyName | ''>('')
const told = ref('')

const ANYWHERE: readonly [string, string][] = [
    ['Ctrl Z · Ctrl Shift Z', 'undo, redo'],
    ['Ctrl K', 'any command'],
    ['Esc', 'back to rest; typed text stays as a draft'],
]
/** Of the place one is at, and those that act everywhere. */
const others = computed(() => [...(placeOf(view.place).keys ?? []), ...ANYWHERE])

watch(open, () => {
    waits.value = ''
    told.value = ''
})

function take(event: KeyboardEvent) {
    if (!waits.value) {
        return
    }
    event.preventDefault()
    event.stopPropagation()
    if (event.key === 'Escape') {
        told.value = ''
        waits.value = ''
        return
    }
    if (['Shift', 'Control', 'Alt', 'AltGraph', 'Meta', 'Dead', 'CapsLock', 'Unidentified', 'Process'].includes(event.key)) {
        return
    }
    if (event.ctrlKey || event.metaKey || event.altKey) {
        told.value = 'A single key, please: those with Ctrl or Alt belong to commands and to the browser.'
        return
    }
    const answer = keys.change(waits.value, keyOf(event))
    told.value = answer.sentence
    if (answer.changed || keys.actOf(event) === waits.value) {
        waits.value = ''
    }
}

function ask(name: KeyName, event: MouseEvent) {
    waits.value = waits.value === name ? '' : name
    told.value = waits.value ? `Press the key for “${KEY_ACTS.find((a) => a.name === name)?.words}”, or Esc to leave it as it is.` : ''
    const button = event.currentTarget as HTMLElement
    void nextTick(() => {
        button.focus()
    })
}
</script>

<template>
    <Dialog
        v-model:visible="open"
        modal
        header="Keys"
        :close-on-escape="!waits"
        :pt="{ content: { tabindex: 0 } }"
        :style="{ width: '860px' }"
        dismissable-mask
    >
        <div class="columns" @keydown.capture="take">
            <section aria-labelledby="single-keys">
                <h3 id="single-keys">
                    Single keys
                    <Button
                        v-if="!keys.isUsual"
                        class="button"
                        @click="
                            () => {
                                keys.reset()
                                told = 'All keys are as usual.'
                                waits = ''
                            }
                        "
                        ><RotateCcw :size="14" :stroke-width="1.6" />As usual</Button
                    >
                </h3>
                <ul>
                    <li v-for="act in KEY_ACTS" :key="act.name">
                        <Button
                            class="key"
                            :class="{ waits: waits === act.name }"
                            :aria-label="`Change the key for: ${act.words}. Now ${keys.word(act.name) || 'none'}`"
                            :aria-pressed="waits === act.name"
                            @click="ask(act.name, $event)"
                            @blur="waits = ''"
                            >{{ waits === act.name ? 'press…' : keys.word(act.name) || 'none' }}</Button
                        >
                        <span>{{ act.words }}</span>
                        <Button
                            v-if="keys.keys[act.name]"
                            class="icon-button off"
                            :aria-label="`No key for: ${act.words}`"
                            title="No key for this"
                            @click="told = keys.change(act.name, '').sentence"
                            ><X :size="14" :stroke-width="1.6"
                        /></Button>
                    </li>
                </ul>
            </section>
            <section aria-labelledby="other-keys">
                <h3 id="other-keys">And besides</h3>
                <dl>
                    <template v-for="[key, words] in others" :key="key">
                        <dt>
                            <kbd>{{ key }}</kbd>
                        </dt>
                        <dd>{{ words }}</dd>
                    </template>
                </dl>
            </section>
        </div>
        <p class="soft" role="status">
            {{
                told ||
                'They act while the sheet has the focus; click a single key to change it. In a text field all keys are the text’s own.'
            }}
        </p>
    </Dialog>
</template>

<style scoped>
.columns {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
    gap: 0 32px;
}
h3 {
    display: flex;
    align-items: center;
    justify-content: space-between;
    min-height: 32px;
    margin: 0 0 8px;
    font-size: 14px;
}
ul {
    margin: 0 0 14px;
    padding: 0;
    list-style: none;
}
li {
    display: grid;
    grid-template-columns: 68px 1fr 24px;
    align-items: center;
    gap: 12px;
    min-height: 30px;
}
.key {
    min-height: 24px;
    padding: 1px 6px;
    border: 1px solid var(--line);
    border-radius: 6px;
    background: var(--card);
    font: 13px var(--mono);
}
.key:hover {
    border-color: var(--ink);
}
.key.waits {
    border-color: var(--ember);
    color: var(--ember);
}
.off {
    visibility: hidden;
    min-width: 24px;
    width: 24px;
    height: 24px;
}
li:hover .off,
li:focus-within .off {
    visibility: visible;
}
dl {
    display: grid;
    grid-template-columns: auto 1fr;
    gap: 7px 16px;
    margin: 0 0 14px;
}
dd {
    margin: 0;
}
kbd {
    font: 13px var(--mono);
}
p {
    min-height: 20px;
    margin: 4px 0 0;
}
</style>
