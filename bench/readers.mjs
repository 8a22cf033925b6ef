// A hundred readers of one page who all move its inputs, beside its author's own work, which is timed alone first.
//
//     node bench/readers.mjs [READERS]
import { ended, percentile, send, serve, sleep, told, visit } from './client.mjs'

const PORT = 8796
const PRICE = 'e89331e5407d'
const READERS = Number(process.argv[2] ?? 100)
const SECONDS = 20
const STEPS = { word: ['price'], boat: ['price', 'boat'], water: ['rain', 'full'], yours: ['price', 'boat', 'full'] }
const PLACES = { rain: [1.8, 2, 2.2, 2.5, 2.9], price: [10, 20, 30, 40, 50, 60, 70, 80, 90], boat: [1, 2], full: [1500, 2200, 20000] }
const any = (list) => list[Math.floor(Math.random() * list.length)]

const server = await serve(PORT, { MERRY_ORBIT_QUEUE: 'yes' })
const { at } = server
const timed = async (list, work) => {
    const begun = performance.now()
    await work()
    list.push(performance.now() - begun)
}

try {
    const mine = await visit(at)
    const ferry = (await send(at, mine, 'GET', '/api/studies')).data.find((s) => s.name.startsWith('Ferry'))
    const { key } = await send(at, mine, 'POST', `/api/studies/${ferry.id}/links`, { showcase: 'guests', may: 'try' })
    // A hand at a dial: an edit with the run after it.
    const work = async (list, count) => {
        let base = (await send(at, mine, 'GET', `/api/models/${ferry.model}`)).revision
        for (let i = 0; i < count; i++) {
            await timed(list, async () => {
                // What changes no number and what changes all of them, in turn.
                const edit = i % 2 ? { kind: 'note', id: PRICE, text: `Policy: a price, ${i}.` } : { kind: 'formula', id: PRICE, text: String(20 + (i % 20)) }
                base = (await send(at, mine, 'POST', `/api/models/${ferry.model}/edits`, { base, window: 'author', edits: [{ id: crypto.randomUUID(), edit }] })).revision
                await send(at, mine, 'POST', `/api/models/${ferry.model}/runs`, { run: { setting: { seed: i } }, only: ['visitors'], remember: false })
            })
            await sleep(200)
        }
    }
    const alone = []
    await work(alone, 40)

    const waits = []
    const refused = []
    const until = Date.now() + 1000 * SECONDS
    const read = async () => {
        const headers = { 'X-Merry-Link': key, 'Content-Type': 'application/json', Accept: 'application/json' }
        await sleep(2000 * Math.random())
        while (Date.now() < until) {
            const step = any(Object.keys(STEPS))
            const inputs = Object.fromEntries(STEPS[step].map((id) => [id, any(PLACES[id])]))
            await timed(waits, async () => {
                const answer = await fetch(at('/api/shown'), { method: 'POST', headers, body: JSON.stringify({ step, inputs }) })
                await answer.arrayBuffer()
                if (!answer.ok) {
                    refused.push(answer.status)
                }
            })
            // They look at what came of it.
            await sleep(1500 + 1500 * Math.random())
        }
    }
    const beside = []
    const author = (async () => {
        await sleep(2000)
        await work(beside, 40)
    })()
    await Promise.all([author, ...Array.from({ length: READERS }, read)])
    console.log(`${READERS} readers asked ${waits.length} times; ${Math.round(percentile(waits, 0.5))} ms at the middle, ${Math.round(percentile(waits, 0.95))} ms for 95 of 100`)
    told('the longest wait of a reader, ms', Math.round(Math.max(...waits)), 2000)
    told('readers who were refused', refused.length, 0)
    console.log(`    the author: ${Math.round(percentile(alone, 0.5))} ms alone, ${Math.round(percentile(beside, 0.5))} ms beside them`)
    told('the author’s work beside them, as many times as long', Number((percentile(beside, 0.5) / percentile(alone, 0.5)).toFixed(2)), 1.5)
} finally {
    server.stop()
}
process.exitCode = ended()
