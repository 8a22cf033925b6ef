import { expect, type Page } from '@playwright/test'
import { card, expectAccessible, openCopy, pick } from './sheet'
import { test } from './test'

const toFit = (page: Page) => page.getByRole('link', { name: 'Fit', exact: true }).click()
const stage = (page: Page) => page.getByRole('region', { name: 'Fit', exact: true })
const question = (page: Page, name: string) =>
    page.getByRole('navigation', { name: 'Questions to the data' }).getByRole('button', { name: new RegExp(`^${name}`) })
const starts = async (page: Page, words: string) => {
    const count = stage(page).getByRole('combobox', { name: 'From how many starts' })
    if (!(await count.isVisible())) {
        await stage(page)
            .getByRole('button', { name: /, \d+ starts?$/ })
            .click()
    }
    await pick(count, words)
}
const start = (page: Page) => stage(page).getByRole('button', { name: 'Start', exact: true }).click()
const ended = (page: Page) => expect(stage(page).getByText(/runs made; off by/)).toBeVisible({ timeout: 120_000 })

test('two dive series leave two numbers together, a third one tells them apart, and what is found is taken over', async ({ page }) => {
    test.setTimeout(240_000)
    await openCopy(page, 'Kelp and urchins')
    await toFit(page)
    await question(page, 'Two dive series').click()
    await expect(stage(page).getByRole('heading', { name: 'Fit 5 numbers to 22 measured values in 2 series' })).toBeVisible()
    await expect(stage(page).getByText('17 values held back, to judge by')).toBeVisible()
    await expect(page.getByRole('img', { name: /^kelp, 20 measured values. The model as it is: R² 0.46/ })).toBeVisible()
    await starts(page, '2 starts')
    await start(page)
    await ended(page)
    const says = page.getByRole('region', { name: 'The numbers that may move' })
    await expect(says).toContainText('2 of 2 starts end at the same place.')
    await expect(says).toContainText('hunting skill and pups per urchin can hardly be told apart')
    await expect(page.getByRole('img', { name: 'hunting skill and pups per urchin move together, −0.982' })).toBeVisible()
    await expect(says).toContainText('What was held back is missed farther than the rest: urchins')
    await expect(page.getByRole('img', { name: /^kelp, 20 measured values. Before R² 0.46, best R² 0.90/ })).toBeVisible()
    await expect(page.getByRole('img', { name: /^growth rate: 0.845 \/year, .*19 times in 20 between 0.795 and 0.894/ })).toBeVisible()
    await expect(page.getByRole('img', { name: /All 2 searches ended; the nearest is off by 0.0214/ })).toBeVisible()
    await expectAccessible(page)
    await page.getByRole('button', { name: 'Dark theme' }).click()
    await expectAccessible(page, 'colours')
    await page.getByRole('button', { name: 'Light theme' }).click()

    await question(page, 'With otters as a third').click()
    await expect(stage(page).getByRole('heading', { name: 'Fit 5 numbers to 34 measured values in 3 series' })).toBeVisible()
    await starts(page, '2 starts')
    await start(page)
    await ended(page)
    await expect(says).toContainText('2 of 2 starts end at the same place.')
    await expect(says).not.toContainText('can hardly be told apart')

    // What is left open is drawn, also of the years to come, and goes on as uncertain inputs.
    await pick(stage(page).getByRole('combobox', { name: 'How many draws' }), '1,000 draws')
    await stage(page).getByRole('button', { name: 'Draw', exact: true }).click()
    await expect(stage(page).getByRole('button', { name: 'Draw anew' })).toBeVisible({ timeout: 120_000 })
    await expect(stage(page).getByText(/^1,000 draws of 4 chains/)).toBeVisible()
    await expect(stage(page).getByRole('row', { name: /^growth rate \/year 0.81/ })).toBeVisible()
    await expect(page.getByRole('img', { name: 'Courses of the chains of bite' })).toBeVisible()
    await expect(page.getByRole('img', { name: 'Draws of each two numbers together' })).toBeVisible()
    await expectAccessible(page)
    await stage(page).getByRole('button', { name: 'Use in Spread' }).click()
    await expect(page.getByText('4 parameters are uncertain as the data leave them')).toBeVisible()
    const inputs = page.getByRole('navigation', { name: 'Uncertain inputs' })
    await expect(inputs.getByRole('button', { name: /^pups per urchin 99 values seen/ })).toBeVisible()
    await toFit(page)
    await question(page, 'With otters as a third').click()

    // One act, and one undo.
    await stage(page).getByRole('button', { name: 'Take over' }).click()
    await expect(page.getByText('The model has the values of “With otters as a third” now')).toBeVisible()
    await expect(stage(page).getByText('the model has these values')).toBeVisible()
    await says.getByRole('button', { name: 'growth rate', exact: true }).click()
    await expect(card(page).getByRole('textbox', { name: 'Value of growth rate' })).toHaveText(/^0\.8179\d/)
    await page.keyboard.press('Control+z')
    await expect(card(page).getByRole('textbox', { name: 'Value of growth rate' })).toHaveText('0.9')
    // What was found is still there; beside the model it is a scenario.
    await toFit(page)
    await question(page, 'With otters as a third').click()
    await stage(page).getByRole('button', { name: 'As a scenario' }).click()
    await expect(page.getByText('“With otters as a third” is a scenario now. Without one initial value')).toBeVisible()
})

