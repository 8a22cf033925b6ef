import type { EChartsCoreOption } from 'echarts/core'
import type { Plot, Thing } from '@/api/types'
import type { Course } from '@/stores/courses'
import { full, short, shownUnit } from '@/ui/numbers'
import { apart, extent, linesOf, lookOf, scaleOf, share, valueAt, type Line } from './lines'

export interface Setting { height: number, time: { start: number, end: number, unit: string }, playhead: number, colour: (token: string) => string, /** Lines at the foot: who made it from what. */ source?: string, title?: string }

const unitOf = (unit: string) => (unit === '1' || !unit ? '' : shownUnit(unit))

/** Kept runs stay as they are while a dial moves. */
const made = new WeakMap<Float64Array, [number, number | null][]>()

/** Pairs for a line, with its extremes between moments where it was thinned; what is no number leaves a gap. */
export function pairs(line: Line): [number, number | null][] {
    const known = made.get(line.values)
    if (known) {
        return known
    }
    const list: [number, number | null][] = []
    line.times.forEach((t, i) => {
        const add = (v: number | undefined) => list.push([t, v === undefined || !Number.isFinite(v) ? null : v])
        add(line.values[i])
        if (line.lows && line.highs) {
            add(line.lows[i])
            add(line.highs[i])
        }
    })
    made.set(line.values, list)
    return list
}

function base({ colour, title, source }: Setting) {
    return {
        animation: false,
        textStyle: { fontFamily: 'Atkinson Hyperlegible, sans-serif', color: colour('--ink') },
        ...(title ? { title: { text: title, left: 14, top: 8, textStyle: { fontSize: 16, color: colour('--ink') } } } : {}),
        ...(source ? { graphic: [{ type: 'text', left: 14, bottom: 8, style: { text: source, fontSize: 11, fill: colour('--ink-soft') } }] } : {}),
    }
}

function axis(colour: Setting['colour'], name: string, more: Record<string, unknown> = {}) {
    return {
        type: 'value', name, nameLocation: 'end', nameTextStyle: { color: colour('--ink-soft'), align: 'left', fontSize: 12.5 },
        axisLine: { show: true, lineStyle: { color: colour('--line') } }, axisTick: { show: false }, splitLine: { lineStyle: { color: colour('--hairline') } },
        axisLabel: { color: colour('--ink-soft'), formatter: (v: number) => short(v), hideOverlap: true }, ...more,
    }
}

const series = (line: Line, colour: Setting['colour'], more: Record<string, unknown> = {}) => ({
    id: line.key, name: line.name, type: 'line', data: pairs(line), showSymbol: false, connectNulls: false, z: line.main ? 4 : 2, emphasis: { focus: 'series' },
    lineStyle: { color: colour(line.colour), width: line.width + 0.4, type: line.dash.length ? line.dash : 'solid' }, itemStyle: { color: colour(line.colour) },
    endLabel: { show: true, formatter: line.name, color: colour(line.colour), fontSize: 12.5, distance: 6, width: 130, overflow: 'truncate', ...(more.shift ? { offset: [0, more.shift] } : {}) }, ...more,
})

