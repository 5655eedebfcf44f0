import type { Page } from '@playwright/test'
import { enter, expect, makeReady, open, ownNumbers, releasePlan, sign, test } from './person'

/* Data that a stranger brings, typed, called out and logged, with a truth that is known. */

const lbf = (value: number) => ({ value, unit: 'lbf' })
const N = (value: number) => ({ value, unit: 'N' })

interface Made {
  slug: string
  campaignId: number
  articleId: number
  revisionId: number
}

async function article(page: Page, title: string, family: string, system: 'metric' | 'imperial'): Promise<Made> {
  const post = async <T>(path: string, data: object) => (await (await page.request.post(path, { data })).json()) as T
  const { id: campaignId, slug } = await post<{ id: number; slug: string }>('/api/campaigns', { title, system })
  const made = await post<{ id: number; revision: { id: number } }>('/api/articles', {
    campaignId,
    name: title,
    family,
    revision: { label: 'A', properties: family === 'static' ? PLANK : {} },
  })
  return { slug, campaignId, articleId: made.id, revisionId: made.revision.id }
}

async function planned(page: Page, { revisionId }: Made, title: string, plan: object): Promise<number> {
  const { id } = (await (
    await page.request.post(`/api/revisions/${revisionId}/tests`, { data: { title, plan } })
  ).json()) as { id: number; message?: string }
  expect(id, `${title} is planned`).toBeDefined()
  await makeReady(id)
  return id
}

const addLimit = async (page: Page, { campaignId, articleId }: Made, limit: object) => {
  const data = { campaignId, creates: [{ articleId, comparator: 'atLeast', ...limit }] }
  expect((await page.request.post('/api/registers/limit', { data })).ok()).toBe(true)
}

const PLANK = {
  section: 'solid',
  length: { value: 2, unit: 'm' },
  width: { value: 200, unit: 'mm' },
  rootHeight: { value: 30, unit: 'mm' },
  tipHeight: { value: 30, unit: 'mm' },
  modulus: { value: 9, unit: 'GPa' },
  strength: { value: 40, unit: 'MPa' },
  shearStrength: { value: 4, unit: 'MPa' },
  density: { value: 480, unit: 'kg/m3' },
}
/** A reading off a dial, with the sling at a hoist. */
const SLING = {
  loading: { kind: 'pull', path: [{ name: 'Sling', capacity: lbf(6000), article: true }] },
  rungs: [0, 1000, 2000, 3000].map(v => ({ target: lbf(v), hold: { value: 0.5, unit: 's' } })),
  channels: [{ role: 'force', label: 'Dial', kind: 'force' }],
  referenceStrength: lbf(5000),
  gaugeFullScale: lbf(10_000),
  gaugeAccuracy: 0.01,
  hazards: { line: { controls: ['tether', 'screen', 'distance'] } },
}
/** Bags on a beam, a dial below it. */
const BEAM = {
  loading: {
    kind: 'bags',
    stations: [0, 2].map(v => ({ y: { value: v, unit: 'm' }, load: { value: 400, unit: 'N/m' } })),
    bagMass: { value: 2, unit: 'kg' },
    rows: 4,
  },
  hazards: { spring: { controls: ['distance'] }, weights: { controls: ['props', 'feet'] } },
  rungs: [0, 200, 400, 600, 800].map(v => ({ target: N(v), hold: { value: 10, unit: 's' } })),
  channels: [
    { role: 'load', label: 'Bags', kind: 'force' },
    { role: 'deflection', label: 'Dial', kind: 'length' },
  ],
  deflectionAt: { value: 2, unit: 'm' },
  designLoad: N(700),
  minHold: { value: 10, unit: 's' },
  holdTolerance: N(20),
}

