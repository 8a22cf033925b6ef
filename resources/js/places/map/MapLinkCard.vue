<script setup lang="ts">
import { ArrowLeftRight, Trash2 } from '@lucide/vue'
import { computed, ref } from 'vue'
import { useModel } from '@/stores/model'
import TalkPart from '@/talk/TalkPart.vue'
import { laterId, newId } from '@/ui/ids'
import SaidText from '@/ui/SaidText.vue'
import LinkFields from './LinkFields.vue'
import LoopChips from './LoopChips.vue'
import { useMap, type MapLink } from './useMap'

/** A causal link: what it says, read both ways, and what can be done with it. */
const { link } = defineProps<{ link: MapLink }>()
const map = useMap()
const model = useModel()
const through = ref('')

const sentences = computed(() => (map.read?.sentences[link.id] ?? []).filter(Boolean))
const loops = computed(() =>
    map.loops.filter((l) => l.path.some((id, i) => id === link.from && l.path[(i + 1) % l.path.length] === link.to)),
)
async function put() {
    const name = through.value.trim()
    if (name && (await model.attempt({ kind: 'between', link: link.id, id: newId(), name, second: laterId() }))) {
        through.value = ''
    }
}
</script>

<template>
    <section class="link-card" aria-label="Card of a causal link">
        <header>
            <p class="soft">causal link</p>
            <h2>
                <Button class="end" @click="map.select(link.from)">{{ map.nameOf(link.from) }}</Button> →
                <Button class="end" @click="map.select(link.to)">{{ map.nameOf(link.to) }}</Button>
            </h2>
        </header>
        <p v-for="(s, i) in sentences" :key="i" :class="{ soft: i }"><SaidText :text="s" /></p>
        <LinkFields :link="link" />
        <div class="acts">
            <Button class="button" title="The effect becomes the cause" @click="map.change(link.id, { from: link.to, to: link.from })"
                ><ArrowLeftRight :size="14" :stroke-width="1.6" /> Turn it round</Button
            >
            <Button class="button" @click="map.dropLink(link.id)"><Trash2 :size="14" :stroke-width="1.6" /> Remove</Button>
        </div>
        <form class="through" @submit.prevent="put">
            <label class="label" :for="`through-${link.id}`">Does it act directly, or through something?</label>
            <span
                ><InputText
                    :id="`through-${link.id}`"
                    v-model="through"
                    class="field"
                    placeholder="what stands between"
                    maxlength="120"
                    autocomplete="off"
                /><Button class="button" type="submit" :disabled="!through.trim()">Put between</Button></span
            >
        </form>
        <LoopChips :loops="loops" />
        <TalkPart about="link" :subject="`${link.from}>${link.to}`" />
    </section>
</template>

<style scoped>
h2 {
    font-size: 17px;
    line-height: 1.35;
}
.end {
    font-weight: 700;
    text-align: left;
}
.end:hover {
    text-decoration: underline;
    text-underline-offset: 3px;
}
.acts,
.acts .button {
    display: flex;
    align-items: center;
    gap: 6px;
}
.through {
    display: grid;
    gap: 4px;
}
.through span {
    display: flex;
    gap: 8px;
}
.through .field {
    flex: 1;
    min-width: 0;
}
</style>
