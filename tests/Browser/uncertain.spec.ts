import { expect, type Page } from '@playwright/test'
import { card, expectAccessible, openCopy, outlined, pick, track } from './sheet'
import { test } from './test'

const tab = (page: Page, name: string) => page.getByRole('tab', { name }).click()
async function toTry(page: Page, stage: string) {
    await page.getByRole('link', { name: 'Try' }).click()
    await tab(page, stage)
}
/** What of many runs is told beside their pictures. */
const share = async (page: Page) => parseFloat((await page.locator('.share b').textContent()) ?? '')

test('a parameter becomes uncertain on its card, and a thousand runs show what follows', async ({ page }) => {
    await openCopy(page, 'Kelp and urchins')
    // On the card of a parameter, by its shape.
    await outlined(page, 'otter lifespan').click()
    await card(page).getByRole('button', { name: 'Its value is uncertain …' }).click()
    const law = card(page).getByRole('group', { name: 'How likely values of otter lifespan are' })
    await expect(law.getByRole('textbox', { name: 'mean of otter lifespan' })).toHaveValue('9')
    const middle = law.getByRole('slider', { name: 'mean of otter lifespan', exact: true })
    const box = await middle.boundingBox()
    if (box) {
        await page.mouse.move(box.x + 9, box.y + 9)
        await page.mouse.down()
        await page.mouse.move(box.x + 39, box.y + 9, { steps: 4 })
        await page.mouse.up()
    }
    await expect
        .poll(async () => Number(await law.getByRole('textbox', { name: 'mean of otter lifespan' }).inputValue()))
        .toBeGreaterThan(9.2)
    await pick(law.getByRole('combobox', { name: 'Distribution of otter lifespan' }), 'triangular: low, likely, high')
    await law.getByRole('textbox', { name: 'low of otter lifespan' }).fill('7')
    await law.getByRole('textbox', { name: 'low of otter lifespan' }).press('Enter')
    await law.getByRole('textbox', { name: 'high of otter lifespan' }).fill('5')
    await law.getByRole('textbox', { name: 'high of otter lifespan' }).press('Enter')
    await expect(
        page
            .getByRole('status')
            .filter({ hasText: 'triangular' })
            .or(page.getByRole('alert').filter({ hasText: 'triangular' }))
            .first(),
    ).toBeVisible()
    await page.keyboard.press('Escape')

    await toTry(page, 'Spread')
    const panel = page.getByRole('navigation', { name: 'Uncertain inputs' })
    await expect(panel.getByRole('button', { name: /^otter lifespan/ })).toBeVisible()
    await page.getByRole('button', { name: 'Run 1,000 times' }).click()
    await expect(page.getByText('1,000 of 1,000 runs')).toBeVisible({ timeout: 40_000 })
    await expect(page.getByRole('img', { name: /^kelp in 1000 of 1000 runs: at the end half of them lie between/ })).toBeVisible()

    // How likely is more than so much, and the same for another limit, by keyboard.
    const limit = page.getByRole('textbox', { name: 'How many runs have more than' })
    await limit.fill('60')
    await limit.press('Enter')
    await expect(page.locator('.share')).toContainText('have more than 60 t')
    const more = await share(page)
    expect(more).toBeGreaterThan(30)
    await page.getByRole('slider', { name: 'Limit of kelp' }).focus()
    for (let i = 0; i < 8; i++) {
        await page.keyboard.press('ArrowUp')
    }
    await expect(page.locator('.share')).not.toContainText('60 t')
    await expect.poll(() => share(page)).toBeLessThan(more)
    for (const shape of ['bars', 'cumulative', 'density']) {
        await page.getByRole('button', { name: shape, exact: true }).click()
    }
    await expectAccessible(page)

    // The table behind; an outcome of it at the side.
    const summary = page.getByRole('table').filter({ hasText: 'middle run' })
    await expect(summary.getByRole('row')).toHaveCount(4)
    await summary.getByRole('button', { name: 'least kelp' }).click()
    await expect(page.getByRole('heading', { name: 'least kelp, in t' })).toBeVisible()
    await page.getByRole('button', { name: 'at the playhead instead' }).click()
    await expect(page.getByRole('heading', { name: /^kelp at / })).toBeVisible()

    // What it follows.
    await page.getByRole('button', { name: 'What it follows' }).click()
    await expect(page.getByText(/Straight lines explain \d/)).toBeVisible()
    await page.locator('.matters').getByRole('button', { name: 'bite' }).click()
    await expect(page.getByRole('img', { name: /against bite in 1000 runs/ })).toBeVisible()

    // A draw becomes a run like others.
    await page.getByRole('button', { name: 'All draws' }).click()
    await page
        .getByRole('button', { name: /^Sort by|least kelp/ })
        .last()
        .click()
    await page
        .locator('.draws')
        .getByRole('button', { name: /^Show draw \d+ as a run$/ })
        .first()
        .click()
    await tab(page, 'Plots')
    await expect(page.getByRole('navigation', { name: 'What is tried' }).getByText(/^Draw \d+$/)).toBeVisible()

    // More runs behind these; then the model changes, and that is said.
    await tab(page, 'Spread')
    await page.getByRole('button', { name: '1,000 more' }).click()
    await expect(page.getByText('2,000 of 2,000 runs')).toBeVisible({ timeout: 40_000 })
    await panel.getByRole('button', { name: /^growth rate/ }).click()
    await panel.getByRole('textbox', { name: 'mean of growth rate' }).fill('0.8')
    await panel.getByRole('textbox', { name: 'mean of growth rate' }).press('Enter')
    // And what: of what is uncertain, the law itself.
    await expect(page.locator('.caution').filter({ hasText: 'has changed since these runs' })).toContainText(/growth rate.*0\.8/)
    await page.getByRole('button', { name: 'Run them again' }).click()
    await expect(page.getByText('has changed since these runs')).toBeHidden()
    await expect(page.getByText('1,000 of 1,000 runs')).toBeVisible({ timeout: 40_000 })

    // It is kept as a finding, and made again from it.
    await page.getByRole('button', { name: 'Save as finding' }).click()
    await page.getByRole('textbox', { name: 'Title' }).fill('Where the kelp may go')
    await page.getByRole('button', { name: 'Save the finding' }).click()
    await tab(page, 'Findings')
    await page.getByRole('button', { name: 'Make these runs again' }).click()
    await expect(page.getByText('1,000 of 1,000 runs')).toBeVisible({ timeout: 40_000 })
})

