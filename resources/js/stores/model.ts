import { until } from '@vueuse/core'
import { studyStore } from './studyStore'
import { computed, ref, shallowRef } from 'vue'
import { api, ConnectionError, ProblemError } from '@/api/client'
import type { May } from '@/api/people'
import type { Edit, Model, News, Steps, TimeSettings } from '@/api/types'
import { changed, EMPTY } from './changed'
import { modelViews } from './modelViews'
import { useNotices } from './notices'
import { outbox } from './outbox'
import { WINDOW, type Aside } from './waiting'

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
    /** What they may do with it. */
    const may = ref<May>('own')
    const mayEdit = computed(() => may.value === 'own' || may.value === 'edit')
    const mayComment = computed(() => may.value !== 'read')
    /** Others who have it before them. */
    const here = shallowRef<NonNullable<News['here']>>([])
    /** Changes whenever somebody says something about it. */
    const said = ref('')
    /** What is selected in this window, for others to see; told by who knows. */
    let lookedAt = ''
    const revision = ref(-1)
    const model = shallowRef<Model>(EMPTY)
    const steps = ref<Steps>({})
    const loaded = ref(false)

    const views = modelViews(model)
    const { blockers } = views
    const box = outbox({ id, user, mayEdit, revision, model, take })
    const { clash, offline, pending } = box

    /** Its window is gone. */
    function close() {
        id.value = ''
        loaded.value = false
        box.end()
    }

    /** What is refused once more stays where it was. */
    async function sendAgain(one: Aside): Promise<boolean> {
        const done = await attempt(one.edit)
        if (done) {
            box.throwAway(one)
        }
        return done
    }

    async function open(modelId: string) {
        id.value = modelId
        loaded.value = false
        box.released()
        const answer = await api.model(modelId)
        study.value = answer.study
        revision.value = answer.revision
        model.value = answer.model
        steps.value = { undo: answer.undo, redo: answer.redo }
        user.value = answer.user
        may.value = answer.may
        await box.begin()
        loaded.value = true
        void box.flush()
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
        for (const by of new Set(elsewhere.map((d) => d.by))) {
            const done = elsewhere.filter((d) => d.by === by).map((d) => d.words)
            notices.say(`${by ?? 'In another window'}: ${done.slice(-3).join(' · ')}`)
        }
    }

    /** Changes the model and says so if it is refused. */
    function attempt(body: Edit): Promise<boolean> {
        return box.edit(body).then(
            () => true,
            (error: unknown) => {
                if (!(error instanceof ProblemError && error.status === 409)) {
                    notices.trouble((error as Error).message)
                }
                return false
            },
        )
    }

    /** Done when the server knows what was changed here: what it begins then is of the model as it is seen. At once where it is away. */
    async function sent(): Promise<void> {
        await until(() => !pending.value.length || offline.value || clash.value !== null).toBe(true)
    }

    /** Changes some of the settings of time; the others stay. */
    function setTime(fields: Partial<TimeSettings>): Promise<boolean> {
        const { saveEvery, startDate, ...rest } = { ...model.value.time, ...fields }
        return attempt({
            kind: 'time',
            ...rest,
            ...(saveEvery === null ? {} : { saveEvery }),
            ...(startDate === null ? {} : { startDate }),
        })
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
        return box.send({ id: crypto.randomUUID(), step: way }).catch((error: unknown) => {
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
        if (!loaded.value || document.hidden || box.sending.value) {
            return
        }
        try {
            const news = await api.news(id.value, revision.value, { window: WINDOW, thing: lookedAt })
            offline.value = false
            here.value = news.here ?? []
            said.value = news.said ?? ''
            may.value = news.may ?? may.value
            if (news.revision > revision.value) {
                await take(news)
            }
            await box.lookAfter()
            if (pending.value.length) {
                void box.flush()
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
        written: box.written,
        may,
        mayEdit,
        mayComment,
        here,
        said,
        lookAt: (thing: string) => {
            lookedAt = thing
        },
        model,
        steps,
        pending,
        sent,
        offline,
        held: box.held,
        stuck: box.stuck,
        aside: box.aside,
        loaded,
        clash,
        open,
        close,
        runAlong: box.runAlong,
        setAside: box.setAside,
        sendAgain,
        throwAway: box.throwAway,
        edit: box.edit,
        attempt,
        together,
        setTime,
        place,
        step,
        restore,
        listen,
        remove,
        settleClash,
    }
})
