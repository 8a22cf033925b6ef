import type { EvidenceRecord, OtherParts } from '@/api/parts'
import type { Plot } from '@/api/types'
import type { Course } from '@/stores/courses'

export interface ModeLook {
    colour: string
    dash: number[]
}

const LOOKS: Record<string, ModeLook> = {
    seen: { colour: '--ink', dash: [1, 3] },
    hoped: { colour: '--run-0', dash: [9, 4] },
    feared: { colour: '--run-3', dash: [5, 3, 1, 3] },
    expected: { colour: '--run-4', dash: [3, 3] },
}

/** How a reference mode is drawn, wherever it lies. */
export const modeLook = (kind: string): ModeLook => LOOKS[kind] ?? { colour: '--line', dash: [2, 4] }

/** Plots over time that show values as they are: only there a drawn course can be held against a run. */
const isOverTime = (plot: Plot) =>
    ['lines', 'multiples'].includes(plot.kind ?? 'lines') && (plot.options?.measure ?? 'value') === 'value' && !plot.options?.stacked

/** A course that is no run, to be laid over runs. */
function laid(
    key: string,
    name: string,
    of: string,
    points: readonly (readonly [number, number])[],
    drawn: Course['drawn'],
    errors?: readonly number[],
): Course {
    const off = (sign: number) => new Map([[of, Float64Array.from(points, (p, i) => p[1] + sign * (errors?.[i] ?? 0))]])
    const run = {
        times: Float64Array.from(points, (p) => p[0]),
        values: new Map([[of, Float64Array.from(points, (p) => p[1])]]),
        steady: {},
        ...(errors ? { lows: off(-1), highs: off(1) } : {}),
    }
    // Plots ask a course for these three alone.
    return { key, name, look: 0, drawn, main: false, run: run as unknown as Course['run'] }
}

/** The column of a run that evidence is of: that of its variable, or of one element of it. */
export const keyOf = (e: EvidenceRecord) => (e.at?.length ? `${e.of}[${e.at.join(',')}]` : e.of)

/** Where points of evidence lie: of a mean or a sum over a period, in its middle. */
const spotsOf = (e: EvidenceRecord) =>
    (e.points as [number, number][]).map(([t, v], i) => [(t + (e.ends?.[i] ?? t)) / 2, v] as [number, number])

/** How exact they are, one standard deviation: as a column says, or as is usual; nothing where nobody said. */
function errorsOf(e: EvidenceRecord): number[] | undefined {
    const usual = (v: number) => (e.errorIn === '%' ? Math.abs(v) * 0.01 : 1) * (e.error ?? 0)
    return e.error || e.errors?.some((one) => one > 0) ? e.points.map(([, v], i) => (e.errors?.[i] ?? 0) || usual(v ?? 0)) : undefined
}

/** What lies over the runs of a plot: reference modes as courses, and evidence as points. */
export function laidOver(plot: Plot, parts: Partial<Pick<OtherParts, 'modes' | 'evidence'>>): Course[] {
    if (!isOverTime(plot)) {
        return []
    }
    const modes = Object.values(parts.modes ?? {}).filter((m) => plot.of.includes(m.of ?? '') && m.points.length > 1)
    const evidence = Object.values(parts.evidence ?? {}).filter((e) => plot.of.includes(e.of))
    return [
        ...modes.map((m) =>
            laid(`mode ${m.id}`, m.kind ?? 'expected', m.of ?? '', m.points as [number, number][], modeLook(m.kind ?? 'expected')),
        ),
        ...evidence.map((e) =>
            // Where there is more than one of a variable, each says from which column it is.
            laid(
                `evidence ${e.id}`,
                evidence.some((o) => o !== e && keyOf(o) === keyOf(e)) ? `measured, ${e.column ?? e.id}` : 'measured',
                keyOf(e),
                spotsOf(e),
                { colour: '--ink', dash: [], dots: true },
                errorsOf(e),
            ),
        ),
    ]
}
