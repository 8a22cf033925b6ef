import type { Model, Thing } from '@/api/types'
import { counted } from '@/ui/numbers'
import { joins } from './atlas'

/** A part of the whole: what each member of a roster has, the books of the parties, or the single things of a sheet. */
export interface Part {
    key: string
    kind: 'roster' | 'books' | 'sheet'
    name: string
    /** What and how many it is. */ words: string
    things: Thing[]
    /** By what members, parties' money or what is in stocks comes from outside, and leaves. */ comes: string[]
    goes: string[]
}

/** What joins two parts, one way: so many links and flows, and which. */
export interface PartJoin {
    from: string
    to: string
    count: number
    flows: number
    names: string[]
    /** Whether it says how many members enter. */ creates: boolean
}

const ORDER = ['stock', 'flow', 'auxiliary', 'parameter', 'curve', 'series']
const isOver = (thing: Thing, roster: string) => thing.members === roster || (thing.along?.over ?? []).includes(roster)

/** The model as a few parts with what connects them. */
export function partsOf(model: Model, things: Thing[], sheetOf: (id: string) => string): { parts: Part[]; joins: PartJoin[] } {
    const rosters = Object.values(model.rosters ?? {})
    const named = (id: string) => model.elements[id]?.name ?? ''
    const parts = new Map<string, Part>()
    const partOf = new Map<string, string>()
    for (const thing of things) {
        const roster = rosters.find((r) => isOver(thing, r.of))
        const sheet = sheetOf(thing.id)
        const key = roster ? `roster ${roster.id}` : thing.made ? 'books' : `sheet ${sheet}`
        let part = parts.get(key)
        if (!part) {
            const dimension = model.dimensions.find((d) => d.id === roster?.of)
            const name = dimension?.name ?? (thing.made ? 'The books' : (model.sheets.find((s) => s.id === sheet)?.name ?? ''))
            part = { key, kind: roster ? 'roster' : thing.made ? 'books' : 'sheet', name, words: '', things: [], comes: [], goes: [] }
            parts.set(key, part)
        }
        part.things.push(thing)
        partOf.set(thing.id, key)
    }
    for (const part of parts.values()) {
        part.things.sort((a, b) => ORDER.indexOf(a.kind) - ORDER.indexOf(b.kind))
        const roster = rosters.find((r) => part.key === `roster ${r.id}`)
        if (roster) {
            const listed = model.dimensions.find((d) => d.id === roster.of)?.elements.length ?? 0
            part.words = `roster, ${counted(listed, part.name)} on the list`
            part.comes = (roster.entries ?? []).map((e) => e.words)
            part.goes = (roster.exits ?? []).map((e) => e.words)
        } else if (part.kind === 'books') {
            part.words = `${counted(Object.keys(model.parties ?? {}).length, 'party', 'parties')}, ${counted(Object.keys(model.claims ?? {}).length, 'claim')}`
        } else {
            part.words = `sheet, ${counted(part.things.length, 'thing')}`
            const flows = part.things.filter((t) => t.kind === 'flow')
            part.comes = flows.filter((t) => t.to && !t.from).map((t) => t.name)
            part.goes = flows.filter((t) => t.from && !t.to).map((t) => t.name)
        }
    }
    const found = new Map<string, PartJoin>()
    const join = (from: string, to: string, words: string, kind: 'link' | 'flow' | 'entry') => {
        const [a, b] = [partOf.get(from), partOf.get(to) ?? (parts.has(to) ? to : undefined)]
        if (!a || !b || a === b) {
            return
        }
        const key = `${a} ${b}`
        const known = found.get(key) ?? { from: a, to: b, count: 0, flows: 0, names: [], creates: false }
        known.count++
        known.flows += kind === 'flow' ? 1 : 0
        known.creates ||= kind === 'entry'
        known.names.push(words)
        found.set(key, known)
    }
    for (const { from, to, flow } of joins(model)) {
        join(from, to, `${named(from)} → ${named(to)}`, flow ? 'flow' : 'link')
    }
    for (const roster of rosters) {
        for (const entry of roster.entries ?? []) {
            const name = model.dimensions.find((d) => d.id === roster.of)?.name ?? ''
            join(entry.of, `roster ${roster.id}`, `${named(entry.of)} → ${name}: ${entry.words}`, 'entry')
        }
    }
    return { parts: [...parts.values()], joins: [...found.values()] }
}

/** One part and those that it is joined to. */
export function aroundPart(whole: { parts: Part[]; joins: PartJoin[] }, key: string): { parts: Part[]; joins: PartJoin[] } {
    const near = new Set([key, ...whole.joins.filter((j) => j.from === key || j.to === key).flatMap((j) => [j.from, j.to])])
    return {
        parts: whole.parts.filter((p) => near.has(p.key)),
        joins: whole.joins.filter((j) => j.from === key || j.to === key),
    }
}
