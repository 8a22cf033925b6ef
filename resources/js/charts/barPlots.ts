import { across } from './acrossPlot'
import type { EChartsCoreOption } from 'echarts/core'
import type { Plot, Thing } from '@/api/types'
import type { Course } from '@/stores/courses'
import { short, shownUnit } from '@/ui/numbers'
import { binsOf, type Bins } from './histogram'
import { linesOf, valueAt } from './lines'
import { bandsOf } from './marks'
import { limitsOf, scaleFor, type Scale } from './scale'
import { axisWords, withUnitOf } from './words'
import { type PlotFrame, planeOf, base, gridOf, valueAxis, framed, told } from './plotParts'

/** Bars at chosen times: groups are times, bars are runs (or variables, with one run). */
export function bars(plot: Plot, courses: Course[], elements: Record<string, Thing>, setting: PlotFrame): EChartsCoreOption {
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
        ...base(setting),
        grid: { ...gridOf(setting, 30), height: planeOf(setting).height - 24 },
        legend: {
            bottom: setting.source ? 24 : 2,
            textStyle: { color: colour('--ink') },
            icon: 'roundRect',
            itemHeight: 8,
            type: 'scroll',
        },
        tooltip: {
            ...framed(setting),
            trigger: 'item',
            formatter: (p: { seriesIndex: number; dataIndex: number }) =>
                `${escape(lines[p.seriesIndex]?.name ?? '')}, ${escape(setting.moment(times[p.dataIndex] ?? 0))}<br>${told(values[p.seriesIndex]?.[p.dataIndex], lines[p.seriesIndex]?.unit ?? '')}`,
        },
        xAxis: {
            type: 'category',
            data: times.map((t) => setting.moment(t)),
            axisLine: { lineStyle: { color: colour('--line') } },
            axisTick: { show: false },
            axisLabel: { color: colour('--ink-soft') },
        },
        yAxis: valueAxis(setting, scale, unit, name),
        series: lines.map((l, i) => ({
            id: l.key,
            name: l.name,
            type: 'bar',
            barMaxWidth: 46,
            data: values[i],
            ...(i === 0 ? across(setting, bandsOf(options, courses, elements).bands, [], false) : {}),
            itemStyle: {
                color: colour(l.colour),
                borderRadius: [3, 3, 0, 0],
                decal: l.dash.length ? { symbol: 'rect', dashArrayX: [1, 0], dashArrayY: [2, l.dash[0] ?? 3], rotation: -0.7 } : undefined,
            },
        })),
    }
}

/** The outline of a histogram, up and down at its edges. */
export const outlineOf = ({ edges }: Bins, shares: number[]): [number, number][] => [
    [edges[0] ?? 0, 0],
    ...shares.flatMap((s, i): [number, number][] => [
        [edges[i] ?? 0, s],
        [edges[i + 1] ?? 0, s],
    ]),
    [edges[edges.length - 1] ?? 0, 0],
]

/** How much of the time a variable was at which level: outlines, so that several runs can be told apart. */
export function histogram(plot: Plot, courses: Course[], elements: Record<string, Thing>, setting: PlotFrame): EChartsCoreOption {
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
        ...base(setting),
        grid: { ...gridOf(setting, 30), height: planeOf(setting).height - 44 },
        legend: {
            bottom: setting.source ? 24 : 2,
            textStyle: { color: colour('--ink') },
            itemHeight: 8,
            type: 'scroll',
            data: lines.map((l) => l.name),
        },
        xAxis: valueAxis(setting, x, unit, words, {
            nameLocation: 'middle',
            nameGap: 28,
            nameTextStyle: { color: colour('--ink'), align: 'center', fontSize: 12.5 },
            splitLine: { show: false },
        }),
        yAxis: valueAxis(setting, y, '%', '% of the time'),
        tooltip: {
            ...framed(setting),
            trigger: 'axis',
            axisPointer: { lineStyle: { color: colour('--line') } },
            formatter: (list: { axisValue: number }[]) => {
                const at = Number(list[0]?.axisValue ?? 0)
                const i = Math.max(0, Math.min(bins.edges.length - 2, bins.edges.findIndex((e) => e > at) - 1))
                return `${edge(bins.edges[i] ?? 0)} to ${edge(bins.edges[i + 1] ?? 0)} ${escape(shownUnit(unit))}<br>${lines.map((l, k) => `${escape(l.name)} ${told(bins.shares[k]?.[i], '%')} of the time`).join('<br>')}`
            },
        },
        series: lines.map((l, k) => ({
            id: l.key,
            name: l.name,
            type: 'line',
            data: outlineOf(bins, bins.shares[k] ?? []),
            symbol: 'none',
            z: l.main ? 4 : 3,
            lineStyle: { color: colour(l.colour), width: l.width + 0.4, type: l.dash.length ? l.dash : 'solid' },
            itemStyle: { color: colour(l.colour) },
            ...(lines.length === 1 ? { areaStyle: { color: colour(l.colour), opacity: 0.16 } } : {}),
        })),
    }
}