test('inputs go together, and two settings are compared under the same draws', async ({ page }) => {
    await openCopy(page, 'Kelp and urchins')
    await toTry(page, 'Spread')
    const pairs = page.getByRole('region', { name: 'Inputs that go together' })
    await pairs.getByRole('textbox', { name: /How hunting skill goes with half hunger/ }).fill('-0.7')
    await pairs.getByRole('textbox', { name: /How hunting skill goes with half hunger/ }).press('Enter')
    await page.getByRole('button', { name: 'How many runs, and how' }).click()
    await pick(page.getByRole('combobox', { name: 'How many runs' }), '300')
    await page.getByRole('checkbox', { name: 'Otters hunted' }).check()
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: 'Run 300 × 2 settings' }).click()
    await expect(page.getByText('300 of 300 runs')).toBeVisible({ timeout: 40_000 })
    await expect(pairs).toContainText(/−0\.(6[89]|7\d?) reached/)
    const rows = page.locator('.summary tbody tr')
    await expect(rows).toHaveCount(6)
    // Hunted from year 10 on, otters are fewer in every run.
    await expect(rows.last()).toContainText('0 % of the runs')
    await page.getByRole('group', { name: 'Which of them' }).getByText('Otters hunted').click()
    await expect(page.getByRole('img', { name: /^kelp in 300 of 300 runs/ })).toBeVisible()
})

