import type { Measure, Plot, PlotOptions, Thing } from '@/api/types'
import type { Course } from '@/stores/courses'
import { extent, share, type Scale } from './scale'
import { indexAt } from '@/ui/times'
import { inShort, measuredUnit } from './words'

/** One line of a plot, as it is measured. `colour` is a token; `unit` is that of the values. */
export interface Line {
    key: string
    element: string
    /** The variable, and which of its elements where it extends over dimensions. */ subject: string
    course: string
    /** Of the run and, where there are several, of the variable. */
    name: string
    /** The same where it is narrow. */
    brief: string
    unit: string
    colour: string
    dash: number[]
    width: number
    times: Float64Array
    values: Float64Array
    lows?: Float64Array
    highs?: Float64Array
    main: boolean
    /** Points that were measured: nothing is known between them. */ dots?: boolean
}

/** In the order of the hues. */
export const DASHES: number[][] = [
    [7, 3],
    [2, 3],
    [10, 3, 2, 3],
    [4, 2],
    [12, 4],
    [1, 2],
    [6, 2, 1, 2],
    [9, 2, 4, 2],
]
const BASELINE = [4, 4]

export function lookOf(look: number): { colour: string; dash: number[]; width: number } {
    if (look === -1) {
        return { colour: '--ink', dash: [], width: 2 }
    }
    if (look === -2) {
        return { colour: '--line', dash: BASELINE, width: 1.4 }
    }
    return { colour: `--run-${look % DASHES.length}`, dash: DASHES[look % DASHES.length] ?? [], width: 1.6 }
}

/** The hue of a variable where there are several: it tells the variable, and the dash the run. */
export const hueOf = (position: number) => (position === 0 ? '--ink' : `--run-${(position - 1) % DASHES.length}`)

function constant(value: number, length: number): Float64Array {
    return new Float64Array(length).fill(value)
}

/** What has a line of its own: a thing, or each of its elements along dimensions. */
function subjectsOf(thing: Thing, amongOthers: boolean) {
    if (!thing.along) {
        return [{ thing, column: thing.id, name: thing.name, brief: inShort(thing) }]
    }
    const { parts, looked } = thing.along
    const words = (...some: (string | undefined)[]) => some.filter(Boolean).join(', ')
    return parts.map(({ key, name }) => ({
        thing,
        column: key,
        name: words(thing.name, looked, name),
        brief: amongOthers ? words(inShort(thing), name) : name || inShort(thing),
    }))
}

/** The lines of a plot: one for each variable in each run. With one variable the hue tells the run; with several the variable. */
export function linesOf(plot: Plot, courses: Course[], elements: Record<string, Thing>): Line[] {
    const things = plot.of.map((id) => elements[id]).filter((t): t is Thing => t !== undefined && t.kind !== 'curve')
    const measure = plot.options?.measure
    const lines: Line[] = []
    const subjects = things.flatMap((thing) => subjectsOf(thing, things.length > 1))
    const several = subjects.length > 1
    for (const [v, { thing, column: key, name, brief }] of subjects.entries()) {
        for (const course of courses) {
            const column = course.run.values.get(key)
            const [lows, highs] = [course.run.lows?.get(key), course.run.highs?.get(key)]
            const steady = course.run.steady[key]
            if (!column && steady === undefined) {
                continue
            }
            const look = course.drawn ? { ...course.drawn, width: 1.6 } : lookOf(course.look)
            const own = several ? { colour: hueOf(v), dash: course.main ? [] : look.dash, width: course.main ? 2 : 1.4 } : look
            const alone = course.main && courses.length === 1
            lines.push({
                key: `${key}|${course.key}`,
                element: thing.id,
                subject: name,
                course: course.key,
                name: several ? (alone ? name : `${name}, ${course.name}`) : course.name,
                brief: several ? (alone ? brief : `${brief}, ${course.name}`) : course.name,
                unit: measuredUnit(thing.unit, measure),
                ...own,
                times: course.run.times,
                values: column ?? constant(steady as number, course.run.times.length),
                ...(lows && highs ? { lows, highs } : {}),
                ...(course.drawn?.dots ? { dots: true } : {}),
                main: course.main,
            })
        }
    }
    return measured(lines, measure, plot.options ?? {})
}

