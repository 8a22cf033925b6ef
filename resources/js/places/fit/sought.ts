import { outcomeWords } from '@/places/try/outcomes'
import { keyOf } from '@/stores/ensembles'
import { useExpectations } from '@/stores/expectations'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import type { Summand } from '@/stores/policies'

/** What a policy seeks or limits, in words. */
export function useSought() {
    const model = useModel()
    const look = useLook()
    const expectations = useExpectations()
    const courseName = (from: string | undefined) => {
        const mode = model.model.modes?.[from ?? '']
        return mode ? `the ${mode.kind ?? 'expected'} course` : (look.nameOf(from ?? '') ?? 'which course?')
    }
    const wordsOf = (one: Pick<Summand, 'of' | 'at' | 'kind' | 'time' | 'from'>) =>
        one.kind === 'apart'
            ? `distance of ${look.nameOf(keyOf(one)) ?? 'something that is gone'} from ${courseName(one.from)}`
            : outcomeWords({ key: keyOf(one), kind: one.kind ?? 'last', time: one.time ?? 0 }, model, look).words
    /** What must hold, without the stop at its end: it stands within sentences. */
    const expectedWords = (id: string) => {
        const one = model.model.expectations?.[id]
        const words = one ? one.name || (expectations.told[id]?.expected ?? 'an expectation') : 'an expectation that is gone'
        return words.replace(/\.$/, '')
    }
    return { courseName, wordsOf, expectedWords }
}
