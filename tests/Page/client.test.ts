import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { api, ConnectionError, ProblemError } from '@/api/client'

const fetched = () => vi.mocked(fetch).mock.calls.map(([address, options]) => ({ address, ...options }))

function answers(...responses: (Response | Error)[]) {
    const queue = [...responses]
    vi.stubGlobal(
        'fetch',
        vi.fn(() => {
            const next = queue.shift() ?? new Response('{}')
            return next instanceof Error ? Promise.reject(next) : Promise.resolve(next)
        }),
    )
}

const problem = (status: number, body: object) =>
    new Response(JSON.stringify(body), { status, headers: { 'Content-Type': 'application/problem+json' } })

/** A message as App\Runs\ColumnsMessage writes it. */
function columns(header: object, ...values: number[][]): ArrayBuffer {
    const text = new TextEncoder().encode(JSON.stringify(header))
    const size = Math.ceil((text.length + 4) / 8) * 8 - 4
    const buffer = new ArrayBuffer(4 + size + values.flat().length * 8)
    const bytes = new Uint8Array(buffer)
    bytes.fill(32, 4, 4 + size)
    bytes.set(text, 4)
    const view = new DataView(buffer)
    view.setUint32(0, size, true)
    values.flat().forEach((v, i) => {
        view.setFloat64(4 + size + 8 * i, v, true)
    })
    return buffer
}

