import type { AreaMapRecord } from './parts'
import { ConnectionError, ProblemError, problemOf, token } from './problem'
import { upload, type Sending } from './upload'
import type {
    AreasRead,
    FileFormat,
    Foreseen,
    MapRead,
    MapStructures,
    Push,
    Against,
    BatchState,
    Catalogue,
    Change,
    Edit,
    Effects,
    Equation,
    FeedbackLoops,
    Health,
    HistoryPage,
    KeptRun,
    LoggedRun,
    LogLine,
    Model,
    ModelAnswer,
    News,
    Problem,
    Rereading,
    RunHeader,
    RunRef,
    RunRequest,
    Study,
    Summary,
    EvidenceMade,
    TableAnswer,
    StillReading,
    TableRead,
    TableRows,
    TableWishes,
    Thumbnail,
    TrailAnswer,
} from './types'

export { ConnectionError, ProblemError } from './problem'

/** Who is told that nobody is signed in any more, where people have accounts. */
export const signedOut = { tell: () => {} }

/** Sent with every request, where a page has something to show: the link it was opened by. */
export const along: Record<string, string> = {}

/** So often a server that is busy for a moment is asked again, and the longest wait between, in milliseconds. */
const MOST_WAITS = 12
const LONGEST_WAIT = 10_000
/** Who is to wait longer, in seconds, is told so. */
const MOST_PATIENCE = 60

export async function send(method: string, path: string, body?: unknown, again = true, waits = 0): Promise<Response> {
    const type = body instanceof Blob ? 'application/octet-stream' : typeof body === 'string' ? 'text/plain' : 'application/json'
    let response: Response
    try {
        response = await fetch(`/api/${path}`, {
            method,
            headers: {
                Accept: 'application/json',
                'X-XSRF-TOKEN': token(),
                ...along,
                ...(body === undefined ? {} : { 'Content-Type': type }),
            },
            body: body === undefined ? undefined : body instanceof Blob || typeof body === 'string' ? body : JSON.stringify(body),
        })
    } catch {
        throw new ConnectionError()
    }
    if (response.ok) {
        return response
    }
    if (response.status === 419 && again) {
        // The session ran out while the page was open: a new one comes with the page.
        await fetch('/', { headers: { Accept: 'text/html' } }).catch(() => null)
        return send(method, path, body, false, waits)
    }
    const after = Number(response.headers.get('Retry-After'))
    if ((response.status === 503 || response.status === 429) && after > 0 && after <= MOST_PATIENCE && waits < MOST_WAITS) {
        await new Promise((resolve) => {
            window.setTimeout(resolve, Math.min(LONGEST_WAIT, 1000 * after))
        })
        return send(method, path, body, again, waits + 1)
    }
    const problem = (await response.json().catch(() => ({}))) as Record<string, unknown>
    if (response.status === 401 && problem.accounts === true) {
        signedOut.tell()
    }
    throw problemOf(response.status, problem)
}

/** Milliseconds between two looks whether a worker has come to an answer: first, and at most. */
const SOON = 250
const LATER = 2000

/** What takes long is done by a worker, and asked for again until it is there: a large file, an answer of many runs. */
export async function later<T>(method: string, path: string, asked?: unknown): Promise<T> {
    for (let pause = SOON; ; pause = Math.min(LATER, 1.3 * pause)) {
        const answer = await json<T | { reading?: true; working?: true }>(method, path, asked)
        if (!('reading' in (answer as object)) && !('working' in (answer as object))) {
            return answer as T
        }
        await new Promise((resolve) => {
            window.setTimeout(resolve, pause)
        })
    }
}
const read = <T>(path: string, asked?: unknown) => later<T>('POST', path, asked)

/** What an answer holds. One that breaks off comes from a server that died on its way, which will be back soon. */
export async function held<T>(reading: Promise<unknown>): Promise<T> {
    try {
        return (await reading) as T
    } catch {
        throw new ConnectionError()
    }
}

export async function json<T>(method: string, path: string, body?: unknown): Promise<T> {
    const response = await send(method, path, body)
    return response.status === 204 ? (undefined as T) : held<T>(response.json())
}

/** Where moments were left out, `lows` and `highs` hold how far a column went from each moment to the next. */
export interface Run extends RunHeader {
    times: Float64Array
    values: Map<string, Float64Array>
    lows?: Map<string, Float64Array>
    highs?: Map<string, Float64Array>
}

/** Where an edit comes from: the revision it was made on, the window, and who was signed in there. */
export interface EditFrom {
    base: number
    window: string
    user: number
}

