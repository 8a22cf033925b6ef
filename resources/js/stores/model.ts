import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { api, ConnectionError, ProblemError } from '@/api/client'
import type { Delta, Edit, Model, News, Steps, Thing } from '@/api/types'
import { useNotices } from './notices'

interface Pending { id: string, edit: Edit }

export interface Clash { sentence: string, edit: Edit, theirs: Thing | null }

/** This browser window, so that it is not told of its own edits. */
const WINDOW = crypto.randomUUID().slice(0, 13)

const MOST_TRIPS = 5

const EMPTY: Model = {
    name: '', note: '', sheets: [], tracks: [], order: [], elements: {}, placements: {}, links: [], problems: [], endWhen: '', sameUnits: [], waiting: {},
    time: { start: 0, end: 100, step: 0.25, unit: 'year', method: 'rk4', saveEvery: null, steps: 400 , startDate: null, tolerance: 1e-6, absoluteTolerance: 1e-9 },
}

/**
 * The open model. Edits wait in a list that survives a reload until the server has them on disk; sending one twice
 * does no harm, for each has its own id.
 */
export const useModel = defineStore('model', () => {
    const notices = useNotices()
    const id = ref('')
    const study = ref('')
    const revision = ref(-1)
    const model = shallowRef<Model>(EMPTY)
    const steps = ref<Steps>({})
    const pending = ref<Pending[]>([])
    const offline = ref(false)
    const loaded = ref(false)
    const clash = ref<Clash | null>(null)
    const waiters = new Map<string, { resolve: () => void, reject: (e: unknown) => void }>()
    let sending = false
    let trips = 0

    const things = computed(() => model.value.order.map((key) => model.value.elements[key]).filter((t): t is Thing => t !== undefined))
    const hindrances = computed(() => model.value.problems.filter((p) => p.severity !== 'remark'))
    const remarks = computed(() => model.value.problems.filter((p) => p.severity === 'remark'))
    const idByName = computed(() => new Map(things.value.map((t) => [t.name.toLowerCase(), t.id])))

    const store = () => `merry-orbit:pending:${id.value}`

    function remember() {
        try {
            if (pending.value.length) {
                localStorage.setItem(store(), JSON.stringify(pending.value))
            } else {
                localStorage.removeItem(store())
            }
        } catch {
            // Without storage edits still wait in the page.
        }
    }

    async function open(modelId: string) {
        id.value = modelId
        loaded.value = false
        const answer = await api.model(modelId)
        study.value = answer.study
        revision.value = answer.revision
        model.value = answer.model
        steps.value = { undo: answer.undo, redo: answer.redo }
        try {
            pending.value = JSON.parse(localStorage.getItem(store()) ?? '[]') as Pending[]
        } catch {
            pending.value = []
        }
        loaded.value = true
        void flush()
    }

    function merged<T>(was: Record<string, T>, changes: Record<string, T | null> | undefined): Record<string, T> {
        const now = { ...was }
        for (const [key, value] of Object.entries(changes ?? {})) {
            if (value === null) {
                Reflect.deleteProperty(now, key)
            } else {
                now[key] = value
            }
        }
        return now
    }

    function change({ elements, placements, ...parts }: Delta) {
        model.value = {
            ...model.value, ...parts,
            elements: elements ? merged(model.value.elements, elements) : model.value.elements,
            placements: placements ? merged(model.value.placements, placements) : model.value.placements,
        }
    }

    async function take(news: News) {
        if (news.since > revision.value) {
            // Something in between is not known here.
            const answer = await api.model(id.value)
            revision.value = answer.revision
            model.value = answer.model
            steps.value = { undo: answer.undo, redo: answer.redo }
            return
        }
        if (news.revision <= revision.value) {
            return
        }
        const known = revision.value
        revision.value = news.revision
        steps.value = { undo: news.undo, redo: news.redo }
        if (news.changed) {
            change(news.changed)
        }
        const elsewhere = news.done.filter((d) => d.revision > known && d.window !== WINDOW)
        if (elsewhere.length) {
            notices.say(`In another window: ${elsewhere.map((d) => d.words).slice(-3).join(' · ')}`)
        }
    }

    async function flush() {
        if (sending) {
            return
        }
        sending = true
        while (pending.value.length) {
            const item = pending.value[0] as Pending
            try {
                const news = await api.edit(id.value, revision.value, WINDOW, [item])
                offline.value = false
                trips = 0
                pending.value = pending.value.slice(1)
                remember()
                await take(news)
                waiters.get(item.id)?.resolve()
            } catch (error) {
                // An edit waits while nobody answers; one that the server trips over is tried a few times more.
                const again = error instanceof ConnectionError || (error instanceof ProblemError && error.status >= 500 && ++trips < MOST_TRIPS)
                if (again) {
                    offline.value = error instanceof ConnectionError
                    window.setTimeout(() => { void flush() }, 1500)
                    break
                }
                trips = 0
                pending.value = pending.value.slice(1)
                remember()
                if (error instanceof ProblemError && error.status === 409) {
                    clash.value = { sentence: error.message, edit: item.edit, theirs: error.details.theirs as Thing | null }
                } else if (!waiters.has(item.id)) {
                    notices.trouble((error as Error).message)
                }
                waiters.get(item.id)?.reject(error)
            }
            waiters.delete(item.id)
        }
        sending = false
    }

    /** Changes the model; settles once the change is on disk, or was refused with a sentence. */
    function edit(body: Edit): Promise<void> {
        const item = { id: crypto.randomUUID(), edit: body }
        pending.value = [...pending.value, item]
        remember()
        const promise = new Promise<void>((resolve, reject) => { waiters.set(item.id, { resolve, reject }) })
        void flush()
        return promise
    }

    /** Changes the model and says so if it is refused. */
    function attempt(body: Edit): Promise<boolean> {
        return edit(body).then(() => true, (error: unknown) => {
            if (!(error instanceof ProblemError && error.status === 409)) {
                notices.trouble((error as Error).message)
            }
            return false
        })
    }

    /** Shows a move at once; the server hears of it by the edit. */
    function place(placements: Model['placements']) {
        change({ placements })
        return attempt({ kind: 'move', placements })
    }

    let stepping = Promise.resolve()
    /** Steps wait for each other: holding the keys down goes back one by one. */
    function step(way: 'undo' | 'redo'): Promise<void> {
        stepping = stepping.then(async () => {
            try {
                await take(await api.step(id.value, way, revision.value, WINDOW))
                offline.value = false
            } catch (error) {
                notices.trouble((error as Error).message)
            }
        })
        return stepping
    }

    async function listen() {
        if (!loaded.value || document.hidden || sending) {
            return
        }
        try {
            const news = await api.news(id.value, revision.value)
            offline.value = false
            if (news.revision > revision.value) {
                await take(news)
            }
            if (pending.value.length) {
                void flush()
            }
        } catch (error) {
            offline.value = error instanceof ConnectionError
        }
    }

    /** Deletes things and offers for ten seconds to bring them back. */
    async function remove(ids: string[]) {
        const names = ids.map((i) => model.value.elements[i]?.name).filter((n): n is string => n !== undefined)
        const before = hindrances.value.length
        if (!names.length || !await attempt({ kind: 'delete', ids })) {
            return
        }
        const missing = hindrances.value.length - before
        const what = names.length === 1 ? `“${names[0]}”` : `${names.length} things`
        notices.say(`Deleted ${what}.${missing > 0 ? ` ${missing === 1 ? 'One formula misses' : `${missing} formulas miss`} it now.` : ''}`, { words: 'Undo', run: () => { void step('undo') } })
    }

    /** Brings in what the other window did, and then, if wished, writes ours over it. */
    async function settleClash(mine: boolean) {
        const was = clash.value
        clash.value = null
        try {
            await take(await api.news(id.value, revision.value))
        } catch (error) {
            notices.trouble((error as Error).message)
            clash.value = was
            return
        }
        if (mine && was) {
            await attempt(was.edit)
        }
    }

    return {
        id, study, revision, model, steps, pending, offline, loaded, clash, things, hindrances, remarks, idByName,
        open, edit, attempt, place, step, listen, remove, settleClash,
    }
})
