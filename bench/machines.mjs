// Workers on three machines that share nothing but PostgreSQL, Redis and a store of objects: each is a clone in a folder of its own and
// in a network of its own. While an ensemble, a fit and scenarios are made, one worker is killed, one is cut off for a while, and one joins
// late; then every byte is held against what one machine makes. As root, with redis-server, postgresql and iproute2.
//
//     node bench/machines.mjs [RUNS]
import { execFileSync, spawn } from 'node:child_process'
import { createHash } from 'node:crypto'
import { mkdtempSync, readdirSync, readFileSync } from 'node:fs'
import { inflateSync } from 'node:zlib'
import { ended, send, serve, sleep, told, visit } from './client.mjs'

const RUNS = Number(process.argv[2] ?? 4000)
const HERE = '10.77.0.1'
const CUT = 25
const folder = mkdtempSync('/tmp/merry-orbit-machines-')
const sh = (command) => execFileSync('sh', ['-c', command], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] })
const quietly = (command) => {
    try {
        sh(command)
    } catch { /* it is not there */ }
}
const going = []
const start = (command, args, environment = {}) => {
    const process_ = spawn(command, args, { stdio: 'ignore', env: { ...process.env, ...environment } })
    going.push(process_)
    return process_
}
const forget = () => {
    for (const k of [1, 2, 3]) {
        quietly(`for p in $(ip netns pids mo${k}); do kill -9 $p; done; ip netns del mo${k}; ip link del mo${k}a`)
    }
    quietly('ip link del mo0')
}
/** A machine: a network of its own, joined to the others by a cable, and a clone. */
function machine(k) {
    sh(`ip netns add mo${k} && ip link add mo${k}a type veth peer name eth0 netns mo${k} && ip link set mo${k}a master mo0 up &&
        ip -n mo${k} addr add 10.77.0.1${k}/24 dev eth0 && ip -n mo${k} link set eth0 up && ip -n mo${k} link set lo up`)
    sh(`git clone -q . ${folder}/m${k} && cp -al vendor ${folder}/m${k}/vendor && cp .env ${folder}/m${k}/.env && cd ${folder}/m${k} &&
        mkdir -p storage/app storage/logs storage/framework/cache storage/framework/sessions storage/framework/views storage/framework/programs`)
}
const bucket = (address, name) => {
    sh(`mkdir -p ${folder}/${name}`)
    start('php', ['-S', address, 'tests/Feature/bucket.php'], { BUCKET_FOLDER: `${folder}/${name}`, PHP_CLI_SERVER_WORKERS: '6' })
    return { MERRY_ORBIT_RESULTS_DISK: 'bucket', AWS_ENDPOINT: `http://${address}`, AWS_BUCKET: 'coves', AWS_ACCESS_KEY_ID: 'reef', AWS_SECRET_ACCESS_KEY: 'kelp' }
}
/** A run says how long it took, which is no part of what it came to. */
const withoutClock = (bytes) => Buffer.from(inflateSync(bytes).toString('latin1').replace(/^([^]{4}[^]*?)"seconds":[^,]*,/, '$1'), 'latin1').subarray(4)
/** What lies in a store, by name: the parts of ensembles as they are, runs without their clock. */
const contents = (name) =>
    new Map(
        readdirSync(`${folder}/${name}`)
            .map((file) => [Buffer.from(file, 'hex').toString(), readFileSync(`${folder}/${name}/${file}`)])
            .filter(([key]) => /^(ensembles|runs)\//.test(key))
            .map(([key, bytes]) => [key, createHash('sha256').update(key.startsWith('runs/') ? withoutClock(bytes) : bytes).digest('hex')]),
    )
/** Asks for an ensemble, a fit and forty scenarios; gives what tells whether all is made, and what was fitted. */
async function ask(at) {
    const mine = await visit(at)
    const { model } = (await send(at, mine, 'GET', '/api/studies')).data.find((s) => s.name.startsWith('Kelp'))
    const ensemble = (await send(at, mine, 'POST', `/api/models/${model}/ensembles`, { runs: RUNS })).ensembles[0].id
    const fit = (await send(at, mine, 'POST', `/api/models/${model}/fits`, { plan: 'two' })).id
    const runs = Array.from({ length: 40 }, (_, i) => ({ setting: { parameters: { bite: 0.01 + i / 2000 } } }))
    const batch = (await send(at, mine, 'POST', `/api/models/${model}/batches`, { runs })).id
    const isDone = async () => {
        const states = [
            (await send(at, mine, 'GET', `/api/models/${model}/ensembles/${ensemble}`)).finished,
            (await send(at, mine, 'GET', `/api/models/${model}/fits/${fit}`)).finished,
            (await send(at, mine, 'GET', `/api/models/${model}/batches/${batch}`)).finished,
        ]
        return states.every(Boolean)
    }
    const fitted = async () => {
        const { best, result } = await send(at, mine, 'GET', `/api/models/${model}/fits/${fit}`)
        return JSON.stringify([best, result])
    }
    return { isDone, fitted }
}
async function until(isDone, seconds) {
    const begun = Date.now()
    while (!(await isDone())) {
        if (Date.now() - begun > 1000 * seconds) {
            return Infinity
        }
        await sleep(250)
    }
    return (Date.now() - begun) / 1000
}

forget()
const servers = []
let database
try {
    sh(`ip link add mo0 type bridge && ip addr add ${HERE}/24 dev mo0 && ip link set mo0 up`)
    ;[1, 2, 3].forEach(machine)
    database = spawn('sh', ['-c', `. bin/services.sh; start_postgres ${HERE} 10.77.0.0/24 || exit 1; echo "$DB_URL"; cat >/dev/null; stop_postgres`], { stdio: ['pipe', 'pipe', 'inherit'] })
    const url = await new Promise((resolve) => database.stdout.once('data', (text) => resolve(text.toString().trim())))
    start('redis-server', ['--bind', HERE, '--port', '8789', '--protected-mode', 'no', '--save', '', '--appendonly', 'no'])
    const shared = {
        DB_CONNECTION: 'pgsql',
        DB_URL: url,
        QUEUE_CONNECTION: 'redis',
        CACHE_STORE: 'redis',
        REDIS_URL: `redis://${HERE}:8789`,
        ...bucket(`${HERE}:8788`, 'many'),
    }
    const one = await serve(8795, { MERRY_ORBIT_QUEUE: 'yes', ...bucket('127.0.0.1:8787', 'one') })
    servers.push(one)
    const first = await ask(one.at)
    const alone = await until(first.isDone, 300)
    const fit = await first.fitted()
    one.stop()

    const many = await serve(8796, { ...shared, MERRY_ORBIT_QUEUE: 'elsewhere' })
    servers.push(many)
    const worker = (k) => start('ip', ['netns', 'exec', `mo${k}`, `${folder}/m${k}/bin/worker`], shared)
    worker(1)
    worker(2)
    const then = await ask(many.at)
    const chaos = (async () => {
        await sleep(4000)
        quietly('for p in $(ip netns pids mo1); do kill -9 $p; done')
        console.log('    the first worker is killed')
        await sleep(1000)
        sh('ip link set mo2a down')
        console.log(`    the second is cut off for ${CUT} seconds`)
        await sleep(2000)
        worker(3)
        console.log('    a third joins')
        await sleep(1000 * CUT)
        sh('ip link set mo2a up')
        console.log('    the second is back')
    })()
    const took = await until(then.isDone, 400)
    await chaos
    // What the one that was cut off still writes.
    await sleep(8000)
    const [right, made] = [contents('one'), contents('many')]
    const other = [...right].filter(([name, sum]) => made.get(name) !== sum)
    console.log(`one machine with two workers: ${alone.toFixed(0)} s; three that are killed, cut off and late: ${took.toFixed(0)} s; ${right.size} files`)
    told('parts and runs that are missing or not the same to the byte', other.length, 0)
    told('parts and runs that one machine did not make', [...made.keys()].filter((name) => !right.has(name)).length, 0)
    told('fits that came to something else', Number((await then.fitted()) !== fit), 0)
    told('seconds until all was made', Math.round(took), 400)
} finally {
    servers.forEach((s) => s.stop())
    going.forEach((p) => p.kill('SIGKILL'))
    database?.stdin.end()
    await sleep(1500)
    forget()
    quietly(`rm -rf ${folder}`)
}
process.exitCode = ended()