test('a thousands comma is asked about once, in a dialog, and then read everywhere, and in a file', async ({
  person: page,
}) => {
  const made = await article(page, 'Comma sling', 'pull', 'imperial')
  await test.step('a dialog asks; the answer holds for the campaign', async () => {
    await open(page, `/campaigns/${made.slug}`)
    await page.getByRole('button', { name: 'New limit' }).click()
    await enter(page, 'Value', '5,000 lbf')
    const question = page.getByRole('group').filter({ hasText: 'Which is meant?' })
    await expect(question.getByRole('button', { name: /^5000 lbf/ })).toBeVisible()
    await expect(question.getByRole('button', { name: /^5 lbf/ })).toBeVisible()
    await question.getByRole('button', { name: /^5000 lbf/ }).click()
    await expect(question).toBeHidden()
    await expect(page.locator('[data-read-back]').filter({ hasText: 'read as 5000 lbf' })).toBeVisible()
    await page.getByRole('button', { name: 'Add limit' }).click()
    await expect(page.getByText('≥ 5000\u202flbf').first()).toBeVisible()
  })

  await test.step('a pasted sheet follows', async () => {
    await open(page, `/campaigns/${made.slug}/limit`)
    await page.getByRole('grid').getByRole('gridcell').first().click()
    await page.evaluate(text => {
      const data = new DataTransfer()
      data.setData('text/plain', text)
      document
        .querySelector('[role="grid"]')!
        .dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))
    }, 'Name\tArticle\tResult\tComparator\tValue\nHold\tComma sling\tLargest force\tat least\t4,250 lbf\n')
    const dialog = page.getByRole('dialog')
    await expect(dialog.getByRole('heading', { name: 'From a sheet' })).toBeVisible()
    await expect(dialog.getByText('Which is meant?')).toBeHidden()
    await expect(dialog.getByText(/may be 4250 or/)).toBeHidden()
    await dialog.getByRole('button', { name: 'Cancel' }).click()
  })

  const id = await planned(page, made, 'Logged', SLING)
  await test.step('a file with thousands is read as the campaign writes', async () => {
    await open(page, `/tests/${id}/run`)
    const force = (i: number) => (i < 5 ? 0 : i < 30 ? `${Math.min(9, i - 4)},000` : 10)
    const rows = Array.from({ length: 40 }, (_, i) => `${i};${force(i)}`)
    await page
      .getByLabel('Logger file')
      .setInputFiles({ name: 'pull.txt', mimeType: 'text/plain', buffer: Buffer.from(`t;Dial\n${rows.join('\n')}\n`) })
    await expect(page.getByLabel('Numbers')).toHaveValue('point')
    await page.getByLabel('Unit of Time').fill('s')
    await page.getByLabel(/^Unit of (Force|Dial)/).fill('lbf')
    await page.getByLabel('How the test ended').selectOption('article broke')
    await page.getByRole('button', { name: 'Import', exact: true }).click()
    await expect(page).toHaveURL(/\/reduce$/, { timeout: 30_000 })
    await expect(page.getByText(/9000\s*±\s*115\s*lbf/).first()).toBeVisible()
  })
})

