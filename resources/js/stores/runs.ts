import { studyStore } from './studyStore'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, ConnectionError, ProblemError, type Run } from '@/api/client'
import type { Grip, News, RunRef, RunRequest, Setting } from '@/api/types'
import { useLook } from './look'
import { useModel } from './model'
import { LARGE } from './outbox'
import { runValues } from './runValues'
import { useView } from './view'
import { without } from '@/ui/records'

const REST = 1500
const SHORT_REST = 120

/** More moments than this are not told apart on a screen; beyond, each column comes with its extremes. */
export const POINTS = 2400

/** So many columns along dimensions are asked for at most. */
const MOST_KEYS = 4000

/** So many milliseconds later the plots are painted. */
const AFTER = 24

/** A run that takes longer is followed, and can be stopped. */
const LONG = 500

/** The run that the window shows. It follows every edit, dial and hand; an answer to an older question is never shown. */
export const useRuns = studyStore('runs', () => {
    const model = useModel()
    const view = useView()
    const look = useLook()
    const shown = shallowRef<Run | null>(null)
    /** The same for sheet and outline: while a dial is held they follow a moment later, for the plots come first. */
    const sheet = shallowRef<Run | null>(null)
    /** The baseline, to compare with while something is tried. */
    const before = shallowRef<Run | null>(null)
    /** Dials that are held at this moment. */
    const dials = ref<Record<string, number>>({})
    /** What is tried in this window and belongs to nobody yet: dials that were left somewhere, variables taken by hand. */
    const present = ref<{ parameters: Record<string, number>; grips: Record<string, Grip> }>({ parameters: {}, grips: {} })
    const running = ref(false)
    const refusal = ref('')
    /** How far a long run has come, and since when it goes on. */
    const progress = ref<{ token: string; share: number; began: number } | null>(null)
    /** Columns that something besides sheet and tracks shows. */
    const needs = ref<Record<string, string[]>>({})
    /** Columns along dimensions that some part of the page tells. */
    const columns = ref<Record<string, string[]>>({})
    let again = false
    /** The revision that the run under way, or the one shown, is at least of. */
    let asked = -1

    const setting = computed<Setting>(() => {
        const parameters = { ...present.value.parameters, ...dials.value }
        return {
            ...(Object.keys(parameters).length ? { parameters } : {}),
            ...(Object.keys(present.value.grips).length ? { grips: present.value.grips } : {}),
        }
    })
    const tried = computed(() => Object.keys(setting.value).length > 0)
    /** Whether a handle of a grip is being moved. */
    const handling = ref(false)
    const held = computed(() => handling.value || Object.keys(dials.value).length > 0)
    /** Names the run that is shown, for whoever asks about it. */
    const ref_ = computed<RunRef>(() => (tried.value ? { setting: setting.value } : {}))

    let following = 0
    watch(
        shown,
        (now) => {
            window.clearTimeout(following)
            if (held.value && sheet.value) {
                following = window.setTimeout(() => {
                    sheet.value = shown.value
                }, AFTER)
            } else {
                sheet.value = now
            }
        },
        { flush: 'sync' },
    )

    const place = () => `merry-orbit:present:${model.id}`
    /** What was tried is there again after a reload. */
    function recall() {
        try {
            const kept = JSON.parse(localStorage.getItem(place()) ?? '{}') as Partial<typeof present.value>
            const known = <T>(map: Record<string, T> | undefined) =>
                Object.fromEntries(Object.entries(map ?? {}).filter(([id]) => model.model.elements[look.ownerOf(id)]))
            present.value = { parameters: known(kept.parameters), grips: known(kept.grips) }
        } catch {
            present.value = { parameters: {}, grips: {} }
        }
    }

    function changePresent(change: Partial<typeof present.value>) {
        if (!tried.value) {
            before.value = shown.value
        }
        present.value = { ...present.value, ...change }
        try {
            if (tried.value) {
                localStorage.setItem(place(), JSON.stringify(present.value))
            } else {
                localStorage.removeItem(place())
            }
        } catch {
            // Without storage it lasts as long as the page.
        }
        void refresh()
    }

    const tracked = computed(() => {
        const chosen = model.model.tracks.flatMap((t) => t.of)
        const plots = Object.values(model.model.plots)
            .filter((p) => p.id === view.plot || p.pin?.sheet === view.sheet)
            .flatMap((p) => p.of)
        const stocks = chosen.length
            ? []
            : model.things
                  .filter((t) => t.kind === 'stock')
                  .slice(0, 6)
                  .map((t) => t.id)
        return [...new Set([...chosen, ...plots, ...stocks, ...view.selectedThings, ...Object.values(needs.value).flat()])]
    })

    /**
     * While a dial moves only what is plotted; of a large model only what is in sight; all the rest follows when nothing else
     * is to be done.
     */
    function wanted(): string[] | undefined {
        if (held.value) {
            const small = model.things
                .filter((t) => model.model.placements[t.id]?.plot && model.sheetOf(t.id) === view.sheet)
                .map((t) => t.id)
            return [...new Set([...tracked.value, ...small])]
        }
        if (model.things.length < LARGE) {
            return undefined
        }
        const seen = model.things.filter((t) => model.sheetOf(t.id) === view.sheet).map((t) => t.id)
        const echoed = Object.values(model.model.echoes)
            .filter((e) => e.sheet === view.sheet)
            .map((e) => e.element)
        const stocks = model.things
            .filter((t) => t.kind === 'stock')
            .slice(0, 160)
            .map((t) => t.id)
        return [...new Set([...seen, ...echoed, ...stocks, ...tracked.value])]
    }

    let filling = 0
    function fillLater() {
        window.clearTimeout(filling)
        filling = window.setTimeout(
            () => {
                const run = shown.value
                if (!run || run.columns.length === 0 || isFull(run) || running.value || held.value) {
                    return
                }
                void api.run(model.id, { run: ref_.value, points: POINTS, at: view.playhead, ...along() }).then(
                    (whole) => {
                        // Only what belongs to the same revision fills the gaps.
                        if (shown.value === run && whole.revision === run.revision) {
                            shown.value = whole
                        }
                    },
                    () => undefined,
                )
            },
            model.things.length < LARGE ? SHORT_REST : REST,
        )
    }
    const isFull = (run: Run) => run.whole || (run.coarse && Object.keys(run.now).length === 0)

    /** Follows a run that takes its time. */
    async function followed<T>(ask: (token: string) => Promise<T>): Promise<T> {
        const token = crypto.randomUUID()
        const began = performance.now()
        let timer = window.setTimeout(function look() {
            void api.progress(model.id, token).then(
                (share) => {
                    if (timer) {
                        progress.value = { token, share: share ?? progress.value?.share ?? 0, began }
                        timer = window.setTimeout(look, 300)
                    }
                },
                () => undefined,
            )
        }, LONG)
        try {
            return await ask(token)
        } finally {
            window.clearTimeout(timer)
            timer = 0
            progress.value = null
        }
    }

    const made = (wish: RunRequest) => followed((token) => api.run(model.id, { ...wish, token }))

    function show(run: Run) {
        shown.value = run
        refusal.value = ''
    }

    /** Columns of elements, and of gatherings over them, for what is shown of things along dimensions. */
    function along(only?: string[]): { along?: string[] } {
        const shaped = look.keysFor(only ?? Object.keys(look.extended))
        const keys = [...new Set([...Object.values(columns.value).flat(), ...shaped])].slice(0, MOST_KEYS)
        return keys.length ? { along: keys } : {}
    }

    function wish(): RunRequest {
        const only = wanted()
        return { run: ref_.value, remember: !held.value, points: POINTS, at: view.playhead, ...(only ? { only } : {}), ...along(only) }
    }

    /**
     * Sends an edit with a wish for the run, so that the model is read only once; not while something is tried, which needs more
     * than one.
     */
    async function sent(ask: (then?: RunRequest) => Promise<News>): Promise<News> {
        if (running.value || tried.value || (shown.value?.milliseconds ?? 0) > LONG) {
            return ask()
        }
        running.value = true
        try {
            const news = await followed((token) => ask({ ...wish(), token }))
            if (news.run) {
                asked = Math.max(asked, news.revision)
                show(news.run)
            }
            return news
        } finally {
            running.value = false
            if (again) {
                void refresh()
            } else {
                fillLater()
            }
        }
    }
    model.runAlong(sent)

    async function refresh() {
        if (running.value) {
            again = true
            return
        }
        running.value = true
        do {
            again = false
            asked = Math.max(asked, model.revision, model.written)
            const steady = !held.value
            const asking = wish()
            try {
                const run = await made(asking)
                show(run)
                if (!tried.value) {
                    before.value = null
                } else if (steady && before.value?.revision !== run.revision) {
                    before.value = await made({
                        points: POINTS,
                        ...(asking.only ? { only: asking.only } : {}),
                        ...(asking.along ? { along: asking.along } : {}),
                    })
                }
            } catch (error) {
                if (error instanceof ProblemError) {
                    refusal.value = error.message
                } else if (error instanceof ConnectionError) {
                    window.setTimeout(() => {
                        void refresh()
                    }, 2000)
                }
            }
            // `again` is set by calls that came while this one waited.
        } while (again as boolean)
        running.value = false
        fillLater()
    }

    /** Stops a long run; what it has is shown. */
    function stop() {
        if (progress.value) {
            void api.stopRun(model.id, progress.value.token).catch(() => undefined)
        }
    }

    /** Runs what is newer than the run that is shown or under way. */
    function follow(force: boolean) {
        if (force || asked < Math.max(model.revision, model.written)) {
            void refresh()
        }
    }
    watch(
        () => model.written,
        () => {
            follow(false)
        },
    )
    watch(tracked, (ids) => {
        if (shown.value && !running.value && ids.some((id) => !known(id))) {
            void refresh()
        }
    })
    watch(
        () => look.keysFor(tracked.value).join(' '),
        (keys) => {
            if (shown.value && keys && keys.split(' ').some((key) => !hasColumn(key))) {
                void refresh()
            }
        },
    )
    watch(
        () => view.look,
        () => {
            void refresh()
        },
    )

    function turn(id: string, value: number) {
        if (!tried.value) {
            before.value = shown.value
        }
        dials.value = { ...dials.value, [id]: value }
        void refresh()
    }

    function release(id: string) {
        dials.value = without(dials.value, id)
    }

    /** Leaves a dial where it is, without changing the model. */
    function leave(id: string, value: number | undefined) {
        release(id)
        const rest = without(present.value.parameters, id)
        changePresent({ parameters: value === undefined ? rest : { ...rest, [id]: value } })
    }

    function grip(id: string, how: Grip | undefined) {
        const rest = without(present.value.grips, id)
        changePresent({ grips: how ? { ...rest, [id]: how } : rest })
    }

    /** Hands on it, or on single elements of it. */
    const handsOn = (id: string) =>
        Object.entries(present.value.grips).flatMap(([key, grip]) => (key === id || key.startsWith(`${id}[`) ? [grip] : []))
    /** Whether a hand holds it, or an element of it. */
    const isGripped = (id: string) => handsOn(id).some((grip) => grip.on !== false)

    /** Back to the baseline, or to another setting altogether. */
    function put(now: Setting = {}) {
        dials.value = {}
        changePresent({ parameters: { ...now.parameters }, grips: { ...now.grips } })
    }

    const values = runValues({ shown, sheet, before })

    const hasColumn = (key: string) =>
        shown.value !== null &&
        (shown.value.values.has(key) || key in shown.value.steady || key in shown.value.now || key in shown.value.untold)
    const known = (id: string) => hasColumn(look.extended[id]?.along?.parts[0]?.key ?? id)
    /** Why a thing has no number under the look along its dimensions. */
    const untold = (id: string) => shown.value?.untold[look.keyOf(id) ?? '']
    /** Says which columns along dimensions some part of the page tells, and has them brought. */
    function needColumns(who: string, keys: string[]) {
        if (!keys.length && !columns.value[who]) {
            return
        }
        columns.value = keys.length ? { ...columns.value, [who]: keys } : without(columns.value, who)
        // A first run that is under way was asked for without them.
        if ((shown.value || running.value) && keys.some((key) => !hasColumn(key))) {
            void refresh()
        }
    }
    /** Says what some part of the page plots, so that it comes first. */
    function need(who: string, ids: string[]) {
        needs.value = { ...needs.value, [who]: ids }
    }

    return {
        ...values,
        shown,
        sheet,
        before,
        dials,
        present,
        setting,
        tried,
        held,
        handling,
        ref: ref_,
        running,
        progress,
        refusal,
        refresh,
        stop,
        follow,
        turn,
        release,
        leave,
        grip,
        handsOn,
        isGripped,
        put,
        recall,
        need,
        needColumns,
        tracked,
        known,
        untold,
    }
})
