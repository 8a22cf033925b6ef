import type { EChartsCoreOption } from 'echarts/core'
import type { Plot, Thing } from '@/api/types'
import type { Course } from '@/stores/courses'
import { full, rounded, short, shownUnit, tickWords } from '@/ui/numbers'
import { endNames } from './endNames'
import { binsOf, type Bins } from './histogram'
import { linesOf, lookOf, valueAt, type Line } from './lines'
import { bandsOf, numbersOf, type Band } from './marks'
import { extentOf, limitsAcross, limitsOf, scaleFor, scaleOf, ticksOf, type Scale } from './scale'
import { axisWords, inShort, withUnitOf } from './words'

/** What a plot is drawn into and with. */
export interface Setting {
    width: number
    height: number
    time: { start: number, end: number, unit: string }
    playhead: number
    colour: (token: string) => string
    /** Marks of the axis of time. */
    marks: { time: number, words: string }[]
    /** A time in words. */
    moment: (time: number) => string
    /** At the head, for a drawing that stands alone. */
    title?: string
    /** At the foot: who made it from what. */
    source?: string
}

/** The room around the plane, in pixels. */
export const EDGE = { left: 66, right: 168, top: 30, bottom: 34 }
const HEADED = 34
const SOURCED = 26

export const planeOf = (setting: Setting) => ({
    left: EDGE.left, top: EDGE.top + (setting.title ? HEADED : 0),
    width: setting.width - EDGE.left - EDGE.right,
    height: setting.height - EDGE.top - EDGE.bottom - (setting.title ? HEADED : 0) - (setting.source ? SOURCED : 0),
})

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