test('a break is called out at the console, and is an interval with its verdict', async ({ person: page }) => {
  const made = await article(page, 'Dial sling', 'pull', 'imperial')
  await addLimit(page, made, { name: 'Holds', quantity: 'peakForce', entered: lbf(1500), factor: 1, level: 'limit' })
  const id = await planned(page, made, 'To the break', SLING)
  await open(page, `/tests/${id}/run`)
  await page.getByRole('radio', { name: 'Read by hand' }).click()
  await page.getByRole('button', { name: 'Start the ladder' }).click()
  const dial = page.getByRole('form', { name: 'Read by hand' }).getByLabel(/^Dial/)
  await expect(page.getByText('Put on', { exact: false })).toBeVisible({ timeout: 20_000 })
  await dial.fill('1000')
  await page.keyboard.press('Enter')
  await expect(page.getByText('call-out: read by hand').first()).toBeVisible()
  await expect(page.getByText(/^Put on 2000/)).toBeVisible({ timeout: 20_000 })
  await dial.fill('1000')
  await page.keyboard.press('Enter')
  await expect(page.getByText(/1000\s*lbf called out, rung is 2000\s*lbf: not reached/)).toBeVisible()
  await dial.fill('2000')
  await page.keyboard.press('Enter')
  await expect(page.getByText(/^Put on 3000/)).toBeVisible({ timeout: 20_000 })
  await page.getByRole('button', { name: 'It broke' }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog.getByText(/Last confirmed: 2000\s*lbf/)).toBeVisible()
  await dialog.getByLabel('How').fill('Eye pulled out')
  await dialog.getByLabel('Where').fill('Upper eye')
  await dialog.getByRole('button', { name: 'It broke: end the run' }).click()
  await expect(page.getByRole('cell', { name: 'article broke', exact: true })).toBeVisible({ timeout: 20_000 })

  await page.getByRole('link', { name: 'To the reduction' }).click()
  // 2000 was held, 3000 was not; the dial is good for ± 115 lbf at either end.
  await expect(page.getByText(/1\D?885\s*lbf … 3\D?115\s*lbf|1880\s*lbf … 3120\s*lbf/).first()).toBeVisible()
  await page.getByRole('button', { name: 'Keep results' }).click()
  await page.getByRole('link', { name: 'Go to Judge' }).click()
  await expect(page.getByLabel('What ended it')).toHaveValue('article')
  await expect(page.getByLabel('How', { exact: true })).toHaveValue('Eye pulled out')
  await expect(page.getByLabel('Where', { exact: true })).toHaveValue('Upper eye')
  await expect(page.locator('[data-limit="Holds"]')).toContainText('All that the result leaves possible lies above')
})

test('four typed rungs of bags give every result; without sensors a guarded limit says what would decide', async ({
  person: page,
}) => {
  const made = await article(page, 'Bag beam', 'static', 'metric')
  await addLimit(page, made, {
    name: 'Sag',
    quantity: 'deflectionAtDesign',
    comparator: 'atMost',
    entered: { value: 20, unit: 'mm' },
    factor: 1,
    level: 'limit',
  })
  const id = await planned(page, made, 'Bags', BEAM)
  await open(page, `/tests/${id}/run`)
  const typed = page.locator('[data-typed]')
  const cell = (label: string, row: number) => typed.getByLabel(`${label}, row ${row}`, { exact: true })
  // As the plan writes its rungs.
  await expect(typed.getByLabel('Load, typed in')).toHaveValue('N')
  for (const [i, load] of [200, 400, 600, 800].entries()) {
    await cell('Load', i + 1).fill(String(load))
    await cell('Deflection', i + 1).fill(String(load / 50))
  }
  await typed.getByRole('button', { name: 'Add a row of zeros first' }).click()
  await expect(cell('Load', 1)).toHaveValue('0')
  await typed.getByRole('button', { name: 'Keep 5 rows' }).click()
  await expect(page).toHaveURL(/\/reduce$/, { timeout: 20_000 })
  await expect(page.getByText(/^14\.00?\s*mm$/).first()).toBeVisible()

  await test.step('the zero is proposed, looked at, and accepted', async () => {
    await expect(page.locator('[data-mark="proposed"]').first()).toBeVisible()
    await expect(page.locator('[data-check="ok"]').first()).toContainText('load here is 0 % of the largest')
    await page.getByRole('button', { name: 'Accept' }).first().click()
  })
  await page.getByRole('button', { name: 'Keep results' }).click()
  await page.getByRole('link', { name: 'Go to Judge' }).click()
  const sag = page.locator('[data-limit="Sag"]')
  await expect(sag).toContainText('No uncertainty is known of it')
  await expect(sag.locator('[data-decides]')).toContainText('its sensor named, with its certificate')
})

