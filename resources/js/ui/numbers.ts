const PREFIXES: [number, string][] = [
    [1e12, 'T'],
    [1e9, 'G'],
    [1e6, 'M'],
    [1e3, 'k'],
]

const TWELVE_DIGITS = new Intl.NumberFormat(undefined, { maximumSignificantDigits: 12 })
const RAISED: Record<string, string> = { '-': '⁻', 0: '⁰', 1: '¹', 2: '²', 3: '³', 4: '⁴', 5: '⁵', 6: '⁶', 7: '⁷', 8: '⁸', 9: '⁹' }
const raised = (digits: string) => [...digits].map((d) => RAISED[d] ?? d).join('')

/** Units that are a multiple already: a prefix in front of the number would be a second one. */
const MULTIPLE =
    // eslint-disable-next-line max-len -- a pattern
    /^(?:(?:k|M|G|T|P|m|µ|n|c|h|d)(?:g|m|l|L|t|W|Wh|J|Pa|N|V|A|Hz|bit|B|cal|eV|mol|ha)\d?|thousands?|hundreds?|millions?|billions?|dozens?|ppm|ppb)(?:$|[\s/*·^\d])/
const TIMES = /^(?:seconds?|sec|s|minutes?|min|hours?|hrs?|h|days?|weeks?|wk|months?|mo|quarters?|years?|yrs?|decades?|centur(?:y|ies))$/i

/** Whether values of a unit may be told in thousands, millions …: not times, not per cent, not what is a multiple already. */
export function takesPrefix(unit: string): boolean {
    const text = unit.trim()
    return !isPercent(text) && !MULTIPLE.test(text) && !TIMES.test(text)
}

/** `%` is a way to show a number: 0.955 is shown as 95.5 %. Differences of such are in points. */
export const POINTS_OF_PERCENT = '% points'
export const isPercent = (unit: string) => /^(?:%|percent|per cent)(?: points)?$/i.test(unit.trim())

/** `1 loop`, `2 loops`. */
export const counted = (count: number, one: string, many = `${one}s`) => `${count} ${count === 1 ? one : many}`

/** What a value is in the unit as it is shown. */
export const shownValue = (value: number, unit: string) => (isPercent(unit) ? 100 * value : value)

/** Parts of a variable’s own size that are no more than rounding. */
export const NOISE = 1e-9

const formats = new Map<string, Intl.NumberFormat>()
function format(options: Intl.NumberFormatOptions): Intl.NumberFormat {
    const key = JSON.stringify(options)
    const known = formats.get(key) ?? new Intl.NumberFormat(undefined, options)
    formats.set(key, known)
    return known
}
const minus = (text: string) => text.replace(/^-/, '−')

/** One way to write powers: 4.38·10¹¹. */
function withPower(value: number, digits: number): string {
    const [mantissa = '0', power = '0'] = value.toExponential(Math.max(0, digits - 1)).split('e')
    return `${minus(format({ maximumSignificantDigits: digits }).format(Number(mantissa)))}·10${raised(power.replace('+', ''))}`
}

interface Telling {
    /** The unit decides about prefixes and per cent. */ unit?: string
    /** The size of the variable: what is nothing beside it is told as about 0. */ size?: number
    digits?: number
}

/** A number at a glance, in three significant digits: 58.7 k. */
export function short(value: number | undefined | null, { unit = '', size = 0, digits = 3 }: Telling = {}): string {
    if (value === undefined || value === null || !Number.isFinite(value)) {
        return '–'
    }
    if (value !== 0 && Math.abs(value) < NOISE * size) {
        return '≈ 0'
    }
    const shown = shownValue(value, unit)
    const amount = Math.abs(shown)
    if (amount >= 1e15 || (amount > 0 && amount < 1e-4)) {
        return withPower(shown, digits)
    }
    if (!takesPrefix(unit)) {
        return amount >= 1e7
            ? withPower(shown, digits)
            : minus(format({ maximumSignificantDigits: Math.max(digits, Math.ceil(Math.log10(amount + 1))) }).format(shown))
    }
    // 999.6 rounds to 1,000 and is then 1 k.
    const [divisor, prefix] = PREFIXES.find(([limit]) => amount >= limit * 0.9995) ?? [1, '']
    const text = minus(format({ maximumSignificantDigits: digits }).format(shown / divisor))
    return prefix ? `${text} ${prefix}` : text
}

/** A number for readers, without a prefix: 2,400 and not 2.4 k; three digits, whole from a thousand on. */
export function plainly(value: number | undefined | null, unit = ''): string {
    if (value === undefined || value === null || !Number.isFinite(value)) {
        return '–'
    }
    const shown = shownValue(value, unit)
    return minus(format({ maximumSignificantDigits: Math.max(3, Math.ceil(Math.log10(Math.abs(shown) + 1))) }).format(shown))
}

/** With its sign in front, for what is a change. */
export function signed(value: number | undefined | null, telling: Telling = {}): string {
    const text = short(value, telling)
    return value !== undefined && value !== null && value > 0 && text !== '≈ 0' && text !== '–' ? `+${text}` : text
}

/** A number with all that can be told, for the moment someone asks. */
export function full(value: number, unit = ''): string {
    return minus(TWELVE_DIGITS.format(shownValue(value, unit)))
}

/** A number as formulas write it, whatever the reader's locale: the shortest text that reads back the same. */
export function literal(value: number): string {
    return String(rounded(value))
}

/** Without what the last digits of a sum are off: 0.15 and not 0.15000000000000002. */
export const rounded = (value: number) => Number(value.toPrecision(12))

/** A number as it is typed into a field of a unit: 5% where the unit is per cent. */
export const fieldText = (value: number, unit: string) => (isPercent(unit) ? `${literal(100 * value)}%` : literal(value))

/** A decimal comma; 1,200 may be meant as one of thousands, and is none. */
const COMMA = /^([-+−]?)(0*|\d+(?=,\d{1,2}$|,\d{4,}$)),(\d+)$/

/** What was typed into such a field; NaN if it is no number, or could be two. */
export function fieldValue(text: string, unit: string): number {
    const [, digits = '', percent] = /^\s*([-+−\d.,eE]+)\s*(%?)\s*$/.exec(text) ?? []
    const value = digits === '' ? NaN : Number(digits.replace(COMMA, '$1$2.$3').replace('−', '-'))
    return percent || isPercent(unit) ? rounded(value / 100) : value
}

/** A unit as it is read: m³ for m^3; nothing for a plain number. */
export function shownUnit(unit: string): string {
    return unit.trim() === '1' ? '' : unit.replace(/^1\//, '/').replace(/\^(-?\d+)/g, (_, digits: string) => raised(digits))
}

/** A value with its unit. */
export function withUnit(value: number | undefined | null, unit: string, telling: Telling = {}): string {
    const words = shownUnit(unit)
    return words ? `${short(value, { ...telling, unit })} ${words}` : short(value, telling)
}

/** Between which values several lie: 1.1 to 1.4 crowns. */
export function between([low, high]: readonly [number, number], unit: string, size = 0): string {
    const [a, b] = [short(low, { unit, size }), short(high, { unit, size })]
    const words = shownUnit(unit)
    return a === b ? withUnit(low, unit, { size }) : `${a} to ${b}${words ? ` ${words}` : ''}`
}

/** The smallest round number at or above a value, for the top of an axis. */
export function niceAbove(value: number): number {
    if (!(value > 0)) {
        return 0
    }
    const power = 10 ** Math.floor(Math.log10(value))
    const step = [1, 1.2, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10].find((s) => s * power >= value * (1 - 1e-12)) ?? 10
    return step * power
}

/** The smallest round step at or above a value: 1, 2 or 5 with zeros. */
export function niceStep(value: number): number {
    const power = 10 ** Math.floor(Math.log10(value))
    return power * ([1, 2, 5, 10].find((m) => m * power >= value * (1 - 1e-9)) ?? 10)
}

/** The words of evenly spaced numbers on an axis: no two the same, all with one prefix, or without one where readers are. */
export function tickWords(values: number[], unit = '', prefixed = takesPrefix(unit)): string[] {
    const shown = values.map((v) => shownValue(v, unit))
    const most = Math.max(0, ...shown.map(Math.abs))
    const step = shown.length > 1 ? Math.min(...shown.slice(1).map((v, i) => Math.abs(v - (shown[i] as number)))) : most
    if (most === 0 || !Number.isFinite(most)) {
        return shown.map((v) => minus(format({}).format(v)))
    }
    const far = most >= 1e15 || most < 1e-4 || (!takesPrefix(unit) && most >= 1e7)
    const power = Math.floor(Math.log10(most))
    const [divisor, mark] = far
        ? [10 ** power, `·10${raised(String(power))}`]
        : ((prefixed ? PREFIXES.find(([limit]) => most >= limit * 0.9995) : undefined) ?? [1, ''])
    const places = Math.min(12, Math.max(0, -Math.floor(Math.log10(step / divisor) + 1e-9)))
    const digits =
        [0, 1, 2]
            .map((more) => places + more)
            .find((d) => shown.every((v) => Math.abs(v / divisor - Number((v / divisor).toFixed(d))) < (1e-6 * step) / divisor)) ?? places
    return shown.map((v) => {
        const text = minus(
            format({ minimumFractionDigits: digits, maximumFractionDigits: digits }).format(Math.abs(v) < NOISE * most ? 0 : v / divisor),
        )
        return Math.abs(v) < NOISE * most ? '0' : far ? text + mark : mark ? `${text} ${mark}` : text
    })
}
