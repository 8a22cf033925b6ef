import type { SourceRecord } from '@/api/parts'

export type CleaningStep = NonNullable<SourceRecord['steps']>[number]
export type Does = CleaningStep['do']

/** What a step can be asked for: a field of it, and which choices there are. */
export interface StepField {
    name: 'series' | 'to' | 'along' | 'take' | 'factor' | 'plus' | 'value' | 'at' | 'source' | 'from' | 'share'
    words: string
    /** Where the choices come from; without, it is typed. */
    of?: 'series' | 'one series' | 'along' | 'sources' | 'columns' | 'series of the source' | readonly { value: string; words: string }[]
    number?: boolean
    optional?: boolean
}

const choices = (all: Record<string, string>) => Object.entries(all).map(([value, words]) => ({ value, words }))
const PERIODS = choices({ year: 'years', quarter: 'quarters', month: 'months', week: 'weeks', day: 'days' })
const PER = choices({ year: 'year', quarter: 'quarter', month: 'month', week: 'week', day: 'day', hour: 'hour' })
const SERIES: StepField = { name: 'series', words: 'of', of: 'series', optional: true }

interface StepKind {
    do: Does
    /** As it is offered. */ words: string
    /** In what it is offered. */ group: 'What there is' | 'Numbers' | 'Gaps' | 'Other levels'
    fields: StepField[]
    start?: Partial<CleaningStep>
}

/** All that can be done to a table, in the order in which it is offered. */
export const STEP_KINDS: readonly StepKind[] = [
    {
        do: 'over time',
        words: 'Longer or shorter periods',
        group: 'Other levels',
        fields: [
            { name: 'to', words: 'to', of: PERIODS },
            {
                name: 'take',
                words: 'many values',
                of: choices({
                    sum: 'added up',
                    mean: 'as their mean',
                    least: 'the least',
                    greatest: 'the greatest',
                    first: 'the first',
                    last: 'the last',
                }),
            },
        ],
        start: { to: 'year', take: 'sum' },
    },
    {
        do: 'over mapping',
        words: 'Go by a table: which belongs to which',
        group: 'Other levels',
        fields: [
            { name: 'source', words: 'the table', of: 'sources' },
            { name: 'along', words: 'from', of: 'along' },
            { name: 'from', words: 'there called', of: 'columns', optional: true },
            { name: 'to', words: 'to', of: 'columns' },
            {
                name: 'take',
                words: 'several',
                of: choices({ sum: 'added up by their shares', mean: 'as their mean', weighted: 'as a mean weighted by shares' }),
            },
            { name: 'share', words: 'shares', of: 'columns', optional: true },
            SERIES,
        ],
        start: { take: 'sum' },
    },
    {
        do: 'gather',
        words: 'Columns become one series',
        group: 'Other levels',
        fields: [
            { name: 'to', words: 'the numbers are' },
            { name: 'along', words: 'columns tell apart' },
            { ...SERIES, words: 'columns' },
        ],
    },
    { do: 'spread', words: 'One series becomes columns', group: 'Other levels', fields: [SERIES] },
    {
        do: 'rate',
        words: 'Amounts become rates',
        group: 'Numbers',
        fields: [{ name: 'to', words: 'per', of: PER }, SERIES],
        start: { to: 'year' },
    },
    {
        do: 'amount',
        words: 'Rates become amounts',
        group: 'Numbers',
        fields: [{ name: 'to', words: 'they are per', of: PER }, SERIES],
        start: { to: 'year' },
    },
    {
        do: 'scale',
        words: 'Another unit or size',
        group: 'Numbers',
        fields: [
            SERIES,
            { name: 'factor', words: 'times', number: true },
            { name: 'plus', words: 'plus', number: true, optional: true },
            { name: 'to', words: 'in', optional: true },
        ],
    },
    {
        do: 'index',
        words: 'Set one time to 100',
        group: 'Numbers',
        fields: [{ name: 'at', words: 'the time' }, SERIES],
    },
    {
        do: 'gaps',
        words: 'Fill gaps from their neighbours',
        group: 'Gaps',
        fields: [{ name: 'take', words: 'with', of: choices({ straight: 'the straight line between', last: 'the last value' }) }, SERIES],
        start: { take: 'straight' },
    },
    {
        do: 'fill',
        words: 'Fill gaps from another series',
        group: 'Gaps',
        fields: [
            { ...SERIES, words: 'gaps of' },
            { name: 'source', words: 'from the file', of: 'sources', optional: true },
            { name: 'from', words: 'series', of: 'series of the source' },
            { name: 'take', words: 'its numbers', of: choices({ overlap: 'brought to size where both exist', plain: 'as they are' }) },
        ],
        start: { take: 'overlap' },
    },
    {
        do: 'set aside',
        words: 'Set a value aside',
        group: 'Gaps',
        fields: [
            { name: 'series', words: 'of', of: 'one series' },
            { name: 'at', words: 'at' },
        ],
    },
    {
        do: 'mend',
        words: 'Mend a value',
        group: 'Gaps',
        fields: [
            { name: 'series', words: 'of', of: 'one series' },
            { name: 'at', words: 'at' },
            { name: 'value', words: 'is', number: true },
        ],
    },
    {
        do: 'rename',
        words: 'Another name',
        group: 'What there is',
        fields: [
            { name: 'series', words: 'what is', of: 'one series' },
            { name: 'to', words: 'is called' },
        ],
    },
    { do: 'leave out', words: 'Leave series out', group: 'What there is', fields: [{ ...SERIES, optional: false }] },
    {
        do: 'join',
        words: 'Take in another source',
        group: 'What there is',
        fields: [{ name: 'source', words: 'the file', of: 'sources' }],
    },
]