test('a zero under load is kept only when somebody has looked; what was typed survives leaving', async ({
  person: page,
}) => {
  const made = await article(page, 'Ramp beam', 'static', 'metric')
  const id = await planned(page, made, 'Ramp', BEAM)
  const shape = (t: number) => (t < 20 ? 0 : t < 40 ? (t - 20) / 20 : t < 80 ? 1 : t < 100 ? (100 - t) / 20 : 0)
  const rows = Array.from({ length: 1200 }, (_, i) => i / 10).map(
    t => `${t},${(800 * shape(t)).toFixed(2)},${(16 * shape(t) + (t > 60 ? 0.5 : 0)).toFixed(4)}`,
  )
  await open(page, `/tests/${id}/run`)
  await page.getByLabel('Logger file').setInputFiles({
    name: 'ramp.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(`Time [s],Load [N],Deflection [mm]\n${rows.join('\n')}\n`),
  })
  await page.getByRole('button', { name: 'Import', exact: true }).click()
  await expect(page).toHaveURL(/\/reduce$/, { timeout: 30_000 })
  await expect(page.getByText('0.500\u202fmm').or(page.getByText('0.50\u202fmm')).first()).toBeVisible()

  await enter(page, 'Zero at the start, from', '45 s')
  await enter(page, 'Zero at the start, to', '55 s')
  await expect(page.locator('[data-check="failed"]')).toContainText('this window carries 100 % of the largest load')
  const keep = page.getByRole('button', { name: 'Keep results' })
  await expect(keep).toBeDisabled()
  await open(page, `/tests/${id}/plan`)
  await open(page, `/tests/${id}/reduce`)
  await expect(page.getByLabel('Zero at the start, from')).toHaveValue('45 s')
  await page.getByRole('button', { name: 'Detect again' }).click()
  await expect(page.getByLabel('Zero at the start, from')).toHaveValue('45 s')
  await expect(keep).toBeDisabled()
  await page.getByLabel(/this window carries 100 %/).check()
  await expect(keep).toBeEnabled()
  await page.getByRole('button', { name: 'Discard' }).click()
  await expect(page.locator('[data-check="failed"]')).toHaveCount(0)
  await keep.click()
  await expect(page.getByRole('link', { name: 'Go to Judge' })).toBeVisible()
})

test('a retest after the fixture gave way settles what was open', async ({ person: page }) => {
  const made = await article(page, 'Twice pulled', 'pull', 'imperial')
  await addLimit(page, made, { name: 'Holds', quantity: 'peakForce', entered: lbf(1500), factor: 1, level: 'limit' })
  const typed = async (title: string, forces: number[], ended: string) => {
    const id = await planned(page, made, title, SLING)
    await open(page, `/tests/${id}/run`)
    const table = page.locator('[data-typed]')
    for (const [i, force] of forces.entries()) {
      await table.getByLabel(`Time, row ${i + 1}`, { exact: true }).fill(String(60 * i))
      await table.getByLabel(`Force, row ${i + 1}`, { exact: true }).fill(String(force))
    }
    await table.getByLabel('It ended').selectOption(ended)
    await table.getByRole('button', { name: /^Keep \d rows?$/ }).click()
    await expect(page).toHaveURL(/\/reduce$/, { timeout: 20_000 })
    await page.getByRole('button', { name: 'Keep results' }).click()
    await page.getByRole('link', { name: 'Go to Judge' }).click()
    return id
  }
  await typed('Pin bends', [500, 1000], 'fixture gave way')
  await expect(page.getByLabel('What ended it')).toHaveValue('fixture')
  await expect(page.locator('[data-limit="Holds"] [data-decides]')).toContainText(/A run to 1\D?6\d\d\s*lbf or more/)
  await sign(page)
  await open(page, `/campaigns/${made.slug}`)
  await expect(page.locator('[data-limit="Holds"]').first()).toContainText('≥')

  await typed('Retest', [1000, 2000], 'article broke')
  await sign(page)
  await open(page, `/campaigns/${made.slug}`)
  const standing = page.locator('[data-limit="Holds"]').first()
  await expect(standing).toContainText('…')
  await expect(standing.getByText('Pass')).toBeVisible()
  await expect(page.getByText('settled by Retest')).toBeVisible()
})

