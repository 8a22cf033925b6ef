<script setup lang="ts">
import Dialog from 'primevue/dialog'

const open = defineModel<boolean>({ required: true })

const KEYS: [string, string][] = [
    ['S  A  P  U', 'add a stock, an auxiliary, a parameter, a curve'],
    ['Double-click', 'choose what to add at that spot; on a thing: rename it'],
    ['Arrows', 'travel from thing to thing'],
    ['Ctrl + arrows', 'move what is selected'],
    ['Enter', 'open the formula in place; Enter again takes it over'],
    ['F2', 'rename'],
    ['Delete', 'delete, to be undone'],
    ['Esc', 'back to rest; typed text stays as a draft'],
    ['Ctrl Z · Ctrl Shift Z', 'undo, redo'],
    ['Space', 'play and pause'],
    ['/', 'find in the outline'],
    ['Shift + click', 'select more'],
]
</script>

<template>
    <Dialog v-model:visible="open" modal header="Keys" :style="{ width: '520px' }" dismissable-mask>
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
