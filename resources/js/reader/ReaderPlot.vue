<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { ShownBlock, ShownPage, ShownResult } from '@/api/shown'
import { apart, readable, roundTicks, ticksWithin, unitWords } from './scale'

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
const unit = computed(() => unitWords(lines.value[0]?.unit ?? ''))
const narrow = computed(() => width.value < 480)
const right = computed(() => (several.value || hasAuthor.value ? (narrow.value ? 92 : 128) : narrow.value ? 56 : 76))

const seen = computed(() => {
    const all = lines.value.flatMap((l) => [...l.values, ...(l.author ?? [])]).filter((v): v is number => v !== null)
    const marks = (result.marks ?? []).map((m) => m.value).filter((v): v is number => v !== null)
    const values = [...all, ...marks, 0]
    return [Math.min(...values), Math.max(...values)] as const
})
const ticks = computed(() => roundTicks(seen.value[0], seen.value[1], 4))
const across = computed(() => ticksWithin(time.start, time.end, narrow.value ? 4 : 8))
const x = (t: number) => LEFT + ((t - time.start) / (time.end - time.start || 1)) * Math.max(10, width.value - LEFT - right.value)
const y = (v: number) => {
    const [low, high] = [ticks.value[0] ?? 0, ticks.value.at(-1) ?? 1]
    return HEIGHT - BOTTOM - ((v - low) / (high - low || 1)) * (HEIGHT - TOP - BOTTOM)
}
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
        const own = lastOf(l.values)
        const author = l.author ? lastOf(l.author) : null
        const name = several.value ? l.name : words.own
        if (own !== null) {
            all.push({
                words: `${hasAuthor.value || several.value ? `${name} ` : ''}${readable(own)}`,
                hue: HUES[i % HUES.length] ?? '',
                value: own,
                strong: true,
            })
        }
        if (author !== null && !several.value) {
            all.push({ words: `${words.author} ${readable(author)}`, hue: AUTHOR, value: author, strong: false })
        }
    })
    const places = apart(
        all.map((l) => y(l.value) + 4),
        LABEL,
        TOP,
        HEIGHT - BOTTOM + 4,
    )
    return all.map((l, i) => ({ ...l, at: places[i] ?? 0 }))
})

/** What the plot shows, for who does not see it. */
const told = computed(() =>
    lines.value
        .map((l) => {
            const known = l.values.filter((v): v is number => v !== null)
            const author = l.author ? `; ${words.author} ends at ${readable(lastOf(l.author))}` : ''
            return `${l.name}${unit.value ? ` in ${unit.value}` : ''}, from ${readable(known[0])} to ${readable(known.at(-1))}, at most ${readable(Math.max(...known))}, at least ${readable(Math.min(...known))}${author}`
        })
        .join('. '),
)
const rows = computed(() => {
    const every = Math.max(1, Math.ceil((times.length - 1) / (ROWS - 1)))
    return times.map((t, i) => ({ t, i })).filter(({ i }) => i % every === 0 || i === times.length - 1)
})
function authorAt(line: { author: (number | null)[] | null }, i: number): number | null {
    // Both runs save the same moments, unless one ended early.
    return line.author?.[i] ?? null
}
</script>

<template>
    <figure class="plot">
        <figcaption>
            <strong>{{ title }}</strong>
            <span class="soft">{{ unit || (several ? '' : 'a plain number') }}, by {{ time.unit }}</span>
        </figcaption>
        <div v-show="!asTable" ref="box" class="box">
            <svg v-if="width" :width="width" :height="HEIGHT" role="img" :aria-label="`${title}: ${told}`">
                <g v-for="tick in ticks" :key="tick">
                    <line
                        :x1="LEFT"
                        :x2="width - right"
                        :y1="y(tick)"
                        :y2="y(tick)"
                        :stroke="tick === 0 ? 'var(--line)' : 'var(--hairline)'"
                    />
                    <text :x="LEFT - 8" :y="y(tick) + 4" text-anchor="end" class="small">{{ readable(tick) }}</text>
                </g>
                <g v-for="tick in across" :key="`at ${tick}`">
                    <line :x1="x(tick)" :x2="x(tick)" :y1="HEIGHT - BOTTOM" :y2="HEIGHT - BOTTOM + 5" stroke="var(--line)" />
                    <text :x="x(tick)" :y="HEIGHT - BOTTOM + 18" text-anchor="middle" class="small">{{ readable(tick) }}</text>
                </g>
                <g v-for="mark in result.marks ?? []" :key="mark.words">
                    <template v-if="mark.value !== null">
                        <line
                            :x1="LEFT"
                            :x2="width - right"
                            :y1="y(mark.value)"
                            :y2="y(mark.value)"
                            stroke="var(--ink)"
                            stroke-dasharray="2 3"
                        />
                    </template>
                </g>
                <template v-for="line in lines" :key="`author ${line.key}`">
                    <path
                        v-if="line.author"
                        :d="path(line.author, result.authorTimes ?? times)"
                        fill="none"
                        :stroke="AUTHOR"
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
                    <text v-if="mark.value !== null" :x="LEFT + 6" :y="y(mark.value) - 5" class="mark">
                        {{ mark.words }} {{ readable(mark.value) }}
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
                            <th scope="col">{{ several ? line.name : hasAuthor ? words.own : line.name }}</th>
                            <th v-if="line.author" scope="col">{{ several ? `${line.name}, ${words.author}` : words.author }}</th>
                        </template>
                    </tr>
                </thead>
                <tbody>
                    <tr v-for="row in rows" :key="row.t">
                        <th scope="row">{{ readable(row.t) }}</th>
                        <template v-for="line in lines" :key="line.key">
                            <td>{{ readable(line.values[row.i]) }}</td>
                            <td v-if="line.author">{{ readable(authorAt(line, row.i)) }}</td>
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
