<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { ShownBlock, ShownLine, ShownPage, ShownResult } from '@/api/shown'
import { apart } from '@/charts/endNames'
import { scaleFor, ticksOf } from '@/charts/scale'
import { literal, niceStep, plainly, shownUnit, tickWords } from '@/ui/numbers'
import { indexAt } from '@/ui/times'

/** A plot for readers: direct words instead of a legend, the author's run beside one's own, and the table behind it. */
const { block, result, times, time, words } = defineProps<{
    block: ShownBlock
    result: ShownResult
    times: number[]
    time: ShownPage['time']
    /** What stands for the run at the end of its line, where the author's is beside it. */ words: { own: string; author: string }
}>()

const HUES = ['var(--ink)', 'var(--run-2)', 'var(--run-1)', 'var(--run-3)', 'var(--run-4)', 'var(--run-5)']
const AUTHOR = 'var(--run-0)'
const HEIGHT = 250
const TOP = 26
const BOTTOM = 26
const LEFT = 52
const LABEL = 17
/** Rows of the table: enough to read a course off. */
const ROWS = 13

const box = ref<HTMLElement>()
const { width } = useElementSize(box)
const asTable = ref(block.kind === 'table')
const lines = computed(() => result.lines ?? [])
const title = computed(() => block.words || lines.value.map((l) => l.name).join(', '))
const several = computed(() => lines.value.length > 1)
const hasAuthor = computed(() => lines.value.some((l) => l.author))
/** One unit for all, or each line says its own. */
const units = computed(() => [...new Set(lines.value.map((l) => l.unit.trim()))])
const unit = computed(() => (units.value.length === 1 ? (units.value[0] ?? '') : ''))
const saidUnit = computed(() =>
    units.value.length > 1 ? 'each in its own unit' : shownUnit(unit.value) || (lines.value.length ? 'a plain number' : ''),
)
const own = (name: string, of: string) => (units.value.length > 1 && shownUnit(of) ? `${name} (${shownUnit(of)})` : name)
const narrow = computed(() => width.value < 480)
const right = computed(() => (several.value || hasAuthor.value ? (narrow.value ? 92 : 128) : narrow.value ? 56 : 76))

const scale = computed(() => {
    const marks = (result.marks ?? []).flatMap((m) => [m.value, ...(m.values ?? [])])
    const all = [...lines.value.flatMap((l) => [...l.values, ...(l.author ?? [])]), ...marks].filter((v): v is number => v !== null)
    return scaleFor(all.length ? [Math.min(...all), Math.max(...all)] : [0, 1], { zero: true })
})
const ticks = computed(() => {
    const at = ticksOf(scale.value)
    const words = tickWords(at, unit.value, false)
    return at.map((value, i) => ({ value, words: words[i] ?? '' }))
})
const across = computed(() => {
    const step = niceStep((time.end - time.start) / (narrow.value ? 4 : 8))
    return ticksOf({ low: time.start, high: time.end, log: false, step })
})
const x = (t: number) => LEFT + ((t - time.start) / (time.end - time.start || 1)) * Math.max(10, width.value - LEFT - right.value)
const y = (v: number) => HEIGHT - BOTTOM - ((v - scale.value.low) / (scale.value.high - scale.value.low)) * (HEIGHT - TOP - BOTTOM)
function path(values: (number | null)[], at: number[]): string {
    let pen = 'M'
    let d = ''
    values.forEach((v, i) => {
        if (v === null) {
            pen = 'M'
        } else {
            d += `${pen}${x(at[i] ?? 0).toFixed(1)} ${y(v).toFixed(1)}`
            pen = 'L'
        }
    })
    return d
}
const lastOf = (values: (number | null)[]) => values.filter((v) => v !== null).at(-1) ?? null

