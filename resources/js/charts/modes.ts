import type { ReferenceModeRecord } from '@/api/parts'
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

/** The reference modes of what a plot shows, as courses that lie over its runs. */
export function modesOver(plot: Plot, modes: Record<string, ReferenceModeRecord> | undefined): Course[] {
    return isOverTime(plot)
        ? Object.values(modes ?? {})
              .filter((m) => plot.of.includes(m.of ?? '') && m.points.length > 1)
              .map((m) => ({
                  key: `mode ${m.id}`,
                  name: m.kind ?? 'expected',
                  look: 0,
                  drawn: modeLook(m.kind ?? 'expected'),
                  main: false,
                  run: {
                      times: Float64Array.from(m.points, (p) => p[0] ?? 0),
                      values: new Map([[m.of ?? '', Float64Array.from(m.points, (p) => p[1] ?? 0)]]),
                      steady: {},
                  } as unknown as Course['run'],
              }))
        : []
}
