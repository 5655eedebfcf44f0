import { demoTests, importFile, keep, like, result, type DemoTests } from './demoTests'
import { enter, expect, open, test } from './person'

/* Shells, drives, shafts, cabinets, bars, probes and coupons: from their loggers’ files to what is said of them. */

let tests: DemoTests

test.beforeAll(async ({ request }) => {
  test.setTimeout(300_000)
  tests = await demoTests(request)
})

test(
  'buckling: growth, predicted load and waves around; the line of growth by its own fields; around ' + 'the section',
  async ({ person: page }) => {
    const id = await like(page, tests, 'Pressed until it buckles')
    await importFile(page, id, 'mast-shell.csv')
    await expect(result(page, 'waveNumber')).toContainText('6')
    await expect(result(page, 'knockdown')).toContainText('0.4')
    await expect(result(page, 'southwellForce')).toContainText(/3[5-7]\d\.\d/)
    await keep(page)
    await page.getByRole('radio', { name: 'Line load around' }).click()
    await expect(page.getByRole('img', { name: /Line load in kN\/m over around the section/ })).toBeVisible()
    await page.getByRole('radio', { name: 'Growth over load' }).click()
    await page.getByRole('slider', { name: 'Line of growth, to' }).focus()
    for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowLeft')
    await expect(result(page, 'southwellForce').locator('s')).toBeVisible()
    await page.getByRole('button', { name: 'Wall and mass by each design factor' }).click()
    await expect(page.locator('[data-carried="knockdown"]')).toContainText('Lower bound factor')
  },
)

test('spin: set-points as a table, and the next one projected past the current limit', async ({ person: page }) => {
  const id = await like(page, tests, 'Set-points up to 90 %')
  await importFile(page, id, 'fan-drive.csv')
  await expect(page.getByText(/The next set-point is projected beyond its limit: current/)).toBeVisible()
  await expect(result(page, 'maxThrust')).toContainText(/8\d\.\d/)
  await page.getByRole('radio', { name: 'Next: current' }).click()
  await expect(page.getByRole('img', { name: /Current in A over set-point/ })).toBeVisible()
  await page.getByRole('radio', { name: 'Once a turn' }).click()
  await expect(page.getByRole('img', { name: /once a turn/i })).toBeVisible()
  await enter(page, 'Settles for', '40 s')
  await expect(page.getByText(/must settle in less than the shortest hold/).first()).toBeVisible()
})

test('thermal: too hot at full power; ten minutes tell where it is heading', async ({ person: page }) => {
  const hot = await like(page, tests, 'Full power, closed housing')
  await importFile(page, hot, 'inverter-closed.csv')
  await expect(page.getByText(/would settle above its limit/)).toBeVisible()
  await expect(result(page, 'allowedPower')).toContainText(/2\d\d/)
  await page.getByRole('radio', { name: 'Derating with the ambient' }).click()
  await expect(page.getByRole('img', { name: /Allowed power in W over ambient/ })).toBeVisible()
  const early = await like(page, tests, 'Full power, lid vented: ten minutes')
  await importFile(page, early, 'inverter-vented.csv')
  await expect(result(page, 'steadyTemperature')).toContainText(/7\d\.\d.*±/)
})

test(
  'torque: the coupling gave way, so it is a lower bound; the half-fraction says which factor ' + 'moved the yield',
  async ({ person: page }) => {
    const id = await like(page, tests, 'Shaft S8 to break')
    await importFile(page, id, 'shaft-8.csv')
    await expect(result(page, 'yieldTorque')).toContainText('1937')
    await page.getByLabel('What ended the test').selectOption('fixture')
    await expect(result(page, 'ultimateTorque')).toContainText('≥')
    await page.getByRole('button', { name: 'What breaks first with this article' }).click()
    await expect(page.locator('[data-carried="drive-chain"]')).toContainText('Flange coupling')

    const { articleId } = tests.of('Shaft S1 to break')
    await open(page, `/articles/${articleId}`)
    await page.getByLabel('Result asked about').selectOption('yieldTorque')
    const trials = page.getByRole('region', { name: 'Trial matrix' })
    await expect(
      trials
        .getByRole('row')
        .filter({ hasText: /^Steel/ })
        .first(),
    ).toBeVisible()
    await expect(trials).toContainText('resolved')
  },
)