test('a calibration of one’s own is put together, stopped, gone on with, and told to be older when the model changes', async ({ page }) => {
    await openCopy(page, 'Kelp and urchins')
    await toFit(page)
    const panel = page.getByRole('navigation', { name: 'Questions to the data' })
    await panel.getByRole('button', { name: 'Add a calibration' }).click()
    await expect(question(page, 'Calibration')).toBeVisible()
    const numbers = page.getByRole('region', { name: 'The numbers that may move' })
    for (const name of ['bite', 'hunting skill', 'pups per urchin', 'urchins']) {
        await numbers.getByRole('button', { name: `Leave ${name} as it is` }).click()
        await expect(numbers.getByRole('button', { name: `Leave ${name} as it is` })).toHaveCount(0)
    }
    await numbers.getByRole('button', { name: 'Leave growth rate as it is' }).click()
    await expect(stage(page).getByRole('alert')).toContainText('Say first which numbers may move')
    const add = numbers.getByRole('combobox', { name: 'Another number that may move' })
    for (const name of ['growth rate', 'bite']) {
        await add.fill(name)
        await add.press('Enter')
        await expect(numbers.getByRole('textbox', { name: `Lower bound of ${name}` })).toBeVisible()
    }
    // A point of a curve, which one chooses by its x.
    await add.fill('shelter')
    await add.press('Enter')
    await expect(numbers.getByRole('textbox', { name: 'Lower bound of shelter at 0' })).toBeVisible()
    await pick(numbers.getByRole('combobox', { name: 'Which point of shelter' }), '0.2')
    await expect(page.getByRole('img', { name: /^shelter at 0.2: 0.75, between 0.25 and 2.3/ })).toBeVisible()
    // Bounds the wrong way round are refused with a sentence, and stay as they were.
    const low = numbers.getByRole('textbox', { name: 'Lower bound of bite' })
    await low.fill('7')
    await low.press('Enter')
    await expect(page.getByText(/from the lower to the higher one/).first()).toBeVisible()
    await low.fill('0.004')
    await low.press('Enter')
    await expect(page.getByRole('img', { name: /^bite: 0.018 .*between 0.004 and/ })).toBeVisible()
    await stage(page).getByRole('textbox', { name: 'What was measured later is held back' }).fill('')
    await stage(page).getByRole('textbox', { name: 'What was measured later is held back' }).press('Enter')
    await expect(stage(page).getByText(/held back, to judge by/)).toHaveCount(0)

    // Which series count, and how: errors in per cent, outliers.
    await stage(page).getByRole('button', { name: '2 series', exact: true }).click()
    const series = stage(page).getByRole('group', { name: 'What is measured' })
    await series.getByRole('checkbox', { name: 'otters' }).check()
    await expect(stage(page).getByRole('button', { name: '3 series', exact: true })).toBeVisible()
    await series.getByRole('checkbox', { name: 'otters' }).uncheck()
    await pick(series.getByRole('combobox', { name: 'How misses of kelp are counted' }), 'with some outliers (Huber)')
    await series.getByText('not said how exact').first().click()
    await series.getByRole('textbox', { name: 'standard deviation of a point' }).first().fill('6')
    await series.getByRole('textbox', { name: 'standard deviation of a point' }).first().press('Enter')
    await expect(stage(page).getByText('in t, “Kelp” ± one error')).toBeVisible()

    // A long search: stopped, it stays where it is; it goes on from there.
    await starts(page, '32 starts')
    await pick(stage(page).getByRole('combobox', { name: 'How it is looked for' }), 'an evolving cloud')
    await start(page)
    await expect(stage(page).getByText(/of 32 starts ended; off by/)).toBeVisible({ timeout: 40_000 })
    await stage(page).getByRole('button', { name: 'Stop' }).click()
    await expect(question(page, 'Calibration')).toContainText('stopped')
    const runs = async () =>
        parseInt(
            (
                (await stage(page)
                    .getByText(/runs ·/)
                    .textContent()) ?? ''
            ).replace(/,/g, ''),
        )
    const before = await runs()
    expect(before).toBeGreaterThan(10)
    await stage(page).getByRole('button', { name: 'Go on' }).click()
    await expect.poll(runs, { timeout: 40_000 }).toBeGreaterThan(before)
    await stage(page).getByRole('button', { name: 'Stop' }).click()

    await starts(page, '1 start')
    await expect(stage(page).getByText(/has changed since it was fitted/)).toBeVisible()
    await stage(page).getByRole('button', { name: 'Remove this calibration' }).click()
    await expect(panel.getByRole('button', { name: /^Calibration/ })).toHaveCount(0)
})

