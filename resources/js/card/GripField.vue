<script setup lang="ts">
import { Hand, Power } from '@lucide/vue'
import { computed, ref } from 'vue'
import type { Grip, Signal, Thing } from '@/api/types'
import { linesOf } from '@/charts/lines'
import { useCourses } from '@/stores/courses'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import ChoiceField from '@/ui/ChoiceField.vue'
import { fieldText, fieldValue, literal, niceAbove, short } from '@/ui/numbers'

/** A variable taken by hand: its signal with handles on its own plot. */
const { thing } = defineProps<{ thing: Thing }>()
const model = useModel()
const runs = useRuns()
const courses = useCourses()
const view = useView()
const look = useLook()

const SIGNALS: { value: Signal; words: string }[] = [
    { value: 'constant', words: 'Constant' },
    { value: 'step', words: 'Step' },
    { value: 'ramp', words: 'Ramp' },
    { value: 'wave', words: 'Wave' },
    { value: 'pulses', words: 'Repeated pulses' },
    { value: 'window', words: 'Window' },
    { value: 'series', words: 'As a series' },
    { value: 'drawn', words: 'Drawn by hand' },
]
const WORDS: Record<string, string> = {
    value: 'value',
    before: 'before',
    at: 'at',
    to: 'until',
    amplitude: 'swings by',
    period: 'every',
    width: 'lasting',
    every: 'every',
}

/** Numbers of a signal that are times; the others are values of the variable. */
const OF_TIME = new Set(['at', 'to', 'period', 'width', 'every'])

/** The one element that the window looks at, else all of them together. */
const subject = computed(() => look.subjectOf(thing.id))
const grip = computed(() => runs.present.grips[subject.value])
const whose = computed(() => {
    const open = look.openOf(thing)
    return !thing.along ? '' : open.length ? `each ${open.map((d) => d.name).join(' and ')} alike` : (look.nameOf(subject.value) ?? '')
})
const time = computed(() => model.model.time)
const series = computed(() => model.things.filter((t) => t.kind === 'series' && t.id !== thing.id && (t.points?.length ?? 0) > 1))

const signals = computed(() => SIGNALS.map((s) => ({ ...s, disabled: s.value === 'series' && !series.value.length })))

/** A course that begins with what the variable is at the playhead. */
function begin(signal: Signal): Grip {
    const { start, end } = time.value
    const span = end - start
    const round = (v: number) => Number(v.toPrecision(3))
    const now = round(grip.value?.values?.value ?? runs.value(thing.id) ?? 0)
    const size = now || 1
    const at = round(start + span / 4)
    const keep = {
        ...(grip.value?.from === undefined ? {} : { from: grip.value.from }),
        ...(grip.value?.until === undefined ? {} : { until: grip.value.until }),
    }
    const values: Record<string, Record<string, number>> = {
        constant: { value: now },
        step: { before: now, value: round(now + size / 2), at },
        ramp: { before: now, value: round(now + size / 2), at, to: round(at + span / 4) },
        wave: { value: now, amplitude: round(Math.abs(size) / 4), period: round(span / 6), at: start },
        pulses: { before: 0, value: round(size), at, width: round(span / 20), every: round(span / 6) },
        window: { before: now, value: round(now + size / 2), at, to: round(at + span / 10) },
    }
    if (signal === 'series') {
        return { signal, series: series.value[0]?.id ?? '', ...keep }
    }
    if (signal === 'drawn') {
        // What it does by itself is the paper to draw on.
        const column = runs.before?.values.get(look.drawnKey(thing.id)) ?? runs.shown?.values.get(look.drawnKey(thing.id))
        const times = (runs.before ?? runs.shown)?.times
        const points =
            column && times
                ? Array.from({ length: 41 }, (_, i): [number, number] => {
                      const k = Math.round((i / 40) * (column.length - 1))
                      return [times[k] as number, column[k] as number]
                  }).filter((p, i, all) => i === 0 || p[0] > (all[i - 1] as [number, number])[0])
                : ([
                      [start, now],
                      [end, now],
                  ] as [number, number][])
        return { signal, points, ...keep }
    }
    return { signal, values: values[signal] ?? { value: now }, ...keep }
}
const take = () => runs.grip(subject.value, begin('constant'))
function put(change: Partial<Grip>) {
    if (grip.value) {
        runs.grip(
            subject.value,
            Object.fromEntries(Object.entries({ ...grip.value, ...change }).filter(([, v]) => v !== undefined)) as unknown as Grip,
        )
    }
}
function typed(key: string, event: Event) {
    const text = (event.target as HTMLInputElement).value
    const now = OF_TIME.has(key) ? number(text) : fieldValue(text, thing.unit)
    if (told(text, now)) {
        put({ values: { ...grip.value?.values, [key]: now } })
    }
}
function bound(key: 'from' | 'until', event: Event) {
    const text = (event.target as HTMLInputElement).value.trim()
    if (text === '' || told(text, number(text))) {
        trouble.value = ''
        put({ [key]: text === '' ? undefined : number(text) })
    }
}
const number = (text: string) => (text.trim() === '' ? NaN : Number(text.replace(',', '.')))
/** What is no number stays in its field, with a sentence. */
const trouble = ref('')
function told(text: string, value: number): boolean {
    trouble.value = Number.isFinite(value) ? '' : `“${text}” is no number. Write one such as 12.5.`
    return trouble.value === ''
}
const shownValue = (key: string, value: number) => (OF_TIME.has(key) ? literal(value) : fieldText(value, thing.unit))