const tooltip = (colour: Setting['colour'], unit: string) => ({
    trigger: 'axis', confine: true, backgroundColor: colour('--card'), borderColor: colour('--line'), textStyle: { color: colour('--ink'), fontSize: 13 }, axisPointer: { lineStyle: { color: colour('--line') } },
    formatter: (list: { seriesName: string, value: [number, number | null], color: string }[]) => {
        const seen = new Set<string>()
        const rows = list.filter((p) => !seen.has(p.seriesName) && seen.add(p.seriesName)).map((p) => `<i style="display:inline-block;width:12px;height:3px;background:${p.color}"></i> ${escape(p.seriesName)} <b>${p.value[1] === null ? '–' : short(p.value[1])}</b>`)
        return `${escape(unit)} ${full(list[0]?.value[0] ?? 0)}<br>${rows.join('<br>')}`
    },
})
const escape = (text: string) => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`)

/** A plot for ECharts. */
export function optionsOf(plot: Plot, courses: Course[], elements: Record<string, Thing>, setting: Setting): EChartsCoreOption {
    switch (plot.kind) {
        case 'phase': return phase(plot, courses, elements, setting)
        case 'bars': return bars(plot, courses, elements, setting)
        case 'histogram': return histogram(plot, courses, elements, setting)
        case 'multiples': return multiples(plot, courses, elements, setting)
        default: return over(plot, courses, elements, setting)
    }
}

const margins = ({ title, source }: Setting) => ({ top: title ? 62 : 34, bottom: source ? 58 : 34 })

function over(plot: Plot, courses: Course[], elements: Record<string, Thing>, setting: Setting): EChartsCoreOption {
    const options = plot.options ?? {}
    const { colour, time } = setting
    const lines = linesOf(plot, courses, elements)
    const groups = options.own ? [...new Set(lines.map((l) => l.element))] : ['']
    const units = [...new Set(lines.map((l) => unitOf(l.unit)))]
    const plane = setting.height - margins(setting).top - margins(setting).bottom
    const ends = lines.map((l) => (1 - share(scaleOf(options.own ? lines.filter((o) => o.element === l.element) : lines, options), valueAt(l, Math.min(options.to ?? time.end, l.times[l.times.length - 1] ?? 0)) ?? 0)) * plane)
    const named = apart(ends, 15, plane)
    return {
        ...base(setting), grid: { left: 58 + Math.max(0, groups.length - 2) * 52, right: 150 + (groups.length > 1 ? 40 : 0), ...margins(setting) }, tooltip: tooltip(colour, time.unit),
        xAxis: axis(colour, time.unit, { min: options.from ?? time.start, max: options.to ?? time.end, nameTextStyle: { color: colour('--ink-soft'), padding: [0, 0, 0, 6] }, splitLine: { show: false }, axisLine: { onZero: false, lineStyle: { color: colour('--line') } } }),
        yAxis: groups.map((group, i) => {
            const scale = scaleOf(group ? lines.filter((l) => l.element === group) : lines, options)
            return axis(colour, group ? `${elements[group]?.name ?? ''} (${unitOf(lines.find((l) => l.element === group)?.unit ?? '') || 'no unit'})` : units.join(' · ') || ' ', { type: scale.log ? 'log' : 'value', min: scale.low, max: scale.high, position: i === 1 ? 'right' : 'left', offset: i > 1 ? (i - 1) * 52 : 0, splitLine: { show: i === 0, lineStyle: { color: colour('--hairline') } } })
        }),
        series: lines.map((line, i) => series(line, colour, { shift: Math.round((named[i] ?? 0) - (ends[i] ?? 0)), yAxisIndex: options.own ? Math.max(0, groups.indexOf(line.element)) : 0, ...(options.stacked ? { areaStyle: { color: colour(line.colour), opacity: 0.16 } } : {}),
            ...(i === 0 ? { markLine: { symbol: 'none', silent: true, label: { show: false }, lineStyle: { color: colour('--ember'), width: 1.5, type: 'solid' }, data: [{ xAxis: setting.playhead }] } } : {}) })),
    }
}

/** One variable against another; the path is paler where it is earlier, and a dot stands at the playhead. */
function phase(plot: Plot, courses: Course[], elements: Record<string, Thing>, setting: Setting): EChartsCoreOption {
    const { colour } = setting
    const [across, ...up] = plot.of
    const x = elements[across ?? '']
    const PARTS = 24
    const all: Record<string, unknown>[] = []
    const horizontal = linesOf({ ...plot, of: [across ?? ''], options: {} }, courses, elements)
    const vertical = up.flatMap((id, v) => linesOf({ ...plot, of: [id], options: {} }, courses, elements).map((l) => ({ ...l, v })))
    for (const line of vertical) {
        const other = horizontal.find((h) => h.course === line.course)
        if (!other) {
            continue
        }
        const hue = up.length > 1 ? colour(line.v === 0 ? '--ink' : `--run-${line.v - 1}`) : colour(line.colour)
        const points = Array.from(line.times, (t, i): [number, number, number] => [other.values[i] as number, line.values[i] as number, t])
        const size = Math.max(1, Math.ceil(points.length / PARTS))
        for (let k = 0; k * size < points.length; k++) {
            const last = (k + 1) * size >= points.length
            all.push({
                name: up.length > 1 ? `${elements[line.element]?.name}, ${line.name}` : line.name, type: 'line', data: points.slice(k * size, (k + 1) * size + 1), showSymbol: false, silent: false, z: line.main ? 4 : 2,
                lineStyle: { color: hue, width: line.width + 0.4, opacity: 0.25 + 0.75 * (k + 1) / PARTS, type: line.dash.length ? line.dash : 'solid' }, itemStyle: { color: hue },
                ...(last ? { endLabel: { show: true, formatter: line.name, color: hue, fontSize: 12.5 } } : {}),
            })
        }
        const here: [number | undefined, number | undefined] = [valueAt(other, setting.playhead), valueAt(line, setting.playhead)]
        if (here[0] !== undefined && here[1] !== undefined) {
            all.push({ type: 'scatter', data: [here], symbolSize: line.main ? 13 : 9, z: 8, silent: true, itemStyle: { color: colour('--ember'), borderColor: colour('--card'), borderWidth: 2 } })
        }
    }
    const y = up.map((id) => elements[id]).filter((t): t is Thing => t !== undefined)
    const named = (t: Thing | undefined) => (t ? `${t.name}${unitOf(t.unit) ? ` (${unitOf(t.unit)})` : ''}` : '')
    const range = (lines: Line[]) => { const s = scaleOf(lines, {}); return { min: s.low, max: s.high } }
    return {
        ...base(setting), grid: { left: 64, right: 110, ...margins(setting), bottom: (setting.source ? 58 : 34) + 20 },
        tooltip: { ...tooltip(colour, ''), trigger: 'item', formatter: (p: { seriesName: string, value: [number, number, number?] }) => `${escape(p.seriesName)}<br>${escape(named(x))} <b>${short(p.value[0])}</b><br>${escape(named(y[0]))} <b>${short(p.value[1])}</b>${p.value[2] === undefined ? '' : `<br>${escape(setting.time.unit)} ${short(p.value[2])}`}` },
        xAxis: axis(colour, named(x), { nameLocation: 'middle', nameGap: 30, nameTextStyle: { color: colour('--ink'), align: 'center' }, ...range(horizontal), splitLine: { lineStyle: { color: colour('--hairline') } } }),
        yAxis: axis(colour, y.map(named).join(' · '), range(vertical)),
        series: all,
    }
}

/** Bars at chosen times: groups are times, bars are runs (or variables, with one run). */
function bars(plot: Plot, courses: Course[], elements: Record<string, Thing>, setting: Setting): EChartsCoreOption {
    const options = plot.options ?? {}
    const { colour, time } = setting
    const times = options.times?.length ? options.times : [time.end]
    const lines = linesOf(plot, courses, elements)
    return {
        ...base(setting), grid: { left: 64, right: 30, ...margins(setting), bottom: (setting.source ? 58 : 34) + 26 }, legend: { bottom: setting.source ? 26 : 4, textStyle: { color: colour('--ink') }, icon: 'roundRect', itemHeight: 8 },
        tooltip: { trigger: 'item', backgroundColor: colour('--card'), borderColor: colour('--line'), textStyle: { color: colour('--ink') }, formatter: (p: { seriesName: string, name: string, value: number }) => `${escape(p.seriesName)}, ${escape(p.name)}<br><b>${full(p.value)}</b>` },
        xAxis: { type: 'category', data: times.map((t) => `${time.unit} ${short(t)}`), axisLine: { lineStyle: { color: colour('--line') } }, axisTick: { show: false }, axisLabel: { color: colour('--ink-soft') } },
        yAxis: axis(colour, [...new Set(lines.map((l) => unitOf(l.unit)))].join(' · '), { min: options.low, max: options.high }),
        series: lines.map((l) => ({ name: l.name, type: 'bar', barMaxWidth: 46, data: times.map((t) => valueAt(l, t) ?? null), itemStyle: { color: colour(l.colour), borderRadius: [3, 3, 0, 0], decal: l.dash.length ? { symbol: 'rect', dashArrayX: [1, 0], dashArrayY: [2, l.dash[0] ?? 3], rotation: -0.7 } : undefined } })),
    }
}

/** How often a variable was where, over the saved moments. */
export function histogramOf(line: Line, low: number, high: number, bins: number): number[] {
    const counts = new Array<number>(bins).fill(0)
    for (const v of line.values) {
        if (Number.isFinite(v)) {
            const bin = high > low ? Math.min(bins - 1, Math.max(0, Math.floor((v - low) / (high - low) * bins))) : 0
            counts[bin] = (counts[bin] ?? 0) + 1
        }
    }
    return counts.map((c) => 100 * c / Math.max(1, line.values.length))
}

function histogram(plot: Plot, courses: Course[], elements: Record<string, Thing>, setting: Setting): EChartsCoreOption {
    const { colour } = setting
    const lines = linesOf(plot, courses, elements)
    const bins = plot.options?.bins ?? 20
    const [low, high] = lines.map(extent).reduce(([a, b], [c, d]) => [Math.min(a, c), Math.max(b, d)], [Infinity, -Infinity])
    const width = (high - low) / bins
    return {
        ...base(setting), grid: { left: 64, right: 30, ...margins(setting), bottom: (setting.source ? 58 : 34) + 26 }, legend: { bottom: setting.source ? 26 : 4, textStyle: { color: colour('--ink') }, icon: 'roundRect', itemHeight: 8 },
        xAxis: { type: 'category', data: Array.from({ length: bins }, (_, i) => short(low + i * width)), axisLine: { lineStyle: { color: colour('--line') } }, axisTick: { show: false }, axisLabel: { color: colour('--ink-soft') } },
        yAxis: axis(colour, '% of the time'),
        tooltip: { trigger: 'item', backgroundColor: colour('--card'), borderColor: colour('--line'), textStyle: { color: colour('--ink') }, formatter: (p: { seriesName: string, dataIndex: number, value: number }) => `${escape(p.seriesName)}<br>${short(low + p.dataIndex * width)} to ${short(low + (p.dataIndex + 1) * width)}: <b>${short(p.value)} %</b>` },
        series: lines.map((l) => ({ name: l.name, type: 'bar', barCategoryGap: '6%', barGap: '-100%', data: histogramOf(l, low, high, bins), itemStyle: { color: colour(l.colour), opacity: l.main ? 0.75 : 0.5 } })),
    }
}

/** A small plot for each run, all on one scale. */
function multiples(plot: Plot, courses: Course[], elements: Record<string, Thing>, setting: Setting): EChartsCoreOption {
    const { colour, time } = setting
    const options = plot.options ?? {}
    const all = linesOf(plot, courses, elements)
    const scale = scaleOf(all, options)
    const columns = Math.min(3, Math.max(1, Math.ceil(Math.sqrt(courses.length))))
    const rows = Math.max(1, Math.ceil(courses.length / columns))
    const cell = (i: number) => ({ left: `${(i % columns) * 100 / columns + 5}%`, width: `${100 / columns - 7}%`, top: `${Math.floor(i / columns) * 100 / rows + 9}%`, height: `${100 / rows - 17}%` })
    return {
        ...base({ ...setting, title: undefined }), tooltip: tooltip(colour, time.unit),
        title: courses.map((c, i) => ({ text: c.name, left: cell(i).left, top: `${Math.floor(i / columns) * 100 / rows + 1.5}%`, textStyle: { fontSize: 13, color: colour(lookOf(c.look).colour) } })),
        grid: courses.map((_, i) => cell(i)),
        xAxis: courses.map((_, i) => axis(colour, '', { gridIndex: i, min: options.from ?? time.start, max: options.to ?? time.end, splitLine: { show: false } })),
        yAxis: courses.map((_, i) => axis(colour, '', { gridIndex: i, type: scale.log ? 'log' : 'value', min: scale.low, max: scale.high, splitNumber: 3 })),
        series: courses.flatMap((c, i) => all.filter((l) => l.course === c.key).map((l) => series(l, colour, { xAxisIndex: i, yAxisIndex: i, endLabel: { show: false }, name: elements[l.element]?.name ?? l.name }))),
    }
}