function mapped(line: Line, change: (value: number) => number): Line {
    return {
        ...line,
        values: line.values.map(change),
        ...(line.lows && line.highs ? { lows: line.lows.map(change), highs: line.highs.map(change) } : {}),
    }
}

/**
 * Lines as parts of their variable’s range or of where they start, or put on top of each other. Differences come measured, in
 * per cent as hundredfold.
 */
function measured(lines: Line[], measure: Measure | undefined, options: PlotOptions): Line[] {
    if (measure === 'normalised') {
        const ranges = new Map<string, [number, number]>()
        for (const line of lines) {
            const [low, high] = extent(line)
            const known = ranges.get(line.subject) ?? [Infinity, -Infinity]
            ranges.set(line.subject, [Math.min(low, known[0]), Math.max(high, known[1])])
        }
        return lines.map((line) => {
            const [low, high] = ranges.get(line.subject) ?? [0, 1]
            return mapped(line, (v) => (high > low ? (v - low) / (high - low) : 0.5))
        })
    }
    if (measure === 'percent') {
        return lines.map((line) => {
            const first = line.values[0] ?? 0
            return mapped(line, (v) => (first === 0 ? NaN : v / first))
        })
    }
    if (measure === 'growth') {
        return lines.map((line) => ({ ...line, values: growth(line.times, line.values), lows: undefined, highs: undefined }))
    }
    if (measure === 'difference-percent') {
        return lines.map((line) => mapped(line, (v) => v / 100))
    }
    if (!options.stacked) {
        return lines
    }
    // Each variable stands on those before it, in the run of the day.
    const sums: Line[] = []
    for (const line of lines.filter((l) => l.main)) {
        const below = sums.at(-1)
        sums.push({
            ...line,
            lows: undefined,
            highs: undefined,
            values: below ? line.values.map((v, i) => v + (below.values[i] ?? 0)) : line.values,
        })
    }
    return sums
}

/** How fast it grows at each point, as a share of itself for each unit of time; none where it changes its sign. */
export function growth(times: ArrayLike<number>, values: ArrayLike<number>): Float64Array {
    return Float64Array.from({ length: times.length }, (_, i) => {
        const [a, b] = [Math.max(0, i - 1), Math.min(times.length - 1, i + 1)]
        const [span, ratio] = [(times[b] ?? 0) - (times[a] ?? 0), (values[b] ?? NaN) / (values[a] ?? NaN)]
        return span > 0 && ratio > 0 ? Math.log(ratio) / span : NaN
    })
}

/** The value of a line at a time; undefined beyond its ends, and between points that were measured. */
export function valueAt(line: Pick<Line, 'times' | 'values' | 'dots'>, time: number): number | undefined {
    const { times, values } = line
    const last = times.length - 1
    if (last < 0 || time < (times[0] as number) - 1e-9 || time > (times[last] as number) + 1e-9) {
        return undefined
    }
    const low = indexAt(times, time)
    const here = values[low] as number
    if (line.dots) {
        return Math.abs((times[low] as number) - time) < 1e-9 && Number.isFinite(here) ? here : undefined
    }
    const next = values[low + 1]
    const part =
        next === undefined
            ? 0
            : Math.min(1, Math.max(0, (time - (times[low] as number)) / ((times[low + 1] as number) - (times[low] as number))))
    const value = next === undefined || part === 0 ? here : here + part * (next - here)
    return Number.isFinite(value) ? value : undefined
}

/** The measured point nearest to a time, within a reach. */
export function pointAt(line: Pick<Line, 'times' | 'values'>, time: number, reach: number): { time: number; value: number } | undefined {
    let best: { time: number; value: number } | undefined
    for (const [i, at] of line.times.entries()) {
        if (Math.abs(at - time) <= Math.min(reach, Math.abs((best?.time ?? Infinity) - time))) {
            best = { time: at, value: line.values[i] as number }
        }
    }
    return best
}

