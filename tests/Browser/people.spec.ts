import { execFileSync } from 'node:child_process'
import { createHmac } from 'node:crypto'
import { readdirSync, readFileSync } from 'node:fs'
import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { expect, type Browser, type Page } from '@playwright/test'
import { expectAccessible, pick, state, thing, writeFormula } from './sheet'
import { ACCOUNTS, environmentOf, test } from './test'

/** A server on which everybody has an account: what the demo of one’s own machine spares. */
const DATA = `storage/testing-${ACCOUNTS}`
const GOOD = 'kelp under lantern light'

let MARA = ''
let ODD = ''
test.beforeEach(({}, info) => {
    MARA = `mara${info.retry || ''}@quillhaven.example`
    ODD = `odd${info.retry || ''}@elsewhere.example`
})

test.describe.configure({ mode: 'serial' })
test.use({ baseURL: `http://127.0.0.1:${ACCOUNTS}` })

const pageOf = async (browser: Browser): Promise<Page> => (await browser.newContext({ baseURL: `http://127.0.0.1:${ACCOUNTS}` })).newPage()

/** The newest letter to somebody. */
async function letterTo(email: string): Promise<string> {
    let text = ''
    await expect(() => {
        const letters = readdirSync(`${DATA}/letters`)
            .sort()
            .map((f) => JSON.parse(readFileSync(`${DATA}/letters/${f}`, 'utf8')) as { to: string; text: string })
        text = letters.filter((l) => l.to === email).at(-1)?.text ?? ''
        expect(text).not.toBe('')
    }).toPass()
    return text
}
const addressIn = (letter: string) => new URL(/https?:\S+/.exec(letter)?.[0] ?? '')
async function follow(page: Page, letter: string) {
    const { pathname, hash } = addressIn(letter)
    await page.goto(pathname + hash)
}

async function signIn(page: Page, email: string, password = GOOD) {
    await page.goto('/')
    await page.getByLabel('Your address').fill(email)
    await page.getByRole('textbox', { name: 'Password', exact: true }).fill(password)
    await page.getByRole('button', { name: 'Sign in' }).click()
}
async function signedIn(browser: Browser, email: string): Promise<Page> {
    const page = await pageOf(browser)
    await signIn(page, email)
    await expect(page.getByRole('heading', { name: 'Your studies' })).toBeVisible()
    return page
}

/** What is printed where Merry Orbit is started. */
const invite = (...options: string[]) =>
    execFileSync('php', ['artisan', 'orbit:invite', ...options], {
        env: { ...environmentOf(ACCOUNTS), APP_URL: `http://127.0.0.1:${ACCOUNTS}` },
    })
        .toString()
        .trim()

