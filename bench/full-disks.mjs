// Fills the disk at each place that is written to, in turn, while the application runs, and looks whether the page opens, health says
// what is full, edits are kept or refused with a sentence, and all goes on by itself when there is room again. As root: the disks are
// made in a mount namespace that ends with the server.
//
//     node bench/full-disks.mjs
import { readdirSync, rmSync, writeFileSync } from 'node:fs'
import { ended, send, serve, sleep, told, visit } from './client.mjs'

const PORT = 8796
const PLACES = {
    'the database': `storage/testing-${PORT}`,
    sessions: 'storage/framework/sessions',
    'the cache': 'storage/framework/cache',
    'compiled models': 'storage/framework/programs',
    'results and data': 'storage/app',
    logs: 'storage/logs',
    'files on their way': '/tmp',
}

/** Writes until there is no room, in ever smaller pieces. */
function fill(folder) {
    for (let size = 1 << 20, i = 0; size >= 1; size = Math.floor(size / 2)) {
        try {
            for (;; i++) {
                writeFileSync(`${folder}/fill-${size}-${i}`, Buffer.alloc(size, 1))
            }
        } catch { /* the next smaller one may fit */ }
    }
}
function empty(folder) {
    readdirSync(folder).filter((f) => f.startsWith('fill-')).forEach((f) => rmSync(`${folder}/${f}`))
}

for (const [what, place] of Object.entries(PLACES)) {
    const server = await serve(PORT, { FULL_DISK: place })
    const { at } = server
    try {
        const headers = await visit(at)
        const folder = `/proc/${server.session()}/root${place.startsWith('/') ? '' : `${process.cwd()}/`}${place}`
        const { data: { model } } = await send(at, headers, 'POST', '/api/studies', { name: 'Full' })
        let kept = 0
        const edit = async () => {
            const edits = [{ id: crypto.randomUUID(), edit: { kind: 'add', id: `p${kept}-${Date.now()}`, element: 'parameter', name: `p ${Date.now()}`, formula: '1' } }]
            const answer = await fetch(at(`/api/models/${model}/edits`), { method: 'POST', headers, body: JSON.stringify({ base: 0, window: 'w', edits }) })
            const said = await answer.json().catch(() => ({}))
            kept += answer.ok ? 1 : 0
            return [answer.status, said.detail ?? '']
        }
        const run = async () => (await fetch(at(`/api/models/${model}/runs`), { method: 'POST', headers, body: '{}' })).status
        await edit()
        fill(folder)
        const page = (await fetch(at('/'))).status
        const health = await (await fetch(at('/api/health'))).json().catch(() => ({ said: ['no health'] }))
        const [status, sentence] = await edit()
        const ran = await run()
        console.log(`${what}: page ${page}, run ${ran}, edit ${status} ${sentence}\n    health: ${health.said.join(' ')}`)
        told('    pages that do not open', page === 200 ? 0 : 1, 0)
        told('    edits that are neither kept nor refused with a sentence', status === 200 || (sentence.length > 20 && [503, 507].includes(status)) ? 0 : 1, 0)
        told('    health that says nothing', health.said.some((s) => /full|written/.test(s)) ? 0 : 1, 0)
        empty(folder)
        await sleep(500)
        told('    edits that are refused afterwards', (await edit())[0] === 200 ? 0 : 1, 0)
        told('    runs that are refused afterwards', (await run()) === 200 ? 0 : 1, 0)
        const { revision } = await send(at, headers, 'GET', `/api/models/${model}`)
        told('    edits that are lost or doubled', Math.abs(kept - revision), 0)
    } finally {
        server.stop()
        await sleep(3000)
    }
}
process.exit(ended())