test('runs of their own tell which part of the variance each input makes, and over time', async ({ page }) => {
    await openCopy(page, 'Kelp and urchins')
    await toTry(page, 'Spread')
    await page.getByRole('button', { name: 'How many runs, and how' }).click()
    await pick(page.getByRole('combobox', { name: 'How many runs' }), '100')
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: 'Run 100 times' }).click()
    await expect(page.getByText('100 of 100 runs')).toBeVisible({ timeout: 40_000 })
    await page.getByRole('button', { name: 'What it follows' }).click()
    await expect(page.getByRole('img', { name: /^Parts of the variance of kelp over time.*straight lines/ })).toBeVisible()

    await page.getByRole('button', { name: 'Sobol indices' }).click()
    await pick(page.getByRole('combobox', { name: 'How many base samples' }), '100: 700 runs')
    await page.getByRole('button', { name: 'Run them' }).click()
    await expect(page.getByText('700 of 700 runs')).toBeVisible({ timeout: 40_000 })
    const rows = page.locator('.indices tbody tr')
    await expect(rows).toHaveCount(5)
    // What matters most stands first.
    await expect(rows.first()).toContainText('bite')
    await expect(page.getByRole('img', { name: /^Parts of the variance of kelp over time.*act together/ })).toBeVisible()
    await page.getByRole('button', { name: 'least kelp' }).first().click()
    await expect(page.locator('.indices thead')).toContainText('least kelp varies with')
    await expectAccessible(page)

    await page.getByRole('button', { name: 'Morris screening' }).click()
    await page.getByRole('button', { name: 'Run them' }).click()
    await expect(page.getByText('120 of 120 runs')).toBeVisible({ timeout: 40_000 })
    await expect(rows).toHaveCount(5)
    // Other draws: what was found is of before.
    await page
        .getByRole('navigation', { name: 'Uncertain inputs' })
        .getByRole('button', { name: /^growth rate/ })
        .click()
    const mean = page.getByRole('textbox', { name: 'mean of growth rate' })
    await mean.fill('0.8')
    await mean.press('Enter')
    await expect(page.locator('.indices .caution')).toContainText('has changed since these runs')
})

test('every input is nudged; what matters comes first, its ends become runs, and a nuisance is muted', async ({ page }) => {
    await openCopy(page, 'Kelp and urchins')
    await toTry(page, 'Nudge')
    const rows = page.getByRole('list').filter({ hasText: 'its value' }).getByRole('listitem')
    await expect(rows).toHaveCount(9)
    await expect(rows.first()).toContainText('bite')
    await expect(rows.first()).toContainText('both less')
    await page.getByRole('checkbox', { name: 'initial values too' }).check()
    await expect(rows).toHaveCount(12)
    await page.getByRole('checkbox', { name: 'curves too' }).check()
    await expect(rows).toHaveCount(13)
    await expectAccessible(page)

    // Another outcome, made here.
    await page.getByRole('button', { name: 'Outcome', exact: true }).click()
    await page.getByRole('combobox', { name: 'Variable of the outcome' }).fill('urchins')
    await page.keyboard.press('Enter')
    await pick(page.getByRole('combobox', { name: 'What of it' }), 'greatest')
    await page.getByRole('button', { name: 'Look at it' }).click()
    await expect(page.getByRole('heading', { name: /^greatest urchins is / })).toBeVisible()

    await page.getByRole('searchbox', { name: 'Search inputs' }).fill('pups')
    await expect(rows).toHaveCount(1)
    await rows.first().getByRole('button', { name: 'pups per urchin' }).click()
    await rows.first().getByRole('button', { name: 'Run both ends' }).click()
    await tab(page, 'Plots')
    await expect(page.getByRole('navigation', { name: 'What is tried' }).getByText(/^pups per urchin 0\.(207|253)$/)).toHaveCount(2)
    await tab(page, 'Nudge')
    await page.getByRole('searchbox', { name: 'Search inputs' }).fill('urchin lifespan')
    await rows.first().getByRole('button', { name: 'urchin lifespan' }).click()
    await rows.first().getByRole('button', { name: 'Mute' }).click()
    await expect(page.locator('.muted')).toContainText('urchin lifespan')
    await page.keyboard.press('Control+z')
    await expect(page.locator('.muted')).toBeHidden()
    await expect(track(page, 'kelp')).toBeVisible()
})

