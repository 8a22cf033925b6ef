<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { usePlayheadPull } from '@/charts/plane'
import TimeAxis from '@/charts/TimeAxis.vue'
import { useMembers } from '@/stores/members'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import ChoiceField from '@/ui/ChoiceField.vue'
import { counted, short } from '@/ui/numbers'
import { spansOf } from './lives'
import { between } from './where'

/** When something holds of each member: a bar along time for each, those first for whom it holds first; and who keeps others waiting. */
const members = useMembers()
const model = useModel()
const view = useView()
const box = ref<HTMLElement>()
const { width } = useElementSize(box, { width: 700, height: 420 })
const [LEFT, RIGHT, TOP, FOOT, ROW] = [170, 24, 6, 22, 15]
const wide = computed(() => Math.max(160, width.value - LEFT - RIGHT))
const muster = computed(() => members.muster)
const times = computed(() => muster.value?.times ?? [])
const span = computed<[number, number]>(() => [times.value[0] ?? 0, times.value.at(-1) ?? 1])
const x = (t: number) => LEFT + ((t - span.value[0]) / (span.value[1] - span.value[0] || 1)) * wide.value
const nameOf = (number: number) => muster.value?.members[number]?.name ?? ''
const spans = computed(() => (muster.value ? spansOf(muster.value) : []))
const waits = computed(() => muster.value?.waits ?? null)
const through = computed(() => new Map((waits.value?.through ?? []).map((t) => [t.number, t.time])))
const chain = computed(() => new Set(waits.value?.by ? waits.value.chain : []))
/** Who keeps others waiting, at the last moment that the playhead has passed. */
const holding = computed(() => {
    const { low, high, share } = between(times.value, view.playhead)
    return (waits.value?.by && waits.value.holding[share < 1 ? low : high]) || []
})

/** What says when each was to be through: of what they have for good, what is measured in the study's time. */
const plans = computed(() => (muster.value?.columns ?? []).filter((c) => c.steady && c.unit === model.model.time.unit))
const plan = computed({
    get: () => members.roster?.seen?.plan ?? plans.value.find((c) => /plan/i.test(c.name))?.key ?? '',
    set: (key: string) => void members.put({ seen: { ...members.roster?.seen, plan: key } }),
})
const choices = computed(() => [{ value: '', words: '–' }, ...plans.value.map((c) => ({ value: c.key, words: c.name }))])
const planned = computed(
    () =>
        new Map(
            members.rows.flatMap((r): [number, number][] =>
                typeof r.values[plan.value] === 'number' ? [[r.number, r.values[plan.value] as number]] : [],
            ),
        ),
)
const rows = computed(() =>
    spans.value.map((r, i) => {
        const [was, wished] = [through.value.get(r.number), planned.value.get(r.number)]
        return {
            ...r,
            y: TOP + i * ROW,
            name: nameOf(r.number),
            was,
            wished,
            late: was !== undefined && wished !== undefined && was > wished + 1e-9,
        }
    }),
)
const late = computed(() => rows.value.filter((r) => r.late))
const most = computed(() => Math.max(...late.value.map((r) => (r.was ?? 0) - (r.wished ?? 0))))
const foot = computed(() => TOP + rows.value.length * ROW)
const { press, drag } = usePlayheadPull(() => ({ span: span.value, left: LEFT, width: wide.value }))
const cut = (name: string) => (name.length > 24 ? `${name.slice(0, 23)}…` : name)
const delay = (by: number) => `${short(by)} ${model.model.time.unit}${Math.abs(by - 1) < 1e-9 ? '' : 's'}`
const spoken = computed(
    () =>
        `When ${members.column?.name ?? ''} holds of each ${muster.value?.name ?? ''}: ${counted(rows.value.length, 'line')}; ${rows.value
            .slice(0, 3)
            .map((r) => r.name)
            .join(', ')} first`,
)
const told = (r: (typeof rows.value)[number]) =>
    [
        r.name,
        r.was !== undefined && r.wished !== undefined
            ? `${delay(Math.abs(r.was - r.wished))} ${r.late ? 'later' : 'sooner'} than planned`
            : '',
    ]
        .filter(Boolean)
        .join(': ')
