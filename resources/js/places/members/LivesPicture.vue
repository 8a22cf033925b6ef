<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { apart } from '@/charts/endNames'
import { linePath, usePlayheadPull } from '@/charts/plane'
import { scaleFor, share } from '@/charts/scale'
import TimeAxis from '@/charts/TimeAxis.vue'
import ValueAxis from '@/charts/ValueAxis.vue'
import { comings } from '@/stores/comings'
import { useMembers } from '@/stores/members'
import { useModel } from '@/stores/model'
import { counted, short } from '@/ui/numbers'
import { courseOf, reach } from './lives'

/** One variable of each member as a thin line, with the percentiles of those who are there; beneath, who came and who left. */
const members = useMembers()
const model = useModel()
const box = ref<HTMLElement>()
const { width, height } = useElementSize(box, { width: 700, height: 420 })
const [LEFT, RIGHT, TOP, FOOT, STRIP] = [54, 128, 14, 22, 58]
const wide = computed(() => Math.max(160, width.value - LEFT - RIGHT))
const plane = computed(() => Math.max(120, height.value - TOP - FOOT - STRIP - 4))
const muster = computed(() => members.muster)
const times = computed(() => muster.value?.times ?? [])
const unit = computed(() => members.column?.unit ?? '')
const scale = computed(() => {
    const [low, high] = muster.value ? reach(muster.value) : [0, 1]
    // Where all are far from nothing, it is their differences that are looked at.
    return scaleFor([low, high], { zero: low < 0.4 * high })
})
const span = computed<[number, number]>(() => [times.value[0] ?? 0, times.value.at(-1) ?? 1])
const x = (t: number) => LEFT + ((t - span.value[0]) / (span.value[1] - span.value[0] || 1)) * wide.value
const y = (v: number) => TOP + (1 - share(scale.value, v)) * plane.value
const pathOf = (course: [number, number][]) => course.map(([t, v], i) => `${i ? 'L' : 'M'}${x(t).toFixed(1)} ${y(v).toFixed(1)}`).join('')
const thin = computed(() => {
    const all = muster.value
    return all ? all.lives.map((l) => pathOf(courseOf(all, l.number))).join('') : ''
})
const bands = computed(() => {
    const all = muster.value
    return all
        ? [
              { words: 'one in ten is above', values: all.high, dashed: true },
              { words: 'half are above', values: all.middle, dashed: false },
              { words: 'nine in ten are', values: all.low, dashed: true },
          ].map((b) => ({ ...b, path: linePath({ x, y }, times.value, b.values), last: b.values.at(-1) ?? null }))
        : []
})
const names = computed(() => {
    const there = bands.value.flatMap((b) => (b.last === null ? [] : [{ words: b.words, strong: !b.dashed, y: y(b.last) }]))
    const placed = apart(
        there.map((n) => n.y),
        15,
        TOP + plane.value,
    )
    return there.map((n, i) => ({ ...n, y: placed[i] ?? n.y }))
})
const own = computed(() => (muster.value && members.chosen >= 0 ? courseOf(muster.value, members.chosen) : []))
const end = computed(() => own.value.at(-1))
const gone = computed(() => {
    const m = members.member
    return m && m.to !== null ? `${m.why}, ${model.moment(m.to)}` : ''
})
/** Exits stand where the line of the member ends. */
const ends = computed(() => {
    const all = muster.value
    return all
        ? comings(all).left.flatMap((e) => {
              const last = courseOf(all, e.number).at(-1)
              return last ? [{ ...e, x: x(last[0]), y: y(last[1]) }] : []
          })
        : []
})
const strip = computed(() => {
    const all = muster.value
    if (!all) {
        return []
    }
    const { came, left } = comings(all)
    const words = [...new Set([...Object.keys(all.came), ...Object.keys(all.left)])]
    return words.map((w, i) => ({
        words: w,
        entered: w in all.came,
        count: (all.came[w] ?? 0) + (all.left[w] ?? 0),
        marks: [...came, ...left].filter((e) => e.words === w),
        y: TOP + plane.value + FOOT + 8 + i * 16,
    }))
})
const { press, drag } = usePlayheadPull(() => ({ span: span.value, left: LEFT, width: wide.value }))
const spoken = computed(() => {
    const all = muster.value
    const comes = strip.value.map((s) => `${s.count} ${s.words}`).join(', ')
    return all
        ? `${members.column?.name ?? ''} of each ${all.name}: ${counted(all.lives.length, 'line')}; at the end half are above ${short(all.middle.at(-1), { unit: unit.value })}${comes ? `; in all ${comes}` : ''}`
        : ''
})
/** Where a line is pressed, its member is the one that is looked at. */
function pick(event: MouseEvent) {
    const all = muster.value
    const place = (event.currentTarget as Element).getBoundingClientRect()
    const [px, py] = [event.clientX - place.left, event.clientY - place.top]
    let [best, near] = [-1, 14]
    for (const life of all?.lives ?? []) {
        for (const [t, v] of courseOf(all as NonNullable<typeof all>, life.number)) {
            const far = Math.hypot(x(t) - px, y(v) - py)
            if (far < near) {
                ;[best, near] = [life.number, far]
            }
        }
    }
    if (best >= 0) {
        members.chosen = best
    }
}
</script>

