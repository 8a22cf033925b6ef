export type Pair = [number, number]

/** As many digits as a hand needs. */
const tidy = (value: number, span: number) => {
    const digits = Math.max(0, Math.min(12, 3 - Math.floor(Math.log10(Math.abs(span) || 1))))
    return Number(value.toFixed(digits))
}

const spanOf = (values: number[]) => [Math.min(...values), Math.max(...values)] as const

/** The last first: what happened at the high end happens at the low one. */
export function reversed(points: Pair[]): Pair[] {
    const [low, high] = spanOf(points.map((p) => p[0]))
    return points.map(([x, y]): Pair => [low + high - x, y]).reverse()
}

export function scaled(points: Pair[], by: number): Pair[] {
    return points.map(([x, y]): Pair => [x, Number((y * by).toPrecision(12))])
}

/** Outputs from 0 to 1; a level curve stays as it is. */
export function normalised(points: Pair[]): Pair[] {
    const [low, high] = spanOf(points.map((p) => p[1]))
    return high === low ? points : points.map(([x, y]): Pair => [x, Number(((y - low) / (high - low)).toPrecision(6))])
}

/** Inputs (0) or outputs (1) stretched so that they run from low to high. */
export function stretched(points: Pair[], axis: 0 | 1, low: number, high: number): Pair[] {
    const [was, to] = spanOf(points.map((p) => p[axis]))
    if (to === was || high <= low) {
        return points
    }
    return points.map((p): Pair => {
        const value = Number((low + ((p[axis] - was) / (to - was)) * (high - low)).toPrecision(12))
        return axis === 0 ? [value, p[1]] : [p[0], value]
    })
}

/** One point moved; it stays between its neighbours. */
export function moved(points: Pair[], index: number, x: number, y: number): Pair[] {
    const spans = [0, 1].map((axis) => {
        const [low, high] = spanOf(points.map((p) => p[axis as 0 | 1]))
        return high - low || Math.abs(high) || 1
    }) as [number, number]
    const least = spans[0] * 1e-3
    const low = points[index - 1]
    const high = points[index + 1]
    const within = Math.min(high ? high[0] - least : Infinity, Math.max(low ? low[0] + least : -Infinity, x))
    return points.map((p, i): Pair => (i === index ? [tidy(within, spans[0]), tidy(y, spans[1])] : p))
}

/** With a point more, in its place by x; on an x that is taken it moves that point. */
export function withPoint(points: Pair[], x: number, y: number): Pair[] {
    const list = points.filter((p) => p[0] !== x)
    return [...list, [x, y] as Pair].sort((a, b) => a[0] - b[0])
}

/** A cell of a spreadsheet as a number: with a decimal comma where there is no point, and thousands apart by spaces. */
function numberOf(cell: string): number {
    const bare = cell.replace(/[\s\u00a0\u202f]/g, '').replace('\u2212', '-')
    return bare === '' ? NaN : Number(bare.includes('.') ? bare : bare.replace(',', '.'))
}

/**
 * Points as they are typed, a pair on each line, or as a block out of a spreadsheet: two columns or two rows, with a decimal comma and
 * with heads, if there are any.
 *
 * @returns the pairs, or what is wrong with which line
 */
export function pairsOf(text: string): Pair[] | string {
    const lines = text
        .split(/\r?\n/)
        .map((line, i) => ({ line: line.trim(), i }))
        .filter(({ line }) => line !== '')
    function cells(line: string): string[] {
        const bySpaces = line.split(/\s+/)
        return /[\t;]/.test(line)
            ? line.split(/[\t;]/)
            : bySpaces.length === 2 && !/^[^\s]+,\s/.test(line)
              ? bySpaces
              : line.split(/[\s,]+/)
    }
    let rows = lines.map(({ line, i }) => ({ cells: cells(line).map((c) => c.trim()), line, i }))
    if (rows.length === 2 && rows.every((r) => r.cells.length > 2)) {
        // Time runs across.
        const [xs, ys] = rows.map((r) => r.cells)
        rows = (xs ?? []).map((x, k) => ({ cells: [x, ys?.[k] ?? ''], line: `${x}, ${ys?.[k] ?? ''}`, i: k }))
    }
    const first = rows[0]
    if (first && rows.length > 2 && first.cells.every((c) => Number.isNaN(numberOf(c)))) {
        rows = rows.slice(1)
    }
    const pairs: Pair[] = []
    for (const { cells: list, line, i } of rows) {
        const [x, y] = list.map(numberOf)
        if (list.length !== 2 || !Number.isFinite(x) || !Number.isFinite(y)) {
            return `Line ${i + 1} is no pair of numbers: \`${line}\`. Write x and y with a space or tab between them.`
        }
        pairs.push([x ?? 0, y ?? 0])
    }
    return pairs
}