/** As RFC 6238 says, apart from the code of the application. */
function codeOf(secret: string, steps = 0): string {
    const bits = [...secret].map((c) => 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567'.indexOf(c).toString(2).padStart(5, '0')).join('')
    const key = Buffer.from((bits.match(/.{8}/g) ?? []).map((b) => parseInt(b, 2)))
    const step = Buffer.alloc(8)
    step.writeBigUInt64BE(BigInt(Math.floor(Date.now() / 30_000) + steps))
    const hash = createHmac('sha1', key).update(step).digest()
    return String((hash.readUInt32BE((hash[19] as number) & 15) & 0x7fffffff) % 1e6).padStart(6, '0')
}

test('the first person makes the first account by the printed address, and invites the second', async ({ page, browser }) => {
    // On a second try, somebody has the first account.
    const printed = invite('--first') || invite()
    await page.goto('/')
    await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible()
    await expectAccessible(page)
    await follow(page, printed)
    await expect(page.getByRole('heading', { name: /^(The first|Your) account$/ })).toBeVisible()
    await page.getByLabel('What you are called').fill('Mara Lind')
    await page.getByLabel('Your address').fill(MARA)
    await page.getByRole('textbox', { name: 'Password', exact: true }).fill('merry orbit 2026')
    await page.getByRole('button', { name: 'Make the account' }).click()
    await expect(page.getByRole('alert')).toContainText('what others try first')
    await expectAccessible(page)
    await page.getByRole('textbox', { name: 'Password', exact: true }).fill(GOOD)
    await page.getByRole('button', { name: 'Make the account' }).click()
    await expect(page.getByText('No study here.')).toBeVisible()

    await page.getByRole('button', { name: 'You are Mara Lind' }).click()
    await page.getByRole('menuitem', { name: 'Your account' }).click()
    await page.getByRole('button', { name: 'Send an invitation…' }).click()
    await page.getByLabel('Their address').fill('ilse@quillhaven.example')
    await page.getByRole('button', { name: 'Send a letter', exact: true }).click()
    await expect(page.getByText('A letter goes to ilse@quillhaven.example')).toBeVisible()
    await expectAccessible(page)

    // The demo has somebody of that address, who has no password here: nobody can become her by a letter.
    const other = await pageOf(browser)
    await page.getByLabel('Their address').fill(ODD)
    await page.getByRole('button', { name: 'Send a letter', exact: true }).click()
    await follow(other, await letterTo(ODD))
    await expect(other.getByText('Mara Lind invites you')).toBeVisible()
    await other.getByLabel('What you are called').fill('Odd Ness')
    await other.getByRole('textbox', { name: 'Password', exact: true }).fill(GOOD)
    await other.getByRole('button', { name: 'Make the account' }).click()
    await expect(other.getByRole('button', { name: 'You are Odd Ness' })).toBeVisible()
    await follow(await pageOf(browser), await letterTo(ODD))
})

test('a forgotten password is replaced by a letter, and a second factor is asked for once it is set up', async ({ page, browser }) => {
    await signIn(page, MARA, 'not it at all')
    await expect(page.getByRole('alert')).toHaveText('Address and password do not go together. Look at both, or choose a new password.')
    await page.getByRole('link', { name: 'I have forgotten my password' }).click()
    await expect(page.getByRole('heading', { name: 'A new password' })).toBeVisible()
    await page.getByLabel('Your address').fill(MARA)
    await page.getByRole('button', { name: 'Send me a letter' }).click()
    await expect(page.getByText('a letter is on its way')).toBeVisible()
    await follow(page, await letterTo(MARA))
    await page.getByLabel('New password').fill(`${GOOD} again`)
    await page.getByRole('button', { name: 'Take this one' }).click()
    await page.getByRole('link', { name: 'sign in' }).click()
    await signIn(page, MARA, `${GOOD} again`)
    await expect(page.getByRole('button', { name: 'You are Mara Lind' })).toBeVisible()

    await page.goto('/account')
    const part = page.getByRole('region', { name: 'Second factor' })
    await part.getByRole('button', { name: 'Set up a second factor…' }).click()
    await expect(part.getByLabel('Your password')).toBeFocused()
    await part.getByLabel('Your password').fill(`${GOOD} again`)
    await part.getByRole('button', { name: 'Go on' }).click()
    const secret = (await part.locator('.secret').innerText()).replaceAll(' ', '')
    await expect(part.getByRole('img')).toBeVisible()
    const used = codeOf(secret)
    await part.getByLabel('Code').fill(used)
    await part.getByRole('button', { name: 'Set it up' }).click()
    await expect(part.locator('.codes li')).toHaveCount(8)
    const spare = await part.locator('.codes li').first().innerText()

    const other = await pageOf(browser)
    await signIn(other, MARA, `${GOOD} again`)
    await expect(other.getByLabel('Code')).toBeFocused()
    await other.getByLabel('Code').fill(used)
    await other.getByRole('button', { name: 'Sign in' }).click()
    await expect(other.getByRole('alert')).toContainText('was used already')
    await other.getByLabel('Code').fill(spare)
    await other.getByRole('button', { name: 'Sign in' }).click()
    await expect(other.getByRole('button', { name: 'You are Mara Lind' })).toBeVisible()

    // Ended from here, it is over there.
    await page.reload()
    await page.getByRole('button', { name: /^End the sign-in of/ }).click()
    await expect(page.getByRole('button', { name: /^End the sign-in of/ })).toHaveCount(0)
    await other.getByRole('button', { name: 'New study' }).click()
    await expect(other.getByRole('heading', { name: 'Sign in' })).toBeVisible()

    await part.getByRole('button', { name: 'Take the second factor away…' }).click()
    await part.getByLabel('Your password').fill(`${GOOD} again`)
    await part.getByRole('button', { name: 'Take it away' }).click()
    await expect(part.getByRole('button', { name: 'Set up a second factor…' })).toBeVisible()
})

test('a token lets a program in, until it is taken away', async ({ page }) => {
    await signIn(page, MARA, `${GOOD} again`)
    await expect(page.getByRole('button', { name: 'You are Mara Lind' })).toBeVisible()
    await page.goto('/account')
    const part = page.getByRole('region', { name: 'Tokens for programs' })
    await part.getByRole('button', { name: 'Make a token…' }).click()
    await part.getByLabel('What it is for').fill('the weekly report')
    await part.getByLabel('Your password').fill(`${GOOD} again`)
    await part.getByRole('button', { name: 'Make a token', exact: true }).click()
    const token = await part.locator('.made code').innerText()
    const ask = () =>
        fetch(`http://127.0.0.1:${ACCOUNTS}/api/studies`, { headers: { Authorization: `Bearer ${token}`, Accept: 'application/json' } })
    expect((await ask()).status).toBe(200)
    await part.getByRole('button', { name: 'Take the token the weekly report away' }).click()
    await expect(part.getByText('the weekly report · may read')).toHaveCount(0)
    expect((await ask()).status).toBe(401)
})

test('two work on a study, comment on it, and hear what the other did', async ({ page, browser }) => {
    await signIn(page, MARA, `${GOOD} again`)
    await page.getByLabel('Model file', { exact: true }).setInputFiles('demo/fresh-water.json')
    await expect(state(page)).toContainText('up to date')
    await page.getByRole('link', { name: 'Tell' }).click()
    await expectAccessible(page)
    await page.getByLabel('Their address').fill(ODD)
    await page.getByLabel('What they may do').click()
    await page.getByRole('option', { name: 'read it and comment' }).click()
    await page.getByRole('button', { name: 'Share it' }).click()
    await expect(page.getByText('has not opened it yet')).toBeVisible()
    expect(await letterTo(ODD)).toContain('You may read it and comment')

    const odd = await signedIn(browser, ODD)
    await expect(odd.getByText('shared by Mara Lind')).toBeVisible()
    await odd.getByRole('link', { name: 'Open Fresh water' }).click()
    await expect(state(odd)).toContainText('up to date')
    await expect(odd.getByText('you may comment')).toBeVisible()
    // What they may not do is said, and undone at once.
    await odd.locator('.vue-flow__node[data-id=wells]').click()
    const name = odd.getByRole('textbox', { name: /^Name/ })
    await name.fill('springs')
    await name.press('Enter')
    await expect(odd.getByText('This study is shared with you to read.').first()).toBeVisible()

    await odd.getByLabel('Say something about it').fill('Do the wells run all year?')
    await odd.getByLabel(/^ ?of week/).check()
    await odd.getByRole('button', { name: 'Say it' }).click()
    await expect(odd.getByText('Do the wells run all year?')).toBeVisible()
    const mark = odd.locator('.vue-flow__node[data-id=wells] .talk')
    await expect(mark).toHaveText('1 open comment')

    // She sees that he is there, and what he said.
    await expect(page.getByRole('button', { name: 'Odd Ness is here and looks at wells' })).toBeVisible()
    await expect(page.getByRole('link', { name: 'Tell' }).getByLabel('1 things want attention')).toBeVisible()
    await page.getByRole('tab', { name: 'Comments 1 open' }).click()
    await expect(page.getByRole('button', { name: /^wells at week/ })).toBeVisible()
    await page.getByRole('button', { name: 'Answer', exact: true }).click()
    await page.getByLabel('Your answer').fill('Only from May to October.')
    await page.getByRole('button', { name: 'Answer', exact: true }).click()
    await expectAccessible(page)
    await expect(odd.getByText('Only from May to October.')).toBeVisible()
    await odd.getByRole('button', { name: 'It is settled' }).click()
    await expect(page.getByText('All of it is settled.')).toBeVisible()
    await expect(mark).toHaveCount(0)

    // Now he may change it, in the window that is open.
    await page.getByRole('tab', { name: 'People' }).click()
    await page.getByLabel('What Odd Ness may do').click()
    await page.getByRole('option', { name: 'change it' }).click()
    await expect(odd.getByText('you may comment')).toHaveCount(0)
    await name.fill('old springs')
    await name.press('Enter')
    await expect(page.getByText(/^Odd Ness: .*springs/)).toBeVisible()

    // Handed over, and taken back from who had it.
    await page.getByRole('button', { name: 'Make it theirs…' }).click()
    await page.getByRole('button', { name: 'Hand it over to Odd Ness' }).click()
    await expect(page.getByText('Odd Ness shares this study with you: you may change it.')).toBeVisible()
    await odd.getByRole('link', { name: 'Tell' }).click()
    await odd.getByRole('button', { name: 'Take it back from Mara Lind' }).click()
    await expect(odd.getByRole('button', { name: 'Take it back from Mara Lind' })).toHaveCount(0)
    await page.goto('/')
    await expect(page.getByText('No study here.')).toBeVisible()
    const gone = page.waitForResponse((r) => r.url().includes('/api/studies/'))
    await page.goto(new URL(odd.url()).pathname)
    expect((await gone).status()).toBe(404)
})

test('a page for readers is written, opened by a link without an account, and tried', async ({ page, browser }) => {
    await signIn(page, ODD)
    await page.getByLabel('Model file', { exact: true }).setInputFiles('demo/ferry-season.json')
    await page.getByRole('link', { name: 'Tell' }).click()
    await page.getByRole('tab', { name: 'Page for readers' }).click()
    await expect(page.getByRole('heading', { name: 'How many guests can the island bear?' })).toBeVisible()
    await expectAccessible(page)
    // What is written is on the page beside it.
    await page.getByLabel('Title', { exact: true }).fill('How many guests are too many?')
    await page.getByLabel('What stands under it').focus()
    await expect(page.getByRole('heading', { name: 'How many guests are too many?' })).toBeVisible()
    await page.getByRole('button', { name: 'Blocks', exact: true }).click()
    await page
        .getByRole('region', { name: 'Block 1' })
        .getByLabel(/^Words/)
        .fill('At the height **{most}** come.')
    await page.getByRole('region', { name: 'Block 2' }).getByLabel('Title').focus()
    await expect(page.locator('.preview').getByText('At the height 2,400 come.')).toBeVisible()
    await page.getByRole('button', { name: 'As on a phone' }).click()
    await page.getByRole('button', { name: 'Links', exact: true }).click()
    await page.getByLabel('For whom it is').fill('the council')
    await page.getByLabel('Password, if wished').fill('driftwood')
    await page.getByRole('button', { name: 'Make a link' }).click()
    const link = await page.locator('.address').innerText()

    const reader = await pageOf(browser)
    await reader.setViewportSize({ width: 390, height: 844 })
    await reader.goto(link)
    await reader.getByRole('textbox', { name: 'Password' }).fill('driftwood')
    await reader.getByRole('button', { name: 'Open the page' }).click()
    await expect(reader.getByRole('heading', { name: 'How many guests are too many?' })).toBeVisible()
    await expectAccessible(reader)
    await reader.getByRole('button', { name: 'A second boat, and then?', exact: true }).click()
    await expect(reader.getByText('2 of 4')).toBeVisible()
    await expect(reader.getByText('At the height 4,800 come.')).toBeVisible()
    await reader.getByRole('switch', { name: 'A second boat' }).click()
    await expect(reader.getByText('At the height 2,400 come.')).toBeVisible()
    await expect(reader.getByText('author: yes')).toBeVisible()
    await expect(reader.getByText('the author’s 4,800')).toBeVisible()
    await reader.getByRole('slider', { name: 'A crossing costs' }).press('ArrowRight')
    await expect(reader.getByText('35 crown')).toBeVisible()
    await reader.getByRole('button', { name: 'See it as a table' }).first().click()
    await expect(reader.getByRole('columnheader', { name: 'the author’s' })).toBeVisible()
    await expectAccessible(reader)
    await reader.getByRole('button', { name: 'Back to the author’s setting' }).click()
    await expect(reader.getByText('At the height 4,800 come.')).toBeVisible()
    // Nothing else of the study is to be had with it.
    expect(await reader.evaluate(async () => (await fetch('/api/studies', { headers: { Accept: 'application/json' } })).status)).toBe(401)

    await page.getByRole('button', { name: 'Take it back' }).click()
    await expect(page.getByText('the council')).toHaveCount(0)
    await reader.reload()
    await expect(reader.getByRole('alert')).toContainText('leads nowhere any more')
})

/** Somebody else’s site: one page that shows what it was told to. */
async function elsewhere(html: string): Promise<{ address: string; close: () => void }> {
    const server = createServer((_, answer) => {
        answer.setHeader('Content-Type', 'text/html; charset=utf-8')
        answer.end(`<!doctype html><title>Elsewhere</title><main><h1>Elsewhere</h1>${html}</main>`)
    })
    await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready))
    return { address: `http://127.0.0.1:${(server.address() as AddressInfo).port}`, close: () => server.close() }
}

