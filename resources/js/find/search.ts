import type { Thing } from '@/api/types'

export type Field = 'name' | 'formula' | 'unit' | 'note' | 'value'

export interface Hit {
    thing: Thing
    field: Field
    text: string
    from: number
    length: number
}

const ORDER: Field[] = ['name', 'formula', 'unit', 'note', 'value']

/**
 * Things in which a text stands, those first whose names begin with it. `valueOf` gives the value that is shown;
 * it is found by what it begins with, so `60` finds 60 and 60.5.
 */
export function search(things: Thing[], wanted: string, fields: Field[], valueOf: (id: string) => string): Hit[] {
    const text = wanted.trim().toLowerCase()
    if (!text) {
        return []
    }
    const hits: (Hit & { rank: number })[] = []
    for (const thing of things) {
        for (const field of ORDER) {
            if (!fields.includes(field)) {
                continue
            }
            const content =
                field === 'value'
                    ? valueOf(thing.id)
                    : field === 'formula'
                      ? [thing.formula, thing.travel].filter(Boolean).join(' · ')
                      : thing[field]
            const from = field === 'value' ? (content.toLowerCase().startsWith(text) ? 0 : -1) : content.toLowerCase().indexOf(text)
            if (from >= 0) {
                hits.push({
                    thing,
                    field,
                    text: content,
                    from,
                    length: text.length,
                    rank: ORDER.indexOf(field) * 10 + (field === 'name' ? (content.length === text.length ? 0 : from === 0 ? 1 : 2) : 0),
                })
                break
            }
        }
    }
    return hits.sort((a, b) => a.rank - b.rank).map(({ thing, field, text: t, from, length }) => ({ thing, field, text: t, from, length }))
}

export interface Replacement {
    id: string
    was: string
    now: string
    name: string
}

/** What replacing a part of names, or a unit, would do; a unit is replaced wherever it stands in a unit, as a whole word. */
export function replacements(things: Thing[], what: 'name' | 'unit', find: string, by: string): Replacement[] {
    const wanted = find.trim()
    if (!wanted) {
        return []
    }
    const escaped = wanted.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')
    const pattern = what === 'unit' ? new RegExp(`(?<![\\p{L}_])${escaped}(?![\\p{L}_])`, 'gu') : new RegExp(escaped, 'giu')
    return things
        .map((t) => ({
            id: t.id,
            name: t.name,
            was: t[what],
            now: t[what]
                .replace(pattern, () => by)
                .replace(/ {2,}/g, ' ')
                .trim(),
        }))
        .filter((r) => r.now !== r.was)
}
