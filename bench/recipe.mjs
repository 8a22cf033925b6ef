// A server as bin/server sets it up, by hand, on PostgreSQL and Redis as Debian has them; each is started again a second after it died,
// as systemd does. As root, with nginx, php8.2-fpm, postgresql, redis-server and their parts of PHP.
import { execFileSync, spawn } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync } from 'node:fs'
import { sleep } from './client.mjs'

const sh = (command, more = {}) => execFileSync('sh', ['-c', command], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'], ...more })

/** All that runs, by its number. */
function table() {
    const lines = execFileSync('ps', ['-ww', '-eo', 'pid=,ppid=,stat=,args=']).toString().trim().split('\n')
    return lines.map((line) => line.trim().match(/^(\d+)\s+(\d+)\s+(\S+)\s+(.*)$/)).filter(Boolean)
        .map(([, pid, parent, stat, what]) => ({ pid: Number(pid), parent: Number(parent), stat, what }))
}
function below(root, all) {
    const mine = all.filter((p) => p.parent === root)
    return [...mine, ...mine.flatMap((p) => below(p.pid, all))]
}
/** Of which kind a process of the server is; null where nobody would start it again here, or it is soon over. */
function kindOf(what) {
    const known = [
        [/^nginx: master/, 'nginx'], [/^nginx: worker/, "nginx's child"],
        [/^php-fpm: master/, 'php-fpm'], [/^php-fpm: pool/, "php-fpm's child"],
        [/artisan queue:work/, 'worker'],
        [/\/postgres -D/, 'PostgreSQL'], [/^postgres: merry_orbit/, "PostgreSQL's child for a connection"], [/^postgres:/, "PostgreSQL's helper"],
        [/^redis-server|\/redis-server/, 'Redis'],
    ]
    return known.find(([pattern]) => pattern.test(what))?.[1] ?? null
}

export async function serveByRecipe(port, workers = 2) {
    const folder = mkdtempSync('/tmp/merry-orbit-recipe-')
    const clone = `${folder}/clone`
    const kept = []
    let over = false
    const keep = (command, args) => {
        const place = kept.length
        const begin = () => {
            kept[place] = spawn(command, args, { stdio: 'ignore' })
            kept[place].on('exit', () => over || setTimeout(() => over || begin(), 1000))
        }
        begin()
    }
    sh(`chmod 755 ${folder} && git clone -q . ${clone} && cp -al vendor node_modules ${clone}/ && cp -al public/build ${clone}/public/build &&
        touch ${clone}/vendor/.complete ${clone}/node_modules/.complete ${clone}/public/build/manifest.json`)
    const postgres = sh('ls -d /usr/lib/postgresql/*/bin | tail -1').trim()
    const as = ['--reuid=postgres', '--regid=postgres', '--clear-groups']
    sh(`mkdir ${folder}/pg ${folder}/redis && chown postgres ${folder}/pg && cd ${folder}/pg &&
        setpriv ${as.join(' ')} ${postgres}/initdb -D ${folder}/pg/data -A trust -U merry_orbit -E UTF8 --locale=C`)
    keep('setpriv', [...as, `${postgres}/postgres`, '-D', `${folder}/pg/data`, '-c', 'listen_addresses=127.0.0.1', '-c', `port=${port + 1}`, '-c', `unix_socket_directories=${folder}/pg`])
    keep('redis-server', ['--bind', '127.0.0.1', '--port', String(port + 2), '--dir', `${folder}/redis`, '--save', '3600 1 300 100 60 10000'])
    for (let i = 0; i < 100; i++) {
        try {
            sh(`${postgres}/createdb -h 127.0.0.1 -p ${port + 1} -U merry_orbit merry_orbit`)
            break
        } catch { await sleep(200) }
    }
    const shared = {
        DB_CONNECTION: 'pgsql',
        DB_URL: `pgsql://merry_orbit@127.0.0.1:${port + 1}/merry_orbit`,
        QUEUE_CONNECTION: 'redis',
        CACHE_STORE: 'redis',
        REDIS_URL: `redis://127.0.0.1:${port + 2}`,
    }
    const setUp = `bin/server setup --host=127.0.0.1 --port=${port} --workers=${workers} --by-hand --folder=${folder}/server`
    sh(setUp, { cwd: clone })
    sh(`printf '${Object.entries(shared).map(([name, value]) => `${name}=${value}\\n`).join('')}' >>${folder}/server/shared/.env`)
    sh(setUp, { cwd: clone })
    const main = () => Number(readFileSync(`${folder}/server/run/pid`, 'utf8'))
    return {
        at: (path) => `http://127.0.0.1:${port}${path}`,
        /** People with an account and a study each. */
        people: (count) => JSON.parse(sh(`php bench/people.php ${count}`, { env: { ...process.env, ...shared } })),
        rows: (query) => JSON.parse(execFileSync('php', ['-r', '$d = new PDO("pgsql:host=127.0.0.1;port=$argv[1];dbname=merry_orbit;user=merry_orbit"); echo json_encode($d->query($argv[2])->fetchAll(PDO::FETCH_NUM));', String(port + 1), query]).toString()),
        processes() {
            const all = table()
            const roots = [main(), ...kept.map((p) => p.pid)]
            const mine = [...all.filter((p) => kept.some((k) => k.pid === p.pid)), ...roots.flatMap((pid) => below(pid, all))]
            return mine.filter((p) => !p.stat.startsWith('Z')).map((p) => ({ pid: p.pid, kind: kindOf(p.what) })).filter((p) => p.kind)
        },
        logs: () => readdirSync(`${folder}/server/logs`).map((name) => [name, readFileSync(`${folder}/server/logs/${name}`, 'utf8').slice(-2000)]),
        stop() {
            over = true
            try {
                sh(`bin/server remove --with-data --folder=${folder}/server`, { cwd: clone })
            } catch { /* it is gone */ }
            kept.forEach((p) => p.kill('SIGKILL'))
            try {
                sh(`sleep 1; rm -rf ${folder}`)
            } catch { /* a last file is being written */ }
        },
    }
}