test('an expectation is put together with a live check, and what fails is said until it is mended', async ({ page }) => {
    await openCopy(page, 'Kelp and urchins')
    await toTry(page, 'Expectations')
    await expect(page.getByText('4 hold')).toBeVisible()
    await page.getByRole('button', { name: 'New expectation' }).click()
    const form = page.getByRole('form', { name: 'New expectation' })
    const live = form.locator('.live')
    await form.getByRole('textbox', { name: 'Of what' }).fill('urchins')
    await expect(live).toContainText('Urchins must never be below 0.')
    await expect(live).toContainText('It holds.')
    await pick(form.getByRole('combobox', { name: 'Shape' }), 'is never above')
    await form.getByRole('textbox', { name: 'the limit' }).fill('30')
    await expect(live).toContainText('Fails.')
    await form.getByRole('combobox', { name: 'Add a condition' }).fill('hunting skill')
    await page.keyboard.press('Enter')
    await pick(form.getByRole('combobox', { name: 'How hunting skill is changed' }), 'is')
    await form.getByRole('textbox', { name: 'Number for hunting skill' }).fill('1.6')
    await expect(live).toContainText('When hunting skill is 1.6, urchins must never be above 30.')
    await expectAccessible(page)
    await form.getByRole('button', { name: 'Expect it' }).click()
    await expect(form).toBeHidden()
    const row = page.getByRole('listitem').filter({ hasText: 'When hunting skill is 1.6' })
    await expect(row).toContainText(/above 30/)
    // It is said wherever one is.
    await expect(page.locator('header .state')).toContainText('1 expectation fails')
    await expect(page.getByLabel('1 things want attention')).toBeVisible()

    // Its plot has the run under its condition and the limit, with the playhead where it breaks.
    await row.getByRole('button', { name: /^Plot:/ }).click()
    await expect(page.getByRole('navigation', { name: 'What is tried' }).getByText('When hunting skill is 1.6')).toBeVisible()

    // A change mends it, and it is seen without being asked.
    await tab(page, 'Expectations')
    await row.getByRole('button', { name: /^Change:/ }).click()
    const change = page.getByRole('form', { name: 'Change the expectation' })
    await change.getByRole('textbox', { name: 'the limit' }).fill('60')
    await expect(change.locator('.live')).toContainText('It holds.')
    await change.getByRole('button', { name: 'Keep the change' }).click()
    await expect(page.getByText('5 hold')).toBeVisible()
    await expect(page.locator('header .state')).toContainText('up to date')

    // Of many runs with draws of what is uncertain: in how many it holds, and the one that is furthest off.
    await page.getByRole('button', { name: 'New expectation' }).click()
    await form.getByRole('textbox', { name: 'Of what' }).fill('kelp')
    await form.getByRole('textbox', { name: 'the limit' }).fill('35')
    await pick(form.getByRole('combobox', { name: 'In which runs' }), 'many runs with draws of what is uncertain')
    await expect(live).toContainText('In each of 100 runs under uncertainty, kelp must never be below 35.')
    await expect(live).toContainText(/Fails. It holds in \d\d of 100 runs; at the worst, with bite/)
    await form.getByRole('textbox', { name: 'In how many of them, in %' }).fill('50')
    await expect(live).toContainText('In 50 % of 100 runs under uncertainty')
    await expect(live).toContainText(/^(?!.*Fails).*It holds in \d\d of 100 runs/)
    await form.getByRole('textbox', { name: 'In how many of them, in %' }).fill('100')
    await form.getByRole('button', { name: 'Expect it' }).click()
    const many = page.getByRole('listitem').filter({ hasText: 'In each of 100 runs' })
    await many.getByRole('button', { name: /^Plot:/ }).click()
    await expect(page.getByRole('navigation', { name: 'What is tried' }).getByText('furthest off of 100 runs')).toBeVisible()
    await tab(page, 'Expectations')
    await many.getByRole('button', { name: /^Remove:/ }).click()

    // What every model should stand, taken over with one act and taken back with one.
    await page.getByRole('button', { name: 'Extreme conditions …' }).click()
    const proposed = page.getByRole('region', { name: 'Extreme conditions' })
    await expect(proposed.getByRole('listitem').filter({ hasText: 'When bite is 0, the run must come to its end' })).toContainText('holds')
    await proposed.getByRole('button', { name: /^Take over \d+ expectations$/ }).click()
    await expect(page.locator('.rows > li').nth(20)).toBeVisible()
    await page.keyboard.press('Control+z')
    await expect(page.locator('.rows > li')).toHaveCount(5)
})

