import type { Plot, Thing } from '@/api/types'
import type { Course } from '@/stores/courses'
import { rounded, shownUnit, shownValue } from '@/ui/numbers'
import type { Cell } from '@/ui/download'
import { binsOf } from './histogram'
import { linesOf, valueAt, type Line } from './lines'
import { phasePaths } from './phasePlot'
import { axisWords, measureWords, ofStart } from './words'

interface From {
    plot: Plot
    courses: Course[]
    elements: Record<string, Thing>
    unit: string
}

/** The head of a column: what it is of, its unit, measure and run. */
const head = (name: string, unit: string, measure: string, run: string) =>
    [`${name}${unit ? ` (${unit})` : ''}`, measure, run].filter(Boolean).join(', ')

/** A number as it stands in a cell; nothing where there is none. */
export const shown = (value: number | undefined | null, unit: string): Cell =>
    value === undefined || value === null || !Number.isFinite(value) ? null : rounded(shownValue(value, unit))

/** The head of a line’s column: variable, unit after the measure, measure, run. */
export function columnHead(
    line: Line,
    { plot, courses, named = courses.length > 1 }: Pick<From, 'plot' | 'courses'> & { /** Whether its run is told. */ named?: boolean },
): string {
    const measure = plot.options?.measure
    const unit =
        measure === 'percent' || measure === 'growth' || measure === 'normalised' || measure === 'difference-percent'
            ? '%'
            : shownUnit(line.unit)
    const run = courses.find((c) => c.key === line.course)?.name ?? ''
    return head(line.subject, unit, measureWords(measure), named || measureWords(measure) ? run : '')
}

/** What a plot shows, as rows with a head: values over time, the classes of a histogram, the pairs of a phase plot, bars. */
export function rowsOf(from: From): Cell[][] {
    const { plot, courses, elements, unit } = from
    const lines = linesOf(plot, courses, elements)
    const options = plot.options ?? {}
    if (plot.kind === 'histogram') {
        const bins = binsOf(lines, options)
        const of = lines[0]?.unit ?? ''
        const words = shownUnit(of) ? ` (${shownUnit(of)})` : ''
        return [
            [`from${words}`, `to${words}`, ...lines.map((l) => `% of the time, ${columnHead(l, from)}`)],
            ...bins.edges
                .slice(0, -1)
                .map((edge, i): Cell[] => [shown(edge, of), shown(bins.edges[i + 1], of), ...bins.shares.map((s) => shown(s[i], '%'))]),
        ]
    }
    if (plot.kind === 'phase') {
        const { paths } = phasePaths(plot, courses, elements)
        const [across, ...up] = plot.of.map((id) => elements[id])
        const percent = ofStart(options)
        const named = (t: Thing | undefined) => head(t?.name ?? '', percent ? '% of the start' : shownUnit(t?.unit ?? ''), '', '')
        const rows: Cell[][] = [['run', unit, named(across), up.map(named).join(' · ')]]
        for (const p of paths) {
            rows.push(
                ...p.points.map(([x, y, t]): Cell[] => [
                    p.name,
                    rounded(t),
                    shown(x, percent ? '%' : (across?.unit ?? '')),
                    shown(y, percent ? '%' : (up[0]?.unit ?? '')),
                ]),
            )
        }
        return rows
    }
    const heads = [unit, ...lines.map((l) => columnHead(l, from))]
    const chosen = options.times?.length ? options.times : undefined
    if (plot.kind === 'bars' || chosen) {
        return [
            heads,
            ...(chosen ?? [lines[0]?.times.at(-1) ?? 0]).map((t): Cell[] => [
                rounded(t),
                ...lines.map((l) => shown(valueAt(l, t), l.unit)),
            ]),
        ]
    }
    const times = [...new Set(lines.flatMap((l) => [...l.times]).map(rounded))].sort((a, b) => a - b)
    return [
        heads,
        ...times
            .filter((t) => t >= (options.from ?? -Infinity) - 1e-9 && t <= (options.to ?? Infinity) + 1e-9)
            .map((t): Cell[] => [t, ...lines.map((l) => shown(valueAt(l, t), l.unit))]),
    ]
}

/** The same values with a row for each: the time, what it is of, and the value; gaps have none. */
export function longOf(rows: Cell[][]): Cell[][] {
    const [heads = [], ...body] = rows
    return [
        [heads[0] ?? '', 'series', 'value'],
        ...body.flatMap((row) =>
            heads
                .slice(1)
                .flatMap((name, i) =>
                    row[i + 1] === null || row[i + 1] === undefined ? [] : [[row[0] ?? null, name, row[i + 1] ?? null]],
                ),
        ),
    ]
}

/** What stands over a table that leaves the page: what it is, of which study, and whether moments were left out. */
export function captionOf({ plot, courses, elements }: From, title: string, study: string): string {
    const measure = axisWords('', plot.options?.measure).replace('a plain number', '')
    const lines = linesOf(plot, courses, elements)
    const coarse = lines.some((l) => l.lows && !l.dots)
    return `${title}${measure ? ` – ${measure}` : ''} – ${study}${coarse ? ' – some of the saved moments; lowest and highest between them are not in this table' : ''}`
}
