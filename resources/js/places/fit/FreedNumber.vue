<script setup lang="ts">
import { TriangleAlert, X } from '@lucide/vue'
import { computed } from 'vue'
import type { Calibrated, OpenResult, Thing } from '@/api/types'
import type { Free } from '@/stores/fits'
import { pointsOf, usualBounds } from '@/stores/fitting'
import { useView } from '@/stores/view'
import ChoiceField from '@/ui/ChoiceField.vue'
import { fieldText, fieldValue, literal, short, shownUnit, withUnit } from '@/ui/numbers'

/** A number between its bounds: where it stands, where it was, where it lies 19 times in 20, and how far off all is when it is held. */
const {
    free,
    thing,
    name,
    unit,
    before,
    now,
    result,
    profile,
    open,
    locked,
    plain = false,
} = defineProps<{
    free: Free
    thing: Thing
    name: string
    unit: string
    before: number | null
    now: number | null
    result: NonNullable<Calibrated['result']>['parameters'][number] | undefined
    profile: (number | null)[][] | undefined
    open: OpenResult['parameters'][number] | undefined
    /** While it is searched bounds stay. */ locked: boolean
    /** Neither a logarithm nor what is known of it before makes a difference. */ plain?: boolean
}>()
const emit = defineEmits<{ bounds: [fields: Partial<Free>]; remove: [] }>()
const view = useView()
const points = computed(() => pointsOf(thing).map(([x]) => ({ value: literal(x), words: short(x, { unit: thing.inputUnit ?? '' }) })))
const [WIDE, LINE] = [280, 30]
const share = (v: number) => {
    const { low, high, log } = free
    const part = log ? Math.log(Math.max(v, low) / low) / Math.log(high / low) : (v - low) / (high - low)
    return Math.min(1, Math.max(0, part))
}
const x = (v: number) => 7 + share(v) * (WIDE - 14)
const isIn = (v: number | null): v is number => v !== null && v >= free.low && v <= free.high
const shown = computed(() => now ?? before)
const curve = computed(() => {
    const points = (profile ?? []).flatMap(([v, off]) =>
        v === null || off === null || v === undefined || off === undefined ? [] : [[v, off] as const],
    )
    const least = Math.min(...points.map(([, off]) => off))
    const most = Math.max(...points.map(([, off]) => off))
    // What is flat is drawn flat: a hundredth nearer or farther is nothing.
    const size = Math.max(most - least, 0.01 * least, 1e-300)
    return points.map(([v, off], i) => `${i ? 'L' : 'M'}${x(v).toFixed(1)} ${(LINE - 5 - ((off - least) / size) * 22).toFixed(1)}`).join('')
})
/** Draws as a hill: how densely they lie between the bounds. */
const hill = computed(() => {
    const points = (open?.density ?? []).filter(([v]) => v !== undefined && v >= free.low && v <= free.high)
    const most = Math.max(...points.map(([, y = 0]) => y), 1e-300)
    const spots = points.map(([v = 0, y = 0]) => `${x(v).toFixed(1)} ${(LINE - (y / most) * 25).toFixed(1)}`)
    const [first, last] = [points[0]?.[0], points.at(-1)?.[0]]
    return first === undefined || last === undefined
        ? ''
        : `M${x(first).toFixed(1)} ${LINE}L${spots.join('L')}L${x(last).toFixed(1)} ${LINE}Z`
})
const atBound = computed(() => result?.at_bound === true)
const interval = computed(() => {
    const [low, high] = open
        ? [open.percentiles['2.5'] ?? null, open.percentiles['97.5'] ?? null]
        : [result?.low ?? null, result?.high ?? null]
    return low === null || high === null || (atBound.value && !open) ? null : ([low, high] as const)
})
function typed(field: 'low' | 'high', text: string) {
    const value = fieldValue(text, unit)
    if (Number.isFinite(value) && value !== free[field]) {
        emit('bounds', { [field]: value, ...(field === 'low' && value <= 0 ? { log: undefined } : {}) })
    }
}
const suggested = computed(() => {
    const middle = Number((before ?? (free.low + free.high) / 2).toPrecision(3))
    return `normal(${literal(middle)}, ${literal(Number((Math.abs(middle) / 10 || 1).toPrecision(2)))})`
})
const words = computed(
    () =>
        `${name}: ${withUnit(shown.value, unit)}, between ${short(free.low, { unit })} and ${short(free.high, { unit })}` +
        (before !== null && now !== null ? `, before ${short(before, { unit })}` : '') +
        (interval.value
            ? `; ${plain ? 'nearly as good' : '19 times in 20'} between ${short(interval.value[0], { unit })} and ${short(interval.value[1], { unit })}`
            : '') +
        (atBound.value ? '; at its bound' : ''),
)
</script>

