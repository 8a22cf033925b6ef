// How fluent a model of 1,500 variables is in the real page: opening, panning, selecting, editing a formula, undoing.
// Prints each, and fails when an edit takes longer than 300 ms until the plots are painted again, or panning drops below 40 frames a second.
//
//     node bench/sheet.mjs [VARIABLES]
import { execFileSync, spawn } from 'node:child_process'
import { chromium } from '@playwright/test'

const PORT = 8796
const SIZE = Number(process.argv[2] ?? 1500)
const EDIT = 300
const FRAMES = 40

/** Between two acts, so that what follows the one is over before the other. */
const REST = 5000

const server = spawn('tests/Browser/serve.sh', [String(PORT)], { stdio: 'ignore', detached: true })
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'] })
const say = (words) => { process.stdout.write(`${words}\n`) }
const told = (list) => `${middle(list).toFixed(0)} ms in the median (${list.map((t) => t.toFixed(0)).join(' ')})`
const middle = (list) => [...list].sort((a, b) => a - b)[list.length >> 1]
let passed = false
try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    for (let i = 0; i < 100 && !await page.request.get(`http://127.0.0.1:${PORT}/api/health`).then((r) => r.ok(), () => false); i++) {
        await new Promise((resolve) => setTimeout(resolve, 200))
    }
    await page.goto(`http://127.0.0.1:${PORT}/`)
    await page.getByLabel('Model file').setInputFiles({ name: 'reefs.json', mimeType: 'application/json', buffer: execFileSync('bin/orbit', ['generate', String(SIZE)], { maxBuffer: 1e9 }) })
    await page.locator('header .state', { hasText: 'up to date' }).waitFor({ timeout: 60_000 })
    const address = page.url()
    await page.waitForTimeout(1500)
    const begun = Date.now()
    await page.goto(address)
    await page.locator('header .state', { hasText: 'up to date' }).waitFor()
    say(`${SIZE} variables: opened and run after ${Date.now() - begun} ms`)
    await page.waitForTimeout(1500)

    // Panning: frames while the sheet is dragged to and fro.
    await page.locator('.zoom button[aria-label="Zoom in"]').click()
    const box = await page.locator('.vue-flow__pane').boundingBox()
    await page.evaluate(() => {
        window.frames0 = 0
        window.counting = true
        const count = () => { window.frames0++; if (window.counting) requestAnimationFrame(count) }
        requestAnimationFrame(count)
    })
    const start = Date.now()
    await page.mouse.move(box.x + 20, box.y + box.height - 60)
    await page.mouse.down()
    for (let i = 0; i < 60; i++) {
        await page.mouse.move(box.x + 20 + 250 * Math.abs(Math.sin(i / 10)), box.y + box.height - 60 - 120 * Math.abs(Math.cos(i / 8)))
    }
    await page.mouse.up()
    const rate = await page.evaluate(() => { window.counting = false; return window.frames0 }) / ((Date.now() - start) / 1000)
    say(`panning runs at ${rate.toFixed(0)} frames a second (at least ${FRAMES})`)

    const painted = (act) => page.evaluate(async ([name, argument]) => {
        const value = document.querySelector('.track strong')
        const frame = () => new Promise((resolve) => requestAnimationFrame(() => { setTimeout(resolve) }))
        const begun = performance.now()
        if (name === 'select') {
            document.querySelectorAll('.outline .thing')[argument].click()
            await frame()
            return performance.now() - begun
        }
        const before = value.title
        const changed = new Promise((resolve) => {
            const observer = new MutationObserver(() => { if (value.title !== before) { observer.disconnect(); resolve() } })
            observer.observe(value, { attributes: true })
        })
        if (name === 'edit') {
            const area = document.querySelector('.card .cm-content')
            area.focus()
            document.execCommand('selectAll')
            document.execCommand('insertText', false, argument)
            const again = performance.now()
            area.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', code: 'Enter', keyCode: 13, bubbles: true, cancelable: true }))
            await Promise.race([changed, new Promise((resolve) => setTimeout(resolve, 5000))])
            await frame()
            return performance.now() - again
        }
        document.querySelector('button[aria-label="Undo"]').click()
        await Promise.race([changed, new Promise((resolve) => setTimeout(resolve, 5000))])
        await frame()
        return performance.now() - begun
    }, act)

    const selects = []
    for (let i = 0; i < 20; i++) {
        selects.push(await painted(['select', 2 + i % 10]))
        await page.waitForTimeout(60)
    }
    say(`selecting takes ${middle(selects).toFixed(0)} ms in the median`)

    const open = async (name) => {
        await page.locator('.stage').focus()
        await page.keyboard.press('/')
        await page.getByLabel('What to find').fill(name)
        await page.keyboard.press('Enter')
        await page.locator('.card .cm-content').waitFor()
        await page.waitForTimeout(REST)
    }
    const repeated = async (times, act) => {
        const took = []
        for (let i = 0; i < times; i++) {
            took.push(await painted(act(i)))
            await page.waitForTimeout(REST)
        }
        return took
    }
    await open('growth rate 1')
    const values = await repeated(8, (i) => ['edit', String(0.8 + i / 100)])
    await open('growth 1')
    const formulas = await repeated(12, (i) => ['edit', `growth rate 1 * kelp 1 * (1 - crowding 1) * ${1 + (i + 1) / 1000}`])
    const undos = await repeated(8, () => ['undo'])
    const edit = middle(formulas.slice(1))
    say(`an edited value is painted after ${told(values.slice(1))}`)
    say(`an edited formula is painted after ${told(formulas.slice(1))}, at most ${EDIT}`)
    say(`an undo after ${told(undos)}`)
    passed = edit <= EDIT && rate >= FRAMES
} finally {
    await browser.close()
    process.kill(-server.pid, 'SIGTERM')
}
process.exit(passed ? 0 : 1)