test('the method is tried with data that the model makes itself, before the first real fit', async ({ page }) => {
    await openCopy(page, 'Kelp and urchins')
    await toFit(page)
    await question(page, 'With otters as a third').click()
    await stage(page).getByRole('button', { name: 'Try it first with data that the model makes itself' }).click()
    await expect(stage(page).getByRole('heading', { name: 'Find again 5 numbers from 34 made values in 3 series' })).toBeVisible()
    await starts(page, '2 starts')
    await start(page)
    await ended(page)
    await expect(page.getByRole('region', { name: 'The numbers that may move' })).toContainText('intervals hold the value')
    await expect(stage(page).getByRole('button', { name: 'Take over' })).toHaveCount(0)
})

test('the best price and cap are looked for within limits, taken over, and another policy is put together', async ({ page }) => {
    test.setTimeout(240_000)
    await openCopy(page, 'Ferry season')
    await toFit(page)
    const panel = page.getByRole('navigation', { name: 'Questions to the data' })
    await expect(stage(page).getByRole('heading', { name: 'Make total visitors as large as can be, within 2 limits' })).toBeVisible()
    await stage(page).getByRole('button', { name: 'Look for it' }).click()
    await expect(stage(page).getByText(/^260 k person, before 252 k person/)).toBeVisible({ timeout: 120_000 })
    await expect(stage(page).getByRole('listitem').filter({ hasText: 'least reputation' })).toContainText('binds')
    const levers = page.getByRole('region', { name: 'What can be chosen' })
    await expect(levers).toContainText('The limit of reputation binds, at least 0.5')
    await expect(page.getByRole('img', { name: /^ticket price: 21.3 crown, between 10 and 90, before 30; nearly as good/ })).toBeVisible()
    await expect(page.getByRole('img', { name: 'reputation: before, and with the policy' })).toBeVisible()
    await expectAccessible(page)
    await page.getByRole('button', { name: 'Dark theme' }).click()
    await expectAccessible(page, 'colours')
    await page.getByRole('button', { name: 'Light theme' }).click()
    // Other good choices, and the best held against one of them.
    await stage(page).getByRole('button', { name: 'Hold the best against choice 2' }).click()
    await expect(page.getByRole('img', { name: 'reputation: choice 2, and with the policy' })).toBeVisible()
    await expect(stage(page).getByRole('listitem').filter({ hasText: 'least reputation' })).toContainText('choice 2 0.5')
    await stage(page).getByRole('button', { name: 'As a scenario' }).click()
    await expect(page.getByText('“A price and a cap” is a scenario now.')).toBeVisible()
    await stage(page).getByRole('button', { name: 'Take over' }).click()
    await expect(stage(page).getByText('the model follows it')).toBeVisible()

    // One of one's own, like it: over runs under uncertainty, with fewer of them than a demo has time for.
    await panel.getByRole('button', { name: 'Add a policy' }).click()
    await expect(panel.getByRole('button', { name: /^Policy not begun/ })).toBeVisible()
    await levers.getByRole('button', { name: 'Leave cap on visitors as it is' }).click()
    await pick(stage(page).getByRole('combobox', { name: 'In how many runs' }), 'in 20 runs under uncertainty')
    await pick(stage(page).getByRole('combobox', { name: 'What many runs come to' }), 'in the worst twentieth')
    const add = stage(page).getByRole('combobox', { name: 'Another outcome' })
    await add.fill('reputation')
    await add.press('Enter')
    await expect(stage(page).getByRole('heading', { name: 'Make total visitors + reputation at the end' })).toBeVisible()
    await stage(page).getByRole('button', { name: 'Leave out total visitors' }).click()
    await expect(stage(page).getByRole('heading', { name: 'Make reputation at the end' })).toBeVisible()
    // A course to follow, instead of a number of the run.
    await pick(stage(page).getByRole('combobox', { name: 'Which number of reputation' }).first(), 'distance from a course')
    await pick(stage(page).getByRole('combobox', { name: 'Which course reputation is to follow' }), 'visitors')
    await expect(stage(page).getByRole('heading', { name: 'Make distance of reputation from visitors as large' })).toBeVisible()
    await pick(stage(page).getByRole('combobox', { name: 'Which number of reputation' }).first(), 'at the end')
    await stage(page).getByRole('button', { name: 'No limit of least water level' }).click()
    await stage(page).getByRole('button', { name: 'No limit of least reputation' }).click()
    await expect(
        stage(page).getByRole('heading', { name: 'Make reputation at the end as large as can be in the worst twentieth' }),
    ).toBeVisible()
    await stage(page).getByRole('button', { name: 'Look for it' }).click()
    await expect(panel.getByText(/runs; the best that keeps all limits comes to/)).toBeVisible({ timeout: 60_000 })
    await stage(page).getByRole('button', { name: 'Stop' }).click()
    await expect(panel.getByRole('button', { name: /^Policy stopped/ })).toBeVisible()
    await stage(page).getByRole('button', { name: 'Remove this policy' }).click()
    await expect(panel.getByRole('button', { name: /^Policy/ })).toHaveCount(0)
})

test('a study without data says how a fit begins', async ({ page }) => {
    await openCopy(page, 'Two bakers')
    await toFit(page)
    await expect(stage(page)).toContainText('Nothing is measured yet')
    await expectAccessible(page)
    await stage(page).getByRole('button', { name: 'Go to Data' }).click()
    await expect(page).toHaveURL(/\/data/)
})