test('a dial left blank half-way costs what needs it, says so, and nothing else', async ({ person: page }) => {
  const made = await article(page, 'Blank dial', 'static', 'metric')
  const typedId = await planned(page, made, 'Typed', BEAM)
  await open(page, `/tests/${typedId}/run`)
  const typed = page.locator('[data-typed]')
  for (const [i, load] of [0, 200, 400, 600, 800].entries()) {
    await typed.getByLabel(`Load, row ${i + 1}`, { exact: true }).fill(String(load))
    if (load !== 600) await typed.getByLabel(`Deflection, row ${i + 1}`, { exact: true }).fill(String(load / 50))
  }
  await typed.getByRole('button', { name: 'Keep 5 rows' }).click()
  await expect(page).toHaveURL(/\/reduce$/, { timeout: 20_000 })
  // Between the rungs that were read, 400 and 800 N, the line of 1 mm to 50 N goes through the design load of 700 N.
  await expect(page.getByText(/^14\.00?\s*mm$/).first()).toBeVisible()

  const loggedId = await planned(page, made, 'Logged', BEAM)
  await open(page, `/tests/${loggedId}/run`)
  const rows = Array.from({ length: 900 }, (_, i) => i / 10).map(t => {
    const load = t < 20 ? 0 : Math.min(800, 20 * (t - 20))
    return `${t},${load.toFixed(1)},${t > 40 ? '' : (load / 50).toFixed(3)}`
  })
  await page.getByLabel('Logger file').setInputFiles({
    name: 'blank.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(`Time [s],Load [N],Deflection [mm]\n${rows.join('\n')}\n`),
  })
  await page.getByRole('button', { name: 'Import', exact: true }).click()
  await expect(page).toHaveURL(/\/reduce$/, { timeout: 30_000 })
  const result = (key: string) => page.locator(`[data-result="${key}"]`)
  await expect(result('maxLoad')).toContainText(/800/)
  await expect(result('stiffness')).toContainText(/50\.0/)
  await expect(result('deflectionAtDesign')).toContainText('–')
  await expect(page.getByText(/No deflection was read around the design load/).first()).toBeVisible()
  await expect(page.getByText('NaN')).toHaveCount(0)
})

