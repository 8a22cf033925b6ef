import type { Delta, Edit, Model, Thing } from '@/api/types'

/**
 * What an edit will probably change, to be shown while the server cannot be reached; undefined where that is better left to
 * the engine. Nothing is checked: what the server says later takes its place.
 */
export function guess(model: Model, edit: Edit): Delta | undefined {
    const id = typeof edit.id === 'string' ? edit.id : ''
    const thing = model.elements[id]
    const text = (key: string) => (typeof edit[key] === 'string' ? edit[key] : '')
    switch (edit.kind) {
        case 'add': {
            const added: Thing = { id, kind: edit.element as Thing['kind'], name: text('name') || `new ${text('element')}`, written: text('name'), formula: text('formula'), unit: text('unit'), note: text('note'), ...(edit.element === 'flow' ? { from: edit.from as string | null, to: edit.to as string | null } : {}) }
            return { elements: { [id]: added }, order: [...model.order, id], placements: edit.placement ? { [id]: edit.placement as Model['placements'][string] } : {} }
        }
        case 'rename': return thing && { elements: { [id]: { ...thing, name: text('name').trim() } } }
        case 'formula': return thing && { elements: { [id]: { ...thing, formula: text('text') } } }
        case 'unit': return thing && { elements: { [id]: { ...thing, unit: text('text').trim() } } }
        case 'note': return thing && { elements: { [id]: { ...thing, note: text('text') } } }
        case 'delete': {
            const ids = edit.ids as string[]
            return { elements: Object.fromEntries(ids.filter((i) => model.elements[i]).map((i) => [i, null])), echoes: Object.fromEntries(ids.filter((i) => model.echoes[i]).map((i) => [i, null])), order: model.order.filter((i) => !ids.includes(i)), links: model.links.filter((l) => !ids.includes(l.from) && !ids.includes(l.to)) }
        }
        case 'move': return {}
        default: return undefined
    }
}