// The plot with its handles.
const WIDTH = 276
const HEIGHT = 116
/** The scale stays while a handle moves. */
const frozen = ref<{ low: number; high: number } | null>(null)
const lines = computed(() =>
    linesOf({ id: 'grip', of: [thing.id] }, courses.list(), look.elements).filter((l) => l.course === 'shown' || l.course === 'baseline'),
)
const scale = computed(() => {
    if (frozen.value) {
        return frozen.value
    }
    const [a, b] = runs.range(runs.shown, thing.id)
    const [c, d] = runs.range(runs.before, thing.id)
    const v = grip.value?.values ?? {}
    const own = [
        v.value,
        v.before,
        v.amplitude === undefined ? undefined : (v.value ?? 0) + v.amplitude,
        v.amplitude === undefined ? undefined : (v.value ?? 0) - v.amplitude,
    ].filter((n) => n !== undefined)
    const high = niceAbove(1.15 * Math.max(a, b, c, d, ...own))
    const low = -niceAbove(-1.15 * Math.min(a, b, c, d, ...own)) || 0
    return high > low ? { low, high } : { low: 0, high: 1 }
})
const x = (t: number) => ((t - time.value.start) / (time.value.end - time.value.start)) * WIDTH
const y = (v: number) => HEIGHT - ((v - scale.value.low) / (scale.value.high - scale.value.low)) * HEIGHT
function path(line: { times: Float64Array; values: Float64Array }) {
    const stride = Math.max(1, Math.ceil(line.times.length / 300))
    let d = ''
    for (let i = 0; i < line.times.length; i += stride) {
        d += `${d ? 'L' : 'M'}${x(line.times[i] as number).toFixed(1)} ${Math.max(-4, Math.min(HEIGHT + 4, y(line.values[i] as number))).toFixed(1)}`
    }
    return d
}
interface Handle {
    key: string
    words: string
    x: number
    y: number
    set: (t: number, v: number) => Record<string, number>
}
const handles = computed<Handle[]>(() => {
    const g = grip.value
    const v = g?.values
    if (!g || !v || g.on === false) {
        return []
    }
    const { start, end } = time.value
    const n = (key: string) => v[key] ?? 0
    const list: Handle[] = []
    const add = (key: string, words: string, t: number, value: number, set: Handle['set']) =>
        list.push({ key, words, x: x(Math.min(end, Math.max(start, t))), y: y(value), set })
    switch (g.signal) {
        case 'constant':
            add('value', 'value', (start + end) / 2, n('value'), (_, value) => ({ value }))
            break
        case 'step':
            add('before', 'value before', (start + Math.max(start, n('at'))) / 2, n('before'), (_, before) => ({ before }))
            add('at', 'time and value after', n('at'), n('value'), (at, value) => ({ at, value }))
            break
        case 'ramp':
            add('at', 'where it begins', n('at'), n('before'), (at, before) => ({ at: Math.min(at, n('to') - time.value.step), before }))
            add('to', 'where it ends', n('to'), n('value'), (to, value) => ({ to: Math.max(to, n('at') + time.value.step), value }))
            break
        case 'wave':
            add('value', 'middle', n('at'), n('value'), (at, value) => ({ at, value }))
            add('amplitude', 'height and period', n('at') + n('period') / 4, n('value') + n('amplitude'), (t, top) => ({
                amplitude: top - n('value'),
                period: Math.max(2 * time.value.step, 4 * (t - n('at'))),
            }))
            break
        case 'pulses':
            add('before', 'value between', (start + n('at')) / 2, n('before'), (_, before) => ({ before }))
            add('at', 'first pulse and its value', n('at'), n('value'), (at, value) => ({ at, value }))
            add('width', 'how long a pulse lasts', n('at') + n('width'), n('value'), (t) => ({
                width: Math.min(n('every'), Math.max(time.value.step, t - n('at'))),
            }))
            add('every', 'the next pulse', n('at') + n('every'), n('value'), (t) => ({ every: Math.max(n('width'), t - n('at')) }))
            break
        case 'window':
            add('before', 'value outside', (start + n('at')) / 2, n('before'), (_, before) => ({ before }))
            add('at', 'where it begins, and the value', n('at'), n('value'), (at, value) => ({
                at: Math.min(at, n('to') - time.value.step),
                value,
            }))
            add('to', 'where it ends', n('to'), n('value'), (to) => ({ to: Math.max(to, n('at') + time.value.step) }))
            break
    }
    return list
})
const svg = ref<SVGElement>()
function spot(event: PointerEvent): [number, number] {
    const box = svg.value?.getBoundingClientRect() ?? new DOMRect(0, 0, 1, 1)
    const s = Math.min(1, Math.max(0, (event.clientX - box.left) / box.width))
    const t = time.value.start + s * (time.value.end - time.value.start)
    const step = time.value.step
    const v = scale.value.high - ((event.clientY - box.top) / box.height) * (scale.value.high - scale.value.low)
    return [
        Number((time.value.start + Math.round((t - time.value.start) / step) * step).toPrecision(10)),
        Number(Math.min(scale.value.high * 1.5 || 1, v).toPrecision(3)),
    ]
}
let moving: string | null = null
function press(handle: Handle, event: PointerEvent) {
    moving = handle.key
    frozen.value = { ...scale.value }
    runs.handling = true
    ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
}
function move(event: PointerEvent) {
    const handle = handles.value.find((h) => h.key === moving)
    if (handle) {
        put({ values: { ...grip.value?.values, ...handle.set(...spot(event)) } })
    }
}
function release() {
    if (moving || drawing) {
        moving = null
        drawing = null
        frozen.value = null
        runs.handling = false
        void runs.refresh()
    }
}
function nudge(handle: Handle, event: KeyboardEvent) {
    const fine = (scale.value.high - scale.value.low) / 100
    const by: Record<string, [number, number]> = {
        ArrowUp: [0, fine],
        ArrowDown: [0, -fine],
        ArrowLeft: [-time.value.step, 0],
        ArrowRight: [time.value.step, 0],
    }
    const d = by[event.key]
    if (d) {
        event.preventDefault()
        event.stopPropagation()
        const t = time.value.start + (handle.x / WIDTH) * (time.value.end - time.value.start)
        const v = scale.value.low + ((HEIGHT - handle.y) / HEIGHT) * (scale.value.high - scale.value.low)
        put({
            values: {
                ...grip.value?.values,
                ...Object.fromEntries(Object.entries(handle.set(t + d[0], v + d[1])).map(([k, n]) => [k, Number(n.toPrecision(6))])),
            },
        })
    }
}
// Freehand: what the pointer passes over is drawn anew.
let drawing: [number, number] | null = null
function draw(event: PointerEvent, first: boolean) {
    if (grip.value?.signal !== 'drawn' || (!first && !drawing)) {
        return
    }
    if (first) {
        frozen.value = { ...scale.value }
        runs.handling = true
        ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
    }
    const now = spot(event)
    const last = drawing ?? now
    drawing = now
    const [from, to] = [Math.min(last[0], now[0]), Math.max(last[0], now[0])]
    const kept = (grip.value.points ?? []).filter(([t]) => t < from || t > to)
    const points = [...kept, ...(last[0] === now[0] ? [now] : [last, now])]
        .sort((a, b) => a[0] - b[0])
        .filter((p, i, all) => i === 0 || p[0] > (all[i - 1] as [number, number])[0])
    put({ points: points.length > 480 ? points.filter((_, i) => i % 2 === 0) : points })
}
</script>

