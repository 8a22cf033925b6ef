<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { counted } from '@/ui/numbers'
import SaidText from '@/ui/SaidText.vue'
import LinkFields from './LinkFields.vue'
import MapLine from './MapLine.vue'
import MapTabs from './MapTabs.vue'
import { useMap } from './useMap'

/** The map read through as sentences, and corrected there: all that the map holds, without a picture. */
const map = useMap()
const wanted = ref('')
const page = ref<HTMLElement>()
const STANDING = { open: 'open', agreed: 'agreed', disputed: 'disputed' } as const

/** By cause, in the order of their names. */
const groups = computed(() => {
    const text = wanted.value.trim().toLowerCase()
    const fits = (...words: string[]) => !text || words.some((w) => w.toLowerCase().includes(text))
    return map.factors
        .map((t) => ({
            factor: t,
            links: map.links.filter((l) => l.from === t.id && fits(t.name, map.nameOf(l.to), l.mechanism, l.grounds)),
        }))
        .filter((g) => g.links.length)
        .sort((a, b) => a.factor.name.localeCompare(b.factor.name))
})
const alone = computed(() => {
    const linked = new Set(map.links.flatMap((l) => [l.from, l.to]))
    return map.factors.filter((t) => !linked.has(t.id))
})
const standing = computed(() => {
    const count = (s: string) => map.links.filter((l) => l.standing === s).length
    return [
        counted(map.factors.length, 'factor'),
        counted(map.links.length, 'link'),
        ...(map.links.length ? [`${count('agreed')} agreed`, `${count('open')} open`, `${count('disputed')} disputed`] : []),
    ].join(' · ')
})
/** What is picked comes into sight. */
watch(
    () => map.picked,
    () =>
        void nextTick(() => {
            page.value?.querySelector('li.open')?.scrollIntoView({ block: 'nearest' })
        }),
    { immediate: true, flush: 'post' },
)
const bothWays = (id: string) => (map.read?.sentences[id] ?? []).filter(Boolean)
</script>

<template>
    <div class="sentences-place">
        <MapTabs
            ><span class="soft" role="status">{{ standing }}</span></MapTabs
        >
        <div ref="page" class="page">
            <p v-if="!map.factors.length" class="soft first">
                Every link of the map is read here as a sentence, and corrected here. Say the first in the line below: a cause, and what it
                acts on.
            </p>
            <InputText
                v-if="map.links.length > 6"
                v-model="wanted"
                class="field search"
                placeholder="Only sentences with …"
                aria-label="Only sentences with"
            />
            <section v-for="g in groups" :key="g.factor.id" :aria-label="g.factor.name">
                <h2>{{ g.factor.name }}</h2>
                <ul>
                    <li v-for="l in g.links" :key="l.id" :class="{ open: map.picked === l.id }">
                        <Button
                            class="sentence"
                            :aria-expanded="map.picked === l.id"
                            @click="map.picked === l.id ? map.select() : map.pick(l.id)"
                        >
                            <span>
                                <SaidText v-for="(s, i) in bothWays(l.id)" :key="i" :text="`${s} `" :class="{ soft: i }" />
                                <span v-if="l.mechanism" class="why">Why: {{ l.mechanism }}</span>
                            </span>
                            <span class="state">{{ l.strength === 'usual' ? '' : `${l.strength} · ` }}{{ STANDING[l.standing] }}</span>
                        </Button>
                        <div v-if="map.picked === l.id" class="inner">
                            <LinkFields :link="l" />
                            <p class="acts">
                                <Button class="button" @click="map.change(l.id, { from: l.to, to: l.from })">Turn it round</Button>
                                <Button class="button" @click="map.dropLink(l.id)">Remove</Button>
                            </p>
                        </div>
                    </li>
                </ul>
            </section>
            <p v-if="wanted && !groups.length" class="soft">No sentence has “{{ wanted }}” in it.</p>
            <p v-if="alone.length" class="soft">
                Not linked yet: <template v-for="(t, i) in alone" :key="t.id">{{ i ? ', ' : '' }}{{ t.name }}</template
                >.
            </p>
        </div>
        <MapLine />
    </div>
</template>

<style scoped>
.sentences-place {
    display: grid;
    grid-template-rows: auto minmax(0, 1fr) auto;
    height: 100%;
    background: var(--paper);
}
.page {
    overflow-y: auto;
    padding: 8px 26px 20px;
}
.page > * {
    max-width: 760px;
}
.first {
    margin-top: 12vh;
    font-size: 17px;
    line-height: 1.5;
}
.search {
    width: 280px;
    margin-bottom: 6px;
}
h2 {
    margin: 16px 0 2px;
    font-size: 15px;
}
ul {
    margin: 0 -10px;
    padding: 0;
    list-style: none;
}
li.open {
    border-radius: 12px;
    background: var(--card);
    box-shadow: inset 0 0 0 1px var(--hairline);
}
.sentence {
    display: grid;
    grid-template-columns: 1fr auto;
    gap: 18px;
    width: 100%;
    padding: 7px 10px;
    border-radius: 10px;
    font-size: 15px;
    line-height: 1.45;
    text-align: left;
}
.sentence:hover {
    background: var(--hover);
}
.state {
    font-size: 13px;
    color: var(--ink-soft);
}
.why {
    display: block;
    font-size: 13.5px;
    color: var(--ink-soft);
}
.inner {
    display: grid;
    gap: 10px;
    max-width: 520px;
    padding: 4px 10px 14px;
}
.acts {
    display: flex;
    gap: 8px;
}
</style>
