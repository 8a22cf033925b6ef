import { full, rounded, short, shownUnit, tickWords } from '@/ui/numbers'
import type { Line } from './lines'
import { ticksOf, type Scale } from './scale'

/** What a plot is drawn into and with. */
export interface PlotFrame {
    width: number
    height: number
    time: { start: number; end: number; unit: string }
    playhead: number
    colour: (token: string) => string
    /** Marks of the axis of time. */
    marks: { time: number; words: string }[]
    /** A time in words. */
    moment: (time: number) => string
    /** At the head, for a drawing that stands alone. */
    title?: string
    /** At the foot: who made it from what. */
    source?: string
}

/** The room around the plane, in pixels. */
export const EDGE = { left: 66, right: 168, top: 30, bottom: 34 }
export const HEADED = 34
export const SOURCED = 26

export const planeOf = (setting: PlotFrame) => ({
    left: EDGE.left,
    top: EDGE.top + (setting.title ? HEADED : 0),
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
        // Of what was measured they say how exact it is; see whiskers.
        if (line.lows && line.highs && !line.dots) {
            add(line.lows[i])
            add(line.highs[i])
        }
    })
    made.set(line.values, list)
    return list
}

const escape = (text: string) => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`)

export function base(setting: PlotFrame) {
    const { colour, title, source, height } = setting
    return {
        animation: false,
        textStyle: { fontFamily: 'Atkinson Hyperlegible, sans-serif', color: colour('--ink') },
        ...(title
            ? {
                  title: {
                      text: title,
                      left: 14,
                      top: 8,
                      textStyle: { fontSize: 16, color: colour('--ink'), width: setting.width - 28, overflow: 'truncate' },
                  },
              }
            : {}),
        graphic: source
            ? [
                  {
                      type: 'text',
                      left: 14,
                      top: height - 18,
                      style: { text: source, fontSize: 11, fill: colour('--ink-soft'), width: setting.width - 28, overflow: 'truncate' },
                  },
              ]
            : [],
    }
}

export const gridOf = (setting: PlotFrame, right = EDGE.right) => {
    const plane = planeOf(setting)
    return { left: plane.left, right, top: plane.top, height: plane.height }
}

/** An axis with the marks that we choose: ECharts puts them where they are told. */
export function marked(setting: PlotFrame, name: string, places: number[], words: string[], more: Record<string, unknown> = {}) {
    const { colour } = setting
    const told = new Map(places.map((p, i) => [rounded(p), words[i] ?? '']))
    return {
        type: 'value',
        name,
        nameLocation: 'end',
        nameGap: 10,
        nameTextStyle: { color: colour('--ink'), align: 'left', fontSize: 12.5 },
        axisLine: { show: true, lineStyle: { color: colour('--line') }, onZero: false },
        axisTick: { show: false, customValues: places },
        splitLine: { show: true, lineStyle: { color: colour('--hairline') } },
        axisLabel: {
            color: colour('--ink-soft'),
            customValues: places,
            formatter: (v: number) => told.get(rounded(v)) ?? '',
            hideOverlap: true,
        },
        ...more,
    }
}

/** An axis of values, with round numbers of which no two read the same. */
export function valueAxis(setting: PlotFrame, scale: Scale, unit: string, name: string, more: Record<string, unknown> = {}) {
    const places = ticksOf(scale)
    const words = scale.log ? places.map((p) => short(p, { unit })) : tickWords(places, unit)
    return marked(setting, name, places, words, {
        type: scale.log ? 'log' : 'value',
        min: scale.low,
        max: scale.high,
        ...(scale.log ? {} : { interval: scale.step }),
        nameTextStyle: { color: setting.colour('--ink'), align: 'left', fontSize: 12.5, padding: [0, 0, 0, -46] },
        ...more,
    })
}

export function timeAxis(setting: PlotFrame, from: number, to: number, more: Record<string, unknown> = {}) {
    const list = setting.marks.filter((m) => m.words && m.time >= from - 1e-9 && m.time <= to + 1e-9)
    return marked(
        setting,
        setting.time.unit,
        list.map((m) => m.time),
        list.map((m) => m.words),
        {
            min: from,
            max: to,
            splitLine: { show: false },
            nameTextStyle: { color: setting.colour('--ink'), padding: [0, 0, 0, 2] },
            ...more,
        },
    )
}

export const series = (line: Line, colour: PlotFrame['colour'], more: Record<string, unknown> = {}) => ({
    id: line.key,
    name: line.name,
    type: 'line',
    data: pairs(line),
    showSymbol: false,
    connectNulls: false,
    z: line.main ? 4 : 3,
    emphasis: { focus: 'series' },
    lineStyle: { color: colour(line.colour), width: line.width + 0.4, type: line.dash.length ? line.dash : 'solid' },
    itemStyle: { color: colour(line.colour) },
    ...(line.dots
        ? {
              showSymbol: true,
              symbol: 'circle',
              symbolSize: line.times.length > 120 ? 3 : 6,
              lineStyle: { width: 0, color: colour(line.colour) },
              itemStyle: { color: 'transparent', borderColor: colour(line.colour), borderWidth: 1.5 },
          }
        : {}),
    ...more,
})

/** How exact measured points are: a stroke from one standard deviation below to one above; nothing for all other lines. */
export const whiskers = (line: Line, colour: PlotFrame['colour'], more: Record<string, unknown> = {}) =>
    line.dots && line.lows && line.highs
        ? [
              {
                  id: `whiskers ${line.key}`,
                  type: 'line',
                  data: Array.from(line.times).flatMap((t, i) => [
                      [t, line.lows?.[i] ?? null],
                      [t, line.highs?.[i] ?? null],
                      [t, null],
                  ]),
                  showSymbol: false,
                  connectNulls: false,
                  silent: true,
                  z: 2,
                  tooltip: { show: false },
                  lineStyle: { color: colour(line.colour), width: 1, opacity: 0.7 },
                  ...more,
              },
          ]
        : []

export const framed = ({ colour }: PlotFrame) => ({
    confine: true,
    backgroundColor: colour('--card'),
    borderColor: colour('--line'),
    textStyle: { color: colour('--ink'), fontSize: 13 },
})

/** A value with its unit, all of it. */
export const told = (value: number | null | undefined, unit: string) =>
    value === null || value === undefined || !Number.isFinite(value)
        ? '–'
        : `<b>${escape(short(value, { unit, digits: 4 }))}</b> ${escape(shownUnit(unit))}`

export function overTime(setting: PlotFrame, lines: Line[], measure: string) {
    return {
        ...framed(setting),
        trigger: 'axis',
        axisPointer: { lineStyle: { color: setting.colour('--line') } },
        formatter: (list: { seriesId: string; value: [number, number | null]; color: string }[]) => {
            const seen = new Set<string>()
            const rows = list
                .filter((p) => !seen.has(p.seriesId) && seen.add(p.seriesId))
                .flatMap((p) => {
                    const line = lines.find((l) => l.key === p.seriesId)
                    // What was measured was so at a moment of its own.
                    const own = line?.dots && p.value[0] !== list[0]?.value[0] ? `, ${escape(setting.moment(p.value[0]))}` : ''
                    return line
                        ? [
                              `<i style="display:inline-block;width:14px;height:0;border-top:3px ${line.dash.length ? 'dashed' : 'solid'} ${p.color};vertical-align:middle"></i> ${escape(line.name)} ${told(p.value[1], line.unit)}${own}`,
                          ]
                        : []
                })
            return `${escape(setting.moment(list[0]?.value[0] ?? 0))}${measure ? `, ${escape(measure)}` : ''}<br>${rows.join('<br>')}`
        },
    }
}

/** For readers who do not see the plot. */
export const spoken = (value: number | undefined, unit: string) =>
    value === undefined ? '–' : `${full(Number(value.toPrecision(5)), unit)} ${shownUnit(unit)}`.trim()