test('vibration: the signature finds the bracket; shapes stand beside the model’s', async ({ person: page }) => {
  const id = await like(page, tests, 'Survey after the shake')
  await importFile(page, id, 'cabinet-after.csv')
  await expect(result(page, 'firstFrequency')).toContainText(/29\.\d/)
  await expect(page.getByRole('cell', { name: 'changed' })).toBeVisible()
  await page.getByRole('radio', { name: 'Mode shapes' }).click()
  await expect(page.getByRole('img', { name: /Shape, largest one over place along the article/ })).toBeVisible()
  await enter(page, 'Samples a segment', '1000000')
  await expect(page.getByText(/longer than the record/).first()).toBeVisible()
})

test('bar: waves picked by handles, both schools, dispersion taken out', async ({ person: page }) => {
  const id = await like(page, tests, 'Cylinder 1')
  await importFile(page, id, 'bar-1.csv')
  await expect(result(page, 'peakStress')).toContainText(/49\d|50\d|51\d/)
  await page.getByRole('radio', { name: 'Waves', exact: true }).click()
  await page.getByRole('slider', { name: 'Reflected wave, from' }).focus()
  await page.keyboard.press('ArrowRight')
  await page.getByLabel('Results by').selectOption('three-wave')
  await expect(page.getByRole('button', { name: 'Keep results' })).toBeEnabled()
  await page.getByRole('heading', { name: /Filter and correction/ }).click()
  await page.getByLabel('Correct the waves’ dispersion').check()
  await expect(result(page, 'equilibrium')).toContainText('0.0')
})

test('transducer: three explanations of a low coupling, the cable first; a beam around', async ({ person: page }) => {
  const id = await like(page, tests, 'Potted, with its cable')
  await importFile(page, id, 'probe-potted.csv')
  await expect(result(page, 'coupling')).toContainText('0.4')
  await expect(page.getByRole('row').filter({ hasText: 'capacitance of the cable' })).toContainText('added 0.47')
  // It is potted, backed and cabled at once: no single fault is all of it, within what the rows scatter.
  await expect(page.getByText('None of the explanations fits').first()).toBeVisible()
  await page.getByRole('radio', { name: 'Circle of admittance' }).click()
  const beam = await like(page, tests, 'Beam at 40 kHz')
  await importFile(page, beam, 'probe-beam.csv')
  await expect(result(page, 'maxSidelobe')).toContainText('−17')
  await expect(page.getByRole('img', { name: /Level below the peak in dB over angle/ })).toBeVisible()
})

test('coupon: a torn hole stands out and stays in; what more specimens would buy', async ({ person: page }) => {
  const id = await like(page, tests, 'Six in bearing')
  await importFile(page, id, 'coupon-bearing.csv')
  await expect(page.getByText(/Far from the others: B-4/)).toBeVisible()
  await expect(result(page, 'outliers')).toContainText('1')
  await page.getByRole('radio', { name: 'What more would buy' }).click()
  await expect(page.getByRole('img', { name: /Basis value in MPa over specimens/ })).toBeVisible()
  await keep(page)
})

test(
  'targets: the brackets’ motion is taken off, the beam bends over time, and the gauge reads the ' + 'brackets as well',
  async ({ person: page }) => {
    const { id } = tests.of('Bags to 1.5 times the crew')
    const { datasets } = (await (await page.request.get(`/api/tests/${id}`)).json()) as { datasets: { id: number }[] }
    await open(page, `/records/${datasets[0]!.id}`)
    await page.getByRole('link', { name: 'Field of targets' }).click()
    await expect(page.getByRole('img', { name: /Out of plane, at .* at 18 places/ })).toBeVisible()
    await expect(page.locator('[data-parting]')).toContainText('They disagree by more than')
    await page.getByRole('button', { name: 'Play' }).click()
    await page.getByRole('button', { name: 'Stand still' }).click()
    for (const name of ['Bracket1', 'Bracket2', 'Bracket3', 'Bracket4'])
      await page.getByRole('checkbox', { name }).uncheck()
    await expect(page.getByText(/at least three targets of the fixture/)).toBeVisible()
  },
)
