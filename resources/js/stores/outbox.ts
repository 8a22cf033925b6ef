import { ref, type Ref, type ShallowRef } from 'vue'
import { api, ConnectionError, ProblemError } from '@/api/client'
import type { Edit, Model, News, RunRequest, Thing } from '@/api/types'
import { changed } from './changed'
import { foresee } from './foresee'
import { useNotices } from './notices'
import { changeAside, dropWaiting, keepWaiting, readAside, takeOver, waitingHere, WINDOW, type Aside, type Pending } from './waiting'

type RunsAlong = (ask: (then?: RunRequest) => Promise<News>) => Promise<News>

export interface Clash {
    sentence: string
    edit: Edit
    theirs: Thing | null
}

/** The open model, as far as sending edits needs it. */
interface Open {
    id: Ref<string>
    /** Who is signed in, as the server calls them. */
    user: Ref<number>
    /** Whether they may change it at all. */
    mayEdit: Ref<boolean>
    revision: Ref<number>
    model: ShallowRef<Model>
    /** Takes what the server says has changed. */
    take: (news: News) => Promise<void>
}

/** After so many tries it is offered to set an edit aside that the server trips over; it is never done unasked. */
const MOST_TRIPS = 5
/** Edits after which a run may give other numbers: one is wished for together with them. */
const ACTS = new Set<string>([
    'add',
    'formula',
    'attach',
    'delete',
    'stock',
    'flow',
    'curve',
    'end',
    'become',
    'form',
    'time',
    'paste',
    'together',
    'dimensions',
    'values',
    'extent',
    'exceptions',
    'put',
    'drop',
])
/** Parts that no number depends on. */
const STILL = new Set<string>([
    'causalLinks',
    'wordings',
    'findings',
    'questions',
    'boundary',
    'modes',
    'pairs',
    'parked',
    'actions',
    'loopNames',
])
/** Said at once to who may not change the model. */
const READ_ONLY = 'This study is shared with you to read. To change it, take a copy on the page of all studies.'
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

/** The edits that wait for the server, in order: what was sent is on disk, what was not survives a reload. */
export function outbox({ id, user, mayEdit, revision, model, take }: Open) {
    const notices = useNotices()
    const pending = ref<Pending[]>([])
    const offline = ref(false)
    /** Why the server cannot take edits at the moment. */
    const held = ref('')
    const stuck = ref(false)
    const aside = ref<Aside[]>([])
    /** The newest revision that is known to be on disk, before what changed with it is. */
    const written = ref(-1)
    const clash = ref<Clash | null>(null)
    /** Whether one is on its way. */
    const sending = ref(false)
    const waiters = new Map<string, { resolve: () => void; reject: (e: unknown) => void }>()
    const foreseen = new Set<string>()
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

    /** Takes up what waits for the model that is opened. */
    async function begin() {
        pending.value = waitingHere(id.value, user.value)
        await lookAfter()
        aside.value = readAside(id.value, user.value)
    }

    /** What waits stays in its list, and is sent by the next window that opens the model. */
    function end() {
        pending.value = []
        window.clearTimeout(nextTry)
    }

    /** Who makes the runs says how an edit is sent together with a wish for one. */
    function runAlong(how: RunsAlong) {
        along = how
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
        const part = item.edit && 'part' in item.edit ? item.edit.part : ''
        const runs = item.step !== undefined || (ACTS.has(item.edit?.kind ?? '') && !STILL.has(part))
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
        // Who may not change the model any more is told so: waiting would not help.
        const tripped = error instanceof ProblemError && error.code !== 'may-not' && (error.status >= 500 || WAITS.has(error.status))
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
        if (sending.value) {
            return
        }
        sending.value = true
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
        sending.value = false
        if (id.value !== of) {
            void flush()
        }
    }

    /** Changes the model; settles once the change is on disk, or was refused with a sentence. */
    function edit(body: Edit): Promise<void> {
        return send({ id: crypto.randomUUID(), edit: body })
    }

    function send(item: Pending): Promise<void> {
        if (!mayEdit.value) {
            return Promise.reject(new ProblemError(403, 'may-not', READ_ONLY, {}))
        }
        pending.value = [...pending.value, item]
        remember()
        const promise = new Promise<void>((resolve, reject) => {
            waiters.set(item.id, { resolve, reject })
        })
        void flush()
        return promise
    }

    return {
        pending,
        offline,
        held,
        stuck,
        aside,
        written,
        clash,
        sending,
        begin,
        end,
        released,
        runAlong,
        lookAfter,
        setAside,
        throwAway,
        flush,
        edit,
        send,
    }
}