<template>
    <div class="grip">
        <Button v-if="!grip" class="button" :title="`Give ${whose || 'it'} a course of your own, without changing the model`" @click="take"
            ><Hand :size="15" :stroke-width="1.6" />Take by hand</Button
        >
        <section v-else class="held" :aria-label="`${thing.name} taken by hand`">
            <header>
                <Hand :size="15" :stroke-width="1.6" />
                <ChoiceField
                    class="signal"
                    label="Signal"
                    :choices="signals"
                    :model-value="grip.signal"
                    @update:model-value="runs.grip(subject, begin($event ?? grip.signal))"
                />
                <Button
                    class="icon-button"
                    :aria-pressed="grip.on !== false"
                    :aria-label="grip.on === false ? 'Switch it on' : 'Switch it off for a while'"
                    :title="grip.on === false ? 'Switch it on' : 'Switch it off for a while'"
                    @click="put({ on: grip.on === false ? undefined : false })"
                    ><Power :size="15" :stroke-width="1.6"
                /></Button>
                <Button class="button" @click="runs.grip(subject, undefined)">Release</Button>
            </header>
            <div class="plot">
                <svg
                    ref="svg"
                    :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
                    :class="{ paper: grip.signal === 'drawn' }"
                    preserveAspectRatio="none"
                    role="group"
                    :aria-label="`Course of ${thing.name}${grip.signal === 'drawn' ? ': draw with the pointer' : ''}`"
                    @pointerdown="draw($event, true)"
                    @pointermove="
                        (event) => {
                            draw(event, false)
                            move(event)
                        }
                    "
                    @pointerup="release"
                    @pointercancel="release"
                >
                    <path v-if="scale.low < 0 && scale.high > 0" :d="`M0 ${y(0)}H${WIDTH}`" class="zero" />
                    <path :d="`M${x(view.playhead)} 0V${HEIGHT}`" class="now" />
                    <path v-for="l in lines" :key="l.key" :d="path(l)" :class="l.course" />
                    <circle
                        v-for="h in handles"
                        :key="h.key"
                        :cx="h.x"
                        :cy="Math.min(HEIGHT - 6, Math.max(6, h.y))"
                        r="7"
                        class="handle"
                        tabindex="0"
                        role="slider"
                        :aria-label="h.words"
                        :aria-valuetext="`${h.words}, ${Object.entries(
                            h.set(
                                time.start + (h.x / WIDTH) * (time.end - time.start),
                                scale.low + ((HEIGHT - h.y) / HEIGHT) * (scale.high - scale.low),
                            ),
                        )
                            .map(([k, n]) => `${WORDS[k] ?? k} ${short(n)}`)
                            .join(', ')}`"
                        :aria-valuenow="h.y"
                        @pointerdown.stop="press(h, $event)"
                        @keydown="nudge(h, $event)"
                    >
                        <title>{{ h.words }}</title>
                    </circle>
                </svg>
                <span class="top">{{ short(scale.high, { unit: thing.unit }) }}</span><span class="bottom">{{
                    short(scale.low, { unit: thing.unit })
                }}</span>
            </div>
            <p v-if="whose" class="soft">Held: {{ whose }}.</p>
            <p v-if="grip.signal === 'drawn'" class="soft">Draw on the plot: what the pointer passes over is drawn anew.</p>
            <label v-if="grip.signal === 'series'"
                >follows
                <ChoiceField
                    label="Which series"
                    :choices="series.map((s) => ({ value: s.id, words: s.name }))"
                    :model-value="grip.series"
                    @update:model-value="put({ series: $event })"
            /></label>
            <div class="numbers">
                <label v-for="(v, key) in grip.values" :key="key"
                    >{{ WORDS[key] ?? key }}
                    <InputText
                        class="field"
                        inputmode="decimal"
                        :model-value="shownValue(String(key), v)"
                        @change="typed(String(key), $event)"
                        @keydown.enter="($event.target as HTMLElement).blur()"
                /></label>
                <label
                    >holds from
                    <InputText
                        class="field"
                        inputmode="decimal"
                        :model-value="grip.from === undefined ? '' : literal(grip.from)"
                        placeholder="start"
                        @change="bound('from', $event)"
                        @keydown.enter="($event.target as HTMLElement).blur()"
                /></label>
                <label
                    >until
                    <InputText
                        class="field"
                        inputmode="decimal"
                        :model-value="grip.until === undefined ? '' : literal(grip.until)"
                        placeholder="end"
                        @change="bound('until', $event)"
                        @keydown.enter="($event.target as HTMLElement).blur()"
                /></label>
            </div>
            <p v-if="trouble || runs.refusal" class="trouble" role="alert">{{ trouble || runs.refusal }}</p>
        </section>
    </div>
</template>

<style scoped src="./GripField.css"></style>
