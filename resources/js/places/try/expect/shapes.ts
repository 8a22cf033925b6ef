import type { ExpectationRecord } from '@/api/parts'
import type { Model } from '@/api/types'

export type Shape = ExpectationRecord['shape']

interface Field {
    name: 'value' | 'high' | 'share' | 'from' | 'until' | 'other'
    words: string
    /** In per cent. */ percent?: boolean
    usual?: number
    /** It may be left empty. */ free?: boolean
}

const SPAN: Field[] = [
    { name: 'from', words: 'looked at from', free: true },
    { name: 'until', words: 'until', free: true },
]
const OFF: Field = { name: 'share', words: 'give or take, in %', percent: true, usual: 0 }

/** The shapes as one reads them behind the name of a variable, each with the numbers that it takes. */
export const SHAPES: { name: Shape; words: string; fields: Field[] }[] = [
    { name: 'never-below', words: 'is never below', fields: [{ name: 'value', words: 'the limit', usual: 0 }, ...SPAN] },
    { name: 'never-above', words: 'is never above', fields: [{ name: 'value', words: 'the limit', usual: 100 }, ...SPAN] },
    {
        name: 'within',
        words: 'stays within',
        fields: [{ name: 'value', words: 'the lower limit', usual: 0 }, { name: 'high', words: 'the upper limit', usual: 100 }, ...SPAN],
    },
    {
        name: 'near',
        words: 'stays near another',
        fields: [
            { name: 'other', words: 'near what: a variable or a formula' },
            { name: 'share', words: 'within, in %', percent: true, usual: 0.001 },
            ...SPAN,
        ],
    },
    {
        name: 'reaches',
        words: 'reaches',
        fields: [
            { name: 'value', words: 'the value', usual: 0 },
            { name: 'until', words: 'by', free: true },
        ],
    },
    { name: 'rises', words: 'rises and never goes down', fields: [OFF, ...SPAN] },
    { name: 'falls', words: 'falls and never goes up', fields: [OFF, ...SPAN] },
    { name: 'swings', words: 'swings', fields: [{ name: 'value', words: 'turns, at least', usual: 2 }, ...SPAN] },
    {
        name: 'rests',
        words: 'comes to rest',
        fields: [
            { name: 'until', words: 'by', free: true },
            { name: 'share', words: 'within, in % of all it moves', percent: true, usual: 0.01 },
        ],
    },
    {
        name: 'peaks',
        words: 'is greatest between two times',
        fields: [
            { name: 'from', words: 'from', free: true },
            { name: 'until', words: 'until', free: true },
            { name: 'share', words: 'and falls by, in %', percent: true, usual: 0.1 },
        ],
    },
    { name: 'never-more', words: 'is never more than without the condition', fields: [OFF, ...SPAN] },
    { name: 'never-less', words: 'is never less than without the condition', fields: [OFF, ...SPAN] },
    { name: 'always', words: 'always holds (a condition, as a > b)', fields: SPAN },
    { name: 'never', words: 'never holds (a condition, as a > b)', fields: SPAN },
    { name: 'sound', words: 'the run comes to its end and no stock falls below 0', fields: [] },
]

/** A formula of the document, which keeps references by id, as it is typed. */
export const formulaText = (pieces: ExpectationRecord['of'], model: Model): string =>
    (pieces ?? [])
        .map((p) => (typeof p === 'string' ? p : ((p.id !== undefined ? model.elements[p.id]?.name : undefined) ?? p.name)))
        .join('')
