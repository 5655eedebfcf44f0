import { join } from 'node:path'
import type { Page } from '@playwright/test'
import { loadDemo } from '../demo/load'
import { enter, expect, open, test } from './person'

const PIXEL = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
)
let slug = ''

interface Row {
  id: number
  version: number
  [key: string]: unknown
}
const campaignOf = async (page: Page) =>
  (await (await page.request.get(`/api/campaigns/${slug}`)).json()) as {
    id: number
    articles: { id: number; name: string; revisions: { label: string; tests: { id: number; title: string }[] }[] }[]
  }
const rowsOf = async (page: Page, register: string) =>
  (
    (await (await page.request.get(`/api/registers/${register}?campaignId=${(await campaignOf(page)).id}`)).json()) as {
      rows: Row[]
    }
  ).rows
const newRow = (page: Page, key: string) => page.locator(`tr[data-row="new"] td[data-key="${key}"]`)
const note = (page: Page) => page.getByTestId('done')

test.beforeAll(async ({ baseURL }) => {
  test.setTimeout(300_000)
  slug = await loadDemo(baseURL!, join(import.meta.dirname, '../demo/data'), { specimens: false })
})

test('a limit typed as “14 mm” into the sheet, pasted ones with a broken row, undo, and a reload', async ({
  person: page,
}) => {
  await open(page, `/campaigns/${slug}/limit`)
  const grid = page.getByRole('grid', { name: 'Limits' })
  const before = await grid.getByRole('row').count()

  await test.step('by keyboard', async () => {
    await newRow(page, 'articleId').click()
    await page.keyboard.press('Enter')
    await page.locator('[data-editor] select').selectOption({ label: 'Hanger arm' })
    await page.keyboard.press('Tab')
    await page.keyboard.press('Enter')
    await page.locator('[data-editor] select').selectOption({ label: 'Deflection at design load' })
    await page.keyboard.press('Tab')
    await expect(newRow(page, 'name')).toHaveText('Deflection at design load')
    // What is not finished outlives a reload.
    await page.reload()
    await expect(newRow(page, 'comparator')).toHaveText('at most')
    await newRow(page, 'entered').click()
    await page.keyboard.type('14 N')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('alert')).toContainText('“N” is not a unit of length')
    await page.locator('[data-editor] input').fill('14 mm')
    await page.keyboard.press('Enter')
    await expect(grid.getByRole('row')).toHaveCount(before + 1)
    await expect(note(page)).toContainText('New limit “Deflection at design load”')
    expect(
      (await rowsOf(page, 'limit')).find(r => JSON.stringify(r['entered']) === '{"value":14,"unit":"mm"}'),
    ).toMatchObject({ comparator: 'atMost', factor: 1 })
  })

  await test.step(
    'pasted from a spreadsheet: a broken row is named, mended in place, and nothing ' + 'is half saved',
    async () => {
      await newRow(page, 'articleId').click()
      await page.evaluate(
        text => {
          const data = new DataTransfer()
          data.setData('text/plain', text)
          document.activeElement!.dispatchEvent(
            new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
          )
        },
        'Article\tResult\tLimit\tMust be\tValue\tSource\n' +
          'Hanger arm\tStiffness\tStiff\tat least\t35 N/mm\tsheet\n' +
          'Hanger arm\tStiffness\tStiffer\tat least\t38 mm\tsheet\n',
      )
      const dialog = page.getByRole('dialog')
      await expect(dialog.getByRole('alert')).toContainText('Row 3, Value: “mm” is not a unit of stiffness')
      await expect(dialog.getByRole('button', { name: /^Take/ })).toBeDisabled()
      // A comma before three digits is asked about, never taken for a decimal one.
      await dialog.getByLabel('Row 3, cell 5').fill('38,000 N/m')
      await expect(dialog.getByRole('alert')).toContainText('“38,000 N/m” may be 38000 or 38.000')
      await expect(dialog.getByRole('button', { name: /^Take/ })).toBeDisabled()
      await dialog.getByLabel('Row 3, cell 5').fill('38 N/mm')
      await dialog.getByRole('button', { name: 'Take 2 limits' }).click()
      await expect(grid.getByRole('row')).toHaveCount(before + 3)
    },
  )

  await test.step('undo takes the pasted rows back together, also after a reload; redo brings them again', async () => {
    await page.reload()
    await expect(grid.getByRole('row')).toHaveCount(before + 3)
    await page.getByRole('button', { name: 'Undo the last change' }).click()
    await expect(grid.getByRole('row')).toHaveCount(before + 1)
    await page.getByRole('heading', { name: 'Limits' }).click()
    await page.keyboard.press('Control+Shift+Z')
    await expect(grid.getByRole('row')).toHaveCount(before + 3)
    await page.keyboard.press('Control+Z')
    await page.keyboard.press('Control+Z')
    await expect(grid.getByRole('row')).toHaveCount(before)
  })

  await test.step('out as CSV, back in as it was', async () => {
    const csv = await (
      await page.request.get((await page.getByRole('link', { name: 'CSV' }).getAttribute('href'))!)
    ).text()
    expect(csv).toContain('Hanger arm,Deflection at design load,Service deflection,at most,82 mm,Service,1')
    await page
      .getByLabel('Import limits')
      .setInputFiles({ name: 'limits.csv', mimeType: 'text/csv', buffer: Buffer.from(csv.replace('82 mm', '83 mm')) })
    await page.getByRole('dialog').getByRole('button', { name: /^Take/ }).click()
    await expect(page.getByRole('gridcell', { name: '83 mm' })).toBeVisible()
  })

  await test.step('a changed limit reopens the verdicts that used it, and keeps its history', async () => {
    await page.getByRole('button', { name: 'Open Service deflection' }).click()
    await expect(page.getByRole('dialog').getByText(/Value: 82 mm → 83 mm/)).toBeVisible()
    await page.getByRole('button', { name: 'Cancel' }).click()
    const b = (await campaignOf(page)).articles[0]!.revisions[1]!.tests[0]!.id
    await open(page, `/tests/${b}/judge`)
    await expect(
      page.getByText(/Service deflection is open again: the limit was 82\.00.mm and is 83\.00.mm/),
    ).toBeVisible()
    await page.keyboard.press('Control+Z')
    await expect(
      page.getByText(/Service deflection is open again: the limit was 82\.00.mm and is 83\.00.mm/),
    ).toBeHidden()
  })
})

