<script setup lang="ts">
import { RefreshCw } from '@lucide/vue'
import { onMounted, ref, shallowRef } from 'vue'
import { people, type Letter } from '@/api/people'
import { momentWords } from './when'
import PaperPage from './PaperPage.vue'

const letters = shallowRef<Letter[] | null>(null)
const wrong = ref('')
async function load() {
    try {
        letters.value = await people.letters()
    } catch (error) {
        wrong.value = (error as Error).message
    }
}
onMounted(load)

/** Text with its addresses, which can be opened. */
function pieces(text: string): { text: string; link: boolean }[] {
    return text.split(/(https?:\/\/\S+)/).map((piece, i) => ({ text: piece, link: i % 2 === 1 }))
}
/** In this window where it is this page's own. */
const path = (address: string) => (address.startsWith(window.location.origin) ? address.slice(window.location.origin.length) : address)
</script>

<template>
    <PaperPage title="The post office" wide>
        <template #head>
            <Button class="icon-button" aria-label="Look for new letters" title="Look for new letters" @click="load"
                ><RefreshCw :size="17" :stroke-width="1.5"
            /></Button>
        </template>
        <p class="soft intro">
            On your own machine no letters leave the house. Here lies what would have been sent, the newest first. A server sends them, once
            its settings of mail say how.
        </p>
        <p v-if="wrong" role="alert">{{ wrong }}</p>
        <p v-else-if="letters && !letters.length" class="none">
            <strong>No letters yet.</strong> Share a study with somebody, in its place Tell, and one lies here a moment later.
        </p>
        <article v-for="(letter, i) in letters ?? []" :key="i" class="letter">
            <p class="soft top">
                <span>To {{ letter.to }}</span
                ><span>{{ momentWords(letter.sent) }}</span>
            </p>
            <h2>{{ letter.subject }}</h2>
            <p class="text">
                <template v-for="(piece, k) in pieces(letter.text)" :key="k"
                    ><a v-if="piece.link" :href="path(piece.text)">{{ piece.text }}</a
                    ><template v-else>{{ piece.text }}</template></template
                >
            </p>
        </article>
    </PaperPage>
</template>

<style scoped>
.intro {
    margin-bottom: 24px;
}
.none {
    padding: 60px 20px;
    border: 1px dashed var(--line);
    border-radius: 14px;
    text-align: center;
}
.letter {
    padding: 16px 20px 18px;
    margin-bottom: 16px;
    border: 1px solid var(--hairline);
    border-radius: 4px 4px 14px 14px;
    background: var(--card);
}
.top {
    display: flex;
    justify-content: space-between;
    gap: 20px;
}
h2 {
    margin: 6px 0 10px;
    font-size: 17px;
}
.text {
    white-space: pre-wrap;
    overflow-wrap: anywhere;
}
a {
    color: inherit;
    text-underline-offset: 3px;
}
</style>
