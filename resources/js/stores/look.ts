import { studyStore } from './studyStore'
import { computed } from 'vue'
import type { DimensionView, Thing } from '@/api/types'
import { useModel } from './model'
import { useView } from './view'

/** So many lines of one thing are drawn and told; more would be told apart by nobody. */
export const MOST_LINES = 12

/** What can be looked at of a dimension besides one of its elements, by the word that columns have for it. */
export const GATHERINGS = [
    ['*sum', 'sum'],
    ['*mean', 'mean'],
    ['*least', 'least'],
    ['*greatest', 'greatest'],
] as const
export type Gathering = (typeof GATHERINGS)[number][0]

export const isGathering = (look: string): look is Gathering => look.startsWith('*')

/** The elements there are: of a limited dimension those that are left. */
export function elementsOf(dimension: DimensionView): { id: string; name: string }[] {
    const left = dimension.limitedTo && new Set(dimension.limitedTo)
    return left ? dimension.elements.filter((e) => left.has(e.id)) : dimension.elements
}

/** What a look along a dimension is called, as the study says it or as we do. */
export function wordsOf(dimension: DimensionView, look: string): string {
    const gathering = GATHERINGS.find(([key]) => key === look)?.[1]
    if (!gathering) {
        return dimension.elements.find((e) => e.id === look)?.name ?? look
    }
    return dimension.words[gathering] ?? { sum: 'sum', mean: 'mean', least: 'least', greatest: 'greatest' }[gathering]
}

/**
 * Where the window looks along dimensions: at one element, at a sum, mean, least or greatest, or at each; one look for each dimension,
 * which holds for its parts too.
 */
