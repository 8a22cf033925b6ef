/** Along what a table has rows, columns and pages: variable, run and time, or the id of a dimension. */
export interface Field {
    id: string
    name: string
    /** What there is along it, in order. */
    items: { id: string; name: string }[]
    /** Whether a sum over it can be told. */
    isDimension?: boolean
}
export interface Turned {
    rows: string[]
    columns: string[]
    /** Of what is one of each: an item, or a gathering with a star. */
    picks: Record<string, string>
}
export type Zone = 'rows' | 'columns' | 'pages'

/** How a table lies while nobody has turned it: time or the first dimension down, all that is more than one thing across. */
export function usualTurn(fields: readonly Field[]): Turned {
    const several = (f: Field) => f.items.length > 1
    const dimensions = fields.filter((f) => f.isDimension)
    const rows = dimensions[0] ? [dimensions[0].id] : ['time']
    const columns = dimensions.length > 1 ? [dimensions[1]?.id ?? ''] : []
    for (const id of ['variable', 'run']) {
        const field = fields.find((f) => f.id === id)
        if (field && several(field) && columns.length < 2) {
            columns.unshift(id)
        }
    }
    return { rows, columns, picks: {} }
}

/** The same table with a field in another zone, before the one that stands at a place there. */
export function moved(turned: Turned, field: string, zone: Zone, at = Infinity): Turned {
    const without = (list: string[]) => list.filter((f) => f !== field)
    const [rows, columns] = [without(turned.rows), without(turned.columns)]
    if (zone !== 'pages') {
        const list = zone === 'rows' ? rows : columns
        list.splice(Math.min(at, list.length), 0, field)
    }
    return { rows, columns, picks: turned.picks }
}

/** Rows and columns changed places. */
export const transposed = ({ rows, columns, picks }: Turned): Turned => ({ rows: columns, columns: rows, picks })

export type Place = Record<string, string>

/** All places along some fields, the last one changing fastest; at most so many. */
export function placesAlong(fields: readonly Field[], most: number): Place[] {
    let places: Place[] = [{}]
    for (const field of fields) {
        places = places.flatMap((p) => field.items.slice(0, most).map((item) => ({ ...p, [field.id]: item.id }))).slice(0, most)
    }
    return places
}

/** Heads over columns or before rows: one line for each field, equal neighbours as one cell that spans them. */
export function heads(fields: readonly Field[], places: readonly Place[]): { name: string; span: number; at: number }[][] {
    return fields.map((field, level) => {
        const above = fields.slice(0, level + 1)
        const line: { name: string; span: number; at: number; key: string }[] = []
        for (const [at, place] of places.entries()) {
            const key = above.map((f) => place[f.id]).join('\n')
            const last = line.at(-1)
            if (last?.key === key && level < fields.length - 1) {
                last.span++
            } else {
                line.push({ name: field.items.find((i) => i.id === place[field.id])?.name ?? '', span: 1, at, key })
            }
        }
        return line.map(({ name, span, at }) => ({ name, span, at }))
    })
}
