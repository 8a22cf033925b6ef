import type { DimensionView, Thing } from '@/api/types'
import { elementsOf } from '@/stores/look'

export interface Dimensional {
    things: Thing[]
    dimensions: DimensionView[]
    mappings: { name: string; from: string; to: string }[]
}

/** What can stand at a place within square brackets behind a name. */
export interface BracketWord {
    label: string
    apply: string
    detail: string
}

/** The name before the last bracket that is open, what stands in the bracket so far, and where the word under the cursor begins. */
export function openBracket(text: string): { name: string; dimension: string; typed: string; from: number } | null {
    let depth = 0
    for (let i = text.length - 1; i >= 0; i--) {
        if (text[i] === ']') {
            depth++
        } else if (text[i] === '[' && depth-- === 0) {
            const name = /("(?:[^"]|"")*"|[\p{L}][\p{L}\p{M}\p{N}_ ]*)\s*$/u.exec(text.slice(0, i))?.[1] ?? ''
            const inside = text.slice(i + 1)
            // Behind `else` a formula goes on.
            if (/;\s*else\b/.test(inside)) {
                return null
            }
            const step = inside.slice(inside.lastIndexOf(',') + 1)
            const [, dimension = '', typed = step.trimStart()] = /^\s*(.*?)\s*:\s*(.*)$/s.exec(step) ?? []
            return {
                name: name.replace(/^"|"$/g, '').trim(),
                dimension: dimension.replace(/^"|"$/g, ''),
                typed,
                from: text.length - typed.length,
            }
        }
    }
    return null
}

const plain = (name: string) =>
    /^[\p{L}\p{N}][\p{L}\p{M}\p{N} ]*$/u.test(name) && !/^(else|previous|next|first|last)$/i.test(name) ? name : `"${name}"`
const MOVES = ['previous', 'next', 'first', 'last']

/** Elements, dimensions, mappings and moves that fit into a bracket behind a thing. */
export function bracketWords(open: { name: string; dimension: string }, { things, dimensions, mappings }: Dimensional): BracketWord[] {
    const same = (a: string, b: string) => a.replace(/_/g, ' ').trim().toLowerCase() === b.replace(/_/g, ' ').trim().toLowerCase()
    // Two names beside each other are one run of words: the longest thing that it ends with is meant.
    const thing = things
        .filter((t) => same(open.name, t.name) || open.name.toLowerCase().endsWith(` ${t.name.toLowerCase()}`))
        .sort((a, b) => b.name.length - a.name.length)[0]
    const over = (thing?.along?.over ?? [])
        .map((id) => dimensions.find((d) => d.id === id))
        .filter((d): d is DimensionView => d !== undefined)
    const word = (label: string, detail: string, apply = plain(label)): BracketWord => ({ label, detail, apply })
    if (open.dimension) {
        const dimension = over.find((d) => same(d.name, open.dimension)) ?? dimensions.find((d) => same(d.name, open.dimension))
        return dimension
            ? [
                  ...elementsOf(dimension).map((e) => word(e.name, dimension.name)),
                  ...MOVES.map((m) => word(m, 'along the order', m)),
                  ...dimensions
                      .filter((d) => d.root === dimension.root && d.id !== dimension.id && !d.partOf)
                      .map((d) => word(d.name, 'its present element')),
              ]
            : []
    }
    const shared = (name: string) => over.filter((d) => elementsOf(d).some((e) => e.name === name)).length > 1
    return [
        ...over.flatMap((d) =>
            elementsOf(d).map((e) =>
                word(e.name, d.name, shared(e.name) || d.counted ? `${plain(d.name)}: ${plain(e.name)}` : plain(e.name)),
            ),
        ),
        ...over.map((d) => word(`${d.name}:`, 'dimension', `${plain(d.name)}: `)),
        ...mappings.filter((m) => over.some((d) => d.id === m.to)).map((m) => word(m.name, 'mapping')),
        ...(over.length === 1 ? MOVES.map((m) => word(m, 'along the order', m)) : []),
    ]
}
