<script setup lang="ts">
import { computed, ref } from 'vue'
import KindIcon from '@/ui/KindIcon.vue'
import SaidText from '@/ui/SaidText.vue'
import { FORMS, useMap } from './useMap'

/** From the map into stocks and flows: what each factor could become, one after the other, at any pace. */
const map = useMap()
const open = ref(false)
const proposals = computed(() => map.read?.proposals ?? [])
const next = computed(() => proposals.value[0])
const done = computed(() => map.factors.filter((t) => t.kind !== 'factor').length)
const MOST = 10
</script>

<template>
    <section v-if="map.factors.length" class="forms" aria-label="Into stocks and flows">
        <Button class="toggle" :aria-expanded="open" @click="open = !open"
            ><h3>Into stocks and flows</h3>
            <span class="soft">{{ done }} of {{ map.factors.length }}</span></Button
        >
        <template v-if="open">
            <p v-if="!proposals.length" class="soft">All of the map is part of the model. Formulas and links go on being compared.</p>
            <template v-else-if="next">
                <p class="soft">
                    Take one after the other, in this order or another. The map stays, and what is not in the model yet goes on playing.
                </p>
                <div class="next">
                    <p>
                        <b>{{ map.nameOf(next.id) }}</b>: {{ FORMS[next.kind] }}?
                    </p>
                    <p class="soft"><SaidText :text="next.why" /></p>
                    <p class="acts">
                        <Button
                            v-for="(words, kind) in FORMS"
                            :key="kind"
                            class="button"
                            :class="{ strong: kind === next.kind }"
                            :aria-label="`${map.nameOf(next.id)}: ${words}`"
                            @click="map.form(next.id, kind)"
                            ><KindIcon :kind="kind" :size="14" />{{ kind }}</Button
                        >
                    </p>
                </div>
                <ul>
                    <li v-for="p in proposals.slice(1, MOST)" :key="p.id">
                        <Button class="row" :title="p.why.replaceAll('`', '')" @click="map.select(p.id)"
                            ><KindIcon :kind="p.kind" :size="14" /> <span>{{ map.nameOf(p.id) }}</span><span class="soft"
                                >{{ p.kind }}?</span
                            ></Button
                        >
                    </li>
                </ul>
                <p v-if="proposals.length > MOST" class="soft">and {{ proposals.length - MOST }} more</p>
            </template>
        </template>
    </section>
</template>

<style scoped>
.toggle {
    display: flex;
    justify-content: space-between;
    align-items: center;
    width: 100%;
    padding: 0;
    text-align: left;
}
h3 {
    font-size: 15px;
}
h3::before {
    content: '▸ ';
}
[aria-expanded='true'] h3::before {
    content: '▾ ';
}
.next {
    display: grid;
    gap: 6px;
    padding: 10px 12px;
    border-radius: 10px;
    background: var(--paper);
}
.next p {
    margin: 0;
}
.acts {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
}
.acts .button {
    display: flex;
    align-items: center;
    gap: 5px;
    padding: 0 9px;
}
ul {
    margin: 0 -6px;
    padding: 0;
    list-style: none;
}
.row {
    display: grid;
    grid-template-columns: 20px 1fr auto;
    align-items: center;
    width: 100%;
    padding: 3px 6px;
    border-radius: 7px;
    text-align: left;
}
.row:hover {
    background: var(--hover);
}
</style>
