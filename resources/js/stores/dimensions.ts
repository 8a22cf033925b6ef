import type { DimensionRecord, DimensionView, Thing } from '@/api/types'
import { newId } from '@/ui/ids'
import { shallowReactive } from 'vue'
import { useModel } from './model'
import { studyStore } from './studyStore'

/** An id that can be read in addresses and files, where the name gives one that is free. */
export function readableId(name: string, taken: ReadonlySet<string>): string {
    const plain = name
        .trim()
        .toLowerCase()
        .replace(/[^a-z0-9]+/g, '-')
        .replace(/^-+|-+$/g, '')
    return /^[a-z][a-z0-9-]{0,39}$/.test(plain) && !taken.has(plain) ? plain : newId()
}

/** A dimension as an edit takes it. */
export function recordOf(d: DimensionView): DimensionRecord {
    const own = d.root === d.id
    const first = d.elements[0]
    const last = d.elements.at(-1)
    const elements = d.partOf
        ? { partOf: d.partOf, elements: d.elements.map((e) => ({ id: e.id, name: e.id })) }
        : d.sameAs
          ? { sameAs: d.sameAs }
          : d.counted && first && last
            ? { from: Number(first.id), to: Number(last.id) }
            : { elements: d.elements }
    return {
        id: d.id,
        name: d.name,
        ...elements,
        ...(own && d.limitedTo ? { limitedTo: d.limitedTo } : {}),
        ...(Object.keys(d.words).length ? { words: d.words } : {}),
    }
}

/** What is done with dimensions and with what extends over them. */
export const useDimensions = studyStore('dimensions', () => {
    const model = useModel()
    const own = () => model.model.dimensions.filter((d) => !d.shared)

    /** What was sent and is not answered yet: hands are quicker than the page, and the next change builds on it. */
    const sent = shallowReactive(new Map<string, DimensionRecord>())
    const gone = new Set<string>()
    const now = (d: DimensionView) => sent.get(d.id) ?? recordOf(d)

    /** All of them as they are to be: what is on its way has happened, or two quick acts would undo each other. */
    function all(): DimensionRecord[] {
        const known = own()
        const coming = [...sent.values()].filter((r) => !known.some((d) => d.id === r.id))
        return [...known.map(now), ...coming].filter((r) => !gone.has(r.id))
    }
    async function send(record: DimensionRecord | null, without = ''): Promise<boolean> {
        if (without) {
            gone.add(without)
        }
        if (record) {
            sent.set(record.id, record)
        }
        const done = await model.attempt({ kind: 'dimensions', dimensions: all() })
        gone.delete(without)
        if (record && sent.get(record.id) === record) {
            sent.delete(record.id)
        }
        return done
    }

    /** A dimension takes the place of the one with its id, or comes last. */
    const put = (record: DimensionRecord) => send(record)

    /** Whether nothing names a dimension or its elements yet. */
    const isUnused = (id: string) =>
        !model.things.some((t) => t.along?.over.includes(id) || t.says?.includes(id)) &&
        !own().some((d) => d.partOf === id || d.sameAs === id) &&
        !Object.values(model.model.mappings ?? {}).some((m) => m.from === id || m.to === id)

    /** Changes some of a dimension, on top of what is on its way. As long as nothing names them, elements have ids like their names. */
    function change(d: DimensionView, what: Partial<DimensionRecord>): Promise<boolean> {
        const record = { ...now(d), ...what }
        if (what.elements && !record.partOf && isUnused(d.id)) {
            const taken = new Set<string>()
            record.elements = what.elements.map(({ name }) => {
                const id = readableId(name, taken)
                taken.add(id)
                return { id, name }
            })
        }
        return put(record)
    }

    /** Calls a dimension otherwise; one that nothing names yet gets an id like its name. Its id. */
    async function rename(d: DimensionView, name: string): Promise<string> {
        const others = own().filter((o) => o.id !== d.id)
        const id = isUnused(d.id) ? readableId(name, new Set(others.map((o) => o.id))) : d.id
        if (id === d.id) {
            return (await put({ ...now(d), name })) ? id : ''
        }
        return (await send({ ...now(d), id, name }, d.id)) ? id : ''
    }

    /** A new one with a name that is free; its id. */
    async function add(named = 'dimension', elements: string[] = ['first one', 'second one']): Promise<string> {
        const names = new Set([...model.things, ...own()].map((t) => t.name.toLowerCase()))
        let name = named
        for (let i = 2; names.has(name.toLowerCase()); i++) {
            name = `${named} ${i}`
        }
        const id = readableId(name, new Set(own().map((d) => d.id)))
        const taken = new Set<string>()
        const done = await put({
            id,
            name,
            elements: elements.map((one) => {
                const element = readableId(one, taken)
                taken.add(element)
                return { id: element, name: one }
            }),
        })
        return done ? id : ''
    }

    const remove = (id: string) => send(null, id)

    /** Says over which dimensions a thing extends. */
    const extend = (thing: Thing, dimensions: string[]) => model.attempt({ kind: 'extent', id: thing.id, dimensions })

    return { now, change, rename, put, add, remove, extend, own }
})
