<script setup lang="ts">
import SelectionCard from '@/card/SelectionCard.vue'
import { useView } from '@/stores/view'
import FactorCard from './FactorCard.vue'
import FormsList from './FormsList.vue'
import HappensList from './HappensList.vue'
import MapLinkCard from './MapLinkCard.vue'
import MapLoops from './MapLoops.vue'
import { useMap } from './useMap'

/** Beside the map: what is picked, what a push does in words, and the loops. */
const map = useMap()
const view = useView()
</script>

<template>
    <div class="map-card">
        <MapLinkCard v-if="map.link && view.stage === 'map'" :key="map.link.id" :link="map.link" />
        <FactorCard v-else-if="map.factor" :key="map.factor.id" :factor="map.factor"><HappensList v-if="map.isPlayed" /></FactorCard>
        <SelectionCard v-else-if="view.selection.length > 1" />
        <HappensList v-if="map.isPlayed && !map.factor" />
        <MapLoops />
        <FormsList />
    </div>
</template>

<style scoped>
.map-card {
    display: grid;
    align-content: start;
}
.map-card > :deep(section) {
    display: grid;
    gap: 12px;
    padding: 14px 18px 18px;
    border-bottom: 1px solid var(--hairline);
}
</style>
