import type { Run } from '@/api/client'
import type { Thing } from '@/api/types'
import type { Course } from '@/stores/courses'

/** A run with a column for each name, saved at 0, 1, 2 … */
export function aRun(values: Record<string, number[]>, more: Partial<Run> = {}): Run {
    const length = Object.values(values)[0]?.length ?? 0
    return {
        revision: 1,
        unit: 'day',
        method: 'Euler',
        evaluations: 1,
        milliseconds: 1,
        length,
        saved: length,
        span: [0, length - 1],
        columns: Object.keys(values),
        coarse: false,
        now: {},
        steady: {},
        untold: {},
        fault: null,
        ended: false,
        stopped: false,
        whole: true,
        notices: [],
        times: Float64Array.from({ length }, (_, i) => i),
        values: new Map(Object.entries(values).map(([id, v]) => [id, Float64Array.from(v)])),
        ...more,
    }
}

export const aThing = (id: string, more: Partial<Thing> = {}): Thing => ({
    id,
    kind: 'auxiliary',
    name: id,
    written: id,
    formula: '1',
    unit: '',
    inferred: null,
    note: '',
    symbol: '',
    sign: '',
    ...more,
})

export const things = (...all: Thing[]): Record<string, Thing> => Object.fromEntries(all.map((t) => [t.id, t]))

export const aCourse = (run: Run, more: Partial<Course> = {}): Course => ({
    key: 'shown',
    name: 'baseline',
    look: -1,
    main: true,
    run,
    ...more,
})
