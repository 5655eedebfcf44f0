import type { APIRequestContext, Page } from '@playwright/test'
import { enter, expect, open, ownNumbers, releasePlan, settled, test } from './person'

/** A solid beam of 2 m, 50 by 40 mm, in aluminium: EI = 18 667 N·m². */
const BEAM = {
  section: 'solid',
  length: 2,
  width: 0.05,
  rootHeight: 0.04,
  tipHeight: 0.04,
  modulus: 70e9,
  strength: 250e6,
  shearStrength: 150e6,
  density: 2700,
}

async function newTest(
  request: APIRequestContext,
  family: string,
  name: string,
  properties: object = {},
): Promise<number> {
  const post = async (path: string, data: object) =>
    (await (await request.post(path, { data })).json()) as { id: number; revision: { id: number } }
  const campaigns = (await (await request.get('/api/campaigns')).json()) as { id: number; title: string }[]
  const campaignId =
    campaigns.find(c => c.title === 'Plans of all kinds')?.id ??
    (await post('/api/campaigns', { title: 'Plans of all kinds' })).id
  const { revision } = await post('/api/articles', { campaignId, name, family, revision: { label: 'A', properties } })
  return (await post(`/api/revisions/${revision.id}/tests`, { title: `${name} test` })).id
}

const rung = (page: Page, n: number) =>
  page.getByRole('list', { name: /Load ladder/ }).locator(`[data-rung="${n}"] button`)
const fact = (page: Page, label: string) => page.locator(`[data-fact="${label}"]`)
const finding = (page: Page, code: string) => page.locator(`[data-finding="${code}"]`)
const tab = (page: Page, name: string | RegExp) => page.getByRole('tab', { name }).click()
const loadedBy = (page: Page, label: string) => page.getByLabel('How the load is brought in').selectOption({ label })

