<script setup lang="ts">
import { useId } from 'vue'
import OneOf from '@/ui/OneOf.vue'
import { useMap, type MapLink } from './useMap'

/** What is said of a link: how it acts, why, and where people stand on it. */
const { link } = defineProps<{ link: MapLink }>()
const map = useMap()
const own = useId()
const SIGNS = [
    { value: '+', words: 'same way' },
    { value: '-', words: 'turned over' },
    { value: '?', words: 'open' },
] as const
const STRENGTHS = [
    { value: 'weak', words: 'weak' },
    { value: 'usual', words: 'usual' },
    { value: 'strong', words: 'strong' },
] as const
const STANDINGS = [
    { value: 'open', words: 'open' },
    { value: 'agreed', words: 'agreed' },
    { value: 'disputed', words: 'disputed' },
] as const

function text(field: 'mechanism' | 'grounds', event: Event) {
    const words = (event.target as HTMLTextAreaElement).value.trim()
    if (words !== link[field]) {
        void map.change(link.id, { [field]: words })
    }
}
</script>

<template>
    <div class="fields">
        <div class="row">
            <span class="label">It acts</span>
            <OneOf
                :model-value="link.sign"
                :choices="SIGNS"
                label="How it acts"
                @update:model-value="map.change(link.id, { sign: $event })"
            />
        </div>
        <div class="row">
            <span class="label">Strength</span>
            <OneOf
                :model-value="link.strength"
                :choices="STRENGTHS"
                label="Strength"
                @update:model-value="map.change(link.id, { strength: $event })"
            />
        </div>
        <label class="late"
            ><Checkbox :model-value="link.late" binary @update:model-value="map.change(link.id, { late: Boolean($event) })" /><span
                >only after a while</span
            ></label
        >
        <div class="row">
            <span class="label">The room</span>
            <OneOf
                :model-value="link.standing"
                :choices="STANDINGS"
                label="Where people stand on it"
                @update:model-value="map.change(link.id, { standing: $event })"
            />
        </div>
        <label class="label" :for="`${own}-why`">Why: the mechanism</label>
        <Textarea
            :id="`${own}-why`"
            class="field"
            :model-value="link.mechanism"
            rows="2"
            auto-resize
            maxlength="4000"
            placeholder="How the one brings about the other"
            @change="text('mechanism', $event)"
        />
        <label class="label" :for="`${own}-grounds`">Grounds, with their source</label>
        <Textarea
            :id="`${own}-grounds`"
            class="field"
            :model-value="link.grounds"
            rows="2"
            auto-resize
            maxlength="4000"
            placeholder="Who has seen it, where it is written"
            @change="text('grounds', $event)"
        />
    </div>
</template>

<style scoped>
.fields :deep(.chip) {
    padding: 0 8px;
}
.fields {
    display: grid;
    gap: 8px;
}
.row {
    display: grid;
    grid-template-columns: 66px 1fr;
    align-items: center;
}
.late {
    display: flex;
    gap: 8px;
    padding-left: 66px;
}
.field {
    width: 100%;
    resize: none;
}
</style>
