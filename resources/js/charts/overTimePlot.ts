import { across } from './acrossPlot'
import type { EChartsCoreOption } from 'echarts/core'
import type { Plot, Thing } from '@/api/types'
import type { Course } from '@/stores/courses'

import { endNames } from './endNames'
import { linesOf, lookOf, type Line } from './lines'
import { bandsOf, numbersOf } from './marks'
import { limitsOf, scaleOf, type Scale } from './scale'
import { axisWords, inShort } from './words'
import { HEADED, SOURCED, type PlotFrame, EDGE, planeOf, base, gridOf, valueAxis, timeAxis, series, overTime, whiskers } from './plotParts'

/** The lines of a plot over time, each with the scale of its axis. */
export function scaledLines(
    plot: Plot,
    courses: Course[],
    elements: Record<string, Thing>,
): { lines: Line[]; scales: Scale[]; axes: { element: string; scale: Scale }[] } {
    const options = plot.options ?? {}
    const lines = linesOf(plot, courses, elements)
    const beside = numbersOf(options)
    const axes = (options.own ? [...new Set(lines.map((l) => l.element))] : ['']).map((element) => ({
        element,
        scale: scaleOf(element ? lines.filter((l) => l.element === element) : lines, limitsOf(options), element ? [] : beside),
    }))
    const scales = lines.map((l) => (axes.find((a) => a.element === l.element) ?? axes[0])?.scale as Scale)
    return { lines, scales, axes }
}

export function over(plot: Plot, courses: Course[], elements: Record<string, Thing>, setting: PlotFrame): EChartsCoreOption {
    const options = plot.options ?? {}
    const { colour, time } = setting
    const { lines, scales, axes } = scaledLines(plot, courses, elements)
    const { bands, courses: moving } = bandsOf(options, courses, elements)
    const [from, to] = [options.from ?? time.start, options.to ?? time.end]
    const plane = planeOf(setting)
    const axisOf = (line: Line) =>
        options.own
            ? Math.max(
                  0,
                  axes.findIndex((a) => a.element === line.element),
              )
            : 0
    const unitOf = (element: string) => lines.find((l) => !element || l.element === element)?.unit ?? ''
    const words = (element: string) => {
        const own = axisWords(elements[element]?.unit ?? '', options.measure)
        return element
            ? `${inShort(elements[element])}${own ? `, ${own}` : ''}`
            : [...new Set(lines.map((l) => axisWords(elements[l.element]?.unit ?? '', options.measure)))].filter(Boolean).join(' · ') ||
                  (lines.length ? 'no unit yet' : '')
    }
    // A drawing that stands alone has the names in itself; on the page they are text that can be read whole.
    const names = setting.title
        ? endNames(lines, scales, { height: plane.height, gap: 16, most: Math.floor(plane.height / 16), from, to }).names
        : []
    return {
        ...base(setting),
        graphic: [
            ...base(setting).graphic,
            ...names.map((n) => ({
                type: 'text',
                left: plane.left + plane.width + 8,
                top: plane.top + n.y - 7,
                style: {
                    text: n.full,
                    fontSize: 12.5,
                    fill: colour(n.lines[0]?.colour ?? '--ink'),
                    width: EDGE.right - 14,
                    overflow: 'truncate',
                },
            })),
        ],
        grid: { ...gridOf(setting), left: EDGE.left + Math.max(0, axes.length - 2) * 58, right: EDGE.right + (axes.length > 1 ? 30 : 0) },
        tooltip: overTime(setting, lines, axisWords('', options.measure).replace('a plain number', '')),
        xAxis: timeAxis(setting, from, to),
        yAxis: axes.map((a, i) =>
            valueAxis(setting, a.scale, unitOf(a.element), words(a.element), {
                position: i === 1 ? 'right' : 'left',
                offset: i > 1 ? (i - 1) * 58 : 0,
                splitLine: { show: i === 0, lineStyle: { color: colour('--hairline') } },
                ...(i === 1 ? { nameTextStyle: { color: colour('--ink'), align: 'right', fontSize: 12.5, padding: [0, -46, 0, 0] } } : {}),
            }),
        ),
        series: [
            ...lines.flatMap((line) => whiskers(line, colour, { yAxisIndex: axisOf(line) })),
            ...lines.map((line, i) =>
                series(line, colour, {
                    yAxisIndex: axisOf(line),
                    ...(options.stacked ? { areaStyle: { color: colour(line.colour), opacity: 0.16 } } : {}),
                    ...(i === 0 ? across(setting, bands, options.periods ?? [], true) : {}),
                }),
            ),
            ...moving.map((m) => ({
                id: `mark ${m.key}`,
                name: m.name,
                type: 'line',
                data: m.data,
                showSymbol: false,
                silent: true,
                z: 2,
                tooltip: { show: false },
                lineStyle: { color: colour('--brick'), width: 1.3, type: [6, 4] },
                endLabel: { show: false },
            })),
        ],
    }
}

