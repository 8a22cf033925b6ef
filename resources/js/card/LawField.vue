<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { uncertain } from '@/api/uncertain'
import type { Thing } from '@/api/types'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import ChoiceField from '@/ui/ChoiceField.vue'
import { counted, fieldText, fieldValue, literal, short, shownUnit } from '@/ui/numbers'
import { FAMILIES, isListed, outline, settled, spanOf, written } from './laws'
import { useLaw } from './useLaw'

/** How likely the values of a parameter are: shaped by hand on its density, or typed. */
const { thing, input } = defineProps<{ thing: Thing; input: { id: string; of: string; at?: string[]; law: string; off?: boolean } }>()
/** Values that a distribution of what was seen keeps. */
const MOST = 2000
const model = useModel()
const notices = useNotices()
/** As it is while a handle is held; what stands in the study follows when it is let go. */
const held = ref('')
const law = computed(() => held.value || input.law)
const { read, refusal } = useLaw(() => law.value)
const unit = computed(() => thing.unit)
const family = computed(() => FAMILIES.find((f) => f.name === read.value?.family))

const box = ref<HTMLElement>()
const { width } = useElementSize(box, { width: 230, height: 0 })
const HEIGHT = 64
/** While a handle is held the picture stands still under it. */
const fixed = ref<[number, number] | null>(null)
const span = computed<[number, number]>(() => fixed.value ?? (read.value ? spanOf(read.value) : [0, 1]))
const x = (v: number) => ((v - span.value[0]) / (span.value[1] - span.value[0])) * width.value
const shape = computed(() => (read.value ? outline(read.value, span.value, width.value, HEIGHT) : ''))

interface Handle {
    words: string
    at: number
    put: (to: number) => string
}
const handles = computed<Handle[]>(() => {
    const now = read.value
    if (!now || !family.value) {
        return []
    }
    const own = family.value.numbers.flatMap((number, i) =>
        number.place
            ? [
                  {
                      words: number.words,
                      at: number.place.at(now.numbers),
                      put: (to: number) =>
                          written(
                              now.family,
                              now.numbers.map((n, k) => (k === i ? (number.place?.from(to, now.numbers) ?? n) : n)),
                              now.low,
                              now.high,
                          ),
                  },
              ]
            : [],
    )
    const limits = [
        ...(now.low === null
            ? []
            : [{ words: 'not below', at: now.low, put: (to: number) => written(now.family, now.numbers, to, now.high) }]),
        ...(now.high === null
            ? []
            : [{ words: 'not above', at: now.high, put: (to: number) => written(now.family, now.numbers, now.low, to) }]),
    ]
    return [...own, ...limits].filter((h) => x(h.at) >= -1 && x(h.at) <= width.value + 1)
})

async function keep(text: string) {
    if (text === input.law || (await model.attempt({ kind: 'put', part: 'uncertain', id: input.id, fields: { law: text } }))) {
        held.value = ''
    }
}
function grip(event: PointerEvent) {
    fixed.value = span.value
    ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
}
function drag(event: PointerEvent, handle: Handle) {
    if (event.buttons !== 1 || !fixed.value || !box.value) {
        return
    }
    const [from, to] = fixed.value
    const share = (event.clientX - box.value.getBoundingClientRect().left) / width.value
    held.value = handle.put(settled(from + Math.min(1, Math.max(0, share)) * (to - from), to - from))
}
function letGo() {
    fixed.value = null
    if (held.value) {
        void keep(held.value)
    }
}
let resting = 0
function step(event: KeyboardEvent, handle: Handle) {
    const way = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1, PageDown: -10, PageUp: 10 }[event.key]
    if (way === undefined) {
        return
    }
    event.preventDefault()
    const size = span.value[1] - span.value[0]
    fixed.value ??= span.value
    held.value = handle.put(settled(handle.at + (way * size) / 100, size))
    window.clearTimeout(resting)
    resting = window.setTimeout(letGo, 500)
}

