import { studyStore } from './studyStore'
import { ref, shallowRef } from 'vue'
import { api, ConnectionError, ProblemError } from '@/api/client'
import type { Edit, Model, News, RunRequest, Steps, Thing } from '@/api/types'
import { changed, EMPTY } from './changed'
import { foresee } from './foresee'
import { modelViews } from './modelViews'
import { useNotices } from './notices'
import { changeAside, dropWaiting, keepWaiting, readAside, takeOver, waitingHere, WINDOW, type Aside, type Pending } from './waiting'

type RunsAlong = (ask: (then?: RunRequest) => Promise<News>) => Promise<News>

export interface Clash {
    sentence: string
    edit: Edit
    theirs: Thing | null
}

/** After so many tries it is offered to set an edit aside that the server trips over; it is never done unasked. */
const MOST_TRIPS = 5
/** Edits after which a run may give other numbers: one is wished for together with them. */
const ACTS = new Set<string>(['add', 'formula', 'attach', 'delete', 'stock', 'flow', 'curve', 'end', 'become', 'time', 'paste', 'together'])
/** Between two tries, in milliseconds: first, and at most. */
const PAUSE = 1500
const LONGEST_PAUSE = 30_000
/** Answers after which an edit goes on waiting: the session is gone or another's, too many requests; and all above 500. */
const WAITS = new Set([401, 403, 419, 429])

/**
 * So many things make a model large: what changed by an edit is asked for after its run; it
 * is run for what is in sight first, and links are asked about later.
 */
export const LARGE = 400

/**
 * The open model. Edits wait in a list that survives a reload until the server has them on disk; sending one twice
 * does no harm, for each has its own id.
 */
