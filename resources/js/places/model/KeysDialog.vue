<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { computed } from 'vue'
import { useView } from '@/stores/view'

const view = useView()
const open = computed({ get: () => view.over === 'keys', set: (on) => { if (!on) view.over = '' } })

const KEYS: [string, string][] = [
    ['S  A  P  C  D', 'add a stock, an auxiliary, a parameter, a curve, a series'],
    ['Double-click', 'choose what to add at that spot; on a thing: rename it'],
    ['Arrows', 'travel along links from thing to thing; with Shift select more'],
    ['Ctrl + arrows', 'move what is selected'],
    ['Enter', 'open the formula in place; Enter again takes it over'],
    ['F2', 'rename'],
    ['E', 'echo: the same thing once more'],
    ['T', 'shows or hides the track of what is selected'],
    ['L', 'pick one link after the other; arrows then bend it'],
    ['Delete', 'delete, to be undone'],
    ['Ctrl C · X · V · D', 'copy, cut, paste, copy and paste at once'],
    ['Ctrl A', 'select all on the sheet'],
    ['Shift + click or drag', 'select more'],
    ['Alt while dragging', 'do not snap'],
    ['0 · 9', 'fit the sheet, fit the selection'],
    ['[ · ]', 'back to where you were, and forward again'],
    ['Ctrl Z · Ctrl Shift Z', 'undo, redo'],
    ['Space', 'play and pause'],
    ['/', 'find anywhere in the model'],
    ['Ctrl K', 'any command'],
    ['Esc', 'back to rest; typed text stays as a draft'],
]
</script>

<template>
    <Dialog v-model:visible="open" modal header="Keys" :pt="{ content: { tabindex: 0 } }" :style="{ width: '520px' }" dismissable-mask>
        <dl>
            <template v-for="[key, words] in KEYS" :key="key">
                <dt><kbd>{{ key }}</kbd></dt><dd>{{ words }}</dd>
            </template>
        </dl>
        <p class="soft">They act while the sheet has the focus. In a text field, Ctrl Z is the text’s own.</p>
    </Dialog>
</template>

<style scoped>
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
</style>