/** A ladder in per cent of a goal. */
async function ladder(page: Page, goal: string, percents: string): Promise<void> {
  await page.getByRole('button', { name: 'By a rule' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByRole('textbox', { name: 'Goal' }).fill(goal)
  await dialog.getByRole('textbox', { name: 'Goal' }).blur()
  await dialog.getByRole('textbox', { name: 'Per cent' }).fill(percents)
  await dialog.getByRole('button', { name: 'Write the ladder' }).click()
}

const rowOf = (page: Page, table: string, rung: number) =>
  page.getByRole('region', { name: table }).getByRole('row').nth(rung)

test('a beam by bags: order, bending and mass by typing; bags that cannot make the moment are said at once', async ({
  person: page,
}) => {
  await open(page, `/tests/${await newTest(page.request, 'static', 'Beam', BEAM)}/plan`)
  await loadedBy(page, 'Bags on a span')
  await enter(page, 'Station 2', '2 m')
  for (const n of [1, 2]) await enter(page, `Load per length ${n}`, '200 N/m')
  await enter(page, 'Mass of a bag', '2 kg')
  await page.getByRole('textbox', { name: 'Rows' }).fill('10')
  await page.getByRole('textbox', { name: 'Rows' }).blur()
  await ladder(page, '400 N', '25; 50; 100')
  await expect(fact(page, 'Bags to fetch')).toHaveText('20')
  await expect(fact(page, 'Mass to fetch')).toHaveText(/40\.0\skg/)
  // Ten bags of 19.613 N in the outer five rows, their middle at 1.5 m.
  await expect(rowOf(page, 'At each rung', 3)).toContainText(/10\+5 in rows 6–8/)
  await expect(rowOf(page, 'At each rung', 3)).toContainText(/294\.\d\sN·m/)
  // qL⁴/8EI of an even 196.1 N/m is 21.0 mm.
  await expect(rung(page, 4)).toContainText(/⋯ 21\.\d\smm/)
  await expect(page.getByRole('img', { name: '20 bags in 10 rows' })).toBeVisible()

  // One bag of 30 kg is all that 400 N make.
  await enter(page, 'Mass of a bag', '30 kg')
  await expect(finding(page, 'bags-moment')).toContainText(
    /of the bending wanted at the root.*With bags of \d+\.\d+\skg it would be within/,
  )
  await expect(page.getByRole('button', { name: 'Release', exact: true })).toBeDisabled()
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Undo', exact: true }).click()
  await expect(finding(page, 'bags-moment')).toHaveCount(0)

  // By keys: the third rung up by a twentieth of the top, then taken back.
  const third = rung(page, 3)
  await third.click()
  await third.press('Shift+ArrowRight')
  await expect(third).toContainText('220')
  await page.getByRole('button', { name: 'Undo', exact: true }).click()
  // By drag: the bar's end is pulled back to about half of the top.
  const handle = third.locator('[data-handle]')
  const track = (await handle.locator('..').boundingBox())!
  await handle.hover()
  await page.mouse.down()
  await page.mouse.move(track.x + track.width * 0.4, track.y + 8, { steps: 4 })
  await page.mouse.up()
  await expect(third).toContainText(/160|156|164/)
  await page.getByRole('button', { name: 'Undo', exact: true }).click()
  await releasePlan(page)
})

test('an arm by four stations: forces keep total and moment, a tree of levers has its jack at the centre', async ({
  person: page,
}) => {
  await open(page, `/tests/${await newTest(page.request, 'static', 'Wing arm', { ...BEAM, rootHeight: 0.06 })}/plan`)
  await loadedBy(page, 'Stations')
  await enter(page, 'Load per length 1', '300 N/m')
  await enter(page, 'Load per length 2', '100 N/m')
  await enter(page, 'Actuator stations', '0.25; 0.75; 1.25; 1.75 m')
  await enter(page, 'Cylinder area (optional)', '5 cm²')
  await ladder(page, '400 N', '50; 100')
  // L/3 · (300 + 2·100)/(300 + 100) = 5/6 m; 400 N there make 333 N·m.
  await expect(fact(page, 'Centre of the load')).toHaveText(/833\smm/)
  await expect(fact(page, 'Moment at the start')).toHaveText(/333\sN·m/)
  const pressures = (await rowOf(page, 'At each rung', 3).getByRole('cell').allTextContents())
    .slice(2)
    .map(Number.parseFloat)
  expect(pressures.reduce((a, b) => a + b, 0) * 1000 * 5e-4).toBeCloseTo(400, 0)
  await page.getByLabel('Brought in by').selectOption({ label: 'Lever tree' })
  await expect(page.getByRole('img', { name: '4 stations on a tree of levers' })).toContainText('Jack')
  await enter(page, 'Actuator stations', '1.4; 1.6; 1.8; 2 m')
  await expect(finding(page, 'station-pushes').first()).toContainText('would have to push')
  await enter(page, 'Actuator stations', '0.25; 0.75; 1.25; 2.4 m')
  await expect(page.getByRole('alert').first()).toContainText('beyond the loaded span')
  await enter(page, 'Actuator stations', '0.25; 0.75; 1.25; 1.75 m')

  await tab(page, /^Movement/)
  await page.getByRole('button', { name: 'Large movement' }).click()
  await expect(page.getByText(/the line of load pulls along the surface with at most/)).toBeVisible()
  await page.getByRole('button', { name: 'Put it there' }).click()
  await expect(page.getByLabel(/^Anchor beyond/)).toHaveValue(/^-?\d/)
})

test('a panel under a bladder: a target typed as pressure, and what restrained ends pull', async ({ person: page }) => {
  await open(page, `/tests/${await newTest(page.request, 'static', 'Panel', BEAM)}/plan`)
  await loadedBy(page, 'Bladder')
  await enter(page, 'Length of the bladder', '2 m')
  await enter(page, 'Width of the bladder', '0.3 m')
  await enter(page, 'Share of it in contact', '90 %')
  await enter(page, 'Membrane loss', '2 %')
  await page.getByLabel('Held at').selectOption({ label: 'Both ends' })
  await enter(page, 'Deflection read at', '1 m')
  await ladder(page, '700 N', '50; 100')
  const second = rung(page, 2)
  await second.click()
  await enter(page, /^Rung 2: target/, '1 kPa')
  // 0.6 m² · 0.9 · 0.98 = 529.2 N for a kilopascal; 5·700·2³/384EI = 3.9 mm.
  await expect(second).toContainText(/0\.529\skN/)
  await expect(rung(page, 3)).toContainText(/3\.9\d\smm/)
  await tab(page, /^Movement/)
  await page.getByRole('button', { name: 'Restrained ends' }).click()
  await enter(page, 'Axial stiffness EA', '140 MN')
  await enter(page, 'Length between the ends', '2 m')
  await enter(page, 'An attachment carries', '1 kN')
  // 140 MN · π² · (3.91 mm)² / (4 · 2²)² = 1.32 kN.
  await expect(fact(page, 'End pull')).toHaveText(/1\.3\d\skN/)
  await expect(finding(page, 'insert-overload')).toContainText('Let one end slide')
  await enter(page, /^Rung 2: target/, '1 mm')
  await expect(page.getByRole('alert').first()).toContainText('This must be a load (N) or the bladder’s pressure (Pa).')
})

test('a vessel: gas and water side by side; no release while nothing is done about the energy', async ({
  person: page,
}) => {
  await open(page, `/tests/${await newTest(page.request, 'burst', 'Vessel')}/plan`)
  await enter(page, 'Volume', '20 L')
  await enter(page, 'Radius', '150 mm')
  await page.getByLabel('Filled with').selectOption({ label: 'Gas' })
  await ladder(page, '6 bar', '50; 100')
  await tab(page, /^Hazards/)
  const hazard = page.locator('[data-hazard="pressure"]')
  // Isentropic expansion of 20 L at 6 bar gauge: 14.9 kJ.
  await expect(hazard).toContainText(/14890\sJ/)
  await expect(hazard).toContainText(/30\sm/)
  await expect(finding(page, 'gas-medium')).toBeVisible()
  await expect(finding(page, 'no-control')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Release', exact: true })).toBeDisabled()
  await tab(page, 'Loading')
  await page.getByLabel('Filled with').selectOption({ label: 'Water' })
  await tab(page, /^Hazards/)
  await expect(hazard).toContainText(/1\.64\sJ/)
  await hazard.getByLabel('Water instead of gas').check()
  await expect(finding(page, 'no-control')).toHaveCount(0)
})

test('a drop: typed as a velocity, with the stroke and the samples it needs', async ({ person: page }) => {
  await open(page, `/tests/${await newTest(page.request, 'drop', 'Cabin')}/plan`)
  await enter(page, 'Falling mass', '40 kg')
  await enter(page, 'Lost in the guide', '5 %')
  await enter(page, 'Channel frequency class', '180')
  await enter(page, 'Deceleration expected (optional)', '10 g')
  await enter(page, 'Space to crush (optional)', '150 mm')
  await ladder(page, '1 m', '100')
  await rung(page, 2).click()
  await enter(page, /^Rung 2: target/, '5 m/s')
  // v²/2g(1 − 0.05) = 1.342 m; v²/2a = 127 mm; class 180 wants 1800 Hz.
  await expect(rung(page, 2)).toContainText(/1342\smm/)
  await expect(fact(page, 'Stroke needed')).toHaveText(/127\smm/)
  await enter(page, 'Sample rate', '100 Hz')
  await expect(finding(page, 'rate-too-low')).toContainText(/1800\sHz/)
  await enter(page, 'Sample rate', '5 kHz')
  await expect(finding(page, 'rate-too-low')).toHaveCount(0)
  await enter(page, 'Space to crush (optional)', '100 mm')
  await expect(finding(page, 'stroke-too-short')).toBeVisible()
})

test(
  'a torque rig: the article is made the weakest part; the plan is released, changed by a new version, and ' +
    'made ready on a tablet',
  async ({ person: page }) => {
    const id = await newTest(page.request, 'torque', 'Half shaft')
    await open(page, `/tests/${id}/plan`)
    await expect(finding(page, 'path-alone')).toBeVisible()
    await page.getByRole('button', { name: 'Add to load path' }).click()
    for (const [label, text] of [
      ['Part 1', 'Half shaft'],
      ['Capacity 1', '2100 N·m'],
      ['Own torque over input 1', '3'],
      ['Part 2', 'Input pin'],
      ['Capacity 2', '600 N·m'],
      ['Own torque over input 2', '1'],
    ] as const)
      await enter(page, label, text)
    await ladder(page, '900 N·m', '50; 100')
    // Seen from the shaft the pin carries 600 · 3 = 1800 N·m.
    await expect(fact(page, 'Weakest of the rig')).toHaveText(/1800\sN·m/)
    await expect(fact(page, 'At the input')).toHaveText(/300\sN·m/)
    await expect(finding(page, 'rig-weaker')).toContainText('Input pin is no stronger than the article')
    await enter(page, 'Capacity 2', '1200 N·m')
    await expect(finding(page, 'rig-weaker')).toHaveCount(0)
    await tab(page, /^Channels/)
    await enter(page, 'Check value of Torque', '100 N·m')
    await releasePlan(page)

    await page.getByRole('button', { name: 'New version …' }).click()
    await page.getByLabel('Why it changes').fill('A longer arm came')
    await page.getByRole('button', { name: 'Begin version 2' }).click()
    await expect(page.getByText('Plan, version 2 · draft')).toBeVisible()
    await page.getByRole('button', { name: '1 released' }).click()
    await expect(page.getByRole('dialog')).toContainText('Version 1')
    await page.keyboard.press('Escape')
    await releasePlan(page)

    await page.setViewportSize({ width: 768, height: 1024 })
    await page.getByRole('link', { name: 'To the checklist' }).click()
    await expect(page.getByRole('heading', { name: /still open/ })).toBeVisible()
    await settled(page)
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(768)
    await page.getByRole('button', { name: 'Torque, end to end: open' }).click()
    await page.getByRole('textbox', { name: 'Reading: Torque: end to end' }).fill('104.1')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('button', { name: /Torque, end to end: not good, 104\.1/ })).toBeVisible()
    await page.getByRole('textbox', { name: 'Reading: Torque: end to end' }).fill('0.1007 kN·m')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('button', { name: /Torque, end to end: done/ })).toBeVisible()
    // The scan-down list is walked with keys.
    await page.getByRole('radio', { name: 'List' }).click()
    await expect(page.getByRole('button', { name: 'Tick off: Torque: mount' })).toBeVisible()
    await page
      .getByRole('button', { name: /^Sign as Ada|^Sign: Signed by the test lead/ })
      .first()
      .click()
    await expect(page.getByRole('alert')).toContainText('Signing comes last')
    await page.getByRole('link', { name: 'Sheets to print' }).click()
    await expect(page.getByRole('heading', { name: 'The whole test' })).toBeVisible()
    await expect(page.locator('[data-sheet]')).toHaveCount(3)
  },
)

test('a plan starts from a template or an earlier one, and another’s saving is not overwritten', async ({
  person: page,
}) => {
  const id = await newTest(page.request, 'static', 'Template beam', BEAM)
  await open(page, `/tests/${id}/plan`)
  await expect(page.getByText('saved', { exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'Start from …' }).click()
  await page.getByRole('button', { name: 'Take Stations' }).click()
  await expect(page.getByLabel('How the load is brought in')).toHaveValue('stations')
  await expect(page.getByText('saved', { exact: true })).toBeVisible()
  // Somebody else saves meanwhile.
  const { test: theirs } = (await (await page.request.get(`/api/tests/${id}`)).json()) as {
    test: { plan: object; planEdit: number }
  }
  await page.request.put(`/api/tests/${id}/plan`, {
    data: { plan: { ...theirs.plan, rate: { value: 77, unit: 'Hz' } }, edit: theirs.planEdit },
  })
  await enter(page, 'Sample rate', '50 Hz')
  await expect(page.getByText(/Somebody else has changed this plan/)).toBeVisible()
  await page.getByRole('button', { name: 'Take theirs' }).click()
  await expect(page.getByLabel('Sample rate')).toHaveValue('77 Hz')
})

test(
  'channels from the catalogue: a rosette with its principal strains, a sensor used twice, a forecast that ' +
    'cannot decide',
  async ({ person: page }) => {
    const id = await newTest(page.request, 'static', 'Forecast beam', BEAM)
    const sensors = [
      {
        name: 'Cell, 500 kN',
        kind: 'force',
        fullScale: { value: 500, unit: 'kN' },
        linearity: { value: 0.5, unit: '%' },
      },
      { name: 'Cell, 6 kN', kind: 'force', fullScale: { value: 6, unit: 'kN' }, linearity: { value: 0.05, unit: '%' } },
      {
        name: 'Wire, forecast',
        kind: 'length',
        fullScale: { value: 500, unit: 'mm' },
        linearity: { value: 0.1, unit: '%' },
      },
    ]
    await page.request.post('/api/registers/sensor', { data: { creates: sensors } })
    const { article, campaign } = (await (await page.request.get(`/api/tests/${id}`)).json()) as {
      article: { id: number }
      campaign: { id: number }
    }
    await page.request.post('/api/registers/limit', {
      data: {
        campaignId: campaign.id,
        creates: [
          {
            articleId: article.id,
            name: 'Carries',
            quantity: 'maxLoad',
            comparator: 'atLeast',
            level: 'ultimate',
            entered: { value: 1.6, unit: 'kN' },
          },
        ],
      },
    })
    await open(page, `/tests/${id}/plan`)
    await ownNumbers(page)
    await tab(page, /^Channels/)
    await page.getByLabel('From the catalogue').selectOption({ label: 'Strain rosette (3 channels)' })
    await page.getByRole('button', { name: 'Add', exact: true }).click()
    await expect(page.locator('[data-channel^="rosette1"]')).toHaveCount(5)
    await expect(page.getByLabel('Expression of Strain rosette 1, largest')).toHaveValue(/sqrt/)
    await page.getByLabel('Sensor of Load').selectOption({ label: 'Cell, 500 kN' })
    await page.getByLabel('Sensor of Deflection').selectOption({ label: 'Wire, forecast' })
    await page.getByLabel('From the catalogue').selectOption({ label: 'Load' })
    await page.getByRole('button', { name: 'Add', exact: true }).click()
    await page.getByLabel('Sensor of Load 1').selectOption({ label: 'Cell, 500 kN' })
    await expect(finding(page, 'sensor-twice')).toContainText('one and the same sensor')
    await page.getByRole('button', { name: 'Remove Load 1' }).click()
    await expect(finding(page, 'sensor-twice')).toHaveCount(0)
    await tab(page, /^Prediction/)
    const row = page.locator('[data-forecast="Carries"]')
    // ± 0.5 % of 500 kN is ±2.9 kN at k = 2: wider than the room there is.
    await expect(row).toContainText('cannot tell pass from fail')
    await expect(row).toContainText('Cell, 6 kN can')
    await row
      .getByText(/^Cell, 6 kN can/)
      .getByRole('button', { name: 'Use it' })
      .click()
    await expect(row).toContainText('can tell pass from fail')
  },
)

test('ten thousand channels are pasted from a sheet, searched, and one of them changed', async ({ person: page }) => {
  const id = await newTest(page.request, 'static', 'Hull', BEAM)
  await open(page, `/tests/${id}/plan`)
  await tab(page, /^Channels/)
  await page.getByRole('button', { name: 'Paste a list' }).click()
  const dialog = page.getByRole('dialog')
  const rows = Array.from({ length: 10_000 }, (_, i) => `Gauge ${i + 1}\tFrame ${(i % 60) + 1}\t${i % 2 ? 20 : 5}\tµε`)
  const list = ['Name\tPlace\tRate\tUnit', ...rows, 'Odd\tNowhere\tfast\tfurlong'].join('\n')
  await dialog.getByLabel('Rows').evaluate((field, text) => {
    const data = new DataTransfer()
    data.setData('text/plain', text)
    field.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))
  }, list)
  await expect(dialog.locator('[data-list]')).toContainText('10,001 channels')
  await expect(dialog.locator('[data-list]')).toContainText('“fast” is no frequency')
  await dialog.getByRole('button', { name: 'Add 10,001 channels' }).click()
  const table = page.getByRole('region', { name: 'Channels, table' })
  await page.getByLabel('Find').fill('frame 7 gauge 367')
  await expect(table.locator('[data-channel="Gauge_367"]')).toBeVisible()
  await enter(page, 'Name of Gauge_367', 'Gauge 367, aft')
  await expect(page.getByText('saved', { exact: true })).toBeVisible({ timeout: 60_000 })
  await open(page, `/tests/${id}/plan`)
  await tab(page, /^Channels/)
  await page.getByLabel('Find').fill('367, aft')
  await expect(table.locator('[data-channel="Gauge_367"]')).toBeVisible()
  await expect(page.getByLabel('Own rate of Gauge 367, aft')).toHaveValue(/5\s*Hz/)
})
