import type { Delta, Edit, Model, Thing } from '@/api/types'

/**
 * What an edit will probably change, to be shown while the server cannot be reached; undefined where that is better left to
 * the engine. Nothing is checked: what the server says later takes its place.
 */
export function foresee(model: Model, edit: Edit): Delta | undefined {
    const change = (id: string, what: Partial<Thing>): Delta | undefined => {
        const thing = model.elements[id]
        return thing && { elements: { [id]: { ...thing, ...what } } }
    }
    switch (edit.kind) {
        case 'add':
            return added(model, edit)
        case 'rename':
            return change(edit.id, { name: edit.name.trim() })
        case 'formula':
            return change(edit.id, { formula: edit.text })
        case 'unit':
            return change(edit.id, { unit: edit.text.trim() })
        case 'note':
            return change(edit.id, { note: edit.text })
        case 'delete':
            return deleted(model, edit.ids)
        case 'move':
            return {}
        default:
            return undefined
    }
}

function added(
    model: Model,
    { id, element, name = '', formula = '', unit = '', note = '', placement, from, to }: Edit & { kind: 'add' },
): Delta {
    const ends = element === 'flow' ? { from: from ?? null, to: to ?? null } : {}
    const thing: Thing = {
        id,
        kind: element,
        name: name || `new ${element}`,
        written: name,
        formula,
        unit,
        inferred: null,
        note,
        symbol: '',
        sign: '',
        ...ends,
    }
    return { elements: { [id]: thing }, order: [...model.order, id], placements: placement ? { [id]: placement } : {} }
}

function deleted(model: Model, ids: string[]): Delta {
    return {
        elements: Object.fromEntries(ids.filter((i) => model.elements[i]).map((i) => [i, null])),
        echoes: Object.fromEntries(ids.filter((i) => model.echoes[i]).map((i) => [i, null])),
        order: model.order.filter((i) => !ids.includes(i)),
        links: model.links.filter((l) => !ids.includes(l.from) && !ids.includes(l.to)),
    }
}
