<script setup lang="ts">
import { computed } from 'vue'
import { courseWords } from './heights'
import { useMap } from './useMap'

/** The height of a factor over beats, around what is usual for it. */
const { id } = defineProps<{ id: string }>()
const map = useMap()

const [WIDTH, HEIGHT] = [1000, 60]
const points = computed(() => {
    const course = map.read?.heights[id] ?? []
    return course.map((h, i) => `${((WIDTH * i) / Math.max(1, course.length - 1)).toFixed(1)} ${((HEIGHT / 2) * (1 - h * 0.9)).toFixed(2)}`)
})
const line = computed(() => (points.value.length ? `M${points.value.join('L')}` : ''))
const above = computed(() => (points.value.length ? `M0 ${HEIGHT / 2}L${points.value.join('L')}L${WIDTH} ${HEIGHT / 2}Z` : ''))
const words = computed(() => courseWords(map.heightAt(id, map.beat), map.heightAt(id, map.beat + 1)))
</script>

<template>
    <div class="track">
        <div class="label-part">
            <Button class="name" :title="`Select ${map.nameOf(id)}`" @click="map.select(id)">{{ map.nameOf(id) }}</Button>
            <span class="soft">{{ words }}</span>
        </div>
        <svg
            :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
            preserveAspectRatio="none"
            role="img"
            :aria-label="`Course of ${map.nameOf(id)}: ${words}`"
        >
            <clipPath :id="`up-${id}`"><rect :width="WIDTH" :height="HEIGHT / 2" /></clipPath>
            <path :d="above" class="tint" :clip-path="`url(#up-${id})`" />
            <path :d="`M0 ${HEIGHT / 2}H${WIDTH}`" class="usual" vector-effect="non-scaling-stroke" />
            <path :d="line" class="line" vector-effect="non-scaling-stroke" />
        </svg>
        <div class="scale soft" aria-hidden="true"><span>more</span><span>usual</span><span>less</span></div>
    </div>
</template>

<style scoped>
.track {
    display: grid;
    grid-template-columns: var(--label) 1fr var(--line-end);
    height: 66px;
    border-bottom: 1px solid var(--hairline);
}
.label-part {
    display: grid;
    align-content: center;
    justify-items: start;
    padding: 0 10px 0 16px;
    min-width: 0;
    font-size: 13px;
}
.name {
    max-width: 100%;
    font-size: 14px;
    font-weight: 700;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
svg {
    width: 100%;
    height: 100%;
    padding: 3px 0;
}
.tint {
    fill: var(--basin-tint);
}
.usual {
    fill: none;
    stroke: var(--line);
    stroke-width: 1;
    stroke-dasharray: 1.5 4;
}
.line {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.8;
}
.scale {
    display: flex;
    flex-direction: column;
    justify-content: space-between;
    padding: 4px 10px;
    font-size: 12px;
    line-height: 14px;
}
</style>
