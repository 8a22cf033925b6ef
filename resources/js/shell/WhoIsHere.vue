<script setup lang="ts">
import { computed } from 'vue'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import SaidBy from '@/talk/SaidBy.vue'

/** Others who have the study before them, and what they look at; a click goes there. */
const model = useModel()
const view = useView()
const MOST = 3
const shown = computed(() => model.here.slice(0, MOST))
const words = (one: { name: string; thing: string }) => {
    const thing = model.model.elements[one.thing]?.name
    return `${one.name} is here${thing ? ` and looks at ${thing}` : ''}`
}
function goTo(thing: string) {
    if (model.model.elements[thing]) {
        view.goTo(thing)
    }
}
</script>

<template>
    <span v-if="!model.mayEdit && model.loaded" class="reads" title="To change it, take a copy on the page of all studies">{{
        model.mayComment ? 'you may comment' : 'you read it'
    }}</span>
    <span v-if="model.here.length" class="here" role="group" aria-label="Who else is here">
        <Button v-for="one in shown" :key="one.name" class="one" :title="words(one)" :aria-label="words(one)" @click="goTo(one.thing)"
            ><SaidBy :who="one.name"
        /></Button>
        <span v-if="model.here.length > MOST" class="soft">+{{ model.here.length - MOST }}</span>
    </span>
</template>

<style scoped>
.here {
    display: flex;
    align-items: center;
    gap: 2px;
    margin-right: 4px;
}
.one {
    border-radius: 50%;
    line-height: 0;
}
.reads {
    align-self: center;
    margin-right: 8px;
    padding: 2px 9px;
    border: 1px dashed var(--line);
    border-radius: 10px;
    color: var(--ink-soft);
    white-space: nowrap;
}
</style>
