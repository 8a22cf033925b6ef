import { computed, ref } from 'vue'
import type { ActionIdeaRecord, PairRecord, ThingPutAsideRecord } from '@/api/parts'
import type { Edit } from '@/api/types'
import { useModel } from '@/stores/model'
import { studyStore } from '@/stores/studyStore'
import { byId, laterId, newId } from '@/ui/ids'
import { useMap } from '../useMap'

/** One thing at a time, in the order in which a workshop works. */
export const STEPS = [
    { name: 'question', words: 'The question' },
    { name: 'factors', words: 'Factors' },
    { name: 'pairs', words: 'Pairs and votes' },
    { name: 'links', words: 'Links' },
    { name: 'loops', words: 'Loops' },
    { name: 'actions', words: 'Action ideas' },
    { name: 'later', words: 'For later' },
    { name: 'record', words: 'Record' },
] as const
export type StepName = (typeof STEPS)[number]['name']

export const SIZES = ['small', 'middle', 'great'] as const

/** A workshop: what people say, vote and propose, told to a whole room. */
export const useRoom = studyStore('room', () => {
    const model = useModel()
    const map = useMap()
    const step = ref<StepName>('question')
    /** The link that the room talks about, by id. */
    const talked = ref('')
    /** What the line of the links begins with. */
    const begun = ref('')

    const question = computed(() => Object.values(model.model.questions ?? {})[0])
    function ask(text: string) {
        return model.attempt({ kind: 'put', part: 'questions', id: question.value?.id ?? 'question', fields: { text } })
    }

    /** What is typed quickly is done one after the other: the next may be about what the one before put down. */
    let turn: Promise<unknown> = Promise.resolve()
    function inTurn<T>(work: () => Promise<T>): Promise<T> {
        const done = turn.then(work)
        turn = done.catch(() => undefined)
        return done
    }

    const linked = computed(() => new Set(map.links.flatMap((l) => [l.from, l.to])))
    /** Factors by group; those without one come last. */
    const groups = computed(() => {
        const named = model.model.groups.map((g) => ({ name: g.name, factors: map.factors.filter((t) => g.members.includes(t.id)) }))
        const rest = map.factors.filter((t) => !model.groupOf.has(t.id))
        return [...named, { name: '', factors: rest }].filter((g) => g.factors.length)
    })
    const unused = computed(() => map.factors.filter((t) => !linked.value.has(t.id)))
    const idOf = (name: string) =>
        model.idByName.get(name.trim().toLowerCase()) ?? map.factors.find((t) => t.name.toLowerCase() === name.trim().toLowerCase())?.id

    /** `waves`, `waves = storm waves` for the same, `at sea: waves, wind` for a group. */
    const slip = (text: string) => inTurn(() => putSlip(text))
    async function putSlip(text: string): Promise<string> {
        const same = /^(.+?)\s*=\s*(.+)$/.exec(text)
        const group = /^([^:]+):\s*(.+)$/.exec(text)
        if (same?.[1] && same[2]) {
            const [other, id] = [idOf(same[1]), idOf(same[2])]
            if (!other || !id) {
                return `Nothing is called “${other ? same[2] : same[1]}” yet.`
            }
            return (await model.attempt({ kind: 'merge', id, other })) ? `“${same[1]}” is the same as “${same[2]}” now.` : ''
        }
        if (group?.[1] && group[2]) {
            const names = group[2]
                .split(',')
                .map((n) => n.trim())
                .filter(Boolean)
            const fresh = new Map(names.filter((n) => !idOf(n)).map((n) => [n, newId()]))
            const edits: Edit[] = [
                ...[...fresh].map<Edit>(([name, id]) => ({ kind: 'say', id: newId(), from: name, fromId: id, to: '', toId: newId() })),
                { kind: 'group', ids: names.map((n) => fresh.get(n) ?? idOf(n) ?? ''), name: group[1].trim(), tint: '' },
            ]
            await model.together(edits, `Group “${group[1].trim()}”`)
            return `${names.length} in “${group[1].trim()}”.`
        }
        if (idOf(text)) {
            return `“${text}” is there already.`
        }
        await map.say(text, '', {})
        return ''
    }

    const pairs = computed<(PairRecord & { votes: number; linked: boolean })[]>(() =>
        Object.values(model.model.pairs ?? {})
            .map((p) => ({
                votes: 0,
                ...p,
                linked: map.between.has(`${p.one}>${p.other}`) || map.between.has(`${p.other}>${p.one}`),
            }))
            .sort((a, b) => b.votes - a.votes || a.id.localeCompare(b.id)),
    )
    /** `waves, silt` is a vote for a pair; with a number behind it, so many. */
    const pair = (text: string) => inTurn(() => putPair(text))
    async function putPair(text: string): Promise<string> {
        const found = /^(.+?)\s*[,–—]\s*(.+?)(?:\s+(\d+))?$/.exec(text.trim())
        if (!found?.[1] || !found[2]) {
            return 'Write two names with a comma between: “waves, silt”, and perhaps the number of votes.'
        }
        const names = [found[1], found[2]]
        const fresh = names.map((n) => (idOf(n) ? undefined : newId()))
        const [one, other] = names.map((n, i) => idOf(n) ?? fresh[i] ?? '') as [string, string]
        const known = pairs.value.find((p) => (p.one === one && p.other === other) || (p.one === other && p.other === one))
        const votes = found[3] ? Number(found[3]) : (known?.votes ?? 0) + 1
        const edits: Edit[] = [
            ...names.flatMap<Edit>((name, i) =>
                fresh[i] ? [{ kind: 'say', id: newId(), from: name, fromId: fresh[i] ?? '', to: '', toId: newId() }] : [],
            ),
            { kind: 'put', part: 'pairs', id: known?.id ?? newId(), fields: { one, other, votes } },
        ]
        await model.together(edits, `Votes for ${names.join(' and ')}`)
        return ''
    }
    function vote(id: string, by: number) {
        return inTurn(async () => {
            const known = pairs.value.find((p) => p.id === id)
            return known !== undefined && known.votes + by >= 0
                ? model.attempt({ kind: 'put', part: 'pairs', id, fields: { votes: known.votes + by } })
                : false
        })
    }
    function drop(part: 'pairs' | 'parked' | 'actions', id: string) {
        return model.attempt({ kind: 'drop', part, id })
    }

    const parked = computed<ThingPutAsideRecord[]>(() => Object.values(model.model.parked ?? {}).sort(byId))
    function park(text: string) {
        return model.attempt({ kind: 'put', part: 'parked', id: laterId(), fields: { text } })
    }
    function settle(id: string, done: boolean) {
        return model.attempt({ kind: 'put', part: 'parked', id, fields: { done: done || null } })
    }

    function placeOf({ of = '', link = '' }: ActionIdeaRecord) {
        const on = map.linkOf.get(link)
        return on ? `${map.nameOf(on.from)} → ${map.nameOf(on.to)}` : map.nameOf(of)
    }
    /** Those of most effect for their effort first; what was put down a moment ago comes last until that is told. */
    const ideas = computed(() => {
        const place = new Map((map.read?.ideas ?? []).map((id, i) => [id, i]))
        return Object.values(model.model.actions ?? {})
            .map((a) => ({ effect: 'middle' as const, effort: 'middle' as const, of: '', ...a, at: placeOf(a) }))
            .sort((a, b) => (place.get(a.id) ?? Infinity) - (place.get(b.id) ?? Infinity) || byId(a, b))
    })
    /** `fences @ bare slopes` is an idea at a factor, `fences @ sheep > bare slopes` one at a link. */
    function propose(text: string) {
        const found = /^(.+?)\s*@\s*(.+)$/.exec(text)
        const [from, to] = (found?.[2] ?? '').split('>').map(idOf)
        const link = from && to ? map.between.get(`${from}>${to}`)?.id : undefined
        const at = link ? { link } : from && !found?.[2]?.includes('>') ? { of: from } : undefined
        return model.attempt({ kind: 'put', part: 'actions', id: newId(), fields: { text: at ? (found?.[1] ?? text) : text, ...at } })
    }
    function weigh(id: string, fields: Partial<ActionIdeaRecord>) {
        return model.attempt({ kind: 'put', part: 'actions', id, fields })
    }

    return {
        step,
        talked,
        begun,
        question,
        ask,
        groups,
        unused,
        idOf,
        slip,
        pairs,
        pair,
        vote,
        drop,
        parked,
        park,
        settle,
        ideas,
        propose,
        weigh,
    }
})