interface Label {
    words: string
    hue: string
    value: number
    strong: boolean
}
const labels = computed(() => {
    const all: Label[] = []
    lines.value.forEach((l, i) => {
        const last = lastOf(l.values)
        const author = l.author ? lastOf(l.author) : null
        const name = several.value ? `${own(l.name, l.unit)} ` : hasAuthor.value ? `${words.own} ` : ''
        if (last !== null) {
            all.push({ words: name + plainly(last, l.unit), hue: HUES[i % HUES.length] ?? '', value: last, strong: true })
        }
        if (author !== null) {
            const whose = several.value ? `${words.author} ${l.name}` : words.author
            all.push({
                words: `${whose} ${plainly(author, l.unit)}`,
                hue: several.value ? (HUES[i % HUES.length] ?? '') : AUTHOR,
                value: author,
                strong: false,
            })
        }
    })
    const places = apart(
        all.map((l) => y(l.value) + 4),
        LABEL,
        HEIGHT - BOTTOM + 4,
    )
    return all.map((l, i) => ({ ...l, at: places[i] ?? 0 }))
})

/** What the plot shows, for who does not see it. */
const told = computed(() =>
    lines.value
        .map((l) => {
            const known = l.values.filter((v): v is number => v !== null)
            const author = l.author ? `; ${words.author} ends at ${plainly(lastOf(l.author), l.unit)}` : ''
            const [least, most] = [Math.min(...known), Math.max(...known)].map((v) => plainly(v, l.unit))
            return `${l.name}${shownUnit(l.unit) ? ` in ${shownUnit(l.unit)}` : ''}, from ${plainly(known[0], l.unit)} to ${plainly(known.at(-1), l.unit)}, at most ${most}, at least ${least}${author}`
        })
        .join('. '),
)
const rows = computed(() => {
    const every = Math.max(1, Math.ceil((times.length - 1) / (ROWS - 1)))
    return times.map((t, i) => ({ t, i })).filter(({ i }) => i % every === 0 || i === times.length - 1)
})
/** A column says its variable, whose run, and its unit. */
function column(line: ShownLine, isAuthors: boolean): string {
    const whose = isAuthors ? words.author : hasAuthor.value ? words.own : ''
    const said = shownUnit(line.unit)
    return [several.value || !whose ? line.name : '', whose].filter(Boolean).join(', ') + (said ? ` (${said})` : '')
}
/** A line that goes with the run has no one number. */
function markWords(mark: NonNullable<ShownResult['marks']>[number]): string {
    const known = (mark.values ?? []).filter((v) => v !== null)
    const stays = known.every((v) => v === known[0])
    return stays ? `${mark.words} ${plainly(mark.value, unit.value)}` : mark.words
}
/** The author's run may have ended at another moment, and then has others. */
function authorAt(line: { author: (number | null)[] | null }, t: number): number | null {
    const at = Float64Array.from(result.authorTimes ?? times)
    const i = indexAt(at, t + 1e-9 * Math.abs(t))
    return Math.abs((at[i] ?? NaN) - t) <= 1e-6 * (time.end - time.start) ? (line.author?.[i] ?? null) : null
}
</script>