/** Whether two lists say the same, in whatever order their fields stand. */
export function sameSteps(one: readonly CleaningStep[], other: readonly CleaningStep[]): boolean {
    const told = (list: readonly CleaningStep[]) =>
        JSON.stringify(
            list.map((s) =>
                Object.entries(s)
                    .filter(([, v]) => v !== undefined && v !== '' && v !== false)
                    .sort(([a], [b]) => (a < b ? -1 : 1)),
            ),
        )
    return told(one) === told(other)
}

export const kindOf = (step: CleaningStep) => STEP_KINDS.find((k) => k.do === step.do)

/** A step in a few words, before anything is known of what it did. */
export function titleOf(step: CleaningStep, sourceName: (id: string) => string): string {
    const of = step.series?.length ? ` of ${step.series.slice(0, 2).join(', ')}${step.series.length > 2 ? ' …' : ''}` : ''
    switch (step.do) {
        case 'over time':
            return `To ${PERIODS.find((p) => p.value === step.to)?.words ?? `spans of ${step.to ?? '?'}`}`
        case 'over mapping':
            return `${step.along ?? '?'} to ${step.to ?? '?'}`
        case 'gather':
            return `Columns become ${step.to ?? '?'}`
        case 'spread':
            return `Columns for each${of}`
        case 'rate':
            return `Rates per ${step.to ?? '?'}${of}`
        case 'amount':
            return `Amounts, from rates per ${step.to ?? '?'}${of}`
        case 'scale':
            return `Another size${of}`
        case 'index':
            return `100 at ${step.at ?? '?'}`
        case 'gaps':
            return `Fill gaps${of}`
        case 'fill':
            return `Fill gaps${of} from ${step.from ?? '?'}`
        case 'set aside':
            return `Set ${step.at ?? '?'}${of} aside`
        case 'mend':
            return `Mend ${step.at ?? '?'}${of}`
        case 'rename':
            return `${step.series?.[0] ?? '?'} is ${step.to ?? '?'}`
        case 'leave out':
            return `Leave out${of.slice(3)}`
        case 'join':
            return `Take in ${sourceName(step.source ?? '')}`
    }
}
