<script setup lang="ts">
import { computed } from 'vue'
import type { MapLoop } from '@/api/types'
import { useMap } from './useMap'

/** The first of the loops that pass something, each to be walked. */
const { loops } = defineProps<{ loops: MapLoop[] }>()
const map = useMap()
const MOST = 12

const rest = computed(() => Math.max(0, loops.length - MOST))
/** Where not all loops of the map are known, there may be more through this, too. */
const more = computed(() =>
    map.read?.complete === false
        ? `and ${rest.value ? `at least ${rest.value}` : 'perhaps'} more`
        : rest.value
          ? `and ${rest.value} more`
          : '',
)
</script>

<template>
    <div v-if="loops.length">
        <p class="label">Loops through it</p>
        <p class="chips">
            <Button v-for="l in loops.slice(0, MOST)" :key="map.keyOf(l.path)" class="chip" @click="map.walk(l.path)">{{ l.name }}</Button>
            <span v-if="more" class="soft">{{ more }}</span>
        </p>
    </div>
</template>

<style scoped>
.chips {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    margin: 0;
}
</style>