test('one campaign from nothing: typed rows, a called-out break and a logger file, each to its right verdict', async ({
  person: page,
}) => {
  const dialog = page.getByRole('dialog')
  const verdict = (what: RegExp) => page.locator('[data-limit="Holds"]').getByText(what).first()
  await test.step('campaign, article and limit by hand, with a thousands comma', async () => {
    await open(page, '/')
    await page
      .getByRole('button', { name: /campaign/i })
      .first()
      .click()
    await dialog.getByLabel('Title').fill('Rope days')
    await dialog.getByLabel('Units shown').selectOption('imperial')
    await dialog.getByRole('button', { name: 'Create' }).click()
    await page.getByRole('button', { name: 'Add the first article' }).click()
    await dialog.getByLabel('Article', { exact: true }).fill('Yarn sling')
    await dialog.getByLabel('Kind of test').selectOption('pull')
    await dialog.getByRole('button', { name: 'Add article' }).click()
    await page.getByRole('button', { name: 'New limit' }).click()
    await dialog.getByLabel('Result').selectOption({ label: 'Largest force' })
    await enter(page, 'Value', '2,000 lbf')
    await dialog.getByRole('button', { name: /^2000 lbf/ }).click()
    await dialog.getByLabel('Limit', { exact: true }).fill('Holds')
    await dialog.getByRole('button', { name: 'Add limit' }).click()
    await expect(page.getByText('≥ 2000\u202flbf').first()).toBeVisible()
  })
  const slug = new URL(page.url()).pathname.split('/').at(-1)!

  const newTest = async (title: string): Promise<number> => {
    await open(page, `/campaigns/${slug}`)
    await page.getByRole('button', { name: 'New test' }).click()
    await dialog.getByLabel('Title').fill(title)
    await dialog.getByRole('button', { name: 'Plan it' }).click()
    await expect(page).toHaveURL(/\/tests\/\d+\/plan$/)
    await expect(page.getByText('saved', { exact: true })).toBeVisible()
    return Number(/tests\/(\d+)/.exec(page.url())![1])
  }

  await test.step('typed: two rows that were held; undecided without a gauge, and what would decide', async () => {
    await newTest('Typed')
    // Nothing stands there that nobody has said: no shackle, no capacity.
    await expect(page.locator('[data-finding="path-alone"]')).toBeVisible()
    await expect(page.locator('[data-finding="example-values"]')).toHaveCount(0)
    await expect(page.getByText('2000\u202flbf').first()).toBeVisible()
    await page.getByRole('link', { name: /^Run/ }).click()
    const typed = page.locator('[data-typed]')
    for (const [i, force] of [2000, 2500].entries())
      await typed.getByLabel(`Force, row ${i + 1}`, { exact: true }).fill(String(force))
    await typed.getByRole('button', { name: /^Keep \d rows?$/ }).click()
    await expect(page).toHaveURL(/\/reduce$/, { timeout: 20_000 })
    await page.getByRole('button', { name: 'Keep results' }).click()
    await page.getByRole('link', { name: 'Go to Judge' }).click()
    await expect(page.getByText(/Readiness not recorded: recorded elsewhere/)).toBeVisible()
    await expect(verdict(/undecided/i)).toBeVisible()
    await expect(page.locator('[data-limit="Holds"] [data-decides]')).toBeVisible()
  })

  await test.step('called out: held at 2500, gone before 3000, with a dial of known accuracy', async () => {
    const id = await newTest('Called out')
    await page.getByRole('tab', { name: /^Loading/ }).click()
    await enter(page, 'Full scale of the gauge (optional)', '10000 lbf')
    await enter(page, /^Accuracy of the gauge/, '0.01')
    await page.getByRole('button', { name: 'By a rule' }).click()
    await dialog.getByLabel('Rule').selectOption('increments')
    await enter(page, 'Goal', '3000 lbf')
    await enter(page, 'Step', '500 lbf')
    await enter(page, 'Hold at each', '0.5 s')
    await dialog.getByLabel('Look from … % on').fill('1000')
    await dialog.getByRole('button', { name: /^Write/ }).click()
    await ownNumbers(page)
    await releasePlan(page)
    await makeReady(id)
    await open(page, `/tests/${id}/run`)
    await page.getByRole('radio', { name: 'Read by hand' }).click()
    await page.getByRole('button', { name: 'Start the ladder' }).click()
    const dial = page.getByRole('form', { name: 'Read by hand' }).getByLabel(/^Force/)
    for (const load of [500, 1000, 1500, 2000, 2500]) {
      await expect(page.getByText(new RegExp(`^Put on ${load}`))).toBeVisible({ timeout: 20_000 })
      await dial.fill(String(load))
      await page.keyboard.press('Enter')
    }
    await expect(page.getByText(/^Put on 3000/)).toBeVisible({ timeout: 20_000 })
    await page.getByRole('button', { name: 'It broke' }).click()
    await dialog.getByLabel('How').fill('Splice drew')
    await dialog.getByRole('button', { name: 'It broke: end the run' }).click()
    await page.getByRole('link', { name: 'To the reduction' }).click({ timeout: 20_000 })
    await page.getByRole('button', { name: 'Keep results' }).click()
    await page.getByRole('link', { name: 'Go to Judge' }).click()
    await expect(verdict(/^Pass$/i)).toBeVisible()
    await sign(page)
  })

  await test.step('logged: a cell that reads 40 lbf too much, the truth of 2590 lbf inside its U', async () => {
    await newTest('Logged')
    await enter(page, 'Full scale of the gauge (optional)', '10000 lbf')
    await enter(page, /^Accuracy of the gauge/, '0.01')
    await expect(page.getByText('saved', { exact: true })).toBeVisible()
    await page.getByRole('link', { name: /^Run/ }).click()
    const truth = (t: number) => (t < 5 ? 0 : t < 31 ? 100 * (t - 5) : 5)
    const rows = Array.from({ length: 360 }, (_, i) => i / 10).map(t => {
      const read = truth(t) + 40 + 3 * Math.sin(7 * t)
      return `${t.toFixed(1)}\t${read.toFixed(0).replace(/\B(?=(\d{3})+$)/, ',')}`
    })
    await page.getByLabel('Logger file').setInputFiles({
      name: 'sling.txt',
      mimeType: 'text/plain',
      buffer: Buffer.from(`Elapsed (s)\tForce (lbf)\n${rows.join('\n')}\n`),
    })
    await page.getByLabel('How the test ended').selectOption('article broke')
    await page.getByRole('button', { name: 'Import', exact: true }).click()
    await expect(page).toHaveURL(/\/reduce$/, { timeout: 30_000 })
    await expect(page.locator('[data-result="peakForce"]')).toContainText(/259\d\s*±\s*1[12]\d\s*lbf/)
    await page.getByRole('button', { name: 'Keep results' }).click()
    await page.getByRole('link', { name: 'Go to Judge' }).click()
    await expect(verdict(/^Pass$/i)).toBeVisible()
    await sign(page)
  })
  await open(page, `/campaigns/${slug}`)
  await expect(page.locator('[data-limit="Holds"]').first().getByText('Pass')).toBeVisible()
})

