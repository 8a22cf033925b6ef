// What 500 studies cost on the home page, and what 50 quiet windows cost the server.
// Prints how long it takes until the first study can be opened (at most 1 s), how many small plots were asked for by then and after a
// while, and the share of a core that the windows take (at most 0.2).
//
//     node bench/home.mjs
import { execFileSync, spawn } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { chromium } from '@playwright/test'

const PORT = 8796
const STUDIES = 500
const WINDOWS = 50
const PACE = 5000
const SECONDS = 30

const server = spawn('tests/Browser/serve.sh', [String(PORT)], { stdio: 'ignore', detached: true })
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'] })
const at = (path) => `http://127.0.0.1:${PORT}${path}`
let failed = false
const told = (words, figure, most) => {
    failed ||= figure > most
    console.log(`${words}: ${figure.toFixed(2)} (at most ${most})`)
}

/** Seconds of a core that all processes of the server have taken so far. */
function taken() {
    const session = readFileSync(`storage/framework/serve-${PORT}/session`, 'utf8').trim()
    const pids = execFileSync('pgrep', ['-s', session]).toString().trim().split('\n')
    return pids.reduce((sum, pid) => {
        try {
            const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1].split(' ')
            return sum + (Number(fields[11]) + Number(fields[12])) / 100
        } catch {
            return sum
        }
    }, 0)
}

try {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
    for (let i = 0; i < 100 && !await context.request.get(at('/api/health')).then((r) => r.ok(), () => false); i++) {
        await new Promise((resolve) => setTimeout(resolve, 200))
    }
    execFileSync('php', ['bench/many-studies.php', String(STUDIES)], { env: { ...process.env, DB_DATABASE: `storage/testing-${PORT}/browser.sqlite`, APP_KEY: 'base64:AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA=' } })
    // Once before, as on any later day.
    await (await context.newPage()).goto(at('/'))
    const waits = []
    for (let i = 0; i < 5; i++) {
        const page = await context.newPage()
        let plots = 0
        page.on('request', (r) => (plots += r.url().includes('/thumbnail') ? 1 : 0))
        const begun = Date.now()
        await page.goto(at('/'), { waitUntil: 'commit' })
        await page.locator('.study .open').first().waitFor()
        waits.push((Date.now() - begun) / 1000)
        const early = plots
        await page.waitForTimeout(2000)
        if (i === 0) {
            await page.waitForTimeout(6000)
            told(`small plots asked for by then ${early}, later`, plots, 30)
            const cards = await page.locator('.study').count()
            told('studies missing on the page', STUDIES - Math.min(STUDIES, cards), 0)
        }
        await page.close()
    }
    told('seconds until the first study can be opened, the median of five', waits.sort((a, b) => a - b)[2], 1)

    const { data } = await (await context.request.get(at('/api/studies'))).json()
    const { revision } = data[0]
    const cookies = (await context.cookies()).map((c) => `${c.name}=${c.value}`).join('; ')
    const ask = () => fetch(at(`/api/models/${data[0].model}/news?since=${revision}`), { headers: { Accept: 'application/json', Cookie: cookies } })
    for (let i = 0; i < 20; i++) {
        await ask()
    }
    const before = taken()
    const timers = Array.from({ length: WINDOWS }, (_, i) => setTimeout(() => {
        void ask()
        timers.push(setInterval(ask, PACE))
    }, (i * PACE) / WINDOWS))
    await new Promise((resolve) => setTimeout(resolve, 1000 * SECONDS))
    told(`share of a core that ${WINDOWS} quiet windows take`, (taken() - before) / SECONDS, 0.2)
    timers.forEach((t) => clearInterval(t))
} finally {
    await browser.close()
    process.kill(-server.pid, 'SIGTERM')
}
process.exit(failed ? 1 : 0)