<template>
    <article>
        <header>
            <Button class="who" :title="`Show ${name}`" @click="view.goTo(free.of)">{{
                thing.kind === 'curve' ? thing.name : name
            }}</Button>
            <template v-if="thing.kind === 'curve'"
                ><span class="soft">at</span>
                <ChoiceField
                    :model-value="free.at?.[0] ?? ''"
                    :label="`Which point of ${thing.name}`"
                    :choices="points"
                    :disabled="locked"
                    @update:model-value="$event && emit('bounds', { at: [$event], ...usualBounds(thing, $event) })"
            /></template>
            <span v-if="thing.kind === 'stock'" class="soft">at start</span>
            <span v-if="atBound" class="bound"><TriangleAlert :size="13" :stroke-width="1.7" />at its bound</span>
            <span class="value"
                ><b>{{ short(shown, { unit }) }}</b> <span class="soft">{{ shownUnit(unit) }}</span></span
            >
            <Button
                v-if="!locked"
                class="icon-button"
                :aria-label="`Leave ${name} as it is`"
                :title="`Leave ${name} as it is`"
                @click="emit('remove')"
                ><X :size="13" :stroke-width="1.7"
            /></Button>
        </header>
        <svg :viewBox="`0 0 ${WIDE} 40`" role="img" :aria-label="words">
            <path v-if="hill" class="hill" :d="hill" />
            <path v-else-if="curve" class="curve" :d="curve" />
            <line class="axis" :x1="7" :x2="WIDE - 7" :y1="LINE" :y2="LINE" />
            <line class="axis" :x1="7" :x2="7" :y1="LINE - 5" :y2="LINE + 5" />
            <line class="axis" :x1="WIDE - 7" :x2="WIDE - 7" :y1="LINE - 5" :y2="LINE + 5" />
            <line v-if="interval" class="lies" :x1="x(interval[0])" :x2="x(interval[1])" :y1="LINE" :y2="LINE" />
            <line v-if="isIn(before) && now !== null" class="before" :x1="x(before)" :x2="x(before)" :y1="LINE - 7" :y2="LINE + 7">
                <title>before: {{ short(before, { unit }) }}</title>
            </line>
            <circle v-if="isIn(shown)" :cx="x(shown)" :cy="LINE" r="4.6" :class="{ still: now === null }" />
        </svg>
        <footer>
            <InputText
                class="bound-field"
                :disabled="locked"
                :model-value="fieldText(free.low, unit)"
                :aria-label="`Lower bound of ${name}`"
                @change="typed('low', ($event.target as HTMLInputElement).value)"
            />
            <span v-if="interval" class="between">{{ short(interval[0], { unit }) }} to {{ short(interval[1], { unit }) }}</span>
            <label
                v-else-if="!locked && !plain && free.low > 0"
                class="soft log"
                :title="`Looked for by its logarithm: a factor counts the same everywhere`"
                ><Checkbox
                    :model-value="free.log === true"
                    binary
                    @update:model-value="emit('bounds', { log: $event === true ? true : undefined })"
                />log</label
            >
            <InputText
                class="bound-field high"
                :disabled="locked"
                :model-value="fieldText(free.high, unit)"
                :aria-label="`Upper bound of ${name}`"
                @change="typed('high', ($event.target as HTMLInputElement).value)"
            />
        </footer>
        <details v-if="!plain && (!locked || free.law)" class="prior">
            <summary class="soft">{{ free.law ? `held before: ${free.law}` : 'what is known of it before' }}</summary>
            <InputText
                class="field"
                :disabled="locked"
                :model-value="free.law ?? ''"
                :placeholder="suggested"
                :aria-label="`How likely values of ${name} were held to be before`"
                @change="emit('bounds', { law: ($event.target as HTMLInputElement).value.trim() || undefined })"
            />
            <p class="soft">A distribution, as {{ suggested }}; empty: all between the bounds alike.</p>
        </details>
    </article>
</template>

<style scoped>
article {
    padding: 6px 0 8px;
}
header {
    display: flex;
    align-items: baseline;
    gap: 6px;
}
.prior {
    font-size: 12.5px;
}
.prior summary {
    min-height: 24px;
    align-content: center;
    cursor: pointer;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
.prior p {
    margin: 2px 0 4px;
}
.who {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    min-width: 0;
}
.value {
    margin-left: auto;
    white-space: nowrap;
}
header .soft {
    font-size: 12.5px;
}
header .icon-button {
    width: 22px;
    height: 22px;
    align-self: center;
    margin-right: -4px;
}
.bound {
    display: inline-flex;
    align-items: center;
    gap: 3px;
    font-size: 12.5px;
    color: var(--ochre);
    white-space: nowrap;
}
svg {
    display: block;
    width: 100%;
}
.axis {
    stroke: var(--line);
}
.curve {
    fill: none;
    stroke: var(--ribbon);
    stroke-width: 1.4;
}
.hill {
    fill: color-mix(in srgb, var(--ribbon) 26%, transparent);
    stroke: var(--ribbon);
}
.lies {
    stroke: var(--ink);
    stroke-width: 4;
}
.before {
    stroke: var(--ink);
    stroke-width: 1.4;
    stroke-dasharray: 2 2;
}
circle {
    fill: var(--card);
    stroke: var(--ink);
    stroke-width: 2;
}
circle.still {
    stroke: var(--line);
}
footer {
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 6px;
    min-height: 24px;
    font-size: 12.5px;
}
.between {
    font-weight: 700;
    white-space: nowrap;
}
.bound-field {
    width: 72px;
    min-height: 24px;
    padding: 0 3px;
    border: 0;
    border-bottom: 1.5px dotted var(--line);
    border-radius: 3px;
    background: none;
    font-size: 12.5px;
    color: var(--ink-soft);
}
.bound-field:hover:enabled {
    background: var(--hover);
}
.bound-field:disabled {
    border-bottom-color: transparent;
    opacity: 1;
}
.high {
    text-align: right;
}
.log {
    white-space: nowrap;
}
</style>
