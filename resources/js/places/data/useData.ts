import { computed, ref, shallowRef, watch } from 'vue'
import { api } from '@/api/client'
import type { EvidenceRecord, SourceRecord } from '@/api/parts'
import type { Edit, EvidenceMade, TableRead, TableWishes } from '@/api/types'
import { keyOf } from '@/charts/laidOver'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useRuns } from '@/stores/runs'
import { studyStore } from '@/stores/studyStore'
import { byId, laterId, newId } from '@/ui/ids'
import { asWorkbook, download } from '@/ui/download'
import { counted } from '@/ui/numbers'
import { sameSteps, type CleaningStep } from './steps'

/** In place of a variable: it becomes a series of the model. */
export const SERIES = '*series'

/** In place of a variable: it says how exact another series is, by its number. */
export const ERROR_OF = '*error '

/** What a series does for the variable that it is of: it lies over it, or takes its place, within its own span or for ever. */
export type Role = 'evidence' | 'drives' | 'drives within'

/** How a series runs between its points. */
export type Between = 'straight' | 'stepped' | 'smooth'

/** Tables of data: what is dropped, how it is understood, and what of it is kept. */
export const useData = studyStore('data', () => {
    const model = useModel()
    const notices = useNotices()
    const runs = useRuns()

    const sources = computed<SourceRecord[]>(() => Object.values(model.model.sources ?? {}).sort(byId))
    const evidence = computed<EvidenceRecord[]>(() => Object.values(model.model.evidence ?? {}).sort(byId))
    const of = (source: string) => evidence.value.filter((e) => e.source === source)

    const table = shallowRef<TableRead | null>(null)
    const wishes = ref<TableWishes>({})
    const steps = ref<CleaningStep[]>([])
    /** After which step the table is shown; -1: as it came. */
    const shown = ref(-1)
    /** All that is said of the table that is open. */
    const asked = () => ({ ...wishes.value, steps: steps.value, name: table.value?.name ?? '', source: source.value })
    /** By number of the series, the key of the variable that it is of. */
    const ties = ref<Record<number, string>>({})
    const roles = ref<Record<number, Role>>({})
    /** How a series that drives runs between its points, by number of the series; else as its numbers are of periods or of moments. */
    const ways = ref<Record<number, Between>>({})
    const wayOf = (i: number): Between => ways.value[i] ?? (made.value[i]?.over ? 'stepped' : 'straight')
    /** The measuring station that the open table was heard from, if it was. */
    const station = ref('')
    /** The source that is open; of a file that was just dropped, the one that it is a newer version of. */
    const source = ref('')
    const busy = ref('')
    const refusal = ref('')

    let working = 0
    async function work<T>(words: string, ask: () => Promise<T>): Promise<T | undefined> {
        working++
        busy.value = words
        refusal.value = ''
        try {
            return await ask()
        } catch (error) {
            refusal.value = (error as Error).message
            return undefined
        } finally {
            busy.value = --working === 0 ? '' : busy.value
        }
    }
    /** What a table is read as, if nothing else was asked for meanwhile: answers may come in another order than they were asked for. */
    let reads = 0
    async function reading<T>(words: string, ask: () => Promise<T>): Promise<{ read?: T; isLast: boolean }> {
        const ticket = ++reads
        const isLast = () => ticket === reads
        const read = await work(words, () =>
            ask().catch((error: unknown) => {
                if (isLast()) {
                    throw error
                }
                return undefined
            }),
        )
        return { read, isLast: isLast() }
    }

    /** What was tied before is tied again; what is new goes where its name leads. */
    function tie(read: TableRead) {
        const known = new Map(of(source.value).map((e) => [e.column ?? '', keyOf(e)]))
        const left = source.value ? new Set<string>() : undefined
        ties.value = Object.fromEntries(
            read.series.flatMap((s, i) => {
                const key = known.get(s.label) ?? (left ? undefined : s.match?.key)
                return key ? [[i, key]] : []
            }),
        )
    }
    function show(read: TableRead) {
        table.value = read
        roles.value = {}
        ways.value = {}
        tie(read)
    }

    /** While a file is sent or read: how much of it is there, and how it is stopped. */
    const sending = shallowRef<{ share: number; stop: () => void } | null>(null)
    async function drop(name: string, file: Blob) {
        const stopper = new AbortController()
        const stop = () => {
            stopper.abort()
        }
        sending.value = { share: 0, stop }
        const progress = (share: number) => {
            sending.value = { share, stop }
        }
        await take(name, () => api.dropTable(model.id, name, file, { progress, signal: stopper.signal }))
        sending.value = null
    }
    /** What a measuring station tells now is read like a newer file of the same name. */
    const listen = (station: string) => take(`${station}.json`, () => api.listen(model.id, station), station)

    async function take(name: string, bring: () => Promise<TableRead>, from = '') {
        const older = sources.value.find((s) => s.name.toLowerCase() === name.toLowerCase())
        const { read, isLast } = await reading(from ? `Listening to ${from}` : `Reading ${name}`, async () => {
            const first = await bring()
            if (!older) {
                return { read: first, said: {}, trouble: '', steps: [] }
            }
            // What cannot be read as the older one was is shown as it is understood by itself.
            const said = saidOf(older)
            const taken = older.steps ?? []
            return api.readTable(model.id, first.content, { ...said, steps: taken, name, source: older.id }).then(
                (again) => ({ read: again, said, steps: taken, trouble: '' }),
                (error: unknown) => ({
                    read: first,
                    said: {},
                    steps: [],
                    trouble: `It cannot be read like the one before. ${(error as Error).message}`,
                }),
            )
        })
        if (read && isLast) {
            source.value = older?.id ?? ''
            station.value = from
            wishes.value = read.said
            steps.value = read.steps
            shown.value = -1
            show(read.read)
            refusal.value = read.trouble
        }
    }
    function saidOf({ sheet, layout, decimal, dates, names, time }: SourceRecord): TableWishes {
        return Object.fromEntries(
            Object.entries({ sheet, layout, decimal, dates, names, time }).filter(([, v]) => v !== undefined && v !== ''),
        )
    }
    async function open(id: string) {
        const known = sources.value.find((s) => s.id === id)
        if (!known) {
            return
        }
        source.value = id
        station.value = known.station ?? ''
        wishes.value = saidOf(known)
        steps.value = known.steps ?? []
        shown.value = -1
        const { read, isLast } = await reading(`Reading ${known.name}`, () =>
            api.readTable(model.id, known.content ?? '0'.repeat(64), { ...asked(), name: known.name }),
        )
        if (!isLast) {
            return
        }
        if (read) {
            show(read)
        } else {
            table.value = null
        }
    }
    async function reread(more: Partial<TableWishes>) {
        const now = table.value
        if (!now) {
            return
        }
        // Another wish may be told before this one is answered: it comes on top of it.
        const known = wishes.value
        wishes.value = { ...known, ...more }
        const { read, isLast } = await reading('Reading it anew', () => api.readTable(model.id, now.content, asked()))
        if (!isLast) {
            return
        }
        if (!read) {
            wishes.value = known
            return
        }
        const before = new Map((table.value ?? now).series.map((s, i) => [s.label, ties.value[i] ?? '']))
        show(read)
        // What was tied by hand a moment ago stays; what has come up goes where its name leads.
        ties.value = Object.fromEntries(
            read.series.flatMap((s, i) => {
                const key = before.get(s.label) ?? ties.value[i] ?? s.match?.key
                return key ? [[i, key]] : []
            }),
        )
    }
    function setSteps(next: CleaningStep[], show: number) {
        steps.value = next
        shown.value = Math.min(show, next.length - 1)
        return reread({})
    }
    const addStep = (step: CleaningStep) => setSteps([...steps.value, step], steps.value.length)
    const removeStep = (i: number) =>
        setSteps(
            steps.value.filter((_, k) => k !== i),
            i - 1,
        )
    function setStep(i: number, fields: Partial<CleaningStep>) {
        const next = steps.value.map((s, k) =>
            // What is not said does not stand there.
            k === i
                ? (Object.fromEntries(
                      Object.entries({ ...s, ...fields }).filter(([, v]) => v !== undefined && v !== false),
                  ) as CleaningStep)
                : s,
        )
        return setSteps(next, shown.value)
    }
    function moveStep(i: number, by: number) {
        const next = [...steps.value]
        next.splice(i + by, 0, ...next.splice(i, 1))
        return setSteps(next, i + by)
    }
    /** A cell of the file that was written wrong is read as what it seems to mean, before anything else is done. */
    const mend = ({ series, at, value }: TableRead['slips'][number]) =>
        setSteps([{ do: 'mend', series: [series], at, value }, ...steps.value], -1)
    /** A value of the table that is shown counts no more, from here on. */
    function setAside(label: string, at: string) {
        const next = [...steps.value]
        next.splice(shown.value + 1, 0, { do: 'set aside', series: [label], at })
        return setSteps(next, shown.value + 1)
    }
    /** Says when the study starts, so that dates of the calendar are times of it. */
    async function startOn(startDate: string) {
        if (await model.setTime({ startDate })) {
            await reread({})
        }
    }
    function close() {
        table.value = null
        source.value = ''
        refusal.value = ''
    }

    /** The tied series as they would be kept, by number. */
    const made = shallowRef<Record<number, EvidenceMade>>({})
    let turns = 0
    const tied = computed(() =>
        Object.entries(ties.value)
            .filter(([, key]) => key && !key.startsWith(ERROR_OF))
            .map(([series, key]) => {
                const error = Object.keys(ties.value).find((i) => ties.value[Number(i)] === `${ERROR_OF}${series}`)
                return { series: Number(series), key, ...(error === undefined ? {} : { error: Number(error) }) }
            }),
    )
    watch(
        [table, tied, () => model.revision] as const,
        async ([read, list]) => {
            const turn = ++turns
            if (!read || !list.length) {
                made.value = {}
                return
            }
            try {
                const answer = await api.evidence(model.id, read.content, { ...asked(), ties: list })
                if (turn === turns) {
                    made.value = Object.fromEntries(list.map((t, i) => [t.series, answer[i] as EvidenceMade]))
                    refusal.value = ''
                }
            } catch (error) {
                if (turn === turns) {
                    made.value = {}
                    refusal.value = (error as Error).message
                }
            }
        },
        { immediate: true },
    )
    /** Whether what is shown is what is kept. */
    const kept = computed(() => {
        const known = model.model.sources?.[source.value]
        return (
            known !== undefined &&
            known.content === table.value?.content &&
            JSON.stringify(saidOf(known)) === JSON.stringify(saidOf({ ...known, ...bare() })) &&
            sameSteps(known.steps ?? [], steps.value) &&
            tied.value.length === of(source.value).length &&
            tied.value.every((t) => of(source.value).some((e) => keyOf(e) === t.key && e.column === table.value?.series[t.series]?.label))
        )
    })
    const bare = () => ({ sheet: '', layout: undefined, decimal: undefined, dates: undefined, names: undefined, time: '', ...wishes.value })

    /** A series of the model, under a name that is free; one that came from here before gets its new points. */
    function seriesOf(m: EvidenceMade, file: string, between: Between): { id: string; edits: Edit[] } {
        const title = `${m.column}, ${file.replace(/\.[a-z]{2,5}$/i, '')}`.slice(0, 120)
        const known = model.model.elements[model.idByName.get(title.toLowerCase()) ?? '']
        const id = known?.kind === 'series' ? known.id : newId()
        // Of points at one time the last holds: a course has one value at a time.
        const points = [...new Map(m.points.map(([t, v]) => [t, v]))]
        const edits: Edit[] = [
            ...(known?.kind === 'series' ? [] : [{ kind: 'add', id, element: 'series', name: title, unit: m.unit } as Edit]),
            { kind: 'curve', id, points, between },
        ]
        return { id, edits }
    }
    async function keep() {
        const read = table.value
        if (!read) {
            return false
        }
        // Now also where each number stands in the file.
        const whole = tied.value.length
            ? await work('Keeping it', () => api.evidence(model.id, read.content, { ...asked(), cells: true, ties: tied.value }))
            : []
        const all = tied.value.flatMap((t, i) => {
            const m = whole?.[i]
            return m ? [{ ...t, m, role: m.of ? (roles.value[t.series] ?? 'evidence') : undefined }] : []
        })
        if (!whole) {
            return false
        }
        const list = all.filter((t) => t.role === 'evidence').map((t) => t.m)
        const series = all.filter((t) => t.role !== 'evidence').map((t) => ({ ...t, ...seriesOf(t.m, read.name, wayOf(t.series)) }))
        const id = source.value || laterId()
        const before = of(id)
        const said = { ...wishes.value, name: read.name, content: read.content, steps: steps.value, station: station.value }
        const puts = list.map<{ id: string; edit: Edit }>((m) => {
            const { of: variable, at, column, unit, factor, points, over, ends, cells, errors } = m
            const known = before.find((e) => e.column === m.column && e.of === m.of)
            // How exact it is was said of the column, not of the file.
            const { error, errorIn, weight } = known ?? {}
            const exact = { ...(error ? { error } : {}), ...(errorIn ? { errorIn } : {}), ...(weight === undefined ? {} : { weight }) }
            const fields = { of: variable, at, column, unit, factor, points, over, ends, cells, errors, source: id, ...exact }
            const own = known?.id ?? laterId()
            return { id: own, edit: { kind: 'put', part: 'evidence', id: own, fields } }
        })
        const gone = before.filter((e) => !puts.some((p) => p.id === e.id))
        const done = await model.together(
            [
                { kind: 'put', part: 'sources', id, fields: said },
                ...puts.map((p) => p.edit),
                ...series.flatMap((t) => t.edits),
                ...gone.map<Edit>((e) => ({ kind: 'drop', part: 'evidence', id: e.id })),
            ],
            all.length ? `Keep ${counted(all.length, 'series', 'series')} of ${read.name}` : `Keep ${read.name}`,
        )
        if (done) {
            source.value = id
            for (const { id: follows, key, m, role } of series.filter((t) => t.role)) {
                const [from, until] = [m.points[0]?.[0], m.points.at(-1)?.[0]]
                runs.grip(key, { signal: 'series', series: follows, ...(role === 'drives within' ? { from, until } : {}) })
            }
            // What has become a series of the model is kept there.
            ties.value = Object.fromEntries(
                tied.value.filter((t) => !series.some((o) => o.series === t.series)).map((t) => [t.series, t.key]),
            )
        }
        return done
    }
    async function save(format: 'csv' | 'long' | 'xlsx') {
        const read = table.value
        const what = { ...asked(), after: shown.value }
        const file =
            read &&
            (await work('Writing it', async () =>
                format === 'xlsx'
                    ? asWorkbook(await api.tableSheets(model.id, read.content, what))
                    : api.tableFile(model.id, read.content, { ...what, format }),
            ))
        if (read && file) {
            const name = read.name.replace(/\.[a-z]{2,5}$/i, '')
            download(`${name}${shown.value >= 0 ? `, step ${shown.value + 1}` : ''}.${format === 'xlsx' ? 'xlsx' : 'csv'}`, file)
        }
    }
    async function remove(id: string) {
        const known = model.model.sources?.[id]
        const open = source.value === id
        const edits: Edit[] = [
            ...of(id).map<Edit>((e) => ({ kind: 'drop', part: 'evidence', id: e.id })),
            { kind: 'drop', part: 'sources', id },
        ]
        if (known && (await model.together(edits, `Remove ${known.name} and what was kept of it`))) {
            if (open && source.value === id) {
                close()
            } else if (source.value === id) {
                // A file of the same name that was dropped meanwhile is no newer version of anything.
                source.value = ''
            }
            notices.say(`Removed “${known.name}” and what was kept of it.`, { words: 'Undo', run: () => void model.step('undo') })
        }
    }

    return {
        sources,
        evidence,
        of,
        keyOf,
        table,
        wishes,
        steps,
        shown,
        asked,
        saidOf,
        addStep,
        removeStep,
        setStep,
        moveStep,
        setAside,
        mend,
        ties,
        roles,
        ways,
        wayOf,
        source,
        busy,
        sending,
        refusal,
        made,
        tied,
        kept,
        drop,
        listen,
        open,
        reread,
        close,
        startOn,
        keep,
        save,
        remove,
    }
})