test('candidates that are ticked open dimensions, and unticked are one number again', async ({ page }) => {
    await openCopy(page, 'Ferry season')
    await toTry(page, 'Candidates')
    for (const name of ['boats', 'ticket price']) {
        await page.getByRole('combobox', { name: 'Parameter with candidates' }).fill(name)
        await page.keyboard.press('Enter')
        await expect(page.getByRole('group', { name: `Candidates of ${name}` })).toBeVisible()
    }
    await expect(page.getByText('1 run', { exact: true })).toBeVisible()
    await page.getByRole('button', { name: 'Change the values of boats' }).click()
    await page.getByRole('textbox', { name: 'Values of boats' }).fill('1; 2; 3')
    await page.keyboard.press('Enter')
    const boats = page.getByRole('group', { name: 'Candidates of boats' })
    for (const value of ['1', '2', '3']) {
        await boats.getByRole('checkbox', { name: `boats ${value}`, exact: true }).check()
    }
    await expect(page.getByText('3 runs', { exact: true })).toBeVisible()
    const price = page.getByRole('group', { name: 'Candidates of ticket price' })
    await price.getByRole('checkbox').first().check()
    await price.getByRole('checkbox').last().check()
    await expect(page.getByText('3 × 2 = 6 runs')).toBeVisible()
    const cells = page.locator('.results td')
    await expect(cells).toHaveCount(6)
    await expectAccessible(page)
    // A cell becomes a run.
    await cells.nth(3).getByRole('button').click()
    await expect(page.getByText(/is shown among the runs/)).toBeVisible()
    // One ticked is one number again, and no dimension.
    await boats.getByRole('checkbox', { name: 'boats 1', exact: true }).uncheck()
    await boats.getByRole('checkbox', { name: 'boats 3', exact: true }).uncheck()
    await expect(cells).toHaveCount(2)
    // Kept as a finding, and ticked again from it.
    await page.getByRole('button', { name: 'Save as finding' }).click()
    await page.getByRole('button', { name: 'Save the finding' }).click()
    // Too many are told with their number before any is run.
    await page.getByRole('button', { name: 'Change the values of boats' }).click()
    await page.getByRole('textbox', { name: 'Values of boats' }).fill(Array.from({ length: 80 }, (_, i) => i + 1).join('; '))
    await page.keyboard.press('Enter')
    await expect(boats.getByRole('checkbox')).toHaveCount(80)
    await page.getByRole('button', { name: 'Tick all of ticket price' }).click()
    await expect(cells).toHaveCount(3)
    await page.getByRole('button', { name: 'Tick all of boats' }).click()
    await expect(page.getByText('What is ticked comes to 240 runs')).toBeVisible()
    await expect(cells).toHaveCount(3)
    await page.getByRole('button', { name: 'Run all 240' }).click()
    await expect(cells).toHaveCount(240)

    await tab(page, 'Findings')
    await expect(page.locator('.found')).toContainText(/ticket price 15 \d/)
    await page.getByRole('button', { name: 'Tick these again' }).click()
    await expect(boats.getByRole('checkbox')).toHaveCount(3)
    await expect(cells).toHaveCount(2)
})
