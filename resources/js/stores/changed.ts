import type { Delta, Model } from '@/api/types'

/** Before a model is open. */
export const EMPTY: Model = {
    name: '',
    note: '',
    sheets: [],
    tracks: [],
    plots: {},
    scenarios: {},
    findings: {},
    order: [],
    elements: {},
    placements: {},
    echoes: {},
    bends: {},
    mapSpots: {},
    groups: [],
    links: [],
    problems: [],
    health: [],
    endWhen: '',
    sameUnits: [],
    dimensions: [],
    mappings: {},
    tables: {},
    courses: {},
    waiting: {},
    meaning: '',
    calendar: null,
    time: {
        start: 0,
        end: 100,
        step: 0.25,
        unit: 'year',
        method: 'rk4',
        saveEvery: null,
        steps: 400,
        startDate: null,
        tolerance: 1e-6,
        absoluteTolerance: 1e-9,
    },
}

function merged<T>(was: Record<string, T>, changes: Record<string, T | null> | undefined): Record<string, T> {
    const now = { ...was }
    for (const [key, value] of Object.entries(changes ?? {})) {
        if (value === null) {
            Reflect.deleteProperty(now, key)
        } else {
            now[key] = value
        }
    }
    return now
}

/** A model with what changed of it; what did not change is the same as before. */
export function changed(model: Model, { elements, placements, echoes, ...parts }: Delta): Model {
    return {
        ...model,
        ...parts,
        elements: elements ? merged(model.elements, elements) : model.elements,
        placements: placements ? merged(model.placements, placements) : model.placements,
        echoes: echoes ? merged(model.echoes, echoes) : model.echoes,
    }
}