export const useLook = studyStore('look', () => {
    const model = useModel()
    const view = useView()
    const byId = computed(() => new Map(model.model.dimensions.map((d) => [d.id, d])))
    /** Those along which something extends, in their order. */
    const dimensions = computed(() => {
        const used = new Set(model.known.flatMap((t) => t.along?.over.map((d) => byId.value.get(d)?.whole ?? d) ?? []))
        return model.model.dimensions.filter((d) => !d.shared && used.has(d.id))
    })
    /** The look along a dimension, or along the whole that it is a part of; empty for each element. */
    function at(dimension: string): string {
        const whole = byId.value.get(dimension)?.whole ?? dimension
        const look = view.look[whole] ?? ''
        return isGathering(look) || byId.value.get(whole)?.elements.some((e) => e.id === look) ? look : ''
    }
    function set(dimension: string, look: string) {
        view.look = { ...view.look, [dimension]: look }
    }

    /** What a thing shows under the looks: one column, or one for each element that is looked at; the first of them. */
    function linesOf(thing: Thing, most = MOST_LINES) {
        let parts = [{ at: [] as string[], names: [] as string[] }]
        let size = 1
        const looked: string[] = []
        for (const id of thing.along?.over ?? []) {
            const dimension = byId.value.get(id)
            const look = at(id)
            const options = !dimension ? [] : look ? [{ id: look, name: saidOf(dimension, look) }] : elementsOf(dimension)
            size *= options.length
            const single = look ? options[0] : undefined
            if (single) {
                looked.push(single.name)
            }
            parts = parts
                .flatMap((p) => options.slice(0, most).map((o) => ({ at: [...p.at, o.id], names: look ? p.names : [...p.names, o.name] })))
                .slice(0, most)
        }
        return {
            size,
            parts: parts.map((p) => ({ key: `${thing.id}[${p.at.join(',')}]`, name: p.names.join(', ') })),
            looked: looked.join(', '),
        }
    }
    /** A gathering is told with its dimension, where the study has no words of its own for it. */
    function saidOf(dimension: DimensionView, look: string): string {
        const own = GATHERINGS.find(([key]) => key === look)?.[1]
        return own && !dimension.words[own] ? `${own} over ${dimension.name}` : wordsOf(dimension, look)
    }

    const extended = computed(() =>
        Object.fromEntries(
            model.known.flatMap((thing) => (thing.along ? [[thing.id, { ...thing, along: { ...thing.along, ...linesOf(thing) } }]] : [])),
        ),
    )
    /** The things of the model; those along dimensions with what the window looks at in place of all their elements. */
    const elements = computed<Record<string, Thing>>(() => ({ ...model.model.elements, ...extended.value }))

    /** The same with more lines of each, for what shows more of them than a plot of lines can. */
    const upTo = (most: number): Record<string, Thing> => ({
        ...elements.value,
        ...Object.fromEntries(
            Object.values(extended.value).map((t) => [t.id, t.along ? { ...t, along: { ...t.along, ...linesOf(t, most) } } : t]),
        ),
    })

    const keyWith = (thing: Thing, each: string) => `${thing.id}[${thing.along?.over.map((d) => at(d) || each).join(',') ?? ''}]`
    /** The one column that a thing shows; undefined where it shows several. Anything else is a column itself. */
    function keyOf(id: string): string | undefined {
        const along = extended.value[id]?.along
        return along ? (along.size === 1 ? along.parts[0]?.key : undefined) : id
    }
    /** By what the shape of a thing is drawn: where each element is looked at, by all of them together. */
    function drawnKey(id: string): string {
        const thing = extended.value[id]
        return thing ? (keyOf(id) ?? keyWith(thing, '*sum')) : id
    }
    /** The least and the greatest of all elements, where each is looked at. */
    function boundKeys(id: string): [string, string] | undefined {
        const thing = extended.value[id]
        return thing?.along?.over.every((d) => at(d) === '') ? [keyWith(thing, '*least'), keyWith(thing, '*greatest')] : undefined
    }
    /** All columns that are needed to show some things, besides those that come by themselves. */
    function keysFor(ids: readonly string[]): string[] {
        return ids.flatMap((id) => {
            const thing = extended.value[id]
            if (!thing?.along) {
                return []
            }
            return [...thing.along.parts.map((p) => p.key), drawnKey(id), ...(boundKeys(id) ?? [])]
        })
    }

    /** The columns that things show, with names that say which is which. */
    function columns(ids: readonly string[]): { key: string; element: string; name: string; unit: string }[] {
        return ids.flatMap((id) => {
            const thing = elements.value[id]
            if (!thing) {
                return []
            }
            const named = (...words: (string | undefined)[]) => words.filter(Boolean).join(', ')
            return thing.along
                ? thing.along.parts.map((p) => ({
                      key: p.key,
                      element: id,
                      name: named(thing.name, thing.along?.looked, p.name),
                      unit: thing.unit,
                  }))
                : [{ key: id, element: id, name: thing.name, unit: thing.unit }]
        })
    }
    /** What a column is called: a thing, and which of its elements. */
    /** Who came during the run stands on no list: it is known by the entry that made it, the step, and its number in it. */
    function newcomer(dimension: DimensionView, id: string): string {
        const [entry, number, step] = [id.split('.')[0], id.split('.').at(-1), id.split('.').at(-2)]
        const roster = Object.values(model.model.rosters ?? {}).find((r) => r.of === dimension.id)
        const words = roster?.entries?.find((e) => e.id === entry)?.words
        const when = model.moment(model.model.time.start + Number(step) * model.model.time.step)
        return words ? `${dimension.name} ${words} ${when}${number === '0' ? '' : `, no. ${Number(number) + 1}`}` : saidOf(dimension, id)
    }
    function nameOf(key: string): string | undefined {
        const thing = model.model.elements[ownerOf(key)]
        const at = key.slice(ownerOf(key).length + 1, -1).split(',')
        const names = (thing?.members ? [thing.members] : (thing?.along?.over ?? [])).map((id, i) => {
            const dimension = byId.value.get(id)
            return dimension && at[i]
                ? dimension.elements.some((e) => e.id === at[i])
                    ? saidOf(dimension, at[i])
                    : newcomer(dimension, at[i])
                : ''
        })
        return thing && (key === thing.id ? thing.name : [thing.name, ...names].filter(Boolean).join(', '))
    }
    /** Which of its elements a column is of, without what is looked at of all of them alike. */
    function partOf(key: string): string {
        const places = key.slice(ownerOf(key).length + 1, -1).split(',')
        return (model.model.elements[ownerOf(key)]?.along?.over ?? [])
            .flatMap((id, i) => {
                const dimension = byId.value.get(id)
                const place = places[i]
                return dimension && place && !at(id) ? [saidOf(dimension, place)] : []
            })
            .join(', ')
    }
    /** The one element of a thing that the window looks at, or the thing itself: what can be asked about. */
    function subjectOf(id: string): string {
        const key = keyOf(id)
        return key === undefined || key.includes('*') ? id : key
    }
    /** By dimension, the one element that is looked at; those along which it is not one are left out. */
    const single = computed(() =>
        Object.fromEntries(dimensions.value.map((d) => [d.id, at(d.id)]).filter(([, look]) => look && !isGathering(look as string))),
    )
    /** The dimensions of a thing along which the window does not look at one element. */
    function openOf(thing: Thing): DimensionView[] {
        return (thing.along?.over ?? []).flatMap((id) => {
            const look = at(id)
            const dimension = byId.value.get(id)
            return dimension && (!look || isGathering(look)) ? [dimension] : []
        })
    }
    /** The thing that a column is of. */
    const ownerOf = (key: string) => key.split('[')[0] ?? key

    return {
        upTo,
        partOf,
        single,
        openOf,
        columns,
        nameOf,
        subjectOf,
        ownerOf,
        dimensions,
        at,
        set,
        linesOf,
        elements,
        extended,
        keyOf,
        drawnKey,
        boundKeys,
        keysFor,
        byId,
    }
})
