const PREFIXES: [number, string][] = [[1e12, 'T'], [1e9, 'G'], [1e6, 'M'], [1e3, 'k']]

const THREE_DIGITS = new Intl.NumberFormat(undefined, { maximumSignificantDigits: 3 })
const TWELVE_DIGITS = new Intl.NumberFormat(undefined, { maximumSignificantDigits: 12 })
const SCIENTIFIC = new Intl.NumberFormat(undefined, { notation: 'scientific', maximumSignificantDigits: 3 })

/** A number at a glance, in three significant digits: 58.7 k. */
export function short(value: number | undefined | null): string {
    if (value === undefined || value === null || !Number.isFinite(value)) {
        return '–'
    }
    const size = Math.abs(value)
    if (size >= 1e15 || (size > 0 && size < 1e-4)) {
        return SCIENTIFIC.format(value)
    }
    // 999.6 rounds to 1,000 and is then 1 k.
    const [divisor, prefix] = PREFIXES.find(([limit]) => size >= limit * 0.9995) ?? [1, '']
    const digits = THREE_DIGITS.format(value / divisor)
    return prefix ? `${digits} ${prefix}` : digits
}

/** A number with all that can be told, for the moment someone asks. */
export function full(value: number): string {
    return TWELVE_DIGITS.format(value)
}

/** A number as formulas write it, whatever the reader's locale: the shortest text that reads back the same. */
export function literal(value: number): string {
    return String(Number(value.toPrecision(12)))
}

const RAISED: Record<string, string> = { '-': '⁻', 0: '⁰', 1: '¹', 2: '²', 3: '³', 4: '⁴', 5: '⁵', 6: '⁶', 7: '⁷', 8: '⁸', 9: '⁹' }

/** A unit as it is read: m³ for m^3. */
export function shownUnit(unit: string): string {
    return unit.replace(/^1\//, '/').replace(/\^(-?\d+)/g, (_, digits: string) => [...digits].map((d) => RAISED[d] ?? d).join(''))
}

/** A value with its unit. */
export function withUnit(value: number | undefined | null, unit: string): string {
    return unit && unit !== '1' ? `${short(value)} ${shownUnit(unit)}` : short(value)
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
