<script setup lang="ts">
import { computed } from 'vue'
import type { ShownInput } from '@/api/shown'
import { plainly, shownUnit } from '@/ui/numbers'

/** How likely the values of an input are, over the very span of its dial, with where it stands. */
const { input, value } = defineProps<{ input: ShownInput; value: number }>()
const HEIGHT = 46
const likely = computed(() => input.likely)
const share = (v: number) => (v - input.low) / (input.high - input.low || 1)
const path = computed(() => {
    const points = (likely.value?.density ?? []) as [number, number][]
    const top = Math.max(...points.map(([, d]) => d), 1e-300)
    const at = points.map(([v, d]) => `${(100 * share(v)).toFixed(2)} ${(HEIGHT - (HEIGHT - 4) * (d / top)).toFixed(2)}`)
    return at.length ? `M${at[0]?.split(' ')[0] ?? 0} ${HEIGHT}L${at.join('L')}L${at.at(-1)?.split(' ')[0] ?? 0} ${HEIGHT}Z` : ''
})
const unit = computed(() => shownUnit(input.unit))
const said = computed(() =>
    likely.value
        ? `As likely above ${plainly(likely.value.middle, input.unit)} as below; nine times in ten between ${plainly(likely.value.low, input.unit)} and ${plainly(likely.value.high, input.unit)} ${unit.value}.`
        : '',
)
</script>

<template>
    <figure v-if="likely">
        <svg :viewBox="`0 0 100 ${HEIGHT}`" preserveAspectRatio="none" role="img" :aria-label="said">
            <path :d="path" class="lies" />
            <line :x1="100 * share(value)" :x2="100 * share(value)" y1="0" :y2="HEIGHT" vector-effect="non-scaling-stroke" />
        </svg>
        <figcaption class="soft">{{ said }}</figcaption>
    </figure>
</template>

<style scoped>
figure {
    margin: 6px 0 0;
}
svg {
    display: block;
    width: 100%;
    height: 46px;
    overflow: hidden;
}
.lies {
    fill: var(--hairline);
}
line {
    stroke: var(--ink);
    stroke-width: 1.5;
}
figcaption {
    margin-top: 4px;
    font-size: 13px;
}
</style>