const escape = (text: string) => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`)

function base(setting: Setting) {
    const { colour, title, source, height } = setting
    return {
        animation: false,
        textStyle: { fontFamily: 'Atkinson Hyperlegible, sans-serif', color: colour('--ink') },
        ...(title ? { title: { text: title, left: 14, top: 8, textStyle: { fontSize: 16, color: colour('--ink'), width: setting.width - 28, overflow: 'truncate' } } } : {}),
        graphic: source ? [{ type: 'text', left: 14, top: height - 18, style: { text: source, fontSize: 11, fill: colour('--ink-soft'), width: setting.width - 28, overflow: 'truncate' } }] : [],
    }
}

const gridOf = (setting: Setting, right = EDGE.right) => {
    const plane = planeOf(setting)
    return { left: plane.left, right, top: plane.top, height: plane.height }
}

/** An axis with the marks that we choose: ECharts puts them where they are told. */
function marked(setting: Setting, name: string, places: number[], words: string[], more: Record<string, unknown> = {}) {
    const { colour } = setting
    const told = new Map(places.map((p, i) => [rounded(p), words[i] ?? '']))
    return {
        type: 'value', name, nameLocation: 'end', nameGap: 10, nameTextStyle: { color: colour('--ink'), align: 'left', fontSize: 12.5 },
        axisLine: { show: true, lineStyle: { color: colour('--line') }, onZero: false }, axisTick: { show: false, customValues: places }, splitLine: { show: true, lineStyle: { color: colour('--hairline') } },
        axisLabel: { color: colour('--ink-soft'), customValues: places, formatter: (v: number) => told.get(rounded(v)) ?? '', hideOverlap: true }, ...more,
    }
}

/** An axis of values, with round numbers of which no two read the same. */
function valueAxis(setting: Setting, scale: Scale, unit: string, name: string, more: Record<string, unknown> = {}) {
    const places = ticksOf(scale)
    const words = scale.log ? places.map((p) => short(p, { unit })) : tickWords(places, unit)
    return marked(setting, name, places, words, { type: scale.log ? 'log' : 'value', min: scale.low, max: scale.high, ...(scale.log ? {} : { interval: scale.step }), nameTextStyle: { color: setting.colour('--ink'), align: 'left', fontSize: 12.5, padding: [0, 0, 0, -46] }, ...more })
}

function timeAxis(setting: Setting, from: number, to: number, more: Record<string, unknown> = {}) {
    const list = setting.marks.filter((m) => m.words && m.time >= from - 1e-9 && m.time <= to + 1e-9)
    return marked(setting, setting.time.unit, list.map((m) => m.time), list.map((m) => m.words), { min: from, max: to, splitLine: { show: false }, nameTextStyle: { color: setting.colour('--ink'), padding: [0, 0, 0, 2] }, ...more })
}

const series = (line: Line, colour: Setting['colour'], more: Record<string, unknown> = {}) => ({
    id: line.key, name: line.name, type: 'line', data: pairs(line), showSymbol: false, connectNulls: false, z: line.main ? 4 : 3, emphasis: { focus: 'series' },
    lineStyle: { color: colour(line.colour), width: line.width + 0.4, type: line.dash.length ? line.dash : 'solid' }, itemStyle: { color: colour(line.colour) }, ...more,
})

const framed = ({ colour }: Setting) => ({ confine: true, backgroundColor: colour('--card'), borderColor: colour('--line'), textStyle: { color: colour('--ink'), fontSize: 13 } })

/** A value with its unit, all of it. */
const told = (value: number | null | undefined, unit: string) => (value === null || value === undefined || !Number.isFinite(value) ? '–' : `<b>${escape(short(value, { unit, digits: 4 }))}</b> ${escape(shownUnit(unit))}`)

function overTime(setting: Setting, lines: Line[], measure: string) {
    return {
        ...framed(setting), trigger: 'axis', axisPointer: { lineStyle: { color: setting.colour('--line') } },
        formatter: (list: { seriesId: string, value: [number, number | null], color: string }[]) => {
            const seen = new Set<string>()
            const rows = list.filter((p) => !seen.has(p.seriesId) && seen.add(p.seriesId)).flatMap((p) => {
                const line = lines.find((l) => l.key === p.seriesId)
                return line ? [`<i style="display:inline-block;width:14px;height:0;border-top:3px ${line.dash.length ? 'dashed' : 'solid'} ${p.color};vertical-align:middle"></i> ${escape(line.name)} ${told(p.value[1], line.unit)}`] : []
            })
            return `${escape(setting.moment(list[0]?.value[0] ?? 0))}${measure ? `, ${escape(measure)}` : ''}<br>${rows.join('<br>')}`
        },
    }
}

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

/** The lines of a plot over time, each with the scale of its axis. */
export function scaledLines(plot: Plot, courses: Course[], elements: Record<string, Thing>): { lines: Line[], scales: Scale[], axes: { element: string, scale: Scale }[] } {
    const options = plot.options ?? {}
    const lines = linesOf(plot, courses, elements)
    const beside = numbersOf(options)
    const axes = (options.own ? [...new Set(lines.map((l) => l.element))] : ['']).map((element) => ({ element, scale: scaleOf(element ? lines.filter((l) => l.element === element) : lines, limitsOf(options), element ? [] : beside) }))
    const scales = lines.map((l) => (axes.find((a) => a.element === l.element) ?? axes[0])?.scale as Scale)
    return { lines, scales, axes }
}

/** Lines across and shaded times, which hang on the first line of a plot. */
function across(setting: Setting, bands: Band[], periods: { from: number, until: number, name?: string }[], playhead: boolean) {
    const { colour } = setting
    const label = (words: string) => ({ show: Boolean(words), formatter: words, color: colour('--ink'), fontSize: 12, position: 'insideStartTop' })
    return {
        markLine: {
            symbol: 'none', silent: true, animation: false, z: 5,
            data: [
                ...(playhead ? [{ xAxis: setting.playhead, label: { show: false }, lineStyle: { color: colour('--ember'), width: 1.5, type: 'solid' } }] : []),
                ...bands.filter((b) => b.to === undefined).map((b) => ({ yAxis: b.at, label: label(b.name), lineStyle: { color: colour('--brick'), width: 1.3, type: [6, 4] } })),
            ],
        },
        markArea: {
            silent: true, animation: false,
            data: [
                ...bands.filter((b) => b.to !== undefined).map((b) => [{ yAxis: Math.min(b.at, b.to as number), name: b.name, itemStyle: { color: colour('--brick'), opacity: 0.1 }, label: { ...label(b.name), position: 'insideTopLeft' } }, { yAxis: Math.max(b.at, b.to as number) }]),
                ...periods.map((p) => [{ xAxis: p.from, name: p.name ?? '', itemStyle: { color: colour('--ink'), opacity: 0.07 }, label: { ...label(p.name ?? ''), position: 'insideTop' } }, { xAxis: p.until }]),
            ],
        },
    }
}

function over(plot: Plot, courses: Course[], elements: Record<string, Thing>, setting: Setting): EChartsCoreOption {
    const options = plot.options ?? {}
    const { colour, time } = setting
    const { lines, scales, axes } = scaledLines(plot, courses, elements)
    const { bands, courses: moving } = bandsOf(options, courses, elements)
    const [from, to] = [options.from ?? time.start, options.to ?? time.end]
    const plane = planeOf(setting)
    const unitOf = (element: string) => lines.find((l) => !element || l.element === element)?.unit ?? ''
    const words = (element: string) => {
        const own = axisWords(elements[element]?.unit ?? '', options.measure)
        return element ? `${inShort(elements[element])}${own ? `, ${own}` : ''}` : [...new Set(lines.map((l) => axisWords(elements[l.element]?.unit ?? '', options.measure)))].filter(Boolean).join(' · ') || (lines.length ? 'no unit yet' : '')
    }
    // A drawing that stands alone has the names in itself; on the page they are text that can be read whole.
    const names = setting.title ? endNames(lines, scales, { height: plane.height, gap: 16, most: Math.floor(plane.height / 16), from, to }).names : []
    return {
        ...base(setting),
        graphic: [...base(setting).graphic, ...names.map((n) => ({ type: 'text', left: plane.left + plane.width + 8, top: plane.top + n.y - 7, style: { text: n.full, fontSize: 12.5, fill: colour(n.lines[0]?.colour ?? '--ink'), width: EDGE.right - 14, overflow: 'truncate' } }))],
        grid: { ...gridOf(setting), left: EDGE.left + Math.max(0, axes.length - 2) * 58, right: EDGE.right + (axes.length > 1 ? 30 : 0) },
        tooltip: overTime(setting, lines, axisWords('', options.measure).replace('a plain number', '')),
        xAxis: timeAxis(setting, from, to),
        yAxis: axes.map((a, i) => valueAxis(setting, a.scale, unitOf(a.element), words(a.element), { position: i === 1 ? 'right' : 'left', offset: i > 1 ? (i - 1) * 58 : 0, splitLine: { show: i === 0, lineStyle: { color: colour('--hairline') } }, ...(i === 1 ? { nameTextStyle: { color: colour('--ink'), align: 'right', fontSize: 12.5, padding: [0, -46, 0, 0] } } : {}) })),
        series: [
            ...lines.map((line, i) => series(line, colour, { yAxisIndex: options.own ? Math.max(0, axes.findIndex((a) => a.element === line.element)) : 0, ...(options.stacked ? { areaStyle: { color: colour(line.colour), opacity: 0.16 } } : {}), ...(i === 0 ? across(setting, bands, options.periods ?? [], true) : {}) })),
            ...moving.map((m) => ({ id: `mark ${m.key}`, name: m.name, type: 'line', data: m.data, showSymbol: false, silent: true, z: 2, tooltip: { show: false }, lineStyle: { color: colour('--brick'), width: 1.3, type: [6, 4] }, endLabel: { show: false } })),
        ],
    }
}

/** One variable against another, with an open ring where it begins, arrow heads on its way and a dot at the playhead. */
function phase(plot: Plot, courses: Course[], elements: Record<string, Thing>, setting: Setting): EChartsCoreOption {
    const { colour } = setting
    const options = plot.options ?? {}
    const { paths, x, y } = phasePaths(plot, courses, elements)
    const thing = elements[plot.of[0] ?? '']
    const up = plot.of.slice(1).map((id) => elements[id]).filter((t): t is Thing => t !== undefined)
    const unit = up[0]?.unit ?? ''
    const plane = planeOf(setting)
    const named = paths.map((p) => ({ text: p.name, colour: p.colour, at: p.points[p.points.length - 1] as [number, number, number] | undefined }))
    return {
        ...base(setting),
        graphic: [...base(setting).graphic, ...(setting.title ? named.map((n, i) => ({ type: 'text', left: plane.left + plane.width + 8, top: plane.top + 4 + 16 * i, style: { text: n.text, fontSize: 12.5, fill: colour(n.colour), width: EDGE.right - 14, overflow: 'truncate' } })) : [])],
        grid: { ...gridOf(setting), height: plane.height - 20 },
        tooltip: { ...framed(setting), trigger: 'item', formatter: (p: { seriesName: string, value: [number, number, number?] }) => `${escape(p.seriesName)}${p.value[2] === undefined ? '' : `, ${escape(setting.moment(p.value[2]))}`}<br>${escape(thing?.name ?? '')} ${told(p.value[0], thing?.unit ?? '')}<br>${escape(up.map((t) => t.name).join(', '))} ${told(p.value[1], unit)}` },
        xAxis: valueAxis(setting, x, thing?.unit ?? '', withUnitOf(thing), { nameLocation: 'middle', nameGap: 30, nameTextStyle: { color: colour('--ink'), align: 'center', fontSize: 12.5 } }),
        yAxis: valueAxis(setting, y, unit, up.map(withUnitOf).join(' · ')),
        series: paths.flatMap((p, i) => {
            const hue = colour(p.colour)
            const here = p.at(setting.playhead)
            return [
                { id: p.key, name: p.name, type: 'line', data: p.points, showSymbol: false, z: p.main ? 4 : 3, emphasis: { disabled: true }, triggerLineEvent: true, lineStyle: { color: hue, width: p.width + 0.4, type: p.dash.length ? p.dash : 'solid' }, itemStyle: { color: hue }, ...(i === 0 ? across(setting, bandsOf(options, courses, elements).bands, [], false) : {}) },
                { id: `${p.key} arrows`, name: p.name, type: 'scatter', data: p.arrows.map((a) => ({ value: a.value, symbolRotate: a.turn })), symbol: 'triangle', symbolSize: p.main ? 9 : 7, silent: true, z: 5, itemStyle: { color: hue } },
                { id: `${p.key} start`, name: p.name, type: 'scatter', data: p.points.slice(0, 1), symbolSize: 9, z: 6, itemStyle: { color: colour('--card'), borderColor: hue, borderWidth: 2 } },
                ...(here ? [{ id: `${p.key} now`, name: p.name, type: 'scatter', data: [here], symbolSize: p.main ? 13 : 9, z: 8, silent: true, itemStyle: { color: colour('--ember'), borderColor: colour('--card'), borderWidth: 2 } }] : []),
            ]
        }),
    }
}

interface Path { key: string, name: string, colour: string, dash: number[], width: number, main: boolean, points: [number, number, number][], arrows: { value: [number, number], turn: number }[], at: (time: number) => [number, number] | undefined }

/** Arrow heads on a path of a phase plot. */
const ARROWS = 3

/** The paths of a phase plot and its two axes, each fitted to what is shown. */
export function phasePaths(plot: Plot, courses: Course[], elements: Record<string, Thing>): { paths: Path[], x: Scale, y: Scale } {
    const options = plot.options ?? {}
    const [first, ...up] = plot.of
    const lines = (id: string) => linesOf({ ...plot, of: [id], options: {} }, courses, elements)
    const horizontal = lines(first ?? '')
    const vertical = up.flatMap((id, v) => lines(id).map((line) => ({ line, v })))
    const x = scaleFor(extentOf(horizontal), limitsAcross(options))
    const y = scaleFor(extentOf(vertical.map((o) => o.line), numbersOf(options)), limitsOf(options, false))
    const paths: Path[] = []
    for (const { line, v } of vertical) {
        const other = horizontal.find((h) => h.course === line.course)
        if (!other) {
            continue
        }
        const points = Array.from(line.times, (t, i): [number, number, number] => [other.values[i] as number, line.values[i] as number, t]).filter(([a, b]) => Number.isFinite(a) && Number.isFinite(b))
        const share = ([a, b]: [number, number, number]): [number, number] => [(a - x.low) / (x.high - x.low), (b - y.low) / (y.high - y.low)]
        const arrows = Array.from({ length: ARROWS }, (_, k) => Math.round((k + 0.5) / ARROWS * (points.length - 1))).flatMap((i) => {
            const [a, b] = [points[i], points[i + 1]]
            const [p, q] = a && b ? [share(a), share(b)] : [undefined, undefined]
            const moved = p && q ? Math.hypot(q[0] - p[0], q[1] - p[1]) : 0
            return a && p && q && moved > 1e-6 ? [{ value: [a[0], a[1]] as [number, number], turn: Math.atan2(q[1] - p[1], q[0] - p[0]) * 180 / Math.PI - 90 }] : []
        })
        const several = up.length > 1
        paths.push({
            key: line.key, name: several ? `${elements[line.element]?.name ?? ''}, ${line.name}` : line.name, colour: several ? (v === 0 ? '--ink' : `--run-${v - 1}`) : line.colour, dash: line.dash, width: line.width, main: line.main, points, arrows,
            at: (time) => {
                const [a, b] = [valueAt(other, time), valueAt(line, time)]
                return a === undefined || b === undefined ? undefined : [a, b]
            },
        })
    }
    return { paths, x, y }
}

/** Bars at chosen times: groups are times, bars are runs (or variables, with one run). */
function bars(plot: Plot, courses: Course[], elements: Record<string, Thing>, setting: Setting): EChartsCoreOption {
    const options = plot.options ?? {}
    const { colour, time } = setting
    const times = options.times?.length ? options.times : [time.end]
    const lines = linesOf(plot, courses, elements)
    const values = lines.map((l) => times.map((t) => valueAt(l, t) ?? null))
    const all = values.flat().filter((v): v is number => v !== null)
    const scale = scaleFor([Math.min(...all), Math.max(...all)], limitsOf(options))
    const unit = lines[0]?.unit ?? ''
    const name = [...new Set(lines.map((l) => axisWords(elements[l.element]?.unit ?? '', options.measure)))].filter(Boolean).join(' · ')
    return {
        ...base(setting), grid: { ...gridOf(setting, 30), height: planeOf(setting).height - 24 }, legend: { bottom: setting.source ? 24 : 2, textStyle: { color: colour('--ink') }, icon: 'roundRect', itemHeight: 8, type: 'scroll' },
        tooltip: { ...framed(setting), trigger: 'item', formatter: (p: { seriesIndex: number, dataIndex: number }) => `${escape(lines[p.seriesIndex]?.name ?? '')}, ${escape(setting.moment(times[p.dataIndex] ?? 0))}<br>${told(values[p.seriesIndex]?.[p.dataIndex], lines[p.seriesIndex]?.unit ?? '')}` },
        xAxis: { type: 'category', data: times.map((t) => setting.moment(t)), axisLine: { lineStyle: { color: colour('--line') } }, axisTick: { show: false }, axisLabel: { color: colour('--ink-soft') } },
        yAxis: valueAxis(setting, scale, unit, name),
        series: lines.map((l, i) => ({ id: l.key, name: l.name, type: 'bar', barMaxWidth: 46, data: values[i], ...(i === 0 ? across(setting, bandsOf(options, courses, elements).bands, [], false) : {}), itemStyle: { color: colour(l.colour), borderRadius: [3, 3, 0, 0], decal: l.dash.length ? { symbol: 'rect', dashArrayX: [1, 0], dashArrayY: [2, l.dash[0] ?? 3], rotation: -0.7 } : undefined } })),
    }
}

/** The outline of a histogram, up and down at its edges. */
export const outlineOf = ({ edges }: Bins, shares: number[]): [number, number][] => [[edges[0] ?? 0, 0], ...shares.flatMap((s, i): [number, number][] => [[edges[i] ?? 0, s], [edges[i + 1] ?? 0, s]]), [edges[edges.length - 1] ?? 0, 0]]

/** How much of the time a variable was at which level: outlines, so that several runs can be told apart. */
function histogram(plot: Plot, courses: Course[], elements: Record<string, Thing>, setting: Setting): EChartsCoreOption {
    const { colour } = setting
    const options = plot.options ?? {}
    const lines = linesOf(plot, courses, elements)
    const bins = binsOf(lines, options)
    const unit = lines[0]?.unit ?? ''
    const y = scaleFor([0, Math.max(0.01, ...bins.shares.flat())], { zero: true, high: undefined })
    const x: Scale = { low: bins.edges[0] ?? 0, high: bins.edges[bins.edges.length - 1] ?? 1, log: false, step: bins.step }
    const things = plot.of.map((id) => elements[id]).filter((t): t is Thing => t !== undefined)
    const words = options.measure ? axisWords(unit, options.measure) : things.map(withUnitOf).join(' · ')
    const edge = (v: number) => `${short(v, { unit, digits: 5 })}`
    return {
        ...base(setting), grid: { ...gridOf(setting, 30), height: planeOf(setting).height - 44 }, legend: { bottom: setting.source ? 24 : 2, textStyle: { color: colour('--ink') }, itemHeight: 8, type: 'scroll', data: lines.map((l) => l.name) },
        xAxis: valueAxis(setting, x, unit, words, { nameLocation: 'middle', nameGap: 28, nameTextStyle: { color: colour('--ink'), align: 'center', fontSize: 12.5 }, splitLine: { show: false } }),
        yAxis: valueAxis(setting, y, '%', '% of the time'),
        tooltip: {
            ...framed(setting), trigger: 'axis', axisPointer: { lineStyle: { color: colour('--line') } },
            formatter: (list: { axisValue: number }[]) => {
                const at = Number(list[0]?.axisValue ?? 0)
                const i = Math.max(0, Math.min(bins.edges.length - 2, bins.edges.findIndex((e) => e > at) - 1))
                return `${edge(bins.edges[i] ?? 0)} to ${edge(bins.edges[i + 1] ?? 0)} ${escape(shownUnit(unit))}<br>${lines.map((l, k) => `${escape(l.name)} ${told(bins.shares[k]?.[i], '%')} of the time`).join('<br>')}`
            },
        },
        series: lines.map((l, k) => ({
            id: l.key, name: l.name, type: 'line', data: outlineOf(bins, bins.shares[k] ?? []), symbol: 'none', z: l.main ? 4 : 3, lineStyle: { color: colour(l.colour), width: l.width + 0.4, type: l.dash.length ? l.dash : 'solid' }, itemStyle: { color: colour(l.colour) },
            ...(lines.length === 1 ? { areaStyle: { color: colour(l.colour), opacity: 0.16 } } : {}),
        })),
    }
}

/** A small plot for each run, all on one scale. */
function multiples(plot: Plot, courses: Course[], elements: Record<string, Thing>, setting: Setting): EChartsCoreOption {
    const { colour, time } = setting
    const options = plot.options ?? {}
    const all = linesOf(plot, courses, elements)
    const scale = scaleOf(all, limitsOf(options), numbersOf(options), 3)
    const unit = all[0]?.unit ?? ''
    const columns = Math.min(3, Math.max(1, Math.ceil(Math.sqrt(courses.length))))
    const rows = Math.max(1, Math.ceil(courses.length / columns))
    const head = setting.title ? HEADED : 0
    const room = setting.height - head - (setting.source ? SOURCED : 0)
    const cell = (i: number) => ({ left: `${(i % columns) * 100 / columns + 5}%`, width: `${100 / columns - 7}%`, top: head + Math.floor(i / columns) * room / rows + 34, height: room / rows - 66 })
    const words = [...new Set(all.map((l) => axisWords(elements[l.element]?.unit ?? '', options.measure)))].filter(Boolean).join(' · ')
    const few = { ...setting, marks: setting.marks.filter((m) => m.words).filter((_, i, list) => list.length <= 5 || i % Math.ceil(list.length / 5) === 0) }
    return {
        ...base(setting), tooltip: overTime(setting, all, axisWords('', options.measure).replace('a plain number', '')),
        title: [
            ...(setting.title ? [base(setting).title as object] : []),
            ...courses.map((c, i) => ({ text: c.name, left: cell(i).left, top: cell(i).top - 32, textStyle: { fontSize: 13, color: colour(lookOf(c.look).colour), width: setting.width / columns - 40, overflow: 'truncate' } })),
        ],
        grid: courses.map((_, i) => cell(i)),
        xAxis: courses.map((_, i) => timeAxis(few, options.from ?? time.start, options.to ?? time.end, { gridIndex: i, name: i >= courses.length - columns ? time.unit : '', nameLocation: 'middle', nameGap: 20 })),
        yAxis: courses.map((_, i) => valueAxis(setting, scale, unit, i % columns === 0 ? words : '', { gridIndex: i, nameGap: 5 })),
        series: courses.flatMap((c, i) => all.filter((l) => l.course === c.key).map((l) => series(l, colour, { xAxisIndex: i, yAxisIndex: i, ...across(setting, bandsOf(options, courses, elements).bands, options.periods ?? [], true) }))),
    }
}

/** For readers who do not see the plot. */
export const spoken = (value: number | undefined, unit: string) => (value === undefined ? '–' : `${full(Number(value.toPrecision(5)), unit)} ${shownUnit(unit)}`.trim())
