import type { Combined } from '@/api/types'
import type { useModel } from '@/stores/model'
import { short } from '@/ui/numbers'

/** The values of parameters in one combination; the last dimension changes first. */
export function valuesOf(told: Pick<Combined, 'dimensions' | 'fixed'>, index: number): Record<string, number> {
    const values: Record<string, number> = { ...told.fixed }
    let rest = index
    for (const d of [...told.dimensions].reverse()) {
        values[d.of] = d.values[rest % d.values.length] as number
        rest = Math.floor(rest / d.values.length)
    }
    return values
}

/** In what a combination differs from the others: boats 2, ticket price 60. */
export function nameOf(told: Pick<Combined, 'dimensions' | 'fixed'>, index: number, model: ReturnType<typeof useModel>): string {
    const values = valuesOf(told, index)
    return told.dimensions
        .map((d) => {
            const thing = model.model.elements[d.of]
            const value = values[d.of] as number
            const word = thing?.choices?.find((c) => c.value === value)?.name ?? short(value, { unit: thing?.unit ?? '', digits: 4 })
            return `${thing?.name ?? ''} ${word}`
        })
        .join(', ')
}
