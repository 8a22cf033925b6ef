import type { LocationQuery } from 'vue-router'
import type { Looked } from '@/stores/view'

/** More selected things are not told: an address is something to be passed on. */
const MOST_SELECTED = 20

/** What is told only where its stage is shown; elsewhere it stays what it was. */
const OF_STAGE = { plot: ['plot'], trail: ['trail', 'run', 'against'] } as const

const USUAL = { plot: '', trail: '', run: 'shown', against: '' } as const

/** The address of what is looked at; what is usual is left out. */
export function addressOf(study: string, looked: Looked): { path: string; query: Record<string, string> } {
    const query: Record<string, string> = {}
    const tell = (key: string, value: string, usual: string) => {
        if (value !== usual) {
            query[key] = value
        }
    }
    tell('sheet', looked.sheet, '')
    tell('thing', looked.selection.slice(0, MOST_SELECTED).join(','), '')
    for (const key of ofStage(looked.stage)) {
        tell(key, looked[key], USUAL[key])
    }
    // `terrace:*sum,age:seed`: names of elements hold neither sign.
    tell(
        'look',
        Object.entries(looked.look)
            .filter(([, look]) => look)
            .map(([dimension, look]) => `${dimension}:${look}`)
            .join(','),
        '',
    )
    query.at = String(Number(looked.moment.toPrecision(6)))
    return { path: `/studies/${study}/${looked.place}/${looked.stage}`, query }
}

/** What an address tells: without a stage only the place, and all else stays as it was. */
export function lookedIn(place: string, stage: string, query: LocationQuery): Partial<Looked> {
    const word = (key: string) => (typeof query[key] === 'string' ? query[key] : undefined)
    const moment = Number(word('at') || Number.NaN)
    const thing = word('thing')
    const told = {
        ...(word('sheet') === undefined ? {} : { sheet: word('sheet') }),
        ...(thing === undefined ? {} : { selection: thing.split(',').filter(Boolean) }),
        ...(word('look') === undefined ? {} : { look: looksIn(word('look') ?? '') }),
        ...(Number.isFinite(moment) ? { moment } : {}),
    }
    if (!stage) {
        return { place, ...told }
    }
    const asked = Object.fromEntries(ofStage(stage).map((key) => [key, word(key) ?? USUAL[key]]))
    return { place, stage, sheet: '', selection: [], look: {}, ...told, ...asked }
}

const looksIn = (text: string) =>
    Object.fromEntries(
        text
            .split(',')
            .map((one) => one.split(':') as [string, string?])
            .flatMap(([dimension, look]) => (dimension && look ? [[dimension, look]] : [])),
    )

/** Whether one comes back to the one before, rather than to what it was changed into. */
export function isStep(from: Looked, to: Looked): boolean {
    const other = (key: 'plot' | 'trail') => to.stage === key && from[key] !== '' && from[key] !== to[key]
    return (
        from.place !== to.place ||
        from.stage !== to.stage ||
        (from.sheet !== '' && from.sheet !== to.sheet) ||
        other('plot') ||
        other('trail')
    )
}

function ofStage(stage: string): readonly ('plot' | 'trail' | 'run' | 'against')[] {
    return stage === 'plot' || stage === 'trail' ? OF_STAGE[stage] : []
}
