<script setup lang="ts">
import { computed } from 'vue'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import type { Aside } from '@/stores/waiting'
import SaidText from '@/ui/SaidText.vue'

/** Edits that are not on disk: those that wait, with the reason, and those that were refused or set aside. */
const model = useModel()
const notices = useNotices()
const waiting = computed(() => model.pending.length)

/** Which thing it is about, and what was typed: what its person knows of it. */
function wordsOf(aside: Aside): string {
    const edit: Record<string, unknown> = aside.edit
    const typed = ['words', 'text', 'name', 'title'].map((key) => edit[key]).find((v) => typeof v === 'string' && v)
    const known = [model.model.elements[String(edit.id)]?.name, typed].filter((v) => v !== undefined)
    return known.length ? known.join(': ') : 'an edit of the study'
}

async function copy(one: Aside) {
    try {
        await navigator.clipboard.writeText(JSON.stringify(one.edit, null, 2))
        notices.say('The edit is on the clipboard.')
    } catch {
        notices.trouble('The browser does not let the page write to the clipboard.')
    }
}
</script>

<template>
    <div v-if="model.held" class="waiting" role="alert">
        <p>
            <b>{{ waiting === 1 ? 'One edit is' : `${waiting} edits are` }} not saved yet.</b> <SaidText :text="model.held" /> Nothing is
            lost: {{ waiting === 1 ? 'it is' : 'they are' }} kept in this browser and sent again without you.
        </p>
        <Button v-if="model.stuck" class="button" @click="model.setAside">{{
            waiting === 1 ? 'Set it aside' : 'Set the first of them aside'
        }}</Button>
    </div>
    <div v-for="one in model.aside" :key="one.id" class="waiting">
        <p>
            <b>Not done: {{ wordsOf(one) }}</b
            ><br /><SaidText :text="one.sentence" />
        </p>
        <p class="acts">
            <Button class="button" @click="model.sendAgain(one)">Send again</Button>
            <Button class="button" @click="copy(one)">Copy</Button>
            <Button class="button" @click="model.throwAway(one)">Throw away</Button>
        </p>
    </div>
</template>

<style scoped>
.waiting {
    padding: 8px 12px;
    border: 1px solid var(--brick);
    border-left-width: 4px;
    border-radius: 8px;
    font-size: 13px;
}
.acts {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    margin-top: 8px;
}
.waiting > .button {
    margin-top: 8px;
}
</style>
