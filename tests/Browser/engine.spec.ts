import { expect } from '@playwright/test'
import { card, expectAccessible, nameAndSay, newStudy, outlined, sheet, state } from './sheet'
import { test } from './test'

const BAY = `<?xml version="1.0"?><xmile version="1.0" xmlns="http://docs.oasis-open.org/xmile/ns/XMILE/v1.0"><header><name>North bay</name></header>
<sim_specs method="rk4" time_units="month"><start>0</start><stop>48</stop><dt reciprocal="true">4</dt></sim_specs><model><variables>
<stock name="Young\\noysters"><eqn>200</eqn><inflow>settling</inflow><outflow>growing_up</outflow><conveyor><len>18</len></conveyor><units>oyster</units></stock>
<stock name="Grown oysters"><eqn>500</eqn><inflow>growing_up</inflow><outflow>harvest</outflow><units>oyster</units></stock>
<flow name="settling"><eqn>Grown_oysters * lifespan</eqn></flow><flow name="growing up"/><flow name="harvest"><eqn>STEP(60, 12) + NORMAL(0, 4)</eqn></flow>
<aux name="lifespan"><eqn>30</eqn><units>months</units></aux>
<aux name="crowding"><eqn>Grown_oysters</eqn><gf><xscale min="0" max="400"/><ypts>1,0.4,0</ypts></gf></aux>
</variables></model></xmile>`

test('a file of the open standard is dropped on the page; its log leads to the element', async ({ page }) => {
    await page.goto('/')
    await expect(page.getByRole('article').first()).toBeVisible()
    const file = await page.evaluateHandle((text) => {
        const data = new DataTransfer()
        data.items.add(new File([text], 'bay.xmile', { type: 'application/xml' }))
        return data
    }, BAY)
    await page.locator('.home').dispatchEvent('drop', { dataTransfer: file })
    const log = page.getByRole('dialog', { name: /Imported “North bay/ })
    await expect(log.getByRole('listitem')).toHaveCount(1)
    await expect(log).toContainText('NORMAL draws other numbers here')
    await expectAccessible(page)
    await log.getByRole('button', { name: 'harvest' }).click()
    await expect(card(page).getByRole('textbox', { name: 'Name' })).toHaveValue('harvest')
    await expect(state(page)).toContainText('up to date')

    // What travels arrives by a flow without a formula of its own.
    await outlined(page, 'growing up').click()
    await expect(card(page)).toContainText('after its travel time')
    // Months are oysters' time here, so that a duration where a rate belongs is told, with the mend as a button.
    await outlined(page, 'settling').click()
    await expect(card(page)).toContainText('is a duration, not a rate')
    await card(page).getByRole('button', { name: 'Take Grown oysters / lifespan' }).click()
    await expect(card(page)).not.toContainText('is a duration')
    await expect(card(page).locator('.cm-content')).toHaveText('Grown oysters / lifespan')

    await outlined(page, 'crowding curve').click()
    await card(page).getByRole('textbox', { name: 'Points' }).fill('0 1\n200 0.4\n100 0')
    await card(page).getByRole('textbox', { name: 'Points' }).blur()
    await expect(card(page).getByRole('alert')).toContainText('must increase')
    await card(page).getByRole('textbox', { name: 'Points' }).fill('0 1\n200 0.4\n300')
    await card(page).getByRole('textbox', { name: 'Points' }).blur()
    await expect(card(page).getByRole('alert')).toContainText('Line 3 is no pair of numbers')
    await expectAccessible(page)

    await page.keyboard.press('Escape')
    await sheet(page).focus()
    await page.keyboard.press('Escape')
    // The run left the curve's range, and says so.
    await expect(card(page)).toContainText('left its range from 0 to 400')
})

test('a curve is made and called, a stock is kept above zero, and the step is checked', async ({ page }) => {
    await newStudy(page)
    await sheet(page).focus()
    await page.keyboard.type('c')
    await expect(page.locator('.naming input')).toBeFocused()
    await page.keyboard.type('crowding')
    await page.keyboard.press('Enter')
    await card(page).getByRole('textbox', { name: 'Points' }).fill('0 1\n50 0.8\n100 0')
    await card(page).getByRole('textbox', { name: 'Points' }).blur()
    await expect(card(page).getByRole('group', { name: /3 points/ })).toBeVisible()
    await sheet(page).focus()
    await page.keyboard.press('Escape')
    await page.keyboard.type('s')
    await nameAndSay(page, 'kelp', '10')
    await expect(state(page)).toContainText('up to date')
    await card(page).getByLabel('Never below zero').check()
    await sheet(page).focus()
    await page.keyboard.press('Escape')
    await page.keyboard.type('a')
    await nameAndSay(page, 'growth', 'crowding(kelp) + smooth(step(1, 5), 3, 3)')
    await expect(outlined(page, 'growth')).toContainText('1.9')

    await sheet(page).focus()
    await page.keyboard.press('Escape')
    const time = page.getByRole('form', { name: 'Time settings' })
    await time.getByRole('button', { name: 'Check the step' }).click()
    await expect(time.getByRole('status')).toContainText('the settings are fine')
    await time.locator('.method').click()
    await page.getByRole('option', { name: 'Rosenbrock 4(3)' }).click()
    // It refuses what it cannot do, and says what to choose instead.
    await expect(card(page)).toContainText('never goes below zero, which is settled step by step')
    await time.locator('.method').click()
    await page.getByRole('option', { name: 'Heun' }).click()
    await time.getByLabel('Ends early when').fill('growth > 1.5')
    await time.getByLabel('Ends early when').blur()
    await expect(state(page)).toContainText('up to date')
    await expect(card(page)).not.toContainText('settled step by step')
})
