// Kills random processes of a server while six windows edit one model, and looks whether every edit that was acknowledged is there
// exactly once, how long nothing was answered, and whether an ensemble that workers make comes to its end.
//
//     node bench/killed.mjs [KILLS]
import { execFileSync, spawn } from 'node:child_process'
import { readFileSync } from 'node:fs'

const PORT = 8797
const KILLS = Number(process.argv[2] ?? 100)
const EDITORS = 6
const at = (path) => `http://127.0.0.1:${PORT}${path}`
const sleep = (ms) => new Promise((resolve) => setTimeout(resolve, ms))
const database = `storage/testing-${PORT}/browser.sqlite`
const sql = (query) => execFileSync('php', ['-r', '$d = new PDO("sqlite:".$argv[1]); echo json_encode($d->query($argv[2])->fetchAll(PDO::FETCH_NUM));', database, query]).toString()
const rows = (query) => JSON.parse(sql(query))

const server = spawn('sh', ['-c', `MERRY_ORBIT_QUEUE=yes exec setsid tests/Browser/serve.sh ${PORT}`], { stdio: 'ignore' })
let failed = false
const told = (words, figure, most) => {
    failed ||= figure > most
    console.log(`${words}: ${figure} (at most ${most})`)
}

/** The processes that may be killed: all but the one outside, which nobody would start again here. */
function processes() {
    try {
        const session = readFileSync(`storage/framework/serve-${PORT}/session`, 'utf8').trim()
        return execFileSync('ps', ['-o', 'pid=,stat=,args=', '-s', session]).toString().split('\n')
            .map((line) => line.trim().split(/\s+/))
            .filter(([pid, stat, ...args]) => pid && !stat.startsWith('Z') && !/^(ps|sleep)$/.test(args[0]))
            .map(([pid, , ...args]) => ({ pid: Number(pid), what: args.join(' ') }))
    } catch {
        return []
    }
}

let answered = Date.now()
let longest = 0
let over = false
async function watch() {
    while (!over) {
        const ok = await fetch(at('/api/health'), { signal: AbortSignal.timeout(1000) }).then((r) => r.ok || r.status === 503, () => false)
        const now = Date.now()
        if (ok) {
            longest = Math.max(longest, now - answered)
            answered = now
        }
        await sleep(25)
    }
}
async function back(since) {
    while (answered <= since) {
        await sleep(20)
    }
}

/** A browser's cookies. */
async function visit() {
    for (;;) {
        try {
            const page = await fetch(at('/'), { signal: AbortSignal.timeout(3000) })
            await page.text()
            const cookies = page.headers.getSetCookie().map((c) => c.split(';')[0])
            const token = cookies.find((c) => c.startsWith('XSRF-TOKEN='))
            if (token) {
                return { Cookie: cookies.join('; '), 'X-XSRF-TOKEN': decodeURIComponent(token.slice(11)), 'Content-Type': 'application/json', Accept: 'application/json' }
            }
        } catch { /* it is away for a moment */ }
        await sleep(100)
    }
}
async function send(headers, method, path, body) {
    for (;;) {
        try {
            const answer = await fetch(at(path), { method, headers, body: JSON.stringify(body), signal: AbortSignal.timeout(8000) })
            const text = await answer.text()
            if (answer.ok && text !== '') {
                return JSON.parse(text)
            }
            if (answer.status === 419) {
                Object.assign(headers, await visit())
            } else if (answer.status < 500 && answer.status !== 429 && !answer.ok) {
                throw new Error(`${answer.status} ${text.slice(0, 300)}`, { cause: 'refused' })
            }
        } catch (e) {
            if (e.cause === 'refused') {
                throw e
            }
        }
        await sleep(100)
    }
}
const acknowledged = []
async function edit(model, k) {
    const headers = await visit()
    for (let i = 0; !over; i++) {
        const id = `w${k}-${i}`
        const edits = [{ id: crypto.randomUUID(), edit: { kind: 'add', id, element: 'parameter', name: `w${k} number ${i}`, formula: String(i) } }]
        await send(headers, 'POST', `/api/models/${model}/edits`, { base: 0, window: `window-${k}`, edits })
        acknowledged.push(id)
        await sleep(150)
    }
}

try {
    for (let i = 0; i < 200 && !await fetch(at('/api/health')).then((r) => r.ok, () => false); i++) {
        await sleep(200)
    }
    const headers = await visit()
    const { data } = await send(headers, 'POST', '/api/studies', { name: 'Under fire' })
    const { data: studies } = await (await fetch(at('/api/studies'), { headers })).json()
    const kelp = studies.find((s) => s.name.startsWith('Kelp'))
    const ensemble = await send(headers, 'POST', `/api/models/${kelp.model}/ensembles`, { runs: 20000, seed: 1 })
    answered = Date.now()
    const watching = watch()
    const editors = Array.from({ length: EDITORS }, (_, k) => edit(data.model, k))
    const kinds = {}
    let slowest = 0
    for (let i = 0; i < KILLS; i++) {
        await sleep(50 + 250 * Math.random())
        const all = processes()
        if (!all.length) {
            continue
        }
        const { pid, what } = all[Math.floor(all.length * Math.random())]
        try {
            process.kill(pid, 'SIGKILL')
        } catch {
            continue
        }
        const kind = /-S /.test(what) ? 'server' : /queue:work/.test(what) ? 'worker' : /station/.test(what) ? 'station' : /bin\/serve/.test(what) ? 'supervisor' : 'other'
        kinds[kind] = (kinds[kind] ?? 0) + 1
        const killed = Date.now()
        await back(killed)
        slowest = Math.max(slowest, Date.now() - killed)
    }
    over = true
    await Promise.all([...editors, watching])
    console.log('killed:', JSON.stringify(kinds), 'edits:', acknowledged.length)
    told('longest time without an answer after a kill, ms', slowest, 3000)
    const [[document, revision]] = rows(`select document, revision from models where id = '${data.model}'`)
    const there = JSON.parse(document).elements.map((e) => e.id)
    const counted = new Map()
    there.forEach((id) => counted.set(id, (counted.get(id) ?? 0) + 1))
    told('acknowledged edits that are lost', acknowledged.filter((id) => !counted.has(id)).length, 0)
    told('edits that are there twice', there.length - counted.size, 0)
    const [[written]] = rows(`select count(*) from edits where model_id = '${data.model}'`)
    told('edits without their row, or rows without an edit', Math.abs(written - revision) + Math.abs(there.length - revision), 0)
    told('faults of the database', rows('pragma integrity_check').flat().filter((s) => s !== 'ok').length, 0)
    const again = await visit()
    let state = {}
    for (let i = 0; i < 300 && !state.finished; i++) {
        state = await (await fetch(at(`/api/models/${kelp.model}/ensembles/${ensemble.ensembles[0].id}`), { headers: again })).json()
        await sleep(1000)
    }
    told('runs of the ensemble that are missing', 20000 - (state.made ?? state.done ?? 0), 0)
} finally {
    try {
        process.kill(Number(readFileSync(`storage/framework/serve-${PORT}/session`, 'utf8')), 'SIGTERM')
    } catch { /* it is gone */ }
    server.kill('SIGTERM')
}
process.exit(failed ? 1 : 0)