test('a file whose dates may be two days and whose gauge came loose asks for each, and keeps the rest', async ({
  person: page,
}) => {
  const made = await article(page, 'Slow plank', 'static', 'metric')
  const id = await planned(page, made, 'Overnight', BEAM)
  await open(page, `/tests/${id}/run`)
  const rows = Array.from({ length: 90 }, (_, i) => {
    const minute = String(i % 60).padStart(2, '0')
    const dial = i > 40 && i < 45 ? 'n.c.' : (0.01 * Math.floor(i / 15)).toFixed(2)
    return `04/11/2026 ${10 + Math.floor(i / 60)}:${minute},${100 * Math.floor(i / 15)} N,${dial} cm`
  })
  const text = ['Yard 3', 'Scan rate,1 1/min', '', 'When,Bags,Dial', ...rows].join('\n')
  await page
    .getByLabel('Logger file')
    .setInputFiles({ name: 'overnight.csv', mimeType: 'text/csv', buffer: Buffer.from(text) })
  await expect(page.getByLabel('Column of Bags')).toHaveValue('Bags')
  await expect(page.getByText('“04/11/2026 10:00” may be two days')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Import', exact: true })).toBeDisabled()
  await page.getByLabel('Dates').selectOption({ label: 'the day first' })
  await page.getByRole('button', { name: 'Import', exact: true }).click()
  await expect(page.getByRole('alert')).toContainText('Column “Dial”: 4 of 90 cells are no numbers, first in row 46')
  await page.getByLabel('Cells that are no numbers are gaps').check()
  await page.getByRole('button', { name: 'Import', exact: true }).click()
  await expect(page).toHaveURL(/\/reduce$/)
  const { datasets } = (await (await page.request.get(`/api/tests/${id}`)).json()) as { datasets: { id: number }[] }
  const at = `/api/datasets/${datasets[0]!.id}`
  const { from, to, records } = (await (await page.request.get(at)).json()) as {
    from: number
    to: number
    records: { warnings: { message: string }[] }[]
  }
  // A minute a row, from the full second of the fourth of November.
  expect([from, to]).toEqual([0, 89 * 60])
  expect(records[0]!.warnings.map(w => w.message).join(' ')).toContain('04/11/2026 10:00')
})
