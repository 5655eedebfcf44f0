import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { enter, expect, makeReady, open, releasePlan, settled, sign, test } from './person'

const FILE = join(import.meta.dirname, '../demo/data/hanger-arm-a.csv')

test('from an empty bench to the next revision, with a logger’s file in pounds and inches', async ({
  person: page,
}) => {
  await test.step('campaign, article, limits, sensors', async () => {
    await open(page, '/')
    await page.getByRole('button', { name: 'New campaign' }).first().click()
    await page.getByRole('button', { name: 'Create' }).click()
    await expect(page.getByText('A campaign needs a title.')).toBeVisible()
    await page.getByLabel('Title').fill('Footbridge beam')
    await page.getByRole('button', { name: 'Create' }).click()
    await expect(page.getByRole('heading', { name: 'Footbridge beam' })).toBeVisible()

    await page.getByRole('button', { name: 'Add the first article' }).click()
    await page.getByLabel('Article', { exact: true }).fill('Arm')
    for (const [label, text] of [
      ['Length', '2,1 m'],
      ['Width', '80 mm'],
      ['Height at the root', '120 mm'],
      ['Height at the tip', '70 mm'],
      ['Cap thickness', '3.75 mm'],
      ['Web thickness', '0.0787 in'],
      ['Modulus', '58 GPa'],
      ['Strength, bending', '420 MPa'],
      ['Strength, shear', '8.7 ksi'],
      ['Density', '1550 kg/m3'],
    ] as const)
      await enter(page, label, text)
    await page.getByRole('button', { name: 'Add article' }).click()
    await expect(page.getByText('No test yet.')).toBeVisible()

    await page.getByRole('button', { name: 'New limit' }).click()
    await enter(page, 'Value', '80 mm')
    await page.getByRole('button', { name: 'Add limit' }).click()
    await expect(page.getByText('“mm” is not a unit of force')).toBeVisible()
    await enter(page, 'Value', '900 lbf')
    await page.getByRole('combobox', { name: 'Level' }).selectOption({ label: 'Ultimate' })
    await page.getByRole('button', { name: 'Add limit' }).click()
    await page.getByRole('button', { name: 'New limit' }).click()
    await page.getByRole('combobox', { name: 'Result' }).selectOption({ label: 'Deflection at design load' })
    await enter(page, 'Value', '3 in')
    await page.getByRole('button', { name: 'Add limit' }).click()
    await expect(page.getByText('≤ 76.20\u202fmm (typed 3\u202fin)')).toBeVisible()

    await page.getByRole('link', { name: 'Sensors' }).click()
    await expect(page).toHaveURL(/\/sensors$/)
    for (const [name, kind, range, U] of [
      ['Cell', 'Force', '2000 lbf', '6 lbf'],
      ['Wire', 'Displacement', '10 in', '0.01 in'],
    ] as const) {
      await page
        .getByRole('button', { name: /New sensor|first sensor/ })
        .first()
        .click()
      await page.getByRole('dialog').getByLabel('Sensor', { exact: true }).fill(name)
      await page.getByRole('combobox', { name: 'Measures' }).selectOption({ label: kind })
      await enter(page, 'Full scale', range)
      await enter(page, 'Calibration U', U)
      await page.getByRole('button', { name: 'Add sensor' }).click()
      await expect(page.getByRole('gridcell', { name, exact: true })).toBeVisible()
    }
  })

  await test.step('plan', async () => {
    await page.keyboard.press('/')
    await page.getByRole('combobox', { name: 'Go to' }).fill('footbridge')
    await expect(page.getByRole('option').first()).toContainText('Footbridge beamcampaign')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('heading', { name: 'Footbridge beam' })).toBeVisible()
    await page.getByRole('button', { name: 'New test' }).click()
    await page.getByLabel('Title').fill('Ladder')
    await page.getByRole('button', { name: 'Plan it' }).click()
    await expect(page.getByRole('heading', { name: 'Load ladder' })).toBeVisible()
    const expected = page.getByRole('list', { name: /Load ladder/ })
    await expect(expected.getByRole('button').nth(4)).toContainText('⋯')

    // One number changes, and everything that follows from it.
    await page.getByRole('tab', { name: /^Hazards/ }).click()
    const energy = page.locator('[data-hazard="spring"] p').first()
    const before = await energy.textContent()
    await expected.getByRole('button').nth(7).click()
    await enter(page, /^Rung 8: target/, '5.6 kN')
    await expect(energy).not.toHaveText(before!)
    await page.getByRole('button', { name: 'Undo', exact: true }).click()
    await expect(energy).toHaveText(before!)
    await page.getByRole('button', { name: 'Redo' }).click()
    await page.getByRole('tab', { name: 'Loading' }).click()
    await enter(page, 'Design load', '3.2 mm')
    await expect(page.getByText('“mm” is not a unit of force')).toBeVisible()
    await enter(page, 'Design load', '3.2 kN')
    await enter(page, 'Hold tolerance', '6 lbf')
    await page.getByRole('tab', { name: 'Channels' }).click()
    await page.getByLabel('Sensor of Load').selectOption({ label: 'Cell' })
    await page.getByLabel('Sensor of Deflection').selectOption({ label: 'Wire' })
    await expect(page.getByText(/% · fits/)).toHaveCount(2)
    await expect(page.getByText('saved', { exact: true })).toBeVisible()
    await page.reload()
    await expect(page.getByLabel('Design load')).toHaveValue('3.2 kN')
    await settled(page)
    await releasePlan(page)
  })

  await test.step('ready', async () => {
    await open(page, page.url().replace('/plan', '/run'))
    await expect(page.getByText(/items of the checklist are open/)).toBeVisible()
    await page.getByRole('link', { name: 'To the checklist' }).click()
    await page.getByRole('button', { name: /^Override: Picture of tethers/ }).click()
    await page.getByPlaceholder('Why it may go ahead all the same').fill('Nothing loose on this rig')
    await page.getByRole('button', { name: 'Override as Ada' }).click()
    await expect(page.getByText('Overridden by Ada: Nothing loose on this rig')).toBeVisible()
    await makeReady(Number(/tests\/(\d+)/.exec(page.url())![1]))
    await page.reload()
    await expect(page.getByRole('heading', { name: 'Ready to load' })).toBeVisible()
    await page.getByRole('link', { name: 'To the run' }).click()
  })

  await test.step('run: broken files say where, and import nothing', async () => {
    const give = (name: string, text: string) =>
      page.getByLabel('Logger file').setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(text) })
    const alert = page.getByRole('alert')
    await expect(page.getByRole('heading', { name: 'Import a logger’s file' })).toBeVisible()
    await give('empty.csv', '')
    await expect(alert).toContainText('The file holds no line.')
    await give('no-header.csv', '0,1,2\n1,2,3\n')
    await expect(alert).toContainText('No header line was found')
    const good = Array.from({ length: 30 }, (_, i) => `${i},${i * 10},${i / 100}`)
    const importIt = async (name: string, rows: string[]) => {
      await give(name, ['Time,Load,Tip', 's,lbf,in', ...rows].join('\n'))
      await expect(page.getByText(name)).toBeVisible()
      await page.getByRole('button', { name: 'Import', exact: true }).click()
    }
    await importIt('back.csv', [...good.slice(0, 20), '3,5,1', ...good.slice(20)])
    await expect(alert).toContainText('Time goes back at row 23')
    await expect(alert).toContainText('back.csv, row 23, column “Time”')
    await importIt('ragged.csv', [...good.slice(0, 10), '10,100', ...good.slice(11)])
    await expect(alert).toContainText('Row 13 breaks off after 2 cells, and further rows follow.')
    await give('unit.csv', ['Time,Load,Tip', 's,lbf,in', ...good].join('\n'))
    await page.getByLabel('Unit of Load').fill('mm')
    await page.getByRole('button', { name: 'Import', exact: true }).click()
    await expect(alert).toContainText('“mm” is not a unit of force')
    await expect(page.getByRole('heading', { name: 'Recorded', exact: true })).toHaveCount(0)
  })

  await test.step('run: the logger’s file is understood', async () => {
    await page.getByLabel('Logger file').setInputFiles({
      name: 'rig2.csv',
      mimeType: 'text/csv',
      buffer: Buffer.concat([readFileSync(FILE), Buffer.from('\n# second copy\n')]),
    })
    await expect(
      page.getByText(/comma-separated, decimal point · header in row 5, units in row 6 · 3 lines of preamble/),
    ).toBeVisible()
    await expect(page.getByLabel('Column of Load')).toHaveValue('Load Cell 1')
    await expect(page.getByLabel('Unit of Load')).toHaveValue('lbf')
    await expect(page.getByLabel('Unit of Deflection')).toHaveValue('in')
    await page.getByLabel('How the test ended').selectOption({ label: 'The fixture failed' })
    await page.getByRole('button', { name: 'Import', exact: true }).click()
    await expect(page).toHaveURL(/\/reduce$/)
  })

  await test.step('reduce', async () => {
    await expect(page.getByLabel('What ended the test')).toHaveValue('fixture')
    await expect(page.getByRole('cell', { name: /^≥ 4\.356 ±/ })).toBeVisible()
    await expect(page.locator('canvas').first()).toBeVisible()
    await expect(page.getByText('the largest load is a lower bound')).toBeVisible()
    await page.getByRole('button', { name: 'Keep results' }).click()
    await expect(page.getByText(/Kept .* by Ada/)).toBeVisible()
    // Another zero window is computed at once and shown against the kept one.
    await enter(page, 'Zero at the start, to', 'soon')
    await expect(page.getByText('“soon” does not begin with a number.')).toBeVisible()
    await enter(page, 'Zero at the start, to', '8')
    await expect(page.getByRole('heading', { name: /new against kept/ })).toBeVisible()
    await page.getByRole('button', { name: 'Keep these results' }).click()
    await expect(page.getByText(/supersedes an earlier one/)).toBeVisible()
  })

  await test.step('judge', async () => {
    await page.getByRole('link', { name: 'Go to Judge' }).click()
    await expect(page.locator('[data-limit="Largest load"] [data-verdict="pass"]')).toBeVisible()
    await expect(page.locator('[data-limit="Deflection at design load"] [data-verdict="fail"]')).toBeVisible()
    await expect(
      page.locator('[data-limit="Deflection at design load"]').getByText(/beam calculation: \d\d\.\d ±/),
    ).toBeVisible()
    await expect(page.getByLabel('What ended it')).toHaveValue('fixture')
    await page.getByLabel('Where').fill('Root clamp')
    await sign(page)
  })

  await test.step('report, printed and exported', async () => {
    await page.getByRole('link', { name: 'Report' }).click()
    await expect(page.getByRole('heading', { name: /Arm, revision A: Ladder/ })).toBeVisible()
    await page.emulateMedia({ media: 'print' })
    await expect(page.getByRole('button', { name: 'Print' })).toBeHidden()
    await expect(page.getByText('Root clamp')).toBeVisible()
    await page.emulateMedia({ media: 'screen' })
    const csv = await (
      await page.request.get((await page.getByRole('link', { name: 'Results as CSV' }).getAttribute('href'))!)
    ).text()
    expect(csv).toMatch(/^maxLoad,4\d{3}\.\d+,N,atLeast/m)
    const json = (await (
      await page.request.get((await page.getByRole('link', { name: 'Results as JSON' }).getAttribute('href'))!)
    ).json()) as { results: object; inputSha256: string }
    expect(json.results).toHaveProperty('stiffness')
    expect(json.inputSha256).toMatch(/^[0-9a-f]{64}$/)
  })

  await test.step('change', async () => {
    await page.goBack()
    await page.getByRole('link', { name: /^Change/ }).click()
    await expect(page.getByText('Deflection at design load: stiffness-driven')).toBeVisible()
    const caps = page.locator('[data-candidate="caps"]')
    await expect(caps).toContainText('+')
    await expect(caps.locator('[data-verdict="pass"]')).toHaveCount(2)
    await caps.getByRole('button', { name: 'Accept' }).click()
    await page.getByRole('button', { name: 'Make revision B' }).click()
    await expect(page).toHaveURL(/\/plan$/)
    await page.getByRole('tab', { name: /^Prediction/ }).click()
    await expect(page.getByRole('heading', { name: 'Prediction · locks at the first sample' })).toBeVisible()
    await expect(page.getByRole('columnheader', { name: 'scaled from revision A' })).toBeVisible()
  })
})
