import type { RankCorrelationRecord, UncertainInputRecord } from '@/api/parts'
import type { Edit, FreedNumber, OpenResult, Scenario, Thing } from '@/api/types'
import { newId } from '@/ui/ids'
import { literal } from '@/ui/numbers'
import { keyOf } from './ensembles'

/** What becomes of what was found: edits, and settings of scenarios. */

/**
 * Acts one after the other: each is worked out of what the one before it left, so two quick ones do not undo each other.
 */
export function inTurn() {
    let last: Promise<unknown> = Promise.resolve()
    return (act: () => Promise<boolean>): Promise<boolean> => {
        const mine = last.then(act)
        last = mine.catch(() => false)
        return mine
    }
}

/** One line of a list in place of another that says the same; without a new one it is left out. */
export function replaced<T>(list: readonly T[], line: T, other?: Partial<T>): T[] {
    const said = JSON.stringify(line)
    const at = list.findIndex((one) => JSON.stringify(one) === said)
    return list.flatMap((one, i) => (i !== at ? [one] : other ? [{ ...one, ...other }] : []))
}

/** Ranks that go together by less are left to chance. */
const APART = 0.02

export const toDigits = (value: number, digits: number) => Number(value.toPrecision(digits))

/** Where along its dimensions the key of a number stands. */
export const placesOf = (key: string, of: string) => (key.startsWith(`${of}[`) ? key.slice(of.length + 1, -1).split(',') : [])

/** Whether a number that moves is the one that a calibration or policy frees: of a stock, its initial value. */
export const isOf = (n: Pick<FreedNumber, 'key' | 'of'>, freed: { of: string; at?: string[] }) =>
    n.key === keyOf(freed) || (n.of === freed.of && n.key === `start-of-${n.of}`)

/** Whether a model has these values, as they are rounded when they are taken over. */
export const hasTaken = (numbers: readonly FreedNumber[] | undefined, values: readonly number[] | undefined, digits: number) =>
    numbers !== undefined &&
    values !== undefined &&
    numbers.length === values.length &&
    numbers.every((n, j) => toDigits(n.value, digits) === toDigits(values[j] ?? NaN, digits))

type Point = [number, number]
/** The points of a curve; of all else none. */
export const pointsOf = (thing: Thing | undefined): Point[] =>
    thing?.kind === 'curve' ? (thing.points ?? []).map(([x = 0, y = 0]): Point => [x, y]) : []

/** A point of a curve is named by its x. */
export const isAt = (point: Point, at: string | undefined) =>
    at !== undefined && Math.abs(point[0] - Number(at)) <= 1e-9 * Math.abs(point[0])

/** Bounds that one would begin with: the range of its dial, else from a third to three times its value. */
export function usualBounds(thing: Thing, at?: string): { low: number; high: number } {
    const value = Number(
        thing.kind === 'curve'
            ? pointsOf(thing).find((p) => isAt(p, at))?.[1]
            : thing.kind === 'stock'
              ? thing.formula
              : (thing.value ?? thing.formula),
    )
    const [from, to] = [thing.low ?? NaN, thing.high ?? NaN]
    if (from < value && value < to) {
        return { low: from, high: to }
    }
    const size = Number.isFinite(value) && value !== 0 ? Math.abs(value) : 1
    const [near, far] = [toDigits(size / 3, 2), toDigits(3 * size, 2)]
    return value < 0 ? { low: -far, high: -near } : { low: near, high: far }
}

/** The edits that give the model these values; of a curve all its points are one. */
export function takenOver(
    numbers: readonly FreedNumber[],
    values: readonly number[],
    digits: number,
    things: Readonly<Record<string, Thing>> = {},
): Edit[] {
    const bent = [...new Set(numbers.map((n) => n.of).filter((id) => things[id]?.kind === 'curve'))]
    const curves = bent.map((id): Edit => {
        const points = pointsOf(things[id]).map((point) => {
            const j = numbers.findIndex((n) => n.of === id && isAt(point, placesOf(n.key, id)[0]))
            return [point[0], j < 0 ? point[1] : toDigits(values[j] ?? point[1], digits)]
        })
        return { kind: 'curve', id, points } as Edit
    })
    const rest = numbers.flatMap((n, j): Edit[] => {
        const value = values[j]
        if (value === undefined || bent.includes(n.of)) {
            return []
        }
        const at = placesOf(n.key, n.of)
        return at.length
            ? [{ kind: 'values', id: n.of, values: [[at, toDigits(value, digits)]] } as Edit]
            : [{ kind: 'formula', id: n.of, text: literal(toDigits(value, digits)) } as Edit]
    })
    return [...rest, ...curves]
}

/** The same as parameters of a setting, which initial values are no part of. */
export function asParameters(
    numbers: readonly FreedNumber[],
    values: readonly number[],
    digits: number,
    isParameter: (id: string) => boolean,
): Record<string, number> {
    return Object.fromEntries(
        numbers.flatMap((n, j) => {
            const value = values[j]
            return value !== undefined && isParameter(n.of) ? [[n.key, toDigits(value, digits)]] : []
        }),
    )
}

/** The edit that puts a scenario behind the others. */
export function newScenario(name: string, parameters: Record<string, number>, scenarios: Record<string, Scenario>): Edit {
    const place = 1 + Math.max(0, ...Object.values(scenarios).map((s) => s.place))
    return { kind: 'scenario', id: newId(), name, note: '', on: [], setting: { parameters }, place }
}

/** The edits by which parameters become the uncertain inputs that they are, with how they go together. */
export function madeUncertain(
    numbers: readonly FreedNumber[],
    open: Pick<OpenResult, 'ranks'> & { parameters: Pick<OpenResult['parameters'][number], 'values'>[] },
    digits: number,
    known: { uncertain: UncertainInputRecord[]; pairs: RankCorrelationRecord[]; isParameter: (id: string) => boolean },
): Edit[] {
    const kept = numbers.flatMap((n, j) => (known.isParameter(n.of) ? [{ ...n, j, at: placesOf(n.key, n.of) }] : []))
    const inputs = kept.map(({ key, of, at, j }): Edit => {
        const values = open.parameters[j]?.values ?? []
        const law = `empirical(${values.map((v) => literal(toDigits(v, digits))).join(', ')})`
        const id = known.uncertain.find((u) => keyOf(u) === key)?.id ?? newId()
        return { kind: 'put', part: 'uncertain', id, fields: { of, law, off: null, ...(at.length ? { at } : {}) } }
    })
    const whole = kept.filter((k) => !k.at.length)
    const together = whole.flatMap((a) =>
        whole.flatMap((b): Edit[] => {
            const rank = Number((open.ranks[a.j]?.[b.j] ?? 0).toFixed(3))
            const own = known.pairs.find((p) => [p.one, p.other].includes(a.key) && [p.one, p.other].includes(b.key))
            return b.j <= a.j || (Math.abs(rank) < APART && !own)
                ? []
                : Math.abs(rank) < APART
                  ? [{ kind: 'drop', part: 'rankPairs', id: own?.id ?? '' }]
                  : [{ kind: 'put', part: 'rankPairs', id: own?.id ?? newId(), fields: { one: a.key, other: b.key, rank } }]
        }),
    )
    return [...inputs, ...together]
}
