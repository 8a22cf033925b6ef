<script setup lang="ts">
import type { ShownBlock } from '@/api/shown'
import { fromMarkdown } from '@/ui/markdown'
import SaidText from '@/ui/SaidText.vue'

/** What of a page stays as it is: the causal map, its loops, a finding. */
defineProps<{ block: ShownBlock }>()
/** Drawn by the engine, and shown as a picture: nothing in it can do anything. */
const source = (svg: string) => `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`
const SIGNS: Record<string, string> = { '+': 'a loop that feeds itself', '-': 'a loop that holds itself back' }
</script>

<template>
    <section class="standing" :aria-label="block.words || block.stands?.title || undefined">
        <h3 v-if="block.words || block.stands?.title">{{ block.words || block.stands?.title }}</h3>
        <figure v-for="(p, i) in block.stands?.pictures ?? []" :key="i">
            <img :src="source(p.svg)" :alt="p.alt" />
            <figcaption>{{ p.caption }}</figcaption>
        </figure>
        <!-- eslint-disable-next-line vue/no-v-html -- only what looks like text -->
        <div v-if="block.stands?.words" class="said" v-html="fromMarkdown(block.stands.words)" />
        <ul v-if="block.stands?.loops">
            <li v-for="(l, at) in block.stands.loops" :key="at">
                <strong v-if="l.name">{{ l.name }}, </strong><span v-if="SIGNS[l.sign]" class="soft">{{ SIGNS[l.sign] }}</span>
                <p><SaidText v-for="(s, i) in l.sentences" :key="i" :text="`${s} `" /></p>
            </li>
            <li v-if="!block.stands.loops.length" class="soft">There is no loop.</li>
        </ul>
    </section>
</template>

<style scoped>
h3 {
    margin-bottom: 8px;
    font-size: 15px;
}
figure {
    margin: 0;
}
/* Drawn in dark ink: it lies on paper in the dark, too. */
img {
    display: block;
    width: 100%;
    height: auto;
    max-height: 640px;
    object-fit: contain;
    padding: 8px;
    border-radius: 10px;
    background: #fff;
}
figcaption {
    margin-top: 4px;
    color: var(--ink-soft);
    font-size: 13px;
}
.said {
    margin-top: 8px;
    max-width: 62ch;
}
ul {
    display: grid;
    gap: 14px;
    margin: 0;
    padding: 0;
    list-style: none;
    max-width: 62ch;
}
li p {
    margin-top: 3px;
}
</style>
