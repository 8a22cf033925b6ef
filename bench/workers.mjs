// How much faster many workers are than one, on PostgreSQL and Redis: one and two that compute, on two cores; and 1, 2, 8 and 32 of which each
// part of an ensemble is seconds of waiting and little to compute, so that what is measured is not the cores but what the workers share.
//
//     node bench/workers.mjs
import { execFileSync, spawn } from 'node:child_process'
import { ended, send, serve, sleep, told, visit } from './client.mjs'

const PORT = 8795
const redis = spawn('sh', ['-c', '. bin/services.sh; start_postgres && start_redis || exit 1; echo "$DB_URL"; cat >/dev/null; stop_redis; stop_postgres'], { stdio: ['pipe', 'pipe', 'inherit'] })
const url = await new Promise((resolve) => redis.stdout.once('data', (text) => resolve(text.toString().trim())))
const shared = { DB_CONNECTION: 'pgsql', DB_URL: url, QUEUE_CONNECTION: 'redis', CACHE_STORE: 'redis', REDIS_URL: 'redis://127.0.0.1:8786' }
const options = execFileSync('sh', ['-c', '. bin/php.sh; echo $php_options']).toString().trim().split(/\s+/)
const busy = () => {
    // Of all cores, in seconds; PostgreSQL, Redis and the workers are nearly all that runs.
    const [, user, nice, system] = execFileSync('head', ['-1', '/proc/stat']).toString().trim().split(/\s+/).map(Number)
    return (user + nice + system) / 100
}
let server
let workers = []
try {
    server = await serve(PORT, { ...shared, MERRY_ORBIT_QUEUE: 'elsewhere' })
    const { at } = server
    const mine = await visit(at)
    const { model } = (await send(at, mine, 'GET', '/api/studies')).data.find((s) => s.name.startsWith('Kelp'))
    let seed = 1
    /** Runs a second of an ensemble between a third and nine tenths of it, by so many workers; or its parts, each of so many seconds. */
    const measure = async (count, runs, slow = 0) => {
        workers = Array.from({ length: count }, () =>
            slow
                ? spawn('php', [...options, 'bench/slow-worker.php', String(slow)], { stdio: 'ignore', env: { ...process.env, ...shared } })
                : spawn('bin/worker', [], { stdio: 'ignore', env: { ...process.env, ...shared } }),
        )
        // They are there before anything is asked for.
        await sleep(3000 + 400 * count)
        const setting = slow ? { time: { end: 5 } } : undefined
        const made = (await send(at, mine, 'POST', `/api/models/${model}/ensembles`, { runs, seed: seed++, setting })).ensembles[0]
        let begun = null
        let state = made
        let used = 0
        while (state.done < 0.9 * runs) {
            await sleep(100)
            state = await send(at, mine, 'GET', `/api/models/${model}/ensembles/${made.id}`)
            if (begun === null && state.done > 0.33 * runs) {
                begun = [performance.now(), state.done]
                used = busy()
            }
        }
        const seconds = (performance.now() - begun[0]) / 1000
        // As many runs as a part has, see App\Uncertain\Ensembles.
        const part = slow ? Math.max(100, Math.min(250, runs / 40)) : 1
        const rate = (state.done - begun[1]) / part / seconds
        const cores = (busy() - used) / seconds
        await send(at, mine, 'DELETE', `/api/models/${model}/ensembles/${made.id}`)
        workers.forEach((w) => w.kill('SIGTERM'))
        await sleep(500 + 1000 * (slow || 1))
        workers.forEach((w) => w.kill('SIGKILL'))
        const what = slow ? `parts of ${slow} s, ` : 'computing, '
        const share = slow ? `, ${((100 * rate * slow) / count).toFixed(0)} % of the time at a part` : ''
        console.log(`${what}${count} worker${count > 1 ? 's' : ''}: ${rate.toFixed(slow ? 1 : 0)} ${slow ? 'parts' : 'runs'} a second, ${cores.toFixed(2)} cores busy${share}`)
        return rate
    }
    const [one, two] = [await measure(1, 4000), await measure(2, 6000)]
    told('one that computes against half of two', Number(((2 * one) / two).toFixed(2)), 1.4)
    const rates = {}
    for (const [count, runs] of [[1, 2000], [2, 3000], [8, 8000], [32, 40_000]]) {
        rates[count] = await measure(count, runs, 2)
    }
    told('parts of 2 s, one worker against an eighth of eight', Number(((8 * rates[1]) / rates[8]).toFixed(2)), 1.3)
    told('and against a thirty-second of thirty-two', Number(((32 * rates[1]) / rates[32]).toFixed(2)), 1.3)
    // Where it bends.
    await measure(32, 80_000, 0.5)
} finally {
    workers.forEach((w) => w.kill('SIGKILL'))
    server?.stop()
    redis.stdin.end()
    await sleep(1500)
}
process.exitCode = ended()