/** The line nearest to a point, within a distance in pixels; points that were measured are reached from a little time beside them. */
export function nearest(
    lines: Line[],
    scales: Scale[],
    time: number,
    y: number,
    height: number,
    { within = 14, reach = 0 } = {},
): Line | undefined {
    let best: Line | undefined
    let distance = within
    for (const [i, line] of lines.entries()) {
        const value = line.dots ? pointAt(line, time, reach)?.value : valueAt(line, time)
        const at = value === undefined ? NaN : (1 - share(scales[i] as Scale, value)) * height
        if (Math.abs(at - y) < distance) {
            distance = Math.abs(at - y)
            best = line
        }
    }
    return best
}

/** So many points are open rings; more of them are specks. */
const MOST_RINGS = 120

function dotted(
    context: CanvasRenderingContext2D,
    line: Line,
    x: (t: number) => number,
    y: (v: number) => number,
    from: number,
    to: number,
    colour: string,
) {
    const open = line.times.length <= MOST_RINGS
    context.setLineDash([])
    context.lineWidth = 1.4
    context.strokeStyle = colour
    context.fillStyle = colour
    for (const [k, t] of line.times.entries()) {
        const at = y(line.values[k] as number)
        if (t < from || t > to || !Number.isFinite(at)) {
            continue
        }
        if (line.lows && line.highs) {
            context.beginPath()
            context.moveTo(x(t), y(line.lows[k] as number))
            context.lineTo(x(t), y(line.highs[k] as number))
            context.stroke()
        }
        context.beginPath()
        context.arc(x(t), at, open ? 3 : 1.4, 0, 2 * Math.PI)
        if (open) {
            context.stroke()
        } else {
            context.fill()
        }
    }
}

/** Draws lines onto a canvas that is `width` by `height` pixels. */
export function paint(
    context: CanvasRenderingContext2D,
    width: number,
    height: number,
    lines: Line[],
    scales: Scale[],
    from: number,
    to: number,
    colour: (token: string) => string,
    lifted?: string,
    filled = false,
) {
    context.clearRect(0, 0, width, height)
    const x = (t: number) => ((t - from) / (to - from)) * width
    // The run of the day lies on top.
    const order = lines.map((_, i) => i).sort((a, b) => Number((lines[a] as Line).main) - Number((lines[b] as Line).main))
    for (const i of order) {
        const line = lines[i] as Line
        const scale = scales[i] as Scale
        const y = (v: number) => (1 - share(scale, v)) * height
        if (line.dots) {
            dotted(context, line, x, y, from, to, colour(line.colour))
            continue
        }
        context.beginPath()
        let pen = false
        for (let k = 0; k < line.times.length; k++) {
            const t = line.times[k] as number
            if (t < from && (line.times[k + 1] ?? from) < from) {
                continue
            }
            const at = y(line.values[k] as number)
            if (!Number.isFinite(at)) {
                pen = false
                continue
            }
            if (pen) {
                context.lineTo(x(t), at)
            } else {
                context.moveTo(x(t), at)
            }
            pen = true
            if (line.lows && line.highs) {
                // From moment to moment it went this low and this high.
                context.lineTo(x(t), y(line.lows[k] as number))
                context.lineTo(x(t), y(line.highs[k] as number))
            }
            if (t > to) {
                break
            }
        }
        context.setLineDash(line.dash)
        context.lineWidth = line.width + (lifted === line.key ? 1.4 : 0)
        context.strokeStyle = colour(line.colour)
        context.globalAlpha = lifted && lifted !== line.key ? 0.35 : 1
        context.stroke()
        if (filled) {
            context.lineTo(x(line.times[line.times.length - 1] ?? to), height)
            context.lineTo(x(line.times[0] ?? from), height)
            context.globalAlpha = 0.12
            context.fillStyle = colour(line.colour)
            context.fill()
        }
    }
    context.globalAlpha = 1
    context.setLineDash([])
}
