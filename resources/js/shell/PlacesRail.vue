<script setup lang="ts">
import { computed } from 'vue'
import { PLACES } from '@/places'
import { useView } from '@/stores/view'
import OrbitMark from '@/ui/OrbitMark.vue'

defineProps<{ study: string }>()
defineEmits<{ help: [] }>()
const view = useView()
const all = PLACES.map((place) => ({ ...place, attention: place.attention?.(), listed: place.listed?.() }))
const places = computed(() => all.filter((p) => p.listed?.value !== false || view.place === p.name))
</script>

<template>
    <nav class="rail" aria-label="Places">
        <svg class="arc" viewBox="0 0 56 720" preserveAspectRatio="none" aria-hidden="true">
            <path
                d="M46 0C-10 220 -10 470 46 720"
                fill="none"
                stroke="var(--hairline)"
                stroke-width="1.5"
                vector-effect="non-scaling-stroke"
            />
        </svg>
        <RouterLink to="/" class="home" aria-label="All studies" title="All studies"><OrbitMark /></RouterLink>
        <RouterLink
            v-for="p in places"
            :key="p.name"
            :to="`/studies/${study}/${p.name}`"
            class="place"
            :class="{ present: view.place === p.name }"
            :aria-current="view.place === p.name ? 'page' : undefined"
        >
            <i v-if="view.place === p.name" class="dot" aria-hidden="true" />
            <component :is="p.icon" :size="20" :stroke-width="1.5" />
            {{ p.words }}
            <b v-if="p.attention?.value" class="count" :aria-label="`${p.attention.value} things want attention`">{{
                p.attention.value
            }}</b>
        </RouterLink>
        <span class="space" />
        <Button class="icon-button" aria-label="Keys and help" title="Keys and help" @click="$emit('help')">?</Button>
    </nav>
</template>

<style scoped>
.rail {
    position: relative;
    display: flex;
    flex-direction: column;
    align-items: center;
    gap: 6px;
    padding: 9px 0 14px;
    border-right: 1px solid var(--hairline);
    background: var(--card);
    overflow: hidden;
}
.arc {
    position: absolute;
    inset: 0;
    width: 56px;
    height: 100%;
}
.rail > :not(.arc) {
    position: relative;
}
.home {
    color: var(--ink);
    margin-bottom: 14px;
    border-radius: 50%;
    line-height: 0;
}
.place {
    display: grid;
    justify-items: center;
    gap: 2px;
    width: 48px;
    padding: 8px 0 6px;
    border-radius: 12px;
    font-size: 12px;
    color: var(--ink);
    text-decoration: none;
}
.place.present {
    background: var(--paper);
    font-weight: 700;
}
.home + .place {
    margin-top: 96px;
}
.place:not(.present) {
    color: var(--ink-soft);
}
.place:hover {
    background: var(--hover);
}
.dot {
    position: absolute;
    left: -4px;
    top: 50%;
    width: 7px;
    height: 7px;
    margin-top: -4px;
    border-radius: 50%;
    background: var(--ember);
}
.count {
    position: absolute;
    top: 1px;
    right: 1px;
    min-width: 17px;
    padding: 0 4px;
    border-radius: 9px;
    background: var(--brick);
    color: var(--card);
    font-size: 11px;
    text-align: center;
}
.space {
    flex: 1;
}
.rail .icon-button {
    border: 1px solid var(--line);
    border-radius: 50%;
    width: 26px;
    height: 26px;
    background: var(--card);
}
</style>