export const useModel = studyStore('model', () => {
    const notices = useNotices()
    const id = ref('')
    const study = ref('')
    /** Who is signed in, as the server calls them: edits are sent as theirs and as nobody else's. */
    const user = ref(0)
    const revision = ref(-1)
    const model = shallowRef<Model>(EMPTY)
    const steps = ref<Steps>({})
    const pending = ref<Pending[]>([])
    const offline = ref(false)
    /** Why the server cannot take edits at the moment. */
    const held = ref('')
    const stuck = ref(false)
    const aside = ref<Aside[]>([])
    /** The newest revision that is known to be on disk, before what changed with it is. */
    const written = ref(-1)
    const loaded = ref(false)
    const clash = ref<Clash | null>(null)
    const waiters = new Map<string, { resolve: () => void; reject: (e: unknown) => void }>()
    let sending = false
    let along: RunsAlong | null = null
    let trips = 0
    /** The next try; one at a time, however many edits wait. */
    let nextTry = 0

    /** Nothing is in the way any more. */
    function released() {
        trips = 0
        held.value = ''
        stuck.value = false
    }

    const views = modelViews(model)
    const { blockers } = views

    /** Its window is gone. What waits stays in its list, and is sent by the next window that opens the model. */
    function close() {
        id.value = ''
        loaded.value = false
        pending.value = []
        window.clearTimeout(nextTry)
    }

    const remember = () => {
        keepWaiting(id.value, user.value, pending.value)
    }
    const putAside = (one: Aside) => {
        aside.value = changeAside(id.value, user.value, aside.value, { add: one })
    }
    const throwAway = (one: Aside) => {
        aside.value = changeAside(id.value, user.value, aside.value, { remove: one.id })
    }

    /** Sends what windows that are gone have left behind. */
    async function lookAfter() {
        const [model, person] = [id.value, user.value]
        const found = await takeOver(model, person)
        if (found.length && id.value === model) {
            const known = new Set(pending.value.map((item) => item.id))
            pending.value = [...found.filter((item) => !known.has(item.id)), ...pending.value]
            remember()
        }
    }

    /** Takes the first edit that waits out of the line, so that those behind it can go on. */
    function setAside() {
        const [first] = pending.value
        if (first?.edit) {
            putAside({ id: first.id, edit: first.edit, sentence: held.value })
        }
        if (first) {
            pending.value = pending.value.slice(1)
            remember()
            waiters
                .get(first.id)
                ?.reject(
                    new ProblemError(
                        500,
                        'aside',
                        first.edit ? 'It is set aside, on the card of the study.' : `This ${first.step} is not done any more.`,
                        {},
                    ),
                )
            waiters.delete(first.id)
        }
        released()
        void flush()
    }
    /** What is refused once more stays where it was. */
    async function sendAgain(one: Aside): Promise<boolean> {
        const done = await attempt(one.edit)
        if (done) {
            throwAway(one)
        }
        return done
    }

    /** Who makes the runs says how an edit is sent together with a wish for one. */
    function runAlong(how: RunsAlong) {
        along = how
    }

    async function open(modelId: string) {
        id.value = modelId
        loaded.value = false
        released()
        const answer = await api.model(modelId)
        study.value = answer.study
        revision.value = answer.revision
        model.value = answer.model
        steps.value = { undo: answer.undo, redo: answer.redo }
        user.value = answer.user
        pending.value = waitingHere(modelId, answer.user)
        await lookAfter()
        aside.value = readAside(modelId, answer.user)
        loaded.value = true
        void flush()
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
            model.value = changed(model.value, news.changed)
        }
        const elsewhere = news.done.filter((d) => d.revision > known && d.window !== WINDOW)
        if (elsewhere.length) {
            notices.say(
                `In another window: ${elsewhere
                    .map((d) => d.words)
                    .slice(-3)
                    .join(' · ')}`,
            )
        }
    }

    const foreseen = new Set<string>()
    /** Shows what edits that wait will do, and lets go of who waits for them: work goes on without the server. */
    function showWaiting() {
        for (const item of pending.value) {
            const delta = item.edit && !foreseen.has(item.id) ? foresee(model.value, item.edit) : undefined
            if (delta) {
                foreseen.add(item.id)
                model.value = changed(model.value, delta)
                waiters.get(item.id)?.resolve()
                waiters.delete(item.id)
            }
        }
    }

    /** What was shown ahead and then refused is taken back by asking how the model really is. */
    async function correct() {
        const answer = await api.model(id.value)
        revision.value = answer.revision
        model.value = answer.model
    }

    /** An edit is done with, one way or the other; perhaps another model has been opened meanwhile. */
    function doneWith(item: Pending, of: string) {
        if (id.value === of) {
            pending.value = pending.value.filter((p) => p.id !== item.id)
            remember()
        } else {
            dropWaiting(of, user.value, item.id)
        }
    }

    async function sent(item: Pending, of: string) {
        const from = { base: revision.value, window: WINDOW, user: user.value }
        // Of a large model what changed is asked for afterwards.
        const changed = model.value.order.length <= LARGE
        const ask = (then?: RunRequest) => {
            const beside = then ? { then, changed } : {}
            return item.step
                ? api.step(of, item.step, from, item.id, beside)
                : api.edit(of, from, [{ id: item.id, edit: item.edit as Edit }], beside)
        }
        const runs = item.step !== undefined || ACTS.has(item.edit?.kind ?? '')
        let news = await (along && runs ? along(ask) : ask())
        if (news.quick && id.value === of) {
            // The plots come first. Where there was no run, who makes runs hears of the edit here.
            written.value = news.revision
            news = await api.news(of, revision.value)
        }
        return news
    }

    /** It goes on waiting while nobody answers or the server cannot take it; only an answer about the edit itself ends that. */
    function waitFurther(error: unknown): boolean {
        const tripped = error instanceof ProblemError && (error.status >= 500 || WAITS.has(error.status))
        if (!(error instanceof ConnectionError) && !tripped) {
            return false
        }
        offline.value = !tripped
        held.value = tripped ? (error as ProblemError).message : ''
        trips += tripped ? 1 : 0
        stuck.value = trips >= MOST_TRIPS
        showWaiting()
        window.clearTimeout(nextTry)
        nextTry = window.setTimeout(
            () => {
                void flush()
            },
            tripped ? Math.min(LONGEST_PAUSE, PAUSE * 2 ** Math.max(0, trips - 3)) : PAUSE,
        )
        return true
    }

    async function refuse(item: Pending, error: Error) {
        if (error instanceof ProblemError && error.status === 409 && item.edit) {
            clash.value = { sentence: error.message, edit: item.edit, theirs: error.details.theirs as Thing | null }
        } else if (!waiters.has(item.id)) {
            // Nobody is there any more who would show it where it was typed.
            if (item.edit) {
                putAside({ id: item.id, edit: item.edit, sentence: error.message })
            }
            notices.trouble(`${error.message} The edit is kept on the card of the study.`)
        }
        waiters.get(item.id)?.reject(error)
        if (foreseen.delete(item.id)) {
            await correct().catch(() => undefined)
        }
    }

    async function flush() {
        if (sending) {
            return
        }
        sending = true
        const of = id.value
        while (pending.value.length && id.value === of) {
            const item = pending.value[0] as Pending
            try {
                const news = await sent(item, of)
                doneWith(item, of)
                if (id.value === of) {
                    offline.value = false
                    released()
                    await take(news)
                }
                waiters.get(item.id)?.resolve()
            } catch (error) {
                if (id.value !== of || waitFurther(error)) {
                    break
                }
                released()
                doneWith(item, of)
                await refuse(item, error as Error)
            }
            waiters.delete(item.id)
        }
        sending = false
        if (id.value !== of) {
            void flush()
        }
    }

    /** Changes the model; settles once the change is on disk, or was refused with a sentence. */
    function edit(body: Edit): Promise<void> {
        return send({ id: crypto.randomUUID(), edit: body })
    }

    function send(item: Pending): Promise<void> {
        pending.value = [...pending.value, item]
        remember()
        const promise = new Promise<void>((resolve, reject) => {
            waiters.set(item.id, { resolve, reject })
        })
        void flush()
        return promise
    }

    /** Changes the model and says so if it is refused. */
    function attempt(body: Edit): Promise<boolean> {
        return edit(body).then(
            () => true,
            (error: unknown) => {
                if (!(error instanceof ProblemError && error.status === 409)) {
                    notices.trouble((error as Error).message)
                }
                return false
            },
        )
    }

    /** Makes several edits as one. */
    function together(edits: Edit[], words: string): Promise<boolean> {
        return edits.length === 1 ? attempt(edits[0] as Edit) : attempt({ kind: 'together', edits, words })
    }

    /** Shows a move at once, of things and of echoes; the server hears of it by the edit. */
    function place(places: Model['placements']) {
        const placements: Model['placements'] = {}
        const echoes: Model['echoes'] = {}
        for (const [key, placement] of Object.entries(places)) {
            const echo = model.value.echoes[key]
            if (echo) {
                echoes[key] = { ...echo, at: placement.at }
            } else {
                placements[key] = placement
            }
        }
        model.value = changed(model.value, { placements, echoes })
        return attempt({ kind: 'move', placements: places })
    }

    /** Steps wait behind the edits before them: holding the keys down goes back one by one. */
    function step(way: 'undo' | 'redo'): Promise<void> {
        return send({ id: crypto.randomUUID(), step: way }).catch((error: unknown) => {
            notices.trouble((error as Error).message)
        })
    }

    /** Brings back an old version, or some things of it. */
    async function restore(old: number, ids?: string[]) {
        try {
            await take(await api.restore(id.value, { base: revision.value, window: WINDOW, user: user.value }, old, ids))
            return true
        } catch (error) {
            notices.trouble((error as Error).message)
            return false
        }
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
            await lookAfter()
            if (pending.value.length) {
                void flush()
            }
        } catch (error) {
            offline.value = error instanceof ConnectionError
        }
    }

    /** Deletes things and offers for ten seconds to bring them back. */
    async function remove(ids: string[]) {
        const names = ids
            .map(
                (i) =>
                    model.value.elements[i]?.name ??
                    (model.value.echoes[i] ? `the echo of ${model.value.elements[model.value.echoes[i].element]?.name}` : undefined),
            )
            .filter((n): n is string => n !== undefined)
        const before = blockers.value.length
        if (!names.length || !(await attempt({ kind: 'delete', ids }))) {
            return
        }
        const missing = blockers.value.length - before
        const what = names.length === 1 ? `“${names[0]}”` : `${names.length} things`
        notices.say(
            `Deleted ${what}.${missing > 0 ? ` ${missing === 1 ? 'One formula misses' : `${missing} formulas miss`} it now.` : ''}`,
            {
                words: 'Undo',
                run: () => {
                    void step('undo')
                },
            },
        )
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
        ...views,
        id,
        study,
        user,
        revision,
        written,
        model,
        steps,
        pending,
        offline,
        held,
        stuck,
        aside,
        loaded,
        clash,
        open,
        close,
        runAlong,
        setAside,
        sendAgain,
        throwAway,
        edit,
        attempt,
        together,
        place,
        step,
        restore,
        listen,
        remove,
        settleClash,
    }
})
