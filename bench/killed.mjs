// Kills random processes of a server while six windows edit one model, and looks whether every edit that was acknowledged is there
// exactly once, how long nothing was answered, and whether an ensemble that workers make comes to its end. With --recipe it is a server as
// bin/server sets it up, with PostgreSQL and Redis, which are killed as well, and a fit and scenarios are made beside; as root.
//
//     node bench/killed.mjs [KILLS] [--recipe]
import { execFileSync } from 'node:child_process'
import { ended, send, serve, signIn, sleep, told, visit } from './client.mjs'
import { serveByRecipe } from './recipe.mjs'

const PORT = 8784
const KILLS = Number(process.argv[2] ?? 100)
const EDITORS = 6
const RUNS = 20_000
const BY_RECIPE = process.argv.includes('--recipe')
// What has to recover its files after it died takes a moment longer.
const BACK = BY_RECIPE ? 10_000 : 3000
const server = BY_RECIPE ? await serveByRecipe(PORT) : await serve(PORT, { MERRY_ORBIT_QUEUE: 'yes' })
const { at } = server
const analyst = BY_RECIPE ? server.people(1)[0].email : ''
// One person with a browser and six windows; a person may not sign in as often as one likes.
const entered = BY_RECIPE ? signIn(at, analyst) : null
const enter = () => entered ?? visit(at)

const KINDS = [[/-S /, 'server'], [/queue:work/, 'worker'], [/station/, 'station'], [/bin\/serve/, 'supervisor']]
/** The processes that may be killed, by kind: all but the one outside, which nobody would start again here. */
function processes() {
    if (BY_RECIPE) {
        return server.processes()
    }
    try {
        return execFileSync('ps', ['-ww', '-o', 'pid=,stat=,args=', '-s', String(server.session())]).toString().split('\n')
            .map((line) => line.trim().split(/\s+/))
            .filter(([pid, stat, ...args]) => pid && !stat.startsWith('Z') && !/^(ps|sleep)$/.test(args[0]))
            .map(([pid, , ...args]) => ({ pid: Number(pid), kind: KINDS.find(([is]) => is.test(args.join(' ')))?.[1] ?? 'other' }))
    } catch {
        return []
    }
}

let answered = Date.now()
let longest = 0
let over = false
async function watch() {
    while (!over) {
        const ok = await fetch(at('/api/health'), { signal: AbortSignal.timeout(1000) }).then((r) => r.json(), () => null).then((h) => h?.database === true, () => false)
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
    const headers = await enter()
    const name = { id: `w${k}`, element: 'parameter', name: `window ${k}` }
    for (let i = 0; !over; i++) {
        const edit = i === 0 ? { kind: 'add', ...name, formula: '0' } : { kind: 'formula', id: `w${k}`, text: String(i) }
        await send(at, headers, 'POST', `/api/models/${model}/edits`, { base: 0, window: `window-${k}`, edits: [{ id: crypto.randomUUID(), edit }] })
        counts[k]++
        await sleep(150)
    }
}

try {
    const headers = await enter()
    const { data } = await send(at, headers, 'POST', '/api/studies', { name: 'Under fire' })
    const { data: studies } = await send(at, headers, 'GET', '/api/studies')
    const kelp = studies.find((s) => s.name.startsWith('Kelp'))
    const ensemble = await send(at, headers, 'POST', `/api/models/${kelp.model}/ensembles`, { runs: RUNS, seed: 1 })
    const more = BY_RECIPE
        ? [
              `fits/${(await send(at, headers, 'POST', `/api/models/${kelp.model}/fits`, { plan: 'two' })).id}`,
              `batches/${(await send(at, headers, 'POST', `/api/models/${kelp.model}/batches`, { runs: Array.from({ length: 60 }, (_, i) => ({ setting: { parameters: { bite: 0.01 + i / 2000 } } })) })).id}`,
          ]
        : []
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
        // Of each kind as often, however many there are.
        const group = [...new Set(all.map((p) => p.kind))]
        const kind = group[Math.floor(group.length * Math.random())]
        const alike = all.filter((p) => p.kind === kind)
        const { pid } = BY_RECIPE ? alike[Math.floor(alike.length * Math.random())] : all[Math.floor(all.length * Math.random())]
        try {
            process.kill(pid, 'SIGKILL')
        } catch {
            continue
        }
        i++
        const what = all.find((p) => p.pid === pid).kind
        const killed = Date.now()
        await back(killed)
        const took = Date.now() - killed
        slowest = Math.max(slowest, took)
        kinds[what] = [(kinds[what]?.[0] ?? 0) + 1, Math.max(kinds[what]?.[1] ?? 0, took)]
        if (i % 100 === 0) {
            console.log(`    ${i} kills, ${done()} edits, ${slowest} ms`)
        }
    }
    over = true
    await Promise.all([...editors, watching])
    console.log('killed, and ms until it answered again:', JSON.stringify(kinds), 'edits:', done())
    told('longest time without an answer after a kill, ms', slowest, BACK)
    const [[document, revision]] = server.rows(`select document, revision from models where id = '${data.model}'`)
    const values = JSON.parse(document).elements.map((e) => [e.id, e.formula.join('')])
    told('windows whose last acknowledged edit is not what is there', counts.filter((n, k) => !values.some(([id, f]) => id === `w${k}` && f === String(n - 1))).length, 0)
    told('edits that are lost or doubled', Math.abs(done() - revision), 0)
    told('edits without their row, or rows without an edit', Math.abs(server.rows(`select count(*) from edits where model_id = '${data.model}'`)[0][0] - revision), 0)
    if (!BY_RECIPE) {
        told('faults of the database', server.rows('pragma integrity_check').flat().filter((s) => s !== 'ok').length, 0)
    }
    const again = await enter()
    let state = {}
    for (let i = 0; i < 300 && !state.finished; i++) {
        state = await send(at, again, 'GET', `/api/models/${kelp.model}/ensembles/${ensemble.ensembles[0].id}`)
        await sleep(1000)
    }
    told('runs of the ensemble that are missing', Math.max(0, RUNS - (state.done ?? 0)), 0)
    for (const one of more) {
        let isDone = false
        for (let i = 0; i < 120 && !isDone; i++) {
            isDone = (await send(at, again, 'GET', `/api/models/${kelp.model}/${one}`)).finished
            await sleep(500)
        }
        told(`${one.split('/')[0]} that did not come to their end`, Number(!isDone), 0)
    }
} finally {
    server.stop()
}
process.exit(ended())