test('two people save the same limit: the later is told, and nothing is lost', async ({ person: page }) => {
  await open(page, `/campaigns/${slug}/limit`)
  await page.getByRole('button', { name: 'Open Permanent set' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Source').fill('Mine')
  const row = (await rowsOf(page, 'limit')).find(r => r['name'] === 'Permanent set')!
  await page.request.post('/api/registers/limit', {
    headers: { 'x-hypomet-person': 'Jonte' },
    data: {
      campaignId: (await campaignOf(page)).id,
      changes: [{ id: row.id, version: row.version, values: { source: 'Theirs' } }],
    },
  })
  await dialog.getByRole('button', { name: 'Save' }).click()
  await expect(dialog.getByRole('alert')).toContainText('Jonte saved this limit before you (Source)')
  await expect(dialog.getByText('Now saved by the other: Theirs')).toBeVisible()
  await dialog.getByRole('button', { name: 'Save mine over it' }).click()
  await expect(page.getByRole('gridcell', { name: 'Mine', exact: true })).toBeVisible()
})

test('revisions compared, edited, and none its own ancestor; a photo is kept with its thumbnail', async ({
  person: page,
}) => {
  const arm = (await campaignOf(page)).articles[0]!
  await open(page, `/articles/${arm.id}`)
  const compare = page.getByRole('region', { name: 'Compare two revisions' })
  await expect(compare.getByRole('row', { name: /^Cap thickness/ })).toContainText('−20.0 %')
  await expect(compare.getByRole('row', { name: /^Deflection at design load/ })).toContainText('significant difference')
  await compare.getByLabel('With revision').selectOption('A')
  await expect(compare.getByText('Choose two revisions.')).toBeVisible()
  const asked = page.getByRole('region', { name: 'Effect of factors' })
  await asked.getByLabel('Result asked about').selectOption({ label: 'Stiffness' })
  await expect(asked.getByText(/aliased with .*: always changed together/).first()).toBeVisible()

  await page.getByRole('button', { name: 'Edit revision A' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Follows').selectOption({ label: 'B' })
  await dialog.getByRole('button', { name: 'Save revision' }).click()
  await expect(dialog.getByText('Revision A would be its own ancestor.')).toBeVisible()
  await dialog.getByLabel('Follows').selectOption({ label: '–' })
  // A property stays the kind of thing that it was chosen to be.
  await dialog.getByLabel('Kind of property 1').selectOption('number, unit')
  await dialog.getByLabel('Value of property 1').fill('15 mm')
  await dialog.getByLabel('Value of property 1').blur()
  await dialog.getByRole('button', { name: 'Save revision' }).click()
  await expect(dialog.getByText(/“Cap plies” is a plain number in another revision/)).toBeVisible()
  await dialog.getByLabel('Kind of property 1').selectOption('whole number')
  await dialog.getByLabel('Value of property 1').fill('16,000')
  await dialog.getByLabel('Value of property 1').blur()
  await expect(dialog.getByText(/“16,000” may be 16000 or 16\.000/)).toBeVisible()
  await dialog.getByLabel('Value of property 1').fill('16')
  await dialog.getByLabel('Value of property 1').blur()
  await dialog.getByRole('button', { name: 'Save revision' }).click()
  await expect(page.getByRole('row', { name: /^Cap plies/ }).first()).toContainText('16')

  await page.getByLabel('Attach a file').setInputFiles({ name: 'arm.png', mimeType: 'image/png', buffer: PIXEL })
  await expect(page.getByRole('link', { name: /^arm\.png/ }).getByRole('presentation')).toBeVisible()
  const fetched = async (name: string | RegExp) =>
    page.request.get((await page.getByRole('link', { name }).getAttribute('href'))!)
  expect((await fetched(/^arm\.png/)).headers()['content-type']).toMatch(/^image\//)
  const original = await fetched('Save arm.png as it came')
  expect([original.headers()['content-disposition'], (await original.body()).equals(PIXEL)]).toEqual([
    expect.stringMatching(/^attachment/),
    true,
  ])
})

test('a lesson fires on a plan, wants an answer before the run, and counts where it helped', async ({
  person: page,
}) => {
  const planned = (await campaignOf(page)).articles[0]!.revisions[1]!.tests.find(t =>
    t.title.startsWith('Proof load'),
  )!.id
  await open(page, `/tests/${planned}/plan`)
  await page.getByRole('link', { name: 'Lessons', exact: true }).click()
  await page.getByRole('button', { name: 'New lesson' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Lesson').fill('Carriage brakes off')
  await dialog.getByLabel('What happened').fill('The carriage rolled when the load came on.')
  await dialog.getByLabel('Do instead').fill('Chock the carriage.')
  await dialog.getByRole('button', { name: 'Add lesson' }).click()
  await expect(dialog.getByText(/Without a trigger a lesson never fires/)).toBeVisible()
  await dialog.getByLabel('Words').fill('carriage')
  await dialog.getByRole('button', { name: 'Add lesson' }).click()
  await expect(dialog).toBeHidden()

  await open(page, `/tests/${planned}/ready`)
  const lesson = page.locator('[data-lesson="Carriage brakes off"]')
  await expect(lesson).toContainText('fires by the word “carriage”')
  await lesson.getByRole('button', { name: /^Does not apply because/ }).click()
  await expect(lesson.getByRole('button', { name: /^Answer as/ })).toBeDisabled()
  await lesson.getByRole('textbox').fill('The rig has no wheels')
  await lesson.getByRole('button', { name: /^Answer as Ada/ }).click()
  await expect(lesson).toContainText('Does not apply because: The rig has no wheels')
  await lesson.getByRole('link').click()
  await expect(page.getByText(/did not apply in 1/)).toBeVisible()
  await page.getByRole('button', { name: 'Remove', exact: true }).click()
  await expect(page.getByRole('alert')).toContainText('an answer was given to it')
  // Found by any of its words.
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: /^Go to/ }).click()
  await page.getByRole('combobox', { name: 'Go to' }).fill('chock carriage')
  await expect(page.getByRole('option', { name: /Carriage brakes off/ })).toBeVisible()
})

test('a supplier’s constant is replaced: what was sized from it is listed, moves, and comes back by undo', async ({
  person: page,
}) => {
  const planned = (await campaignOf(page)).articles[0]!.revisions[1]!.tests.find(t =>
    t.title.startsWith('Proof load'),
  )!.id
  const expected = async () =>
    (
      (await (await page.request.get(`/api/tests/${planned}`)).json()) as {
        view: { predictions: { quantity: string; value: number }[] }
      }
    ).view.predictions.find(p => p.quantity === 'stiffness')!.value
  const before = await expected()
  await open(page, `/campaigns/${slug}/constant`)
  await page.getByRole('button', { name: 'Replace Modulus of Hanger laminate' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('New value').fill('55,1 mm')
  await expect(dialog.getByText(/Modulus of Hanger laminate is a pressure/)).toBeVisible()
  await dialog.getByLabel('New value').fill('55.1 GPa')
  await dialog.getByLabel('n', { exact: true }).fill('6')
  await expect(dialog.getByRole('row', { name: /Hanger arm B/ })).toContainText('−5.0 %')
  await dialog.getByRole('button', { name: 'Replace, and size 1 anew' }).click()
  await expect(dialog).toBeHidden()
  expect(await expected()).toBeCloseTo(before * (55.1 / 58), -1)
  await expect(page.getByRole('row', { name: /Hanger laminate Modulus 55.1 GPa Measured 6/ })).toBeVisible()
  await page.keyboard.press('Control+Z')
  await expect(page.getByRole('row', { name: /Hanger laminate Modulus 58 GPa Supplier/ })).toBeVisible()
  expect(await expected()).toBe(before)
})

test('what others use stays, and says who; predictions of a run stand', async ({ person: page }) => {
  await open(page, '/people')
  await page.getByRole('button', { name: 'Open Silje Brandt' }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'Remove' }).click()
  await expect(page.getByRole('alert')).toContainText(
    'owns the action “Can the mould take a cap of 4 mm without a new core?”',
  )
  await open(page, `/campaigns/${slug}/prediction`)
  await page.getByRole('button', { name: 'New prediction' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByRole('combobox', { name: 'Revision' }).selectOption({ label: 'Hanger arm B' })
  await dialog
    .getByRole('combobox', { name: 'Result', exact: true })
    .selectOption({ label: 'Curve: load over deflection' })
  await dialog.getByLabel('Source').fill('Pasted model')
  await dialog.getByLabel(/^Load over deflection: paste/).fill('Deflection\tLoad\nmm\tkN\n0\t0\n40\tx\n')
  await expect(dialog.getByRole('alert')).toContainText('“x” is not a number.')
  await dialog.getByLabel(/^Load over deflection: paste/).fill('Deflection\tLoad\nmm\tkN\n0\t0\n40\t1,5\n88\t3,2\n')
  await dialog.getByRole('button', { name: 'Add prediction' }).click()
  await expect(dialog).toBeHidden()
  expect((await rowsOf(page, 'prediction')).find(r => r['source'] === 'Pasted model')!['curve']).toEqual({
    x: [0, 0.04, 0.088],
    y: [0, 1500, 3200],
  })
  const locked = (await rowsOf(page, 'prediction')).find(r => r['source'] === 'Shell model, clamped ideally')!
  const answer = await page.request.post('/api/registers/prediction', {
    data: {
      campaignId: (await campaignOf(page)).id,
      changes: [{ id: locked.id, version: locked.version, values: { source: 'Better' } }],
    },
  })
  expect(((await answer.json()) as { data: { code: string } }).data.code).toBe('locked')
})

test(
  'the schedule: a circle is refused where it is typed, a bar dragged is booked, and undo takes the ' + 'booking back',
  async ({ person: page }) => {
    await open(page, `/campaigns/${slug}/schedule`)
    await expect(page.getByText(/% likely by the due date/)).toBeVisible()
    await expect(page.getByText(/What sets the end: Pod drops in the valley → Season report/)).toBeVisible()
    const cell = page
      .locator('tr', { has: page.getByRole('gridcell', { name: 'Arm C: mould and lay-up', exact: true }) })
      .locator('td[data-key="after"]')
      .first()
    await cell.click()
    await page.keyboard.type('Season report')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('alert')).toContainText(
      'These would wait for one another: Arm C: mould and lay-up → Season report → Arm C: ladder to ultimate → Arm ' +
        'C: gauges → Arm C: mould and lay-up.',
    )
    await page.keyboard.press('Escape')

    const bar = page.locator('[data-task="Winch shafts, eight of them"]')
    const box = (await bar.boundingBox())!
    await page.mouse.move(box.x + 20, box.y + 8)
    await page.mouse.down()
    await page.mouse.move(box.x + 120, box.y + 8, { steps: 5 })
    await page.mouse.up()
    const booked = page
      .locator('tr', { has: page.getByRole('gridcell', { name: 'Winch shafts, eight of them', exact: true }) })
      .locator('td[data-key="on"]')
      .first()
    await expect(booked).toHaveText(/20\d\d$/)
    await expect.poll(async () => (await bar.boundingBox())!.x).toBeGreaterThan(box.x + 50)
    await page.keyboard.press('Control+Z')
    await expect(booked).toHaveText('')
    const calendar = await (
      await page.request.get((await page.getByRole('link', { name: 'Calendar file' }).getAttribute('href'))!)
    ).text()
    expect(calendar).toContain('SUMMARY:Season report')
  },
)

test('a long sheet: only rows in sight stand in the page, a new one comes into sight, keys reach the others', async ({
  person: page,
}) => {
  const creates = Array.from({ length: 150 }, (_, i) => ({
    name: `Drawer cell ${i + 1}`,
    kind: 'force',
    fullScale: { value: 100 + i, unit: 'N' },
  }))
  const made = await page.request.post('/api/registers/sensor', { data: { creates } })
  expect(made.ok()).toBe(true)
  await open(page, '/sensors')
  await expect(page.getByRole('grid')).toHaveAttribute('aria-rowcount', /\d{3}/)
  await expect.poll(() => page.locator('tr[data-row]').count()).toBeLessThan(100)
  await page.getByRole('button', { name: 'New sensor' }).first().click()
  await page.getByRole('dialog').getByLabel('Sensor', { exact: true }).fill('Cell out of the last drawer')
  await page.getByRole('combobox', { name: 'Measures' }).selectOption({ label: 'Force' })
  await enter(page, 'Full scale', '2 kN')
  await page.getByRole('button', { name: 'Add sensor' }).click()
  const row = page.getByRole('gridcell', { name: 'Cell out of the last drawer', exact: true })
  await expect(row).toBeInViewport()
  await row.click()
  for (let i = 0; i < 45; i++) await page.keyboard.press('ArrowUp')
  const focused = page.locator('[data-cell]:focus')
  await expect(focused).toBeInViewport()
  await expect(focused).toHaveText(/^Drawer cell 10\d$/)
})