test('a page stands in somebody else’s, a guest takes a copy there, and what they change is taken over', async ({ page, browser }) => {
    await signIn(page, ODD)
    await page.getByLabel('Model file', { exact: true }).setInputFiles('demo/ferry-season.json')
    await page.getByRole('link', { name: 'Tell' }).click()
    await page.getByRole('tab', { name: 'Page for readers' }).click()
    await page.getByRole('button', { name: 'Links', exact: true }).click()
    await page.getByLabel('For whom it is').fill('a school')
    await pick(page.getByLabel('What whoever has the link may do'), 'look, try and take a copy of the whole study')
    await page.getByLabel('A readable address').fill(`ferry-${Date.now()}`)
    await page.getByRole('button', { name: 'Make a link' }).click()
    await expect(page.getByText('The page is published.')).toBeVisible()

    const site = await elsewhere('')
    const link = page.getByRole('region', { name: 'Link a school' })
    await link.getByRole('button', { name: 'Show it within another page…' }).click()
    await link.getByLabel('Whose pages may show it').fill('school.example')
    await link.getByRole('button', { name: 'Let them' }).click()
    await expect(link.getByRole('alert')).toContainText('https://school.example')
    await link.getByLabel('Whose pages may show it').fill(site.address)
    await link.getByRole('button', { name: 'Let them' }).click()
    const line = await link.getByLabel('What their page needs').inputValue()
    await expectAccessible(page)
    site.close()

    const wrong = await elsewhere(line)
    const stranger = await pageOf(browser)
    await stranger.goto(wrong.address)
    await expect(stranger.frameLocator('iframe').getByRole('heading', { name: /^How many guests/ })).toHaveCount(0)
    wrong.close()

    // The very address that was named.
    const server = createServer((_, answer) => {
        answer.setHeader('Content-Type', 'text/html; charset=utf-8')
        answer.end(`<!doctype html><title>A school</title><main><h1>A school</h1>${line}</main>`)
    })
    await new Promise<void>((ready) => server.listen(Number(new URL(site.address).port), '127.0.0.1', ready))
    const pupil = await pageOf(browser)
    await pupil.goto(site.address)
    const frame = pupil.frameLocator('iframe')
    await expect(frame.getByRole('heading', { name: 'How many guests can the island bear?' })).toBeVisible()
    await frame.getByRole('button', { name: 'A second boat, and then?', exact: true }).click()
    await frame.getByRole('switch', { name: 'A second boat' }).click()
    await expect(frame.getByText('the author’s 4,800')).toBeVisible()
    // The frame is as high as what it shows.
    await expect
        .poll(() =>
            pupil.evaluate(() => {
                const inner = document.querySelector('iframe')
                return inner?.style.height
            }),
        )
        .toMatch(/^1?[5-9]\d\dpx$|^1\d{3}px$/)
    const [beside] = await Promise.all([pupil.context().waitForEvent('page'), frame.getByRole('button', { name: 'Take a copy' }).click()])
    server.close()
    await expect(beside.getByText('which is the only way back to it')).toBeVisible()
    await expectAccessible(beside)
    await beside.getByRole('button', { name: 'Open it' }).click()
    await expect(state(beside)).toHaveText(/up to date/)
    await thing(beside, 'boats').click()
    await writeFormula(beside, '3')
    await beside.keyboard.press('Enter')
    await expect(state(beside)).toHaveText(/up to date/)
    await beside.getByRole('link', { name: 'Tell' }).click()
    await beside.getByRole('button', { name: 'Send it back…' }).click()
    const back = await beside.locator('.address').innerText()
    await expectAccessible(beside)

    // Whoever is not signed in is asked to be; then the author sees what differs, and takes it over.
    const author = await pageOf(browser)
    await author.goto(back)
    await author.getByLabel('Your address').fill(ODD)
    await author.getByRole('textbox', { name: 'Password', exact: true }).fill(GOOD)
    await author.getByRole('button', { name: 'Sign in' }).click()
    await expect(author.getByRole('heading', { name: 'A copy was sent back' })).toBeVisible()
    await expectAccessible(author)
    await author.getByRole('button', { name: 'Take over: boats' }).click()
    await expect(author.getByText('All of it is taken over.')).toBeVisible()
    await author.getByRole('link', { name: 'Open Ferry season' }).click()
    await author.getByRole('button', { name: /^History/ }).click()
    await expect(author.getByText('Took over boats from a copy')).toBeVisible()
})

