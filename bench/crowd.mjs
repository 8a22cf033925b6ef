// Eight windows that write and twenty that read one model; five of the heaviest runs at once beside another person's dial; a day of
// fifty windows in fast motion, after which nothing has grown; a database that somebody holds for a minute.
//
//     node bench/crowd.mjs
import { execFileSync, spawn } from 'node:child_process'
import { ended, percentile, send, serve, sleep, told, visit } from './client.mjs'

const PORT = 8796
const WRITERS = 8
const READERS = 20
const SECONDS = 20
const POLLS = 20_000

const server = await serve(PORT, { MERRY_ORBIT_QUEUE: 'yes' })
const { at } = server
const timed = async (list, work) => {
    const begun = performance.now()
    await work()
    list.push(performance.now() - begun)
}
const files = () => Number(execFileSync('sh', ['-c', 'find storage/framework storage/logs storage/app -type f | wc -l']).toString())
const bytes = () => Number(execFileSync('sh', ['-c', 'du -sb storage/framework storage/logs storage/app | awk "{s+=\\$1} END {print s}"']).toString())

try {
    const mine = await visit(at)
    const { data: { model } } = await send(at, mine, 'POST', '/api/studies', { name: 'Crowd' })
    const studies = (await send(at, mine, 'GET', '/api/studies')).data
    const ferry = studies.find((s) => s.name.startsWith('Ferry')).model

    const writes = []
    const reads = []
    const until = Date.now() + 1000 * SECONDS
    let made = 0
    const write = async (k) => {
        const headers = await visit(at)
        for (let i = 0; Date.now() < until; i++) {
            const edit = { kind: 'add', id: `w${k}-${i}`, element: 'parameter', name: `w${k} number ${i}`, formula: '1' }
            await timed(writes, () => send(at, headers, 'POST', `/api/models/${model}/edits`, { base: 0, window: `w${k}`, edits: [{ id: crypto.randomUUID(), edit }] }))
            made++
            await sleep(1000)
        }
    }
    const read = async () => {
        const headers = await visit(at)
        for (let since = 0; Date.now() < until;) {
            await timed(reads, async () => {
                since = (await send(at, headers, 'GET', `/api/models/${model}/news?since=${since}`)).revision
            })
            await sleep(1000)
        }
    }
    await Promise.all([...Array.from({ length: WRITERS }, (_, k) => write(k)), ...Array.from({ length: READERS }, read)])
    told(`${WRITERS} writers and ${READERS} readers: an edit, ms, 95 of 100`, Math.round(percentile(writes, 0.95)), 300)
    console.log(`    news: ${Math.round(percentile(reads, 0.95))} ms`)
    told('edits that are lost or doubled', Math.abs(made - server.rows(`select revision from models where id = '${model}'`)[0][0]), 0)

    // The heaviest that a request may be asked for, again and again, by another person's five windows.
    const heavy = { setting: { time: { start: 0, end: 120, step: 0.0005, method: 'rk4', saveEvery: 1 } } }
    let holding = true
    let answers = {}
    const hold = async () => {
        const headers = await visit(at)
        while (holding) {
            const answer = await fetch(at(`/api/models/${ferry}/table`), { method: 'POST', headers, body: JSON.stringify({ runs: [heavy, heavy], of: ['visitors'], times: [1] }) }).catch(() => null)
            await answer?.arrayBuffer().catch(() => null)
            answers[answer?.status ?? 'none'] = (answers[answer?.status ?? 'none'] ?? 0) + 1
            await sleep(1000 * Number(answer?.headers.get('Retry-After') ?? 0))
        }
    }
    const five = Array.from({ length: 5 }, hold)
    await sleep(2000)
    const dials = []
    for (let i = 0; i < 60; i++) {
        await timed(dials, () => send(at, mine, 'POST', `/api/models/${ferry}/runs`, { run: { setting: { parameters: {}, seed: i } }, only: ['visitors'], remember: false }))
        await sleep(100)
    }
    holding = false
    await Promise.all(five)
    console.log('    what the heavy ones were answered:', JSON.stringify(answers))
    told('a dial beside five heavy runs, ms, 95 of 100', Math.round(percentile(dials, 0.95)), 500)

    // A day of fifty windows that ask every five seconds has 864,000 questions; here are as many as fit into some minutes.
    const [before, size] = [files(), bytes()]
    let asked = 0
    const rush = async () => {
        const headers = await visit(at)
        while (asked++ < POLLS) {
            await (await fetch(at(`/api/models/${ferry}/news?since=0`), { headers })).arrayBuffer()
        }
    }
    const begun = Date.now()
    await Promise.all(Array.from({ length: 50 }, rush))
    console.log(`    ${POLLS} questions in ${Math.round((Date.now() - begun) / 1000)} s`)
    told('files that fifty windows left behind', Math.max(0, files() - before - 50), 5)
    told('bytes that were added, for each question', Math.max(0, Math.round((bytes() - size) / POLLS)), 5)

    // Somebody holds the database for a minute.
    const holder = spawn('php', ['-r', '$d = new PDO("sqlite:".$argv[1]); $d->exec("begin immediate"); sleep(60); $d->exec("commit");', server.database])
    await sleep(500)
    const waited = performance.now()
    const said = await (await fetch(at('/api/health'))).json()
    told('health that does not say so', said.well ? 1 : 0, 0)
    const one = { kind: 'add', id: 'after-all', element: 'parameter', name: 'after all', formula: '1' }
    await send(at, mine, 'POST', `/api/models/${model}/edits`, { base: 0, window: 'w', edits: [{ id: crypto.randomUUID(), edit: one }] })
    console.log(`    an edit that began while it was held was done after ${Math.round((performance.now() - waited) / 1000)} s`)
    told('edits that are lost or doubled', Math.abs(made + 1 - server.rows(`select revision from models where id = '${model}'`)[0][0]), 0)
    told('health that says more', (await (await fetch(at('/api/health'))).json()).well ? 0 : 1, 0)
    holder.kill()
} finally {
    server.stop()
}
process.exit(ended())
