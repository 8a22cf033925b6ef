import { watchDebounced } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { api } from '@/api/client'
import type { CausalLinkRecord, WordingRecord } from '@/api/parts'
import type { MapLoop, MapRead, Point, Push, Thing } from '@/api/types'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { studyStore } from '@/stores/studyStore'
import { useView } from '@/stores/view'
import { byId, laterId, newId } from '@/ui/ids'
import { heightAt as heightOn } from './heights'
import { hullOf } from './hull'

export type MapLink = Required<Omit<CausalLinkRecord, 'id' | 'from' | 'to'>> & Pick<CausalLinkRecord, 'id' | 'from' | 'to'>

const USUAL = { sign: '?', strength: 'usual', late: false, mechanism: '', grounds: '', standing: 'open' } as const

/** What a factor can become, in words. */
export const FORMS = {
    stock: 'a stock, which builds up and drains',
    flow: 'a flow, so much in a time',
    auxiliary: 'an auxiliary, which follows from others',
    parameter: 'a parameter, a given number',
} as const

/** How long it is played if nothing else is said, in beats. */
const BEATS = 40

/** The causal map of a study, what was read of it, and what hands do to it while it is played. */
export const useMap = studyStore('map', () => {
    const model = useModel()
    const view = useView()
    const notices = useNotices()

    const links = computed<MapLink[]>(() =>
        Object.values(model.model.causalLinks ?? {})
            .map((l) => ({ ...USUAL, ...l }))
            .sort(byId),
    )
    const linkOf = computed(() => new Map(links.value.map((l) => [l.id, l])))
    const between = computed(() => new Map(links.value.map((l) => [`${l.from}>${l.to}`, l])))
    /** What is on the map: factors, and whatever a causal link or a spot leads to. */
    const factors = computed<Thing[]>(() => {
        const there = new Set([...Object.keys(model.model.mapSpots), ...links.value.flatMap((l) => [l.from, l.to])])
        return model.all.filter((t) => t.kind === 'factor' || there.has(t.id))
    })
    const nameOf = (id: string) => model.model.elements[id]?.name ?? ''
    /** What came without a spot, as from a file, stands in rows below the others. */
    const spots = computed<Record<string, Point>>(() => {
        const known = model.model.mapSpots
        const bottom = Math.max(0, ...Object.values(known).map((p) => p.y + 150))
        const left = Math.min(0, ...Object.values(known).map((p) => p.x))
        const loose = factors.value.filter((t) => !known[t.id])
        const columns = Math.max(4, Math.ceil(Math.sqrt(loose.length)))
        return {
            ...known,
            ...Object.fromEntries(
                loose.map((t, i) => [t.id, { x: left + (i % columns) * 250, y: bottom + Math.floor(i / columns) * 140 }]),
            ),
        }
    })
    const hulls = computed(() => new Map(factors.value.map((t) => [t.id, hullOf(t.name)])))
    const wordings = computed(() => new Map(Object.values(model.model.wordings ?? {}).map((w: WordingRecord) => [w.of, w])))

    /** The link that is picked, by id. */
    const picked = ref('')
    const link = computed(() => linkOf.value.get(picked.value))
    const factor = computed(() => (picked.value ? undefined : factors.value.find((t) => t.id === view.selected)))
    function pick(id: string) {
        view.select()
        picked.value = id
    }
    function select(...ids: string[]) {
        picked.value = ''
        view.select(...ids)
    }
    watch(
        () => view.selection,
        (now) => {
            if (now.length) {
                picked.value = ''
            }
        },
    )

    // Hands on the map.
    const pushes = ref<Push[]>([])
    /** Heights to begin with, where they are not the usual ones. */
    const starts = ref<Record<string, number>>({})
    /** Only the loops of which the others can be put together. */
    const independent = ref(false)
    const beats = ref(BEATS)
    const beat = ref(0)
    const playing = ref(false)
    const now = computed(() => Math.round(beat.value))
    const handOn = (id: string) => pushes.value.find((p) => p.factor === id && (p.until ?? Infinity) > beat.value)
    function act(id: string, by: number, hold = false) {
        const on = handOn(id)
        const others = pushes.value.filter((p) => p !== on)
        pushes.value = [...others, { factor: id, by, ...(hold ? { hold } : {}), from: on?.from ?? now.value }]
        playing.value = true
    }
    /** A push by hand goes all the way; a second one the same way lets go. */
    function push(id: string, by: 1 | -1) {
        const on = handOn(id)
        if (on && !on.hold && on.by === by) {
            letGo(id)
        } else {
            act(id, by)
        }
    }
    function hold(id: string) {
        act(id, Number(levelOf(id).toFixed(2)), true)
    }
    function letGo(id: string) {
        const on = handOn(id)
        pushes.value = pushes.value.flatMap((p) => (p !== on ? [p] : now.value > (p.from ?? 0) ? [{ ...p, until: now.value }] : []))
    }
    function begin(id: string, height: number) {
        starts.value = Object.fromEntries([
            ...Object.entries(starts.value).filter(([other]) => other !== id),
            ...(height ? [[id, height]] : []),
        ])
        beat.value = 0
        playing.value = Object.keys(starts.value).length > 0
    }
    const isPlayed = computed(() => pushes.value.length > 0 || Object.keys(starts.value).length > 0)
    function calm() {
        pushes.value = []
        starts.value = {}
        beat.value = 0
        playing.value = false
    }
    watch(factors, (all) => {
        const known = new Set(all.map((t) => t.id))
        if (pushes.value.some((p) => !known.has(p.factor))) {
            pushes.value = pushes.value.filter((p) => known.has(p.factor))
        }
        const kept = Object.entries(starts.value).filter(([id]) => known.has(id))
        if (kept.length < Object.keys(starts.value).length) {
            starts.value = Object.fromEntries(kept)
        }
    })

    // What the engine reads of it, anew with every change.
    const read = shallowRef<MapRead | null>(null)
    const reading = ref(false)
    const milliseconds = ref(0)
    const refusal = ref('')
    let asked = 0
    const shown = computed(() => view.place === 'map' && model.loaded)
    async function ask() {
        const turn = ++asked
        const began = performance.now()
        reading.value = true
        try {
            const answer = await api.map(model.id, {
                pushes: pushes.value,
                starts: starts.value,
                beats: beats.value,
                independent: independent.value,
            })
            if (turn === asked) {
                read.value = answer
                milliseconds.value = Math.max(1, Math.round(performance.now() - began))
                refusal.value = ''
            }
        } catch (error) {
            if (turn === asked) {
                refusal.value = (error as Error).message
            }
        } finally {
            reading.value = turn !== asked
        }
    }
    watchDebounced(
        [shown, () => model.revision, pushes, starts, beats, independent] as const,
        ([there]) => {
            if (there) {
                void ask()
            }
        },
        { debounce: 40, maxWait: 400, immediate: true },
    )

    const heightAt = (id: string, at: number) => heightOn(read.value?.times ?? [], read.value?.heights[id], at)
    const levelOf = (id: string) => heightAt(id, beat.value)

    // A loop that is walked: its way, and at which of its links one stands.
    const walked = ref<{ path: string[]; step: number } | null>(null)
    const story = ref<string[]>([])
    const loops = computed<MapLoop[]>(() => read.value?.loops ?? [])
    const keyOf = (path: string[]) => {
        const least = path.indexOf([...path].sort()[0] ?? '')
        return [...path.slice(least), ...path.slice(0, least)].join(' ')
    }
    const loop = computed(() => (walked.value ? loops.value.find((l) => keyOf(l.path) === keyOf(walked.value?.path ?? [])) : undefined))
    const loopNames = computed(() => new Map(Object.values(model.model.loopNames ?? {}).map((n) => [keyOf(n.path), n])))
    const calledOf = (path: string[]) => loopNames.value.get(keyOf(path))?.name ?? ''
    function call(path: string[], name: string) {
        const known = loopNames.value.get(keyOf(path))
        return name || !known
            ? model.attempt({ kind: 'put', part: 'loopNames', id: known?.id ?? newId(), fields: { name, path } })
            : model.attempt({ kind: 'drop', part: 'loopNames', id: known.id })
    }
    const linksOf = (path: string[]) => path.map((id, i) => between.value.get(`${id}>${path[(i + 1) % path.length]}`))
    /** The number of its step on the walked loop, by id of the link. */
    const steps = computed(() => new Map(linksOf(walked.value?.path ?? []).map((l, i) => [l?.id ?? '', i + 1])))
    async function walk(path: string[] | null) {
        walked.value = path ? { path, step: 1 } : null
        if (path) {
            select()
        }
        await tell()
    }
    async function tell() {
        const path = walked.value?.path
        if (!path) {
            story.value = []
            return
        }
        try {
            const told = await api.story(model.id, path)
            if (walked.value?.path === path) {
                story.value = told
            }
        } catch {
            // One of its links has gone.
            walked.value = null
            story.value = []
        }
    }
    function stepTo(step: number) {
        if (walked.value) {
            const count = walked.value.path.length
            walked.value = { ...walked.value, step: ((step - 1 + count) % count) + 1 }
        }
    }
    watch(
        () => model.revision,
        () => {
            if (walked.value) {
                void tell()
            }
        },
    )

    // Acts on the document.
    function say(from: string, to: string, said: { sign?: '+' | '-' | '?'; late?: boolean }) {
        return model.attempt({ kind: 'say', id: laterId(), from, fromId: newId(), to, toId: newId(), ...(to ? said : {}) })
    }
    function change(id: string, fields: Partial<CausalLinkRecord>) {
        return model.attempt({ kind: 'put', part: 'causalLinks', id, fields })
    }
    function dropLink(id: string) {
        const gone = linkOf.value.get(id)
        return model.attempt({ kind: 'drop', part: 'causalLinks', id }).then((done) => {
            if (done && gone) {
                picked.value = ''
                notices.say(`Removed the link from “${nameOf(gone.from)}” to “${nameOf(gone.to)}”.`, {
                    words: 'Undo',
                    run: () => void model.step('undo'),
                })
            }
        })
    }
    function form(id: string, kind: keyof typeof FORMS) {
        return model.attempt({ kind: 'form', id, element: kind })
    }
    function word(id: string, fields: Partial<WordingRecord>) {
        const known = wordings.value.get(id)
        return model.attempt({ kind: 'put', part: 'wordings', id: known?.id ?? newId(), fields: { of: id, ...fields } })
    }

    return {
        links,
        linkOf,
        between,
        factors,
        nameOf,
        spots,
        hulls,
        wordings,
        picked,
        link,
        factor,
        pick,
        select,
        pushes,
        starts,
        begin,
        isPlayed,
        independent,
        calledOf,
        call,
        beats,
        beat,
        playing,
        handOn,
        push,
        hold,
        letGo,
        calm,
        read,
        reading,
        milliseconds,
        refusal,
        heightAt,
        levelOf,
        walked,
        story,
        loops,
        loop,
        keyOf,
        steps,
        walk,
        stepTo,
        say,
        change,
        dropLink,
        form,
        word,
    }
})
