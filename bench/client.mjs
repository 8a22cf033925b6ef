// A server of its own for a measurement, and visitors of it that are no browsers.
import { execFileSync, spawn } from 'node:child_process'
import { readFileSync } from 'node:fs'

export const sleep = (ms) => new Promise((resolve) => setTimeout(resolve, ms))

/** Starts the application on data of its own; `environment` is added to that of this process. */
export async function serve(port, environment = {}) {
    const at = (path) => `http://127.0.0.1:${port}${path}`
    // A small disk of its own at a place, which nobody else sees.
    const disk = environment.FULL_DISK
    const begin = disk ? `mkdir -p ${disk}; exec unshare -m sh -c 'mount -t tmpfs -o size=8m,mode=700 full ${disk}; exec tests/Browser/serve.sh ${port}'` : `exec tests/Browser/serve.sh ${port}`
    const server = spawn('sh', ['-c', begin], { stdio: 'ignore', env: { ...process.env, ...environment } })
    for (let i = 0; i < 300 && !await fetch(at('/api/health')).then((r) => r.ok, () => false); i++) {
        await sleep(200)
    }
    const database = environment.DB_DATABASE ?? `storage/testing-${port}/browser.sqlite`
    return {
        at,
        database,
        session: () => Number(readFileSync(`storage/framework/serve-${port}/session`, 'utf8')),
        /** Rows of a query on the database. */
        rows: (query) => JSON.parse(execFileSync('php', ['-r', '$d = new PDO("sqlite:".$argv[1]); echo json_encode($d->query($argv[2])->fetchAll(PDO::FETCH_NUM));', database, query]).toString()),
        stop() {
            try {
                process.kill(this.session(), 'SIGTERM')
            } catch { /* it is gone */ }
            server.kill('SIGTERM')
        },
    }
}

/** The headers of a browser that has opened the page. */
export async function visit(at) {
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

/** How those who are signed in sign in again, by their headers. */
const renewals = new WeakMap()

/** The headers of somebody with an account, as bench/people.php makes them; they sign in again where that is lost. */
export async function signIn(at, email) {
    const headers = {}
    const renew = async () => {
        for (;;) {
            const fresh = await visit(at)
            try {
                const body = JSON.stringify({ email, password: 'kelp under lantern light' })
                const answer = await fetch(at('/api/session'), { method: 'POST', headers: fresh, body, signal: AbortSignal.timeout(5000) })
                if (answer.ok) {
                    const cookies = answer.headers.getSetCookie().map((c) => c.split(';')[0])
                    const token = cookies.find((c) => c.startsWith('XSRF-TOKEN='))
                    Object.assign(headers, fresh, { Cookie: cookies.join('; '), 'X-XSRF-TOKEN': decodeURIComponent(token.slice(11)) })
                    return headers
                }
                if (answer.status < 500 && answer.status !== 429 && answer.status !== 419) {
                    throw new Error(`${email}: ${answer.status} ${await answer.text()}`)
                }
            } catch (e) {
                if (String(e.message).startsWith(email)) {
                    throw e
                }
            }
            await sleep(300)
        }
    }
    renewals.set(headers, renew)
    return renew()
}

/** Sends something until it is done, as the page does; ends with an error where it is refused. */
export async function send(at, headers, method, path, body) {
    for (;;) {
        let answer = null
        let text = ''
        try {
            answer = await fetch(at(path), { method, headers, body: body === undefined ? undefined : JSON.stringify(body), signal: AbortSignal.timeout(8000) })
            text = Buffer.from(await answer.arrayBuffer()).toString('latin1')
        } catch (e) {
            // It is away for a moment; what cannot be sent never will be.
            if (e instanceof TypeError && e.message !== 'fetch failed' && e.message !== 'terminated') {
                throw e
            }
        }
        if (answer?.ok && text !== '') {
            return answer.headers.get('Content-Type')?.includes('json') ? JSON.parse(Buffer.from(text, 'latin1').toString()) : text
        }
        if (answer?.status === 419 || (answer?.status === 401 && renewals.has(headers))) {
            await (renewals.has(headers) ? renewals.get(headers)() : visit(at).then((fresh) => Object.assign(headers, fresh)))
        } else if (answer && !answer.ok && answer.status < 500 && answer.status !== 429) {
            throw new Error(`${method} ${path}: ${answer.status} ${text.slice(0, 300)}`)
        }
        await sleep(Math.min(1000, 1000 * Number(answer?.headers.get('Retry-After') ?? 0) || 100))
    }
}

let failed = false
/** Prints a figure against what it may be at most. */
export function told(words, figure, most) {
    failed ||= figure > most
    console.log(`${words}: ${figure} (at most ${most})`)
}
export const ended = () => (failed ? 1 : 0)
export const percentile = (list, share) => [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(share * list.length))] ?? Infinity
