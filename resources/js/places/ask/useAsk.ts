import { computed } from 'vue'
import type { BoundaryLineRecord, QuestionRecord, ReferenceModeRecord } from '@/api/parts'
import type { Edit } from '@/api/types'
import { useModel } from '@/stores/model'
import { studyStore } from '@/stores/studyStore'
import { byId, newId } from '@/ui/ids'

export type Side = NonNullable<BoundaryLineRecord['side']>

/** The question of a study, its boundary and its reference modes. */
export const useAsk = studyStore('ask', () => {
    const model = useModel()
    const question = computed<QuestionRecord>(() => Object.values(model.model.questions ?? {})[0] ?? { id: '' })
    function ask(fields: Partial<QuestionRecord>) {
        return model.attempt({ kind: 'put', part: 'questions', id: question.value.id || 'question', fields })
    }

    const byName = computed(() => new Map(model.all.map((t) => [t.name.toLowerCase(), t])))
    /** What is followed, if it is there. */
    const followed = computed(() => model.model.elements[question.value.of ?? ''])
    /** Follows what is called so; what is not there yet becomes a factor of the map. */
    function follow(name: string) {
        const known = byName.value.get(name.trim().toLowerCase())
        if (!name.trim()) {
            return ask({ of: '' })
        }
        if (known) {
            return ask({ of: known.id })
        }
        const id = newId()
        const edits: Edit[] = [
            { kind: 'say', id: newId(), from: name, fromId: id, to: '', toId: newId() },
            { kind: 'put', part: 'questions', id: question.value.id || 'question', fields: { of: id } },
        ]
        return model.together(edits, `Follow “${name.trim()}”`)
    }

    const lines = computed(() =>
        Object.values(model.model.boundary ?? {})
            .map((b) => ({
                side: 'inside' as Side,
                why: '',
                place: 0,
                ...b,
                thing: model.model.elements[b.of ?? ''] ?? byName.value.get(b.name.toLowerCase()),
            }))
            .sort((a, b) => a.place - b.place || byId(a, b)),
    )
    const last = (side: Side) => Math.max(0, ...lines.value.filter((l) => l.side === side).map((l) => l.place)) + 1
    function put(id: string, fields: Partial<BoundaryLineRecord>) {
        return model.attempt({ kind: 'put', part: 'boundary', id, fields })
    }
    function add(side: Side, name: string) {
        const thing = byName.value.get(name.trim().toLowerCase())
        return put(newId(), { name: name.trim(), side, place: last(side), ...(thing ? { of: thing.id } : {}) })
    }
    const move = (id: string, side: Side) => put(id, { side, place: last(side) })
    function drop(id: string) {
        return model.attempt({ kind: 'drop', part: 'boundary', id })
    }
    /** What is on the map or in the model and on no side yet. */
    const unplaced = computed(() => {
        const placed = new Set(lines.value.flatMap((l) => [l.thing?.id ?? '', l.name.toLowerCase()]))
        return model.all.filter(
            (t) => (t.kind === 'factor' || t.kind === 'stock') && !placed.has(t.id) && !placed.has(t.name.toLowerCase()),
        )
    })
    function placeAll() {
        const edits = unplaced.value.map<Edit>((t, i) => ({
            kind: 'put',
            part: 'boundary',
            id: newId(),
            fields: { name: t.name, of: t.id, side: 'inside', place: last('inside') + i },
        }))
        return model.together(edits, `Put ${edits.length} things inside the boundary`)
    }

    const modes = computed<ReferenceModeRecord[]>(() => Object.values(model.model.modes ?? {}))
    const ofMode = (mode: ReferenceModeRecord) => model.model.elements[mode.of ?? '']?.name ?? mode.what ?? ''
    function keepMode(id: string, fields: Partial<ReferenceModeRecord>) {
        return model.attempt({ kind: 'put', part: 'modes', id, fields })
    }
    function dropMode(id: string) {
        return model.attempt({ kind: 'drop', part: 'modes', id })
    }

    return { question, ask, followed, follow, lines, put, add, move, drop, unplaced, placeAll, modes, ofMode, keepMode, dropMode, byName }
})