/** What is wished for together with an edit: a run after it, and whether what changed comes with it. */
export interface Beside {
    then?: RunRequest
    changed?: boolean
}

/** See App\Runs\ColumnsMessage for the layout of the message. */
function readColumns(buffer: ArrayBuffer): Run {
    const size = new DataView(buffer).getUint32(0, true)
    const header = JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, 4, size))) as RunHeader
    const column = (i: number) => new Float64Array(buffer, 4 + size + i * header.length * 8, header.length)
    if (!header.coarse) {
        return { ...header, times: column(0), values: new Map(header.columns.map((id, i) => [id, column(i + 1)])) }
    }
    const part = (k: number) => new Map(header.columns.map((id, i) => [id, column(3 * i + 1 + k)]))
    return { ...header, times: column(0), values: part(0), lows: part(1), highs: part(2) }
}

/** Milliseconds between two looks at a run that a worker makes: first, and at most. */
const LOOK = 250
const LONGEST_LOOK = 1500

/** Waits until a run that was handed over to a worker is made. */
async function madeByWorker(id: string, batch: string) {
    for (let pause = LOOK; ; pause = Math.min(LONGEST_LOOK, 1.3 * pause)) {
        await new Promise((resolve) => {
            window.setTimeout(resolve, pause)
        })
        const {
            finished,
            runs: [run],
        } = await json<BatchState>('GET', `models/${id}/batches/${batch}`)
        if (run?.state === 'refused') {
            throw new ProblemError(422, 'run', run.words, {})
        }
        if (finished) {
            return
        }
    }
}

/** The columns of a run. One that takes long is made by a worker, and asked for again by where it is. */
async function run(id: string, wish: RunRequest): Promise<Run> {
    const response = await send('POST', `models/${id}/runs`, wish)
    if (response.status !== 202) {
        return held(response.arrayBuffer().then(readColumns))
    }
    const { batch, position, which } = await held<{ batch: string; position: number; which: 'run' | 'against' }>(response.json())
    await madeByWorker(id, batch)
    return run(id, { ...wish, [which]: { batch, position }, remember: false })
}

/** Changes a model; with the run that was wished for, where it can be run. */
async function change(path: string, body: object): Promise<News> {
    const response = await send('POST', path, body)
    if (response.headers.get('Content-Type')?.includes('json')) {
        return held(response.json())
    }
    const made = await held<Run>(response.arrayBuffer().then(readColumns))
    return { ...(made.edit as News), run: made }
}

