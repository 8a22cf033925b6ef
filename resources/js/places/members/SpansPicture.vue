<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { usePlayheadPull } from '@/charts/plane'
import TimeAxis from '@/charts/TimeAxis.vue'
import { useMembers } from '@/stores/members'
import { counted } from '@/ui/numbers'
import { spansOf } from './lives'

/** When something holds of each member: a bar along time for each, those first for whom it holds first. */
const members = useMembers()
const box = ref<HTMLElement>()
const { width } = useElementSize(box, { width: 700, height: 420 })
const [LEFT, RIGHT, TOP, FOOT, ROW] = [170, 24, 6, 22, 15]
const wide = computed(() => Math.max(160, width.value - LEFT - RIGHT))
const muster = computed(() => members.muster)
const times = computed(() => muster.value?.times ?? [])
const span = computed<[number, number]>(() => [times.value[0] ?? 0, times.value.at(-1) ?? 1])
const x = (t: number) => LEFT + ((t - span.value[0]) / (span.value[1] - span.value[0] || 1)) * wide.value
const rows = computed(() =>
    (muster.value ? spansOf(muster.value) : []).map((r, i) => ({
        ...r,
        y: TOP + i * ROW,
        name: muster.value?.members[r.number]?.name ?? '',
    })),
)
const foot = computed(() => TOP + rows.value.length * ROW)
const { press, drag } = usePlayheadPull(() => ({ span: span.value, left: LEFT, width: wide.value }))
const short = (name: string) => (name.length > 24 ? `${name.slice(0, 23)}…` : name)
const spoken = computed(
    () =>
        `When ${members.column?.name ?? ''} holds of each ${muster.value?.name ?? ''}: ${counted(rows.value.length, 'line')}; ${rows.value
            .slice(0, 3)
            .map((r) => r.name)
            .join(', ')} first`,
)
</script>

<template>
    <div ref="box" class="box" tabindex="0" :aria-label="`When it holds of each ${muster?.name ?? ''}`">
        <svg v-if="muster" :width="width" :height="foot + FOOT" role="img" :aria-label="spoken" @pointerdown="press" @pointermove="drag">
            <g v-for="r in rows" :key="r.number" :class="{ mine: r.number === members.chosen }" @click="members.chosen = r.number">
                <text class="name" :x="LEFT - 8" :y="r.y + 11" text-anchor="end">
                    {{ short(r.name) }}
                    <title>{{ r.name }}</title>
                </text>
                <line class="rail" :x1="LEFT" :x2="LEFT + wide" :y1="r.y + ROW / 2" :y2="r.y + ROW / 2" />
                <rect
                    v-for="(s, i) in r.spans"
                    :key="i"
                    class="bar"
                    :x="x(s[0])"
                    :y="r.y + 2"
                    :width="Math.max(1.5, x(s[1]) - x(s[0]))"
                    :height="ROW - 4"
                />
            </g>
            <TimeAxis :span="span" :left="LEFT" :width="wide" :top="TOP" :foot="foot" />
        </svg>
    </div>
</template>

<style scoped>
.box {
    flex: 1;
    min-height: 220px;
    overflow: auto;
}
svg {
    display: block;
    cursor: ew-resize;
    touch-action: pan-y;
}
.name {
    font-size: 12px;
    fill: var(--ink-soft);
    cursor: pointer;
}
.mine .name {
    font-weight: 700;
    fill: var(--ink);
}
.rail {
    stroke: var(--hairline);
}
.bar {
    fill: var(--basin);
}
.mine .bar {
    fill: var(--ink);
}
</style>