test('a whole study is read by a link, without an account, until it is taken back', async ({ page, browser }) => {
    await signIn(page, ODD)
    await page.getByLabel('Model file', { exact: true }).setInputFiles('demo/ferry-season.json')
    await page.getByRole('link', { name: 'Tell' }).click()
    const part = page.getByRole('region', { name: 'Links' })
    await part.getByLabel('For whom it is').fill('the class')
    await part.getByRole('button', { name: 'Make a link' }).click()
    const link = await part.locator('.address').innerText()
    await expectAccessible(page)

    const pupil = await pageOf(browser)
    await pupil.goto(link)
    await expectAccessible(pupil)
    await pupil.getByRole('button', { name: 'Open the study' }).click()
    await expect(state(pupil)).toHaveText(/up to date/)
    await expect(pupil.getByText('you read it')).toBeVisible()
    await pupil.goto('/')
    await expect(pupil.getByRole('link', { name: 'Open Ferry season' })).toBeVisible()
    await expect(pupil.getByRole('button', { name: 'New study' })).toHaveCount(0)

    await part.getByRole('button', { name: 'Take it back' }).click()
    await expect(part.getByText('the class')).toHaveCount(0)
    await pupil.reload()
    await expect(pupil.getByText('No study here.')).toBeVisible()
})
