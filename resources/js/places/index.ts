import { askPlace } from './ask'
import { dataPlace } from './data'
import { fitPlace } from './fit'
import { ledgersPlace } from './ledgers'
import { mapPlace } from './map'
import { membersPlace } from './members'
import { modelPlace } from './model'
import type { Place, Stage } from './place'
import { tellPlace } from './tell'
import { tryPlace } from './try'

/** All places, in the order of the work. */
export const PLACES: readonly [Place, ...Place[]] = [
    askPlace,
    mapPlace,
    modelPlace,
    dataPlace,
    tryPlace,
    fitPlace,
    ledgersPlace,
    membersPlace,
    tellPlace,
]

export const placeOf = (name: string): Place => PLACES.find((p) => p.name === name) ?? modelPlace
export const stageOf = (place: Place, name: string): Stage => place.stages.find((s) => s.name === name) ?? place.stages[0]
