import { across } from './acrossPlot'
import type { EChartsCoreOption } from 'echarts/core'
import type { Plot, Thing } from '@/api/types'
import type { Course } from '@/stores/courses'
import { linesOf, valueAt } from './lines'
import { bandsOf, numbersOf } from './marks'
import { extentOf, limitsAcross, limitsOf, scaleFor, type Scale } from './scale'
import { inShort, ofStart, withUnitOf } from './words'
import { type PlotFrame, EDGE, planeOf, base, gridOf, valueAxis, framed, told } from './plotParts'

/** One variable against another, with an open ring where it begins, arrow heads on its way and a dot at the playhead. */
export function phase(plot: Plot, courses: Course[], elements: Record<string, Thing>, setting: PlotFrame): EChartsCoreOption {
    const { colour } = setting
    const options = plot.options ?? {}
    const { paths, x, y } = phasePaths(plot, courses, elements)
    const thing = elements[plot.of[0] ?? '']
    const up = plot.of
        .slice(1)
        .map((id) => elements[id])
        .filter((t): t is Thing => t !== undefined)
    const inPercent = ofStart(options)
    const [unit, unitAcross] = inPercent ? ['%', '%'] : [up[0]?.unit ?? '', thing?.unit ?? '']
    const axis = (t: Thing | undefined) => (inPercent ? `${inShort(t)} (% of the start)` : withUnitOf(t))
    const plane = planeOf(setting)
    const named = paths.map((p) => ({
        text: p.name,
        colour: p.colour,
        at: p.points[p.points.length - 1] as [number, number, number] | undefined,
    }))
    return {
        ...base(setting),
        graphic: [
            ...base(setting).graphic,
            ...(setting.title
                ? named.map((n, i) => ({
                      type: 'text',
                      left: plane.left + plane.width + 8,
                      top: plane.top + 4 + 16 * i,
                      style: { text: n.text, fontSize: 12.5, fill: colour(n.colour), width: EDGE.right - 14, overflow: 'truncate' },
                  }))
                : []),
        ],
        grid: { ...gridOf(setting), height: plane.height - 20 },
        tooltip: {
            ...framed(setting),
            trigger: 'item',
            formatter: (p: { seriesName: string; value: [number, number, number?] }) =>
                `${escape(p.seriesName)}${p.value[2] === undefined ? '' : `, ${escape(setting.moment(p.value[2]))}`}<br>${escape(thing?.name ?? '')} ${told(p.value[0], unitAcross)}<br>${escape(up.map((t) => t.name).join(', '))} ${told(p.value[1], unit)}`,
        },
        xAxis: valueAxis(setting, x, unitAcross, axis(thing), {
            nameLocation: 'middle',
            nameGap: 30,
            nameTextStyle: { color: colour('--ink'), align: 'center', fontSize: 12.5 },
        }),
        yAxis: valueAxis(setting, y, unit, up.map(axis).join(' · ')),
        series: paths.flatMap((p, i) => {
            const hue = colour(p.colour)
            const here = p.at(setting.playhead)
            return [
                {
                    id: p.key,
                    name: p.name,
                    type: 'line',
                    data: p.points,
                    showSymbol: false,
                    z: p.main ? 4 : 3,
                    emphasis: { disabled: true },
                    triggerLineEvent: true,
                    lineStyle: { color: hue, width: p.width + 0.4, type: p.dash.length ? p.dash : 'solid' },
                    itemStyle: { color: hue },
                    ...(i === 0 ? across(setting, bandsOf(options, courses, elements).bands, [], false) : {}),
                },
                {
                    id: `${p.key} arrows`,
                    name: p.name,
                    type: 'scatter',
                    data: p.arrows.map((a) => ({ value: a.value, symbolRotate: a.turn })),
                    symbol: 'triangle',
                    symbolSize: p.main ? 9 : 7,
                    silent: true,
                    z: 5,
                    itemStyle: { color: hue },
                },
                {
                    id: `${p.key} start`,
                    name: p.name,
                    type: 'scatter',
                    data: p.points.slice(0, 1),
                    symbolSize: 9,
                    z: 6,
                    itemStyle: { color: colour('--card'), borderColor: hue, borderWidth: 2 },
                },
                ...(here
                    ? [
                          {
                              id: `${p.key} now`,
                              name: p.name,
                              type: 'scatter',
                              data: [here],
                              symbolSize: p.main ? 13 : 9,
                              z: 8,
                              silent: true,
                              itemStyle: { color: colour('--ember'), borderColor: colour('--card'), borderWidth: 2 },
                          },
                      ]
                    : []),
            ]
        }),
    }
}

interface Path {
    key: string
    name: string
    colour: string
    dash: number[]
    width: number
    main: boolean
    points: [number, number, number][]
    arrows: { value: [number, number]; turn: number }[]
    at: (time: number) => [number, number] | undefined
}

/** Arrow heads on a path of a phase plot. */
const ARROWS = 3

/** The paths of a phase plot and its two axes, each fitted to what is shown. */
export function phasePaths(plot: Plot, courses: Course[], elements: Record<string, Thing>): { paths: Path[]; x: Scale; y: Scale } {
    const options = plot.options ?? {}
    const [first, ...up] = plot.of
    const lines = (id: string) => linesOf({ ...plot, of: [id], options: ofStart(options) ? { measure: 'percent' } : {} }, courses, elements)
    const horizontal = lines(first ?? '')
    const vertical = up.flatMap((id, v) => lines(id).map((line) => ({ line, v })))
    const x = scaleFor(extentOf(horizontal), limitsAcross(options))
    const y = scaleFor(
        extentOf(
            vertical.map((o) => o.line),
            numbersOf(options),
        ),
        limitsOf(options, false),
    )
    const paths: Path[] = []
    for (const { line, v } of vertical) {
        const other = horizontal.find((h) => h.course === line.course)
        if (!other) {
            continue
        }
        const points = Array.from(line.times, (t, i): [number, number, number] => [
            other.values[i] as number,
            line.values[i] as number,
            t,
        ]).filter(([a, b]) => Number.isFinite(a) && Number.isFinite(b))
        const share = ([a, b]: [number, number, number]): [number, number] => [
            (a - x.low) / (x.high - x.low),
            (b - y.low) / (y.high - y.low),
        ]
        const arrows = Array.from({ length: ARROWS }, (_, k) => Math.round(((k + 0.5) / ARROWS) * (points.length - 1))).flatMap((i) => {
            const [a, b] = [points[i], points[i + 1]]
            const [p, q] = a && b ? [share(a), share(b)] : [undefined, undefined]
            const moved = p && q ? Math.hypot(q[0] - p[0], q[1] - p[1]) : 0
            return a && p && q && moved > 1e-6
                ? [{ value: [a[0], a[1]] as [number, number], turn: (Math.atan2(q[1] - p[1], q[0] - p[0]) * 180) / Math.PI - 90 }]
                : []
        })
        const several = up.length > 1
        paths.push({
            key: line.key,
            name: several ? `${elements[line.element]?.name ?? ''}, ${line.name}` : line.name,
            colour: several ? (v === 0 ? '--ink' : `--run-${v - 1}`) : line.colour,
            dash: line.dash,
            width: line.width,
            main: line.main,
            points,
            arrows,
            at: (time) => {
                const [a, b] = [valueAt(other, time), valueAt(line, time)]
                return a === undefined || b === undefined ? undefined : [a, b]
            },
        })
    }
    return { paths, x, y }
}
