// How long twenty ledgers with sixty rows in all take to follow the playhead, in the real page, in each way that they are laid out.
// Prints the median and the worst of 20 moves for each; all are to stay below 100 ms.
//
//     node bench/ledgers.mjs
import { spawn } from 'node:child_process'
import { chromium } from '@playwright/test'

const PORT = 8795
const MOVES = 20
const PARTIES = 20
const ROWS = 60

/** Parties in a ring, each owed by the next; rows by which accounts are spent. */
function books() {
    const parties = Array.from({ length: PARTIES }, (_, i) => ({ id: `p${i}`, name: `party ${i}`, place: i }))
    const claims = parties.map((p, i) => ({ id: `c${i}`, name: `account ${i}`, debtor: `p${(i + 1) % PARTIES}`, holder: p.id, initial: String(100 + i), unit: 'crown', place: i }))
    const transactions = Array.from({ length: ROWS }, (_, i) => {
        const [a, b] = [i % PARTIES, (i + 1) % PARTIES]
        return { id: `r${i}`, name: `row ${i}`, formula: `"account ${a}" / ${10 + i}`, place: i, entries: [{ claim: `c${a}`, sign: '-' }, { worth: `p${a}`, sign: '-' }, { worth: `p${b}`, sign: '+' }] }
    })
    const time = { start: 0, end: 100, step: 0.25, unit: 'month', method: 'rk4' }
    return { format: 'merry-orbit model', version: 1, name: 'Twenty books', time, elements: [], parties, claims, transactions }
}

const server = spawn('tests/Browser/serve.sh', [String(PORT)], { stdio: 'ignore', detached: true })
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'] })
let worst = 0
try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    for (let i = 0; i < 100 && !await page.request.get(`http://127.0.0.1:${PORT}/api/health`).then((r) => r.ok(), () => false); i++) {
        await new Promise((resolve) => setTimeout(resolve, 200))
    }
    await page.goto(`http://127.0.0.1:${PORT}/`)
    await page.getByLabel('Model file').setInputFiles({ name: 'books.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(books())) })
    await page.getByRole('link', { name: 'Ledgers' }).click()
    for (const shape of ['One page', 'Beside each other', 'Matrices', 'Net worths']) {
        await page.getByText(shape, { exact: true }).first().click()
        await page.waitForTimeout(1500)
        const times = await page.evaluate(async (moves) => {
            const ruler = document.querySelector('.tracks [role="slider"]')
            const list = []
            for (let i = 0; i < moves; i++) {
                const begun = performance.now()
                ruler.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight', bubbles: true }))
                await new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve)))
                list.push(performance.now() - begun)
                await new Promise((resolve) => setTimeout(resolve, 30))
            }
            return list.sort((a, b) => a - b)
        }, MOVES)
        worst = Math.max(worst, times[Math.floor(MOVES / 2)])
        console.log(`${shape}: ${times[Math.floor(MOVES / 2)].toFixed(0)} ms, at worst ${times.at(-1).toFixed(0)} ms`)
    }
} finally {
    await browser.close()
    process.kill(-server.pid)
}
process.exitCode = worst < 100 ? 0 : 1
