<script setup lang="ts">
import { computed } from 'vue'
import type { Thing } from '@/api/types'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'

/** What people say of a thing on the causal map: its links there, why they hold, and on what grounds. */
const { thing } = defineProps<{ thing: Thing }>()
const model = useModel()
const view = useView()
const SIGNS = { '+': '+', '-': '−', '?': '?' } as const
const name = (id: string) => model.model.elements[id]?.name ?? ''
const links = computed(() =>
    Object.values(model.model.causalLinks ?? {})
        .filter((l) => l.from === thing.id || l.to === thing.id)
        .map((l) => ({ ...l, words: `${name(l.from)} → ${name(l.to)}`, sign: SIGNS[l.sign ?? '?'] })),
)
function show() {
    view.go({ place: 'map', stage: 'map', selection: [thing.id] })
}
</script>

<template>
    <div v-if="links.length" class="map-part">
        <span class="label">On the map</span>
        <ul>
            <li v-for="l in links" :key="l.id">
                <b>{{ l.sign }}</b><span
                    >{{ l.words }}{{ l.late ? ', late' : '' }}<span v-if="l.mechanism" class="soft"> – {{ l.mechanism }}</span
                    ><span v-if="l.grounds" class="soft grounds">Grounds: {{ l.grounds }}</span></span
                >
            </li>
        </ul>
        <Button class="button" @click="show">Show it on the map</Button>
    </div>
</template>

<style scoped>
.map-part {
    display: grid;
    gap: 4px;
    justify-items: start;
}
ul {
    margin: 0;
    padding: 0;
    list-style: none;
}
li {
    display: grid;
    grid-template-columns: 16px 1fr;
    padding: 2px 0;
}
.grounds {
    display: block;
    font-size: 13px;
}
</style>
