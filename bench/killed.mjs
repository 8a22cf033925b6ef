// Kills random processes of a server while six windows edit one model, and looks whether every edit that was acknowledged is there
// exactly once, how long nothing was answered, and whether an ensemble that workers make comes to its end.
//
//     node bench/killed.mjs [KILLS]
import { execFileSync } from 'node:child_process'
import { ended, send, serve, sleep, told, visit } from './client.mjs'

const PORT = 8797
const KILLS = Number(process.argv[2] ?? 100)
const EDITORS = 6
const RUNS = 20_000
const server = await serve(PORT, { MERRY_ORBIT_QUEUE: 'yes' })
const { at } = server

/** The processes that may be killed: all but the one outside, which nobody would start again here. */
function processes() {
    try {
        return execFileSync('ps', ['-ww', '-o', 'pid=,stat=,args=', '-s', String(server.session())]).toString().split('\n')
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

/** How often each window's edits were acknowledged. */
const counts = Array.from({ length: EDITORS }, () => 0)
const done = () => counts.reduce((a, b) => a + b, 0)
async function edit(model, k) {
    const headers = await visit(at)
    const name = { id: `w${k}`, element: 'parameter', name: `window ${k}` }
    for (let i = 0; !over; i++) {
        const edit = i === 0 ? { kind: 'add', ...name, formula: '0' } : { kind: 'formula', id: `w${k}`, text: String(i) }
        await send(at, headers, 'POST', `/api/models/${model}/edits`, { base: 0, window: `window-${k}`, edits: [{ id: crypto.randomUUID(), edit }] })
        counts[k]++
        await sleep(150)
    }
}

try {
    const headers = await visit(at)
    const { data } = await send(at, headers, 'POST', '/api/studies', { name: 'Under fire' })
    const { data: studies } = await send(at, headers, 'GET', '/api/studies')
    const kelp = studies.find((s) => s.name.startsWith('Kelp'))
    const ensemble = await send(at, headers, 'POST', `/api/models/${kelp.model}/ensembles`, { runs: RUNS, seed: 1 })
    answered = Date.now()
    const watching = watch()
    const editors = Array.from({ length: EDITORS }, (_, k) => edit(data.model, k))
    const kinds = {}
    let slowest = 0
    for (let i = 0; i < KILLS;) {
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
        i++
        kinds[kind] = (kinds[kind] ?? 0) + 1
        const killed = Date.now()
        await back(killed)
        slowest = Math.max(slowest, Date.now() - killed)
        if (i % 100 === 0) {
            console.log(`    ${i} kills, ${done()} edits, ${slowest} ms`)
        }
    }
    over = true
    await Promise.all([...editors, watching])
    console.log('killed:', JSON.stringify(kinds), 'edits:', done())
    told('longest time without an answer after a kill, ms', slowest, 3000)
    const [[document, revision]] = server.rows(`select document, revision from models where id = '${data.model}'`)
    const values = JSON.parse(document).elements.map((e) => [e.id, e.formula.join('')])
    told('windows whose last acknowledged edit is not what is there', counts.filter((n, k) => !values.some(([id, f]) => id === `w${k}` && f === String(n - 1))).length, 0)
    told('edits that are lost or doubled', Math.abs(done() - revision), 0)
    told('edits without their row, or rows without an edit', Math.abs(server.rows(`select count(*) from edits where model_id = '${data.model}'`)[0][0] - revision), 0)
    told('faults of the database', server.rows('pragma integrity_check').flat().filter((s) => s !== 'ok').length, 0)
    const again = await visit(at)
    let state = {}
    for (let i = 0; i < 300 && !state.finished; i++) {
        state = await send(at, again, 'GET', `/api/models/${kelp.model}/ensembles/${ensemble.ensembles[0].id}`)
        await sleep(1000)
    }
    told('runs of the ensemble that are missing', RUNS - (state.made ?? state.done ?? 0), 0)
} finally {
    server.stop()
}
process.exit(ended())
