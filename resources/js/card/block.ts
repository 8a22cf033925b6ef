import type { DimensionView } from '@/api/types'

/** A block of cells that was pasted, as it goes into the values of a parameter over two dimensions or one. */
export interface Block {
    rows: Side
    columns: Side
    /** The numbers by row and column; undefined where there is none. */
    grid: (number | undefined)[][]
    /** Cells that hold no number, as `B3`. */
    unread: string[]
}
export interface Side {
    dimension?: DimensionView
    /** Of each row or column, what was written and the element it means, if there is one. */
    heads: { written: string; element?: string }[]
    /** What was written for elements that are not there. */
    unknown: string[]
}

/** Numbers as people write them: 1 200, 1,200.5, 1.200,5, 12 %. */
export function numberIn(text: string): number {
    let plain = text.trim().replace(/[\s\u00a0\u202f']/g, '')
    const percent = plain.endsWith('%')
    plain = plain.replace(/%$/, '').replace(/^−/, '-')
    const [comma, dot] = [plain.lastIndexOf(','), plain.lastIndexOf('.')]
    if (comma >= 0 && dot >= 0) {
        plain = comma > dot ? plain.replace(/\./g, '').replace(',', '.') : plain.replace(/,/g, '')
    } else if (comma >= 0) {
        plain = /^-?\d{1,3}(,\d{3})+$/.test(plain) ? plain.replace(/,/g, '') : plain.replace(',', '.')
    }
    const value = /^[+-]?(\d+\.?\d*|\.\d+)([eE][+-]?\d+)?$/.test(plain) ? Number(plain) : NaN
    return percent ? value / 100 : value
}

/** Cells of a text out of a spreadsheet: by tabs, else by semicolons, else by commas that are none of a number. */
export function cellsOf(text: string): string[][] {
    const lines = text.replace(/\r\n?/g, '\n').replace(/\n+$/, '').split('\n')
    const sign = text.includes('\t') ? '\t' : text.includes(';') ? ';' : /, /.test(text) || lines[0]?.includes(',') ? ',' : '\t'
    return lines.map((line) => line.split(sign).map((cell) => cell.trim().replace(/^"(.*)"$/, '$1')))
}

/** Case, signs between words and a plural s do not count. */
export const likeness = (name: string) =>
    name
        .trim()
        .toLowerCase()
        .replace(/[\s_\-.]+/g, ' ')
        .replace(/s$/, '')

function matched(heads: string[], dimension: DimensionView): (string | undefined)[] {
    const known = new Map(dimension.elements.map((e) => [likeness(e.name), e.id]))
    return heads.map((h) => known.get(likeness(h)))
}

/** The dimension whose elements most heads are called like; undefined where none is. */
function best(heads: string[], dimensions: readonly DimensionView[]): { dimension?: DimensionView; count: number } {
    let found: { dimension?: DimensionView; count: number } = { count: 0 }
    for (const dimension of dimensions) {
        const count = matched(heads, dimension).filter((m) => m !== undefined).length
        if (count > found.count) {
            found = { dimension, count }
        }
    }
    return found
}

const isText = (heads: string[]) => heads.length > 0 && heads.every((h) => Number.isNaN(numberIn(h)) && h !== '')

/** What is understood of a block that is pasted onto a parameter over these dimensions. */
export function readBlock(cells: string[][], dimensions: readonly DimensionView[]): Block {
    const top = (cells[0] ?? []).slice(1)
    const left = cells.slice(1).map((row) => row[0] ?? '')
    const whole = cells.map((row) => row[0] ?? '')
    // One column of names and one of numbers has no line of heads above it.
    const noTop = cells.every((row) => row.length === 2) && isText(whole) && !Number.isNaN(numberIn(cells[0]?.[1] ?? ''))
    const columnGuess = noTop ? { count: 0 } : best(top, dimensions)
    const hasTop = !noTop && (columnGuess.count > 0 || isText(top))
    const rowHeads = hasTop ? left : whole
    const rowGuess = best(
        rowHeads,
        dimensions.filter((d) => d !== columnGuess.dimension),
    )
    const hasLeft = rowGuess.count > 0 || isText(rowHeads)
    const rest = (taken: (DimensionView | undefined)[]) => dimensions.find((d) => !taken.includes(d))
    let [rowDimension, columnDimension] = [rowGuess.dimension, columnGuess.dimension]
    rowDimension ??= hasLeft ? rest([columnDimension]) : undefined
    columnDimension ??= hasTop ? rest([rowDimension]) : undefined
    const body = (hasTop ? cells.slice(1) : cells).map((row) => (hasLeft ? row.slice(1) : row))
    const side = (heads: string[], dimension?: DimensionView): Side => {
        const means = dimension ? matched(heads, dimension) : heads.map(() => undefined)
        return {
            ...(dimension ? { dimension } : {}),
            heads: heads.map((written, i) => ({ written, ...(means[i] === undefined ? {} : { element: means[i] }) })),
            unknown: dimension ? [...new Set(heads.filter((h, i) => h !== '' && means[i] === undefined))] : [],
        }
    }
    const rows = side(hasLeft ? rowHeads : body.map(() => ''), rowDimension)
    const columns = side(hasTop ? (hasLeft ? top : (cells[0] ?? [])) : (body[0] ?? []).map(() => ''), columnDimension)
    const unread: string[] = []
    const grid = body.map((row, i) =>
        row.map((cell, j) => {
            const value = numberIn(cell)
            if (cell !== '' && Number.isNaN(value)) {
                unread.push(`${columnName(j + (hasLeft ? 1 : 0))}${i + 1 + (hasTop ? 1 : 0)}`)
            }
            return cell === '' || Number.isNaN(value) ? undefined : value
        }),
    )
    return { rows, columns, grid, unread }
}

/** A, B … Z, AA … */
function columnName(index: number): string {
    return index < 26 ? String.fromCharCode(65 + index) : columnName(Math.floor(index / 26) - 1) + columnName(index % 26)
}
