<script setup lang="ts">
import { X } from '@lucide/vue'
import { sinceWords } from '@/people/when'
import { useSince } from '@/stores/since'
import { useView } from '@/stores/view'
import SaidText from '@/ui/SaidText.vue'

/** What has happened since one was last here, in words. */
const news = useSince()
const view = useView()
function history() {
    news.dismiss()
    view.go({ place: 'model', stage: 'history' })
}
function comments() {
    news.dismiss()
    view.go({ place: 'tell', stage: 'comments' })
}
</script>

<template>
    <section v-if="news.since" class="since" aria-label="Since you were last here">
        <p class="head">
            <strong>Since you were last here, {{ sinceWords(news.since.before ?? '') }}</strong>
            <Button class="icon-button" aria-label="I have read it" title="I have read it" @click="news.dismiss"><X :size="16" /></Button>
        </p>
        <div v-for="one in news.since.changes" :key="one.name">
            <p>
                {{ one.name }} made {{ one.count === 1 ? 'a change' : `${one.count} changes`
                }}{{ one.count > one.words.length ? ', of which these are the last' : '' }}:
            </p>
            <ul>
                <li v-for="(words, i) in one.words" :key="i"><SaidText :text="words" /></li>
            </ul>
        </div>
        <p v-if="news.since.comments">
            {{ news.since.comments === 1 ? 'One comment was made.' : `${news.since.comments} comments were made.` }}
        </p>
        <p class="acts">
            <Button v-if="news.since.changes.length" class="button" @click="history">See the changes</Button>
            <Button v-if="news.since.comments" class="button" @click="comments">Read the comments</Button>
        </p>
    </section>
</template>

<style scoped>
.since {
    display: grid;
    gap: 8px;
    padding: 10px 14px 14px;
    border: 1px solid var(--line);
    border-radius: 4px 4px 14px 14px;
}
.head {
    display: flex;
    align-items: center;
    justify-content: space-between;
    gap: 10px;
}
ul {
    margin: 4px 0 0;
    padding-left: 18px;
}
.acts {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
}
</style>