export const api = {
    catalogue: () => json<Catalogue>('GET', 'catalogue'),
    studies: async () => (await json<{ data: Study[] }>('GET', 'studies')).data,
    study: async (id: string) => (await json<{ data: Study }>('GET', `studies/${id}`)).data,
    thumbnail: (id: string) => json<Thumbnail>('GET', `studies/${id}/thumbnail`),
    newStudy: async (name: string) => (await json<{ data: Study }>('POST', 'studies', { name })).data,
    importStudy: async (file: Blob | string) => {
        const answer = await json<{ data: Study; log: LogLine[] }>('POST', 'studies/import', file)
        return { study: answer.data, log: answer.log }
    },
    duplicateStudy: async (id: string) => (await json<{ data: Study }>('POST', `studies/${id}/duplicate`)).data,
    deleteStudy: (id: string) => json<undefined>('DELETE', `studies/${id}`),
    restoreStudy: async (id: string) => (await json<{ data: Study }>('POST', `studies/${id}/restore`)).data,
    studyFile: async (id: string, format: FileFormat, level = 'members') => {
        const response = await send('GET', `studies/${id}/file?format=${format}&level=${level}`)
        return {
            name: /filename="([^"]+)"/.exec(response.headers.get('Content-Disposition') ?? '')?.[1] ?? 'study',
            content: await held<Blob>(response.blob()),
        }
    },
    losses: async (id: string, format: FileFormat, level = 'members') =>
        (await json<{ log: LogLine[] }>('GET', `studies/${id}/losses?format=${format}&level=${level}`)).log,
    model: (id: string) => json<ModelAnswer>('GET', `models/${id}`),
    news: (id: string, since: number, at?: { window: string; thing: string }) =>
        json<News>('GET', `models/${id}/news?since=${since}${at ? `&window=${at.window}&thing=${encodeURIComponent(at.thing)}` : ''}`),
    edit: (id: string, from: EditFrom, edits: { id: string; edit: Edit }[], beside: Beside = {}) =>
        change(`models/${id}/edits`, { ...from, edits, ...beside }),
    step: (id: string, way: 'undo' | 'redo', from: EditFrom, request: string, beside: Beside = {}) =>
        change(`models/${id}/${way}`, { ...from, id: request, ...beside }),
    restore: (id: string, from: EditFrom, revision: number, ids?: string[]) =>
        json<News>('POST', `models/${id}/restore`, { ...from, revision, ...(ids ? { ids } : {}), id: crypto.randomUUID() }),
    history: (id: string, before?: number) =>
        json<HistoryPage>('GET', `models/${id}/history${before === undefined ? '' : `?before=${before}`}`),
    version: async (id: string, revision: number) => (await json<{ model: Model }>('GET', `models/${id}/versions/${revision}`)).model,
    comparison: async (id: string, from: number, to?: number) =>
        (await json<{ changes: Change[] }>('GET', `models/${id}/comparison?from=${from}${to === undefined ? '' : `&to=${to}`}`)).changes,
    nameMilestone: (id: string, revision: number, name: string) =>
        json<HistoryPage>('PUT', `models/${id}/milestones/${revision}`, { name }),
    dropMilestone: (id: string, revision: number) => json<HistoryPage>('DELETE', `models/${id}/milestones/${revision}`),
    ranked: (id: string, element: string, run: RunRef, pick: 'greatest' | 'least', look: Record<string, string>, most: number) =>
        json<{ keys: string[] }>('POST', `models/${id}/elements/${element}/ranked`, { run, pick, look, most }),
    effects: (id: string, run: RunRef, look: Record<string, string>, at?: number) =>
        json<Effects>('POST', `models/${id}/effects`, { run, look, ...(at === undefined ? {} : { at }) }),
    loops: (id: string, run: RunRef, independent: boolean) => json<FeedbackLoops>('POST', `models/${id}/loops`, { run, independent }),
    map: (id: string, play: { pushes: Push[]; starts: Record<string, number>; beats: number; independent: boolean }) =>
        json<MapRead>('POST', `models/${id}/map`, play),
    structures: (id: string) => json<MapStructures>('GET', `models/${id}/map/structures`),
    record: async (id: string) => held<string>((await send('GET', `models/${id}/map/record`)).text()),
    story: async (id: string, path: string[]) => (await json<{ story: string[] }>('POST', `models/${id}/map/story`, { path })).story,
    foresee: (id: string, link: { from: string; to: string; sign: '+' | '-' | '?'; late: boolean }) =>
        json<Foreseen>('POST', `models/${id}/map/foresee`, link),
    dropAreas: (id: string, name: string, file: Blob) =>
        json<AreasRead>('POST', `models/${id}/areas?name=${encodeURIComponent(name)}`, file),
    readAreas: (id: string, content: string, asked: { name: string; joins: NonNullable<AreaMapRecord['joins']> }) =>
        json<AreasRead>('POST', `models/${id}/areas/${content}`, asked),
    dropTable: async (id: string, name: string, file: Blob, sending: Sending) => {
        const path = `models/${id}/tables`
        const sent = await upload<TableRead | StillReading>(`${path}?name=${encodeURIComponent(name)}`, file, sending)
        return 'reading' in sent ? read<TableRead>(`${path}/${sent.content}`, { name }) : sent
    },
    stations: async () => (await json<{ stations: string[] }>('GET', 'stations')).stations,
    listen: (id: string, station: string, peek = false) =>
        json<TableRead>('POST', `models/${id}/stations/${encodeURIComponent(station)}${peek ? '?peek=1' : ''}`),
    readTable: (id: string, content: string, wishes: TableWishes & { source?: string }) =>
        read<TableRead>(`models/${id}/tables/${content}`, wishes),
    tableRows: (
        id: string,
        content: string,
        asked: TableWishes & { source?: string; asItCame?: boolean; after: number; from: number; count: number },
    ) => read<TableRows>(`models/${id}/tables/${content}/rows`, asked),
    tableFile: async (id: string, content: string, asked: TableWishes & { source?: string; after: number; format: 'csv' | 'long' }) =>
        held<Blob>((await send('POST', `models/${id}/tables/${content}/file`, asked)).blob()),
    tableSheets: async (id: string, content: string, asked: TableWishes & { source?: string; after: number }) =>
        (
            await json<{ sheets: { name: string; rows: (string | number | null)[][] }[] }>('POST', `models/${id}/tables/${content}/file`, {
                ...asked,
                format: 'sheets',
            })
        ).sheets,
    evidence: async (
        id: string,
        content: string,
        asked: TableWishes & { source: string; cells?: boolean; ties: { series: number; key: string; error?: number }[] },
    ) => (await read<{ evidence: EvidenceMade[] }>(`models/${id}/tables/${content}/evidence`, asked)).evidence,
    equation: (id: string, element: string) => json<Equation>('GET', `models/${id}/elements/${element}/equation`),
    visits: async (id: string, element: string, run: RunRef) =>
        (
            await json<{ visits: { element: string; times: number[]; inputs: number[] }[] }>(
                'POST',
                `models/${id}/elements/${element}/visits`,
                { run },
            )
        ).visits,
    calendar: (id: string, from: number, until: number, most: number) =>
        json<{ every: string; marks: { time: number; date: string }[] }>(
            'GET',
            `models/${id}/calendar?from=${from}&until=${until}&most=${most}`,
        ),
    importLog: async (study: string) => (await json<{ log: LogLine[] }>('GET', `studies/${study}/import-log`)).log,
    tickImportLog: async (study: string, lines: number[], done: boolean) =>
        (await json<{ log: LogLine[] }>('PATCH', `studies/${study}/import-log`, { lines, done })).log,
    preview: async (id: string, edit: Edit) => (await json<{ formulas: Rereading[] }>('POST', `models/${id}/preview`, { edit })).formulas,
    copy: async (id: string, ids: string[]) => (await json<{ text: string }>('POST', `models/${id}/copy`, { ids })).text,
    formula: async (id: string, element: string, text: string) =>
        (await json<{ problems: Problem[] }>('POST', `models/${id}/formula`, { element, text })).problems,
    health: (id: string, run: RunRef = {}) => json<Health>('POST', `models/${id}/health`, { run }),
    run,
    progress: async (id: string, token: string) => (await json<{ share: number | null }>('GET', `models/${id}/progress/${token}`)).share,
    stopRun: (id: string, token: string) => json<undefined>('DELETE', `models/${id}/progress/${token}`),
    logbook: async (id: string) => (await json<{ runs: LoggedRun[] }>('GET', `models/${id}/runs`)).runs,
    logbookAddress: (id: string) => `/api/models/${id}/runs?format=csv`,
    remark: async (id: string, run: number, change: { starred?: boolean; comment?: string }) =>
        (await json<{ runs: LoggedRun[] }>('PATCH', `models/${id}/runs/${run}`, change)).runs,
    kept: async (id: string) => (await json<{ kept: KeptRun[] }>('GET', `models/${id}/kept`)).kept,
    keep: async (id: string, name: string, note: string, run: RunRef, colour: number) =>
        (await json<{ kept: KeptRun[] }>('POST', `models/${id}/kept`, { name, note, run, colour })).kept,
    changeKept: async (id: string, kept: string, change: Partial<Pick<KeptRun, 'name' | 'note' | 'colour' | 'hidden'>>) =>
        (await json<{ kept: KeptRun[] }>('PATCH', `models/${id}/kept/${kept}`, change)).kept,
    dropKept: (id: string, kept: string) => json<undefined>('DELETE', `models/${id}/kept/${kept}`),
    restoreKept: async (id: string, kept: string) => (await json<{ kept: KeptRun[] }>('POST', `models/${id}/kept/${kept}/restore`)).kept,
    batch: (id: string, runs: RunRef[]) => json<BatchState>('POST', `models/${id}/batches`, { runs }),
    batchState: (id: string, batch: string) => json<BatchState>('GET', `models/${id}/batches/${batch}`),
    stopBatch: (id: string, batch: string) => json<BatchState>('DELETE', `models/${id}/batches/${batch}`),
    trail: (
        id: string,
        question: { run: RunRef; base?: RunRef; element: string; time: number; towards?: 'causes' | 'effects'; over?: 'moment' | 'time' },
    ) => json<TrailAnswer>('POST', `models/${id}/trail`, question),
    changes: async (id: string, base: RunRef, run: RunRef) =>
        (await json<{ changes: Change[] }>('POST', `models/${id}/changes`, { base, run })).changes,
    values: (id: string, runs: RunRef[], of: string[], times: number[]) =>
        json<TableAnswer<(number | null)[]>>('POST', `models/${id}/table`, { runs, of, times }),
    against: (id: string, runs: RunRef[], of: string[], at?: number) =>
        json<TableAnswer<Against>>('POST', `models/${id}/table`, { runs, of, kind: 'against', ...(at === undefined ? {} : { at }) }),
    summary: (id: string, runs: RunRef[], of: string[]) =>
        json<TableAnswer<Summary | null>>('POST', `models/${id}/table`, { runs, of, kind: 'summary' }),
}