<template>
    <div ref="box" class="box">
        <svg
            v-if="muster"
            :width="width"
            :height="height"
            role="img"
            :aria-label="spoken"
            @pointerdown="press"
            @pointermove="drag"
            @click="pick"
        >
            <ValueAxis :scale="scale" :unit="unit" :left="LEFT" :width="wide" :y="y" />
            <path class="thin" :d="thin" />
            <path v-for="b in bands" :key="b.words" class="band" :class="{ dashed: b.dashed }" :d="b.path" />
            <path v-for="(e, i) in ends" :key="i" class="exit" :d="`M${e.x - 3} ${e.y - 3}l6 6m0 -6l-6 6`">
                <title>{{ muster.members[e.number]?.name }}, {{ e.words }}</title>
            </path>
            <template v-if="own.length">
                <path class="own" :d="pathOf(own)" />
                <circle v-if="own[0]" class="begin" :cx="x(own[0][0])" :cy="y(own[0][1])" r="3.5" />
                <text
                    v-if="own[0]"
                    class="mine"
                    :x="Math.min(x(own[0][0]) + 8, LEFT + wide - 90)"
                    :y="Math.max(TOP + 10, y(own[0][1]) - 7)"
                >
                    {{ members.member?.name }}
                </text>
                <template v-if="gone && end">
                    <path class="exit strong" :d="`M${x(end[0]) - 5} ${y(end[1]) - 5}l10 10m0 -10l-10 10`" />
                    <text class="mine plain" :x="Math.min(x(end[0]) + 9, LEFT + wide - 90)" :y="y(end[1]) + 16">{{ gone }}</text>
                </template>
            </template>
            <text v-for="n in names" :key="n.words" class="name" :class="{ strong: n.strong }" :x="LEFT + wide + 8" :y="n.y + 4">
                {{ n.words }}
            </text>
            <TimeAxis :span="span" :left="LEFT" :width="wide" :top="TOP" :foot="TOP + plane" />
            <g v-for="s in strip" :key="s.words">
                <line class="rail" :x1="LEFT" :x2="LEFT + wide" :y1="s.y + 4" :y2="s.y + 4" />
                <path
                    v-for="(m, i) in s.marks"
                    :key="i"
                    class="mark"
                    :class="{ mine: m.number === members.chosen }"
                    :d="s.entered ? `M${x(m.time)} ${s.y - 2}v10` : `M${x(m.time) - 3} ${s.y + 1}l6 6m0 -6l-6 6`"
                />
                <text class="name" :x="LEFT + wide + 8" :y="s.y + 8">{{ s.count }} {{ s.words }}</text>
            </g>
        </svg>
    </div>
</template>

<style scoped>
.box {
    flex: 1;
    min-height: 220px;
    overflow: hidden;
}
svg {
    display: block;
    cursor: crosshair;
    touch-action: none;
}
.thin {
    fill: none;
    stroke: var(--basin);
    stroke-width: 0.7;
    opacity: 0.5;
}
.band {
    fill: none;
    stroke: var(--basin);
    stroke-width: 2.2;
}
.band.dashed {
    stroke-width: 1.4;
    stroke-dasharray: 5 4;
}
.exit,
.mark {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.2;
}
.exit {
    opacity: 0.75;
}
.exit.strong,
.mark.mine {
    stroke-width: 2.4;
    opacity: 1;
}
.own {
    fill: none;
    stroke: var(--ink);
    stroke-width: 2;
}
.begin {
    fill: var(--ink);
}
.rail {
    stroke: var(--hairline);
}
text {
    font-size: 12px;
    fill: var(--ink);
}
.mine {
    font-weight: 700;
    paint-order: stroke;
    stroke: var(--card);
    stroke-width: 3px;
}
.mark.mine {
    stroke: var(--ink);
}
.mine.plain {
    font-weight: 400;
}
.name {
    fill: var(--ink-soft);
}
.name.strong {
    font-weight: 700;
    fill: var(--ink);
}
</style>