/** What each of several small plots shows: a run, or a variable or element in all runs. */
function cellsOf(plot: Plot, courses: Course[], lines: Line[]): { name: string; colour: string; lines: Line[] }[] {
    if (!plot.options?.each) {
        return courses.map((c) => ({ name: c.name, colour: lookOf(c.look).colour, lines: lines.filter((l) => l.course === c.key) }))
    }
    // The hue tells the run, since the plot tells the rest.
    return [...new Set(lines.map((l) => l.subject))].map((subject) => ({
        name: subject,
        colour: '--ink',
        lines: lines
            .filter((l) => l.subject === subject)
            .map((l) => ({ ...l, ...lookOf(courses.find((c) => c.key === l.course)?.look ?? -1) })),
    }))
}

/** Small plots, all on one scale. */
export function multiples(plot: Plot, courses: Course[], elements: Record<string, Thing>, setting: PlotFrame): EChartsCoreOption {
    const { colour, time } = setting
    const options = plot.options ?? {}
    const all = linesOf(plot, courses, elements)
    const cells = cellsOf(plot, courses, all)
    const scale = scaleOf(all, limitsOf(options), numbersOf(options), 3)
    const unit = all[0]?.unit ?? ''
    const columns = Math.min(cells.length > 6 ? 4 : 3, Math.max(1, Math.ceil(Math.sqrt(cells.length))))
    const rows = Math.max(1, Math.ceil(cells.length / columns))
    const head = setting.title ? HEADED : 0
    const room = setting.height - head - (setting.source ? SOURCED : 0)
    const cell = (i: number) => ({
        left: `${((i % columns) * 100) / columns + 5}%`,
        width: `${100 / columns - 7}%`,
        top: head + (Math.floor(i / columns) * room) / rows + 34,
        height: room / rows - 66,
    })
    const words = [...new Set(all.map((l) => axisWords(elements[l.element]?.unit ?? '', options.measure)))].filter(Boolean).join(' · ')
    const few = {
        ...setting,
        marks: setting.marks.filter((m) => m.words).filter((_, i, list) => list.length <= 5 || i % Math.ceil(list.length / 5) === 0),
    }
    return {
        ...base(setting),
        tooltip: overTime(setting, all, axisWords('', options.measure).replace('a plain number', '')),
        title: [
            ...(setting.title ? [base(setting).title as object] : []),
            ...cells.map((c, i) => ({
                text: c.name,
                left: cell(i).left,
                top: cell(i).top - 32,
                textStyle: { fontSize: 13, color: colour(c.colour), width: setting.width / columns - 40, overflow: 'truncate' },
            })),
        ],
        grid: cells.map((_, i) => cell(i)),
        xAxis: cells.map((_, i) =>
            timeAxis(few, options.from ?? time.start, options.to ?? time.end, {
                gridIndex: i,
                name: i >= cells.length - columns ? time.unit : '',
                nameLocation: 'middle',
                nameGap: 20,
            }),
        ),
        yAxis: cells.map((_, i) => valueAxis(setting, scale, unit, i % columns === 0 ? words : '', { gridIndex: i, nameGap: 5 })),
        series: cells.flatMap((c, i) =>
            c.lines.flatMap((l) => [
                ...whiskers(l, colour, { xAxisIndex: i, yAxisIndex: i }),
                series(l, colour, {
                    xAxisIndex: i,
                    yAxisIndex: i,
                    ...across(setting, bandsOf(options, courses, elements).bands, options.periods ?? [], true),
                }),
            ]),
        ),
    }
}