// What is typed stays until it is taken over.
const list = ref('')
watch(
    read,
    (now) => {
        if (now && isListed(now.family)) {
            list.value = now.law.replace(/^[a-z]+\(|\).*$/g, '')
        }
    },
    { immediate: true },
)
function type(i: number, text: string) {
    const now = read.value
    const value = fieldValue(text, unit.value)
    if (now && Number.isFinite(value)) {
        void keep(
            written(
                now.family,
                now.numbers.map((n, k) => (k === i ? value : n)),
                now.low,
                now.high,
            ),
        )
    } else {
        notices.trouble(`“${text}” is no number.`)
    }
}
function limit(which: 'low' | 'high', text: string) {
    const now = read.value
    const value = text.trim() === '' ? null : fieldValue(text, unit.value)
    if (now && (value === null || Number.isFinite(value))) {
        void keep(written(now.family, now.numbers, which === 'low' ? value : now.low, which === 'high' ? value : now.high))
    }
}
async function become(name: string) {
    try {
        const other = await uncertain.distribution(model.id, { law: input.law, as: name })
        await keep(other.law)
    } catch (error) {
        notices.trouble((error as Error).message)
    }
}
/** Numbers as they come from a table or a mail. */
const typeList = () => {
    const numbers = list.value
        .trim()
        .replace(/[\s;]+/g, ', ')
        .replace(/,\s*,/g, ',')
        .replace(/:,/g, ':')
    return keep(`${read.value?.family ?? 'empirical'}(${numbers})`)
}
/** What was measured of anything: its values may be how those of the parameter are spread. */
const measured = computed(() =>
    Object.values(model.model.evidence ?? {}).flatMap((e) => {
        const of = model.model.elements[e.of]
        const own = e.unit ?? of?.unit ?? ''
        const name = of ? `${of.name}${e.at?.length ? `[${e.at.join(', ')}]` : ''}` : ''
        return of && e.points.length > 1
            ? [{ value: e.id, words: `${name}${shownUnit(own) ? `, ${shownUnit(own)}` : ''}: ${counted(e.points.length, 'value')}` }]
            : []
    }),
)
function takeMeasured(id: string) {
    const points = model.model.evidence?.[id]?.points ?? []
    // As many as a distribution keeps, evenly through all of them.
    const every = Math.max(1, Math.ceil(points.length / MOST))
    const values = points.filter((_, i) => i % every === 0).map(([, v]) => literal(v))
    void keep(`empirical(${values.join(', ')})`)
}
const words = computed(() => {
    const p = read.value?.percentiles
    return p
        ? `9 in 10 between ${short(p['5'], { unit: unit.value })} and ${short(p['95'], { unit: unit.value })}${unit.value ? ` ${shownUnit(unit.value)}` : ''}`
        : ''
})
const shownNumber = (i: number, value: number) =>
    family.value?.numbers[i]?.words.startsWith('shape') ? literal(value) : fieldText(value, unit.value)
</script>