</script>

<template>
    <div class="whole">
        <div class="said">
            <p v-if="waits?.by" role="status">
                <em>At {{ model.moment(view.playhead) }}</em>
                <template v-if="holding.length">
                    <template v-for="(h, i) in holding" :key="h.number"
                        >{{ i ? ', ' : ' ' }}<Button class="link" @click="members.chosen = h.number">{{ nameOf(h.number) }}</Button>
                        {{ i ? h.waiting : `keeps ${h.waiting} waiting` }}</template
                    >.
                </template>
                <template v-else>nobody keeps another waiting.</template>
            </p>
        </div>
        <div ref="box" class="box" tabindex="0" :aria-label="`When it holds of each ${muster?.name ?? ''}`">
            <svg
                v-if="muster"
                :width="width"
                :height="foot + FOOT"
                role="img"
                :aria-label="spoken"
                @pointerdown="press"
                @pointermove="drag"
            >
                <g
                    v-for="r in rows"
                    :key="r.number"
                    :class="{ mine: r.number === members.chosen, chain: chain.has(r.number) }"
                    @click="members.chosen = r.number"
                >
                    <text class="name" :x="LEFT - 8" :y="r.y + 11" text-anchor="end">
                        {{ cut(r.name) }}
                        <title>{{ told(r) }}</title>
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
                    <template v-if="r.wished !== undefined">
                        <line
                            v-if="r.late && r.was !== undefined"
                            class="late"
                            :x1="x(r.wished)"
                            :x2="x(r.was)"
                            :y1="r.y + ROW / 2"
                            :y2="r.y + ROW / 2"
                        />
                        <path class="planned" :d="`M${x(r.wished)} ${r.y + 1}v${ROW - 2}`">
                            <title>{{ told(r) }}</title>
                        </path>
                    </template>
                </g>
                <TimeAxis :span="span" :left="LEFT" :width="wide" :top="TOP" :foot="foot" />
            </svg>
        </div>
        <p class="legend soft">
            <span v-if="chain.size"><i class="key chain"></i> the chain by “{{ waits?.by }}” that decides when all is through</span>
            <label v-if="plans.length"
                ><i class="key tick"></i> planned
                <ChoiceField v-model="plan" label="What says when each was to be through" :choices="choices" />
            </label>
            <span v-if="planned.size">
                <template v-if="late.length">
                    <i class="key late"></i> {{ late.length }} of {{ rows.length }} were through later, by up to {{ delay(most) }}
                </template>
                <template v-else>none was through later</template>
            </span>
        </p>
    </div>
</template>

<style scoped>
.whole {
    display: flex;
    flex: 1;
    flex-direction: column;
    min-height: 0;
}
.said {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    justify-content: space-between;
    gap: 4px 20px;
    padding: 4px 16px;
    font-size: 13px;
}
em {
    font-style: normal;
    font-weight: 700;
    color: var(--ember);
}
.box {
    flex: 1;
    min-height: 180px;
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
.mine .name,
.chain .name {
    font-weight: 700;
    fill: var(--ink);
}
.rail {
    stroke: var(--hairline);
}
.bar {
    fill: var(--basin);
    fill-opacity: 0.45;
}
.chain .bar {
    fill-opacity: 1;
}
.mine .bar {
    fill: var(--ink);
    fill-opacity: 1;
}
.planned {
    stroke: var(--ink);
    stroke-width: 2;
}
.late {
    stroke: var(--brick);
    stroke-width: 2;
}
.legend {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 22px;
    padding: 2px 16px 8px;
    font-size: 13px;
}
.legend {
    align-items: center;
}
.legend span,
.legend label {
    display: flex;
    align-items: center;
    gap: 6px;
}
.key {
    width: 22px;
    height: 10px;
}
.key.chain {
    background: var(--basin);
}
.key.tick {
    width: 2px;
    height: 13px;
    background: var(--ink);
}
.key.late {
    height: 2px;
    background: var(--brick);
}
.soft {
    color: var(--ink-soft);
}
.link {
    padding: 0;
    font-weight: 700;
}
</style>
