<script setup lang="ts">
import { computed } from 'vue'
import { useMembers } from '@/stores/members'
import { counted, short, shownUnit } from '@/ui/numbers'
import { binsOf } from './lives'

/** How many members are of which size in something, at the playhead; the one that is looked at is marked. */
const { of, name, unit } = defineProps<{ of: string; name: string; unit: string }>()
const members = useMembers()
const [W, H] = [200, 110]
const bins = computed(() => binsOf(members.rows, of))
const most = computed(() => Math.max(1, ...bins.value.map((b) => b.numbers.length)))
const width = computed(() => W / Math.max(1, bins.value.length))
const known = computed(() => members.rows.flatMap((r) => (typeof r.values[of] === 'number' ? [r.values[of]] : [])))
const mean = computed(() => known.value.reduce((a, b) => a + b, 0) / (known.value.length || 1))
const span = computed(() => [bins.value[0]?.from ?? 0, bins.value.at(-1)?.to ?? 1] as const)
const x = (v: number) => ((v - span.value[0]) / (span.value[1] - span.value[0] || 1)) * W
const words = computed(() => [span.value[0], mean.value, span.value[1]].map((v) => short(v, { unit })))
const spoken = computed(
    () =>
        `${name} of ${counted(known.value.length, 'member')}, ${bins.value.map((b) => `${b.numbers.length} from ${Number(b.from.toPrecision(4))} to ${Number(b.to.toPrecision(4))}`).join(', ')}`,
)
</script>

<template>
    <svg v-if="bins.length" :viewBox="`0 0 ${W} ${H + 34}`" role="img" :aria-label="spoken">
        <g v-for="(b, i) in bins" :key="i">
            <rect
                class="bin"
                :x="i * width + 0.5"
                :y="16 + H - (b.numbers.length / most) * H"
                :width="Math.max(1, width - 1)"
                :height="(b.numbers.length / most) * H"
            >
                <title>{{ counted(b.numbers.length, 'member') }}</title>
            </rect>
            <rect
                v-if="b.numbers.includes(members.chosen)"
                class="mine"
                :x="i * width + 0.5"
                :y="16 + H - H / most"
                :width="Math.max(1, width - 1)"
                :height="H / most"
            />
        </g>
        <line class="base" x1="0" :x2="W" :y1="16 + H" :y2="16 + H" />
        <line class="mean" :x1="x(mean)" :x2="x(mean)" y1="14" :y2="16 + H" />
        <text :x="x(mean)" y="10" :text-anchor="x(mean) > 0.65 * W ? 'end' : x(mean) < 0.35 * W ? 'start' : 'middle'">
            mean {{ words[1] }} {{ shownUnit(unit) }}
        </text>
        <text x="0" :y="H + 30">{{ words[0] }}</text>
        <text :x="W" :y="H + 30" text-anchor="end">{{ words[2] }}</text>
        <text :x="W" y="24" text-anchor="end" class="soft">{{ counted(most, members.muster?.name ?? 'member') }}</text>
    </svg>
</template>

<style scoped>
svg {
    display: block;
    width: 100%;
}
.bin {
    fill: var(--basin-tint);
    stroke: var(--basin);
    stroke-width: 1;
}
.mine {
    fill: var(--ink);
}
.base {
    stroke: var(--ink);
}
.mean {
    stroke: var(--ink);
    stroke-width: 1.5;
    stroke-dasharray: 2 3;
}
text {
    paint-order: stroke;
    stroke: var(--card);
    stroke-width: 3px;
    font-size: 12px;
    fill: var(--ink);
}
.soft {
    fill: var(--ink-soft);
}
</style>