<template>
    <div class="law" :aria-label="`How likely values of ${thing.name} are`" role="group">
        <ChoiceField
            :model-value="read?.family ?? ''"
            :choices="FAMILIES.map((f) => ({ value: f.name, words: f.words }))"
            :label="`Distribution of ${thing.name}`"
            @update:model-value="become($event as string)"
        />
        <div ref="box" class="picture">
            <svg :width="width" :height="HEIGHT + 16" aria-hidden="true">
                <g transform="translate(0 4)">
                    <path :d="shape" class="shape" :class="{ single: read?.family === 'discrete' }" />
                    <line x1="0" :x2="width" :y1="HEIGHT" :y2="HEIGHT" class="foot" />
                    <line
                        v-if="thing.value !== null && thing.value !== undefined && x(thing.value) >= 0 && x(thing.value) <= width"
                        :x1="x(thing.value)"
                        :x2="x(thing.value)"
                        y1="0"
                        :y2="HEIGHT"
                        class="own"
                    />
                </g>
            </svg>
            <Button
                v-for="h in handles"
                :key="h.words"
                role="slider"
                class="handle"
                :style="{ left: `${x(h.at)}px` }"
                :aria-label="`${h.words} of ${thing.name}`"
                :title="`${h.words}: ${short(h.at, { unit })}`"
                :aria-valuenow="h.at"
                :aria-valuemin="span[0]"
                :aria-valuemax="span[1]"
                :aria-valuetext="`${h.words} ${short(h.at, { unit })}`"
                @pointerdown="grip"
                @pointermove="drag($event, h)"
                @pointerup="letGo"
                @keydown="step($event, h)"
            />
        </div>
        <p class="soft" role="status">{{ words }}</p>
        <p v-if="refusal" class="refusal" role="alert">{{ refusal }}</p>
        <div v-if="read && !isListed(read.family)" class="numbers">
            <label v-for="(n, i) in family?.numbers ?? []" :key="n.words"
                ><span>{{ n.words }}</span
                ><InputText
                    class="field"
                    :model-value="shownNumber(i, read.numbers[i] as number)"
                    :aria-label="`${n.words} of ${thing.name}`"
                    @change="type(i, ($event.target as HTMLInputElement).value)"
            /></label>
            <label
                ><span>not below</span
                ><InputText
                    class="field"
                    :model-value="read.low === null ? '' : fieldText(read.low, unit)"
                    placeholder="no limit"
                    :aria-label="`${thing.name} is not below`"
                    @change="limit('low', ($event.target as HTMLInputElement).value)"
            /></label>
            <label
                ><span>not above</span
                ><InputText
                    class="field"
                    :model-value="read.high === null ? '' : fieldText(read.high, unit)"
                    placeholder="no limit"
                    :aria-label="`${thing.name} is not above`"
                    @change="limit('high', ($event.target as HTMLInputElement).value)"
            /></label>
        </div>
        <ChoiceField
            v-if="read?.family === 'empirical' && measured.length"
            model-value=""
            :choices="[{ value: '', words: 'take what was measured of …' }, ...measured]"
            :label="`Measured values for ${thing.name}`"
            @update:model-value="$event && takeMeasured($event as string)"
        />
        <label v-if="read && isListed(read.family)" class="list"
            ><span>{{
                read.family === 'discrete' ? 'values with weights, as 1: 3, 2: 1' : 'what was seen: paste a column of numbers'
            }}</span
            ><Textarea v-model="list" class="field" rows="3" :aria-label="`Values of ${thing.name}`" @change="typeList"
        /></label>
    </div>
</template>

<style scoped>
.law {
    display: grid;
    gap: 6px;
    min-width: 0;
}
.picture {
    position: relative;
    min-width: 0;
    touch-action: none;
}
svg {
    display: block;
}
.shape {
    fill: color-mix(in srgb, var(--ribbon) 22%, transparent);
    stroke: var(--ribbon);
    stroke-width: 1.4;
}
.shape.single {
    stroke-width: 3;
}
.foot {
    stroke: var(--line);
}
.own {
    stroke: var(--ink);
    stroke-width: 1.4;
    stroke-dasharray: 3 3;
}
.handle {
    position: absolute;
    top: 61px;
    width: 18px;
    height: 18px;
    margin-left: -9px;
    padding: 0;
    border: 0;
    background: none;
    cursor: ew-resize;
}
.handle::after {
    content: '';
    position: absolute;
    inset: 3px;
    border: 1.6px solid var(--ink);
    border-radius: 3px;
    background: var(--card);
    rotate: 45deg;
}
.handle:hover::after {
    background: var(--ink);
}
p {
    font-size: 12.5px;
}
.refusal {
    color: var(--brick);
}
.numbers {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 6px 8px;
}
label {
    display: grid;
    gap: 1px;
    min-width: 0;
    font-size: 12.5px;
    color: var(--ink-soft);
}
.field {
    min-width: 0;
    width: 100%;
    min-height: 28px;
    padding: 2px 7px;
    color: var(--ink);
}
</style>
