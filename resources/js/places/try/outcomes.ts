import type { WantedOutcome } from '@/api/types'
import type { useLook } from '@/stores/look'
import type { useModel } from '@/stores/model'

type Kind = WantedOutcome['kind']

/** What can be looked at of a variable, as one chooses it. */
export const KINDS: { value: Kind; words: string }[] = [
    { value: 'last', words: 'at the end' },
    { value: 'at', words: 'at a time' },
    { value: 'min', words: 'least' },
    { value: 'max', words: 'greatest' },
    { value: 'mean', words: 'mean over time' },
    { value: 'total', words: 'total over time' },
    { value: 'peak', words: 'time of the greatest' },
]

/** What an outcome is, in words, and in which unit the engine says it is. */
export function outcomeWords(
    outcome: Pick<WantedOutcome, 'key' | 'kind' | 'time'> & { unit?: string },
    model: ReturnType<typeof useModel>,
    look: ReturnType<typeof useLook>,
): { words: string; unit: string } {
    const name = look.nameOf(outcome.key) ?? 'something that is gone'
    const words = {
        last: `${name} at the end`,
        at: `${name} at ${model.moment(outcome.time)}`,
        min: `least ${name}`,
        max: `greatest ${name}`,
        mean: `mean ${name}`,
        total: `total ${name}`,
        peak: `time of the greatest ${name}`,
    }[outcome.kind]
    return { words, unit: outcome.unit ?? '' }
}
