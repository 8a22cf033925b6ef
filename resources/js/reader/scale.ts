/** Round numbers from below the least to above the greatest: where lines across a plot stand. */
export function roundTicks(low: number, high: number, most: number): number[] {
    if (!(high > low)) {
        const around = Math.abs(low) || 1
        return roundTicks(low - around / 2, low + around / 2, most)
    }
    const raw = (high - low) / Math.max(1, most)
    const power = 10 ** Math.floor(Math.log10(raw))
    const step = power * ([1, 2, 2.5, 5].find((s) => s * power >= raw * (1 - 1e-9)) ?? 10)
    const first = Math.floor(low / step + 1e-9)
    const last = Math.ceil(high / step - 1e-9)
    return Array.from({ length: last - first + 1 }, (_, i) => Number(((first + i) * step).toPrecision(12)))
}

/** Round numbers between two ends, which are those of a time. */
export function ticksWithin(start: number, end: number, most: number): number[] {
    return roundTicks(start, end, most).filter((t) => t >= start - 1e-9 && t <= end + 1e-9)
}

const WHOLE = new Intl.NumberFormat(undefined, { maximumFractionDigits: 0 })
const FINE = new Intl.NumberFormat(undefined, { maximumSignificantDigits: 3 })

/** A number as readers like it: whole where it is large, three digits where it is small. */
export function readable(value: number | null | undefined): string {
    if (value === null || value === undefined) {
        return '–'
    }
    return Math.abs(value) >= 1000 ? WHOLE.format(Number(value.toPrecision(4))) : FINE.format(value)
}

/** A unit in words that stand behind a number or a title: `person/month` is "person a month"; a plain number has none. */
export function unitWords(unit: string): string {
    const text = unit.trim()
    return text === '1' || text === ''
        ? ''
        : text
              .replace(/\^2\b/g, '²')
              .replace(/\^3\b/g, '³')
              .replace(/\s*\/\s*/g, ' per ')
}

/** Places for labels that want to stand at `wanted`: in the same order, so far apart, within bounds. */
export function apart(wanted: number[], gap: number, low: number, high: number): number[] {
    const order = wanted.map((_, i) => i).sort((a, b) => (wanted[a] ?? 0) - (wanted[b] ?? 0))
    const placed = [...wanted]
    let from = low
    for (const i of order) {
        placed[i] = Math.max(from, placed[i] ?? 0)
        from = (placed[i] ?? 0) + gap
    }
    let until = high
    for (const i of [...order].reverse()) {
        placed[i] = Math.min(until, placed[i] ?? 0)
        until = (placed[i] ?? 0) - gap
    }
    return placed
}