describe('the client of the API', () => {
    beforeEach(() => {
        document.cookie = 'XSRF-TOKEN=abc%3D'
    })
    afterEach(() => {
        vi.unstubAllGlobals()
    })

    it('reads columns as they are, whatever the length of the header', async () => {
        for (const name of ['a', 'ab', 'abc', 'Insel äöü 𝛼', 'x'.repeat(77)]) {
            answers(
                new Response(
                    columns({ length: 3, columns: [name, 'b'], steady: { p: 7 }, fault: null }, [0, 1, 2], [1.5, -2, 1e300], [0, 0, 0.1]),
                ),
            )
            const run = await api.run('m', {})
            expect([...run.times]).toEqual([0, 1, 2])
            expect([...(run.values.get(name) ?? [])]).toEqual([1.5, -2, 1e300])
            expect([...(run.values.get('b') ?? [])]).toEqual([0, 0, 0.1])
            expect(run.steady).toEqual({ p: 7 })
        }
    })

    it('takes an answer that breaks off for a server that is away for a moment', async () => {
        answers(new Response(''))
        await expect(api.studies()).rejects.toBeInstanceOf(ConnectionError)
        answers(new Response('{"data":[{"id":'))
        await expect(api.studies()).rejects.toBeInstanceOf(ConnectionError)
        const whole = columns({ length: 2, columns: ['a'], steady: {}, fault: null }, [0, 1], [1, 2])
        for (const length of [0, 3, 20, whole.byteLength - 8]) {
            answers(new Response(whole.slice(0, length)))
            await expect(api.run('m', {})).rejects.toBeInstanceOf(ConnectionError)
        }
    })

    it('waits as long as it is told where it asked for too much', async () => {
        vi.useFakeTimers()
        answers(new Response('{"code":"too-many"}', { status: 429, headers: { 'Retry-After': '3' } }), new Response('{"data":[]}'))
        const asked = api.studies()
        await vi.advanceTimersByTimeAsync(2900)
        expect(fetch).toHaveBeenCalledTimes(1)
        await vi.advanceTimersByTimeAsync(200)
        expect(await asked).toEqual([])
        vi.useRealTimers()
    })

    it('reads columns with their extremes where moments were left out', async () => {
        answers(
            new Response(
                columns(
                    { length: 2, columns: ['a', 'b'], steady: {}, fault: null, coarse: true },
                    [0, 5],
                    [1, 2],
                    [-1, 2],
                    [3, 2],
                    [4, 5],
                    [4, 5],
                    [6, 7],
                ),
            ),
        )
        const run = await api.run('m', { points: 2 })
        expect([...(run.values.get('b') ?? [])]).toEqual([4, 5])
        expect([...(run.lows?.get('a') ?? [])]).toEqual([-1, 2])
        expect([...(run.highs?.get('b') ?? [])]).toEqual([6, 7])
    })

    it('reads a run that stopped before its first moment', async () => {
        answers(new Response(columns({ length: 0, columns: ['a'], steady: {}, fault: { sentence: 'The run stopped.' } }, [], [])))
        const run = await api.run('m', {})
        expect(run.times).toHaveLength(0)
        expect(run.fault?.sentence).toBe('The run stopped.')
    })

    it('waits for a run that a worker makes, and asks for it by where it is', async () => {
        vi.useFakeTimers()
        const json = (status: number, body: object) =>
            new Response(JSON.stringify(body), { status, headers: { 'Content-Type': 'application/json' } })
        answers(
            json(202, { batch: 'b', position: 0, which: 'run' }),
            json(200, { finished: false, runs: [{ state: 'running' }] }),
            json(200, { finished: true, runs: [{ state: 'done' }] }),
            new Response(columns({ length: 1, columns: ['a'], steady: {}, fault: null }, [0], [5])),
        )
        const asked = api.run('m', { run: { setting: { parameters: { a: 1 } } }, remember: true, points: 7 })
        await vi.advanceTimersByTimeAsync(3000)
        expect([...((await asked).values.get('a') ?? [])]).toEqual([5])
        expect(fetched().map((f) => f.address)).toEqual([
            '/api/models/m/runs',
            '/api/models/m/batches/b',
            '/api/models/m/batches/b',
            '/api/models/m/runs',
        ])
        expect(JSON.parse(fetched()[3]?.body as string)).toEqual({ run: { batch: 'b', position: 0 }, remember: false, points: 7 })

        answers(
            json(202, { batch: 'b', position: 0, which: 'run' }),
            json(200, { finished: true, runs: [{ state: 'refused', words: 'Too much.' }] }),
        )
        const refused = expect(api.run('m', {})).rejects.toThrow('Too much.')
        await vi.advanceTimersByTimeAsync(3000)
        await refused
        vi.useRealTimers()
    })

    it('tells a server that answers with a reason from one that is away', async () => {
        answers(problem(507, { code: 'disk-full', detail: 'The disk is full.' }))
        await expect(api.studies()).rejects.toThrow('The disk is full.')
        answers(new Response('Bad gateway', { status: 502 }))
        await expect(api.studies()).rejects.toBeInstanceOf(ConnectionError)
    })

    it('brings the page’s own token with every change', async () => {
        answers(new Response('{"data": {}}'))
        await api.newStudy('Tide')
        expect(fetched()).toMatchObject([
            { address: '/api/studies', method: 'POST', body: '{"name":"Tide"}', headers: { 'X-XSRF-TOKEN': 'abc=' } },
        ])
    })

    it('sends a file as it is', async () => {
        answers(new Response('{"data": {"id": "s"}, "log": [{"where": "x", "sentence": "y", "element": null}]}'))
        const { study, log } = await api.importStudy('{"format": "…"}')
        expect(study.id).toBe('s')
        expect(log).toHaveLength(1)
        expect(fetched()[0]?.body).toBe('{"format": "…"}')
    })

    it('turns a problem document into an error that is its sentence', async () => {
        answers(problem(422, { code: 'name.taken', detail: 'There already is a stock called so.', field: 'name' }))
        const error = (await api.studies().catch((e: unknown) => e)) as ProblemError
        expect(error).toBeInstanceOf(ProblemError)
        expect([error.message, error.status, error.code, error.details.field]).toEqual([
            'There already is a stock called so.',
            422,
            'name.taken',
            'name',
        ])
    })

    it('has a sentence even for an answer that has none', async () => {
        answers(new Response('<html>', { status: 500 }))
        await expect(api.studies()).rejects.toThrow('Nothing of yours is lost')
    })

    it('tells an absent server from a refusing one', async () => {
        for (const absent of [new TypeError('Failed to fetch'), new Response('', { status: 502 }), new Response('', { status: 503 })]) {
            answers(absent)
            await expect(api.studies()).rejects.toBeInstanceOf(ConnectionError)
        }
    })

    it('wait as long as a busy server asks for, without a word', async () => {
        vi.useFakeTimers()
        answers(
            new Response('', { status: 503, headers: { 'Retry-After': '1' } }),
            new Response('', { status: 503, headers: { 'Retry-After': '2' } }),
            new Response('{"data": []}'),
        )
        const asked = api.studies()
        await vi.advanceTimersByTimeAsync(999)
        expect(fetched()).toHaveLength(1)
        await vi.advanceTimersByTimeAsync(1)
        expect(fetched()).toHaveLength(2)
        await vi.advanceTimersByTimeAsync(2000)
        expect(await asked).toEqual([])
        vi.useRealTimers()
    })

    it('gets a new session once when the old one ran out', async () => {
        answers(problem(419, { detail: 'too old' }), new Response('{}'), new Response('{"data": []}'))
        expect(await api.studies()).toEqual([])
        expect(fetched().map((f) => f.address)).toEqual(['/api/studies', '/', '/api/studies'])
        answers(problem(419, { detail: 'too old' }), new Response('{}'), problem(419, { detail: 'The page was open for too long.' }))
        await expect(api.studies()).rejects.toThrow('open for too long')
    })

    it('knows an empty answer', async () => {
        answers(new Response(null, { status: 204 }))
        expect(await api.deleteStudy('s')).toBeUndefined()
    })
})
