import type { Measure, Plot, PlotOptions, Thing } from '@/api/types'
import { POINTS_OF_PERCENT, isPercent, literal, shownUnit } from '@/ui/numbers'

/** What is shown of a variable, as it is chosen. */
export const MEASURES: { value: Measure; words: string }[] = [
    { value: 'value', words: 'Values' },
    { value: 'difference', words: 'Difference from the baseline' },
    { value: 'difference-percent', words: 'Difference from the baseline in per cent' },
    { value: 'percent', words: 'Per cent of the start' },
    { value: 'growth', words: 'Growth rate' },
    { value: 'normalised', words: 'Per cent of its own range' },
]

/** Nothing for plain values. */
export function measureWords(measure: Measure | undefined): string {
    const known = measure === 'value' ? undefined : MEASURES.find((m) => m.value === measure)
    return (known?.words ?? '').toLowerCase()
}

/** Whether both axes of a phase plot are in per cent of where they start, so that swings of any size can be compared. */
export const ofStart = (options: PlotOptions | undefined) => options?.measure === 'percent'

/** The unit that values have once they are measured. */
export function measuredUnit(unit: string, measure: Measure | undefined): string {
    switch (measure) {
        case 'difference':
            return isPercent(unit) ? POINTS_OF_PERCENT : unit
        case 'difference-percent':
        case 'percent':
        case 'growth':
        case 'normalised':
            return '%'
        default:
            return unit
    }
}

/** What stands at an axis of values: the measure and its unit. */
export function axisWords(unit: string, measure: Measure | undefined): string {
    switch (measure) {
        case 'percent':
            return '% of the start'
        case 'growth':
            return 'growth, % per unit of time'
        case 'normalised':
            return '% of its own range'
        case 'difference-percent':
            return 'difference, % of the baseline'
        case 'difference':
            return `difference${shownUnit(measuredUnit(unit, measure)) ? `, ${shownUnit(measuredUnit(unit, measure))}` : ''}`
        default:
            return unit === '1' ? 'a plain number' : shownUnit(unit)
    }
}

/** A variable where there is room: its name, and its symbol if it has one. */
export const inFull = (thing: Thing) => `${named(thing)}${firstOf(thing)}`

/** The same where all of its elements are shown, as in tables and heat maps. */
export const inFullOfAll = (thing: Thing) => `${named(thing)}${thing.along?.looked ? `, ${thing.along.looked}` : ''}`
const named = (thing: Thing) => (thing.sign ? `${thing.name} ${thing.sign}` : thing.name)

/** Of a thing along dimensions what is looked at, and how many of its elements are shown if these are not all. */
const firstOf = ({ along }: Thing) =>
    along
        ? `${along.looked ? `, ${along.looked}` : ''}${along.size > along.parts.length ? ` (${along.picked ? `${along.picked} at the end,` : `first ${along.parts.length}`} of ${along.size})` : ''}`
        : ''

/** A variable where it is narrow. */
export const inShort = (thing: Thing | undefined) => thing?.sign || (thing?.name ?? '')

/** A variable with the unit of its values, at an axis. */
export const withUnitOf = (thing: Thing | undefined) =>
    thing ? `${inShort(thing)}${shownUnit(thing.unit) ? ` (${shownUnit(thing.unit)})` : ''}` : ''

const listed = (names: string[]) => (names.length > 3 ? `${names.slice(0, 3).join(', ')} and ${names.length - 3} more` : names.join(', '))

/** What a plot shows, in words: of which variables, in which measure, how. */
export function titleOf(plot: Plot, things: Thing[], unit: string): string {
    const names = listed(things.map(plot.kind === 'table' || plot.kind === 'heat' ? inFullOfAll : inFull))
    const options: PlotOptions = plot.options ?? {}
    const measure = measureWords(options.measure)
    switch (plot.kind) {
        case 'phase':
            return things.length > 1
                ? `${listed(things.slice(1).map(inFull))} against ${things[0] ? inFull(things[0]) : ''}${ofStart(options) ? ', per cent of the start' : ''}`
                : names
        case 'histogram':
            return `${names}${measure ? `, ${measure}` : ''}: how much of the time at each level`
        case 'bars':
            return `${names}${measure ? `, ${measure}` : ''}, at ${unit} ${options.times?.length ? options.times.map(literal).join(', ') : 'of the end'}`
        default:
            return `${names}${measure ? `: ${measure}` : ''}${options.stacked ? ', on top of each other' : ''}${plot.kind === 'multiples' && options.each ? ', one plot each' : ''}`
    }
}
