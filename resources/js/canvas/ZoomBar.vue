<script setup lang="ts">
import { Gauge, Map as MapIcon, Maximize, Minus, Plus } from '@lucide/vue'
import { useKeys } from '@/stores/keys'
import { useView } from '@/stores/view'

/** How the sheet is looked at: strengths of links, small map, zoom. */
const { zoom } = defineProps<{ zoom: number }>()
const emit = defineEmits<{ in: []; out: []; fit: [] }>()
const view = useView()
const keys = useKeys()
</script>

<template>
    <div class="zoom">
        <button
            type="button"
            :aria-pressed="view.strengths"
            aria-label="Show how strongly links act"
            title="Draw links as strongly as they act at the playhead"
            @click="view.strengths = !view.strengths"
        >
            <Gauge :size="14" :stroke-width="1.6" />
        </button>
        <button
            type="button"
            :aria-pressed="view.minimap"
            aria-label="Small map"
            title="Small map of the sheet"
            @click="view.minimap = !view.minimap"
        >
            <MapIcon :size="14" :stroke-width="1.6" />
        </button>
        <i class="between" />
        <button type="button" aria-label="Zoom out" title="Zoom out" @click="emit('out')">
            <Minus :size="15" :stroke-width="1.6" />
        </button>
        <span>{{ Math.round(zoom * 100) }}</span>
        <button type="button" aria-label="Zoom in" title="Zoom in" @click="emit('in')"><Plus :size="15" :stroke-width="1.6" /></button>
        <button
            type="button"
            aria-label="Fit the sheet"
            :title="`Fit the sheet (${keys.word('fit')}); the selection: ${keys.word('selection')}`"
            @click="emit('fit')"
        >
            <Maximize :size="14" :stroke-width="1.6" />
        </button>
    </div>
</template>

<style scoped>
.zoom {
    position: absolute;
    right: 14px;
    bottom: 12px;
    height: 26px;
    border: 1px solid var(--hairline);
    border-radius: 13px;
    background: var(--card);
    color: var(--ink-soft);
    font-size: 13px;
    line-height: 24px;
    z-index: 6;
    display: flex;
    align-items: center;
    gap: 8px;
    padding: 0 10px;
}
.zoom button {
    display: grid;
    place-items: center;
    min-width: 24px;
    height: 24px;
    border-radius: 6px;
}
.zoom button:hover {
    background: var(--hover);
    color: var(--ink);
}
.zoom button[aria-pressed='true'] {
    background: var(--ink);
    color: var(--paper);
}
.between {
    width: 1px;
    height: 14px;
    background: var(--hairline);
}
</style>
