// Fifty people with an account each on one server: ten turn a dial, twenty-five edit and run, fifteen look whether anything is new.
//
//     node bench/people.mjs [PEOPLE] [PROCESSES]
import { execFileSync } from 'node:child_process'
import { ended, percentile, send, serve, signIn, sleep, told } from './client.mjs'

const PORT = 8796
const PEOPLE = Number(process.argv[2] ?? 50)
const SECONDS = 40
const server = await serve(PORT, { MERRY_ORBIT_QUEUE: 'yes', MERRY_ORBIT_DEMO: 'false', MERRY_ORBIT_PROCESSES: process.argv[3] ?? '8' })
const { at } = server
const made = JSON.parse(execFileSync('php', ['bench/people.php', String(PEOPLE)], { env: { ...process.env, DB_DATABASE: `${process.cwd()}/${server.database}` } }).toString())

/** Who waited how long, by person. */
const waits = { dial: [], edit: [], news: [] }
const timed = async (list, work) => {
    const begun = performance.now()
    await work()
    list.push(performance.now() - begun)
}
try {
    const people = []
    for (const { email, model } of made) {
        people.push({ model, headers: await signIn(at, email) })
    }
    const until = Date.now() + 1000 * SECONDS
    const dial = async ({ model, headers }, k) => {
        const own = []
        waits.dial.push(own)
        await sleep(200 * k)
        for (let i = 0; Date.now() < until; i++) {
            // A hand holds it for some seconds, some moves a second; then it looks.
            const run = { setting: { parameters: { bite: 0.01 + ((i * 7 + k) % 40) / 1000 } } }
            await timed(own, () => send(at, headers, 'POST', `/api/models/${model}/runs`, { run, only: ['kelp', 'urchins', 'otters'], remember: false }))
            await sleep(i % 20 === 19 ? 2000 : 150)
        }
    }
    const edit = async ({ model, headers }, k) => {
        const own = []
        waits.edit.push(own)
        await sleep(120 * k)
        let base = (await send(at, headers, 'GET', `/api/models/${model}`)).revision
        for (let i = 0; Date.now() < until; i++) {
            await timed(own, async () => {
                const change = { kind: 'formula', id: 'growth-rate', text: String(0.5 + (i % 30) / 100) }
                base = (await send(at, headers, 'POST', `/api/models/${model}/edits`, { base, window: 'one', edits: [{ id: crypto.randomUUID(), edit: change }] })).revision
                await send(at, headers, 'POST', `/api/models/${model}/runs`, { run: {}, remember: false })
            })
            await sleep(2000 + 2000 * Math.random())
        }
    }
    const look = async ({ model, headers }) => {
        const own = []
        waits.news.push(own)
        for (let since = 0; Date.now() < until;) {
            await timed(own, async () => {
                since = (await send(at, headers, 'GET', `/api/models/${model}/news?since=${since}`)).revision
            })
            await sleep(1000)
        }
    }
    const dials = Math.round(PEOPLE / 5)
    const edits = Math.round(PEOPLE / 2)
    await Promise.all(people.map((p, k) => (k < dials ? dial(p, k) : k < dials + edits ? edit(p, k - dials) : look(p))))
    const all = Object.fromEntries(Object.entries(waits).map(([of, own]) => [of, own.flat()]))
    const say = (list) => `${list.length} times, ${Math.round(percentile(list, 0.5))} ms in the middle, ${Math.round(percentile(list, 0.95))} for 95 of 100, at most ${Math.round(Math.max(...list))}`
    console.log(`${PEOPLE} people: dials ${say(all.dial)}`)
    console.log(`    edits with their run ${say(all.edit)}`)
    console.log(`    news ${say(all.news)}`)
    told(`a dial beside ${dials - 1} others, ms, 95 of 100`, Math.round(percentile(all.dial, 0.95)), 400)
    // Nobody is served much worse than others who do the same.
    const middles = waits.dial.map((own) => percentile(own, 0.5))
    told('the slowest dial against the middle one', Number((Math.max(...middles) / percentile(middles, 0.5)).toFixed(2)), 2)
    told('the longest wait of anybody, ms', Math.round(Math.max(...Object.values(all).flat())), 3000)
} finally {
    server.stop()
}
process.exitCode = ended()