<template>
    <figure class="plot">
        <figcaption>
            <strong>{{ title }}</strong>
            <span class="soft">{{ saidUnit }}, by {{ time.unit }}</span>
        </figcaption>
        <div v-show="!asTable" ref="box" class="box">
            <svg v-if="width" :width="width" :height="HEIGHT" role="img" :aria-label="`${title}: ${told}`">
                <g v-for="tick in ticks" :key="tick.value">
                    <line
                        :x1="LEFT"
                        :x2="width - right"
                        :y1="y(tick.value)"
                        :y2="y(tick.value)"
                        :stroke="tick.value === 0 ? 'var(--line)' : 'var(--hairline)'"
                    />
                    <text :x="LEFT - 8" :y="y(tick.value) + 4" text-anchor="end" class="small">{{ tick.words }}</text>
                </g>
                <g v-for="tick in across" :key="`at ${tick}`">
                    <line :x1="x(tick)" :x2="x(tick)" :y1="HEIGHT - BOTTOM" :y2="HEIGHT - BOTTOM + 5" stroke="var(--line)" />
                    <text :x="x(tick)" :y="HEIGHT - BOTTOM + 18" text-anchor="middle" class="small">{{ literal(tick) }}</text>
                </g>
                <path
                    v-for="mark in result.marks ?? []"
                    :key="mark.words"
                    :d="mark.values ? path(mark.values, times) : mark.value === null ? '' : `M${LEFT} ${y(mark.value)}H${width - right}`"
                    fill="none"
                    stroke="var(--ink)"
                    stroke-dasharray="2 3"
                />
                <template v-for="(line, i) in lines" :key="`author ${line.key}`">
                    <path
                        v-if="line.author"
                        :d="path(line.author, result.authorTimes ?? times)"
                        fill="none"
                        :stroke="several ? HUES[i % HUES.length] : AUTHOR"
                        stroke-width="2"
                        stroke-dasharray="6 4"
                    />
                </template>
                <path
                    v-for="(line, i) in lines"
                    :key="line.key"
                    :d="path(line.values, times)"
                    fill="none"
                    :stroke="HUES[i % HUES.length]"
                    stroke-width="2.4"
                    stroke-linejoin="round"
                />
                <template v-for="mark in result.marks ?? []" :key="`words ${mark.words}`">
                    <text v-if="mark.value !== null" :x="LEFT + 6" :y="y(mark.values?.[0] ?? mark.value) - 5" class="mark">
                        {{ markWords(mark) }}
                    </text>
                </template>
                <text
                    v-for="label in labels"
                    :key="label.words"
                    :x="width - right + 8"
                    :y="label.at"
                    :fill="label.hue"
                    :class="{ strong: label.strong }"
                    class="end"
                >
                    {{ label.words }}
                </text>
            </svg>
        </div>
        <div v-if="asTable" class="table" tabindex="0" role="region" :aria-label="`Table of ${title}`">
            <table>
                <thead>
                    <tr>
                        <th scope="col">{{ time.unit }}</th>
                        <template v-for="line in lines" :key="line.key">
                            <th scope="col">{{ column(line, false) }}</th>
                            <th v-if="line.author" scope="col">{{ column(line, true) }}</th>
                        </template>
                    </tr>
                </thead>
                <tbody>
                    <tr v-for="row in rows" :key="row.t">
                        <th scope="row">{{ literal(row.t) }}</th>
                        <template v-for="line in lines" :key="line.key">
                            <td>{{ plainly(line.values[row.i], line.unit) }}</td>
                            <td v-if="line.author">{{ plainly(authorAt(line, row.t), line.unit) }}</td>
                        </template>
                    </tr>
                </tbody>
            </table>
        </div>
        <Button class="quiet" :aria-pressed="asTable" @click="asTable = !asTable">{{
            asTable ? 'See it as a plot' : 'See it as a table'
        }}</Button>
    </figure>
</template>

<style scoped>
.plot {
    margin: 0;
    min-width: 0;
}
figcaption {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 10px;
    align-items: baseline;
}
figcaption strong {
    font-size: 15px;
}
.box {
    width: 100%;
    height: 250px;
}
svg {
    display: block;
    overflow: visible;
}
.small {
    font-size: 12px;
    fill: var(--ink-soft);
}
.mark {
    font-size: 12px;
    font-weight: 700;
    fill: var(--ink);
    paint-order: stroke;
    stroke: var(--paper);
    stroke-width: 3px;
}
.end {
    font-size: 13px;
}
.strong {
    font-weight: 700;
}
.table {
    overflow: auto;
    max-height: 320px;
    margin: 8px 0;
}
table {
    border-collapse: collapse;
}
th,
td {
    padding: 3px 14px 3px 0;
    text-align: right;
    font-weight: 400;
    border-bottom: 1px solid var(--hairline);
}
thead th {
    font-weight: 700;
}
.quiet {
    min-height: 24px;
    color: var(--ink-soft);
    font-size: 13px;
    text-decoration: underline;
    text-underline-offset: 3px;
}
</style>
