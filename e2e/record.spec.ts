import { join } from 'node:path'
import { loadDemo } from '../demo/load'
import { expect, open, test } from './person'

test('a record: strips over one time axis, flags, a selection with its numbers and spectrum, CSV of it', async ({
  person: page,
  baseURL,
}) => {
  const slug = await loadDemo(baseURL!, join(import.meta.dirname, '../demo/data'), { specimens: false })
  const [campaign] = (
    (await (await page.request.get('/api/campaigns')).json()) as {
      slug: string
      articles: { revisions: { tests: { id: number }[] }[] }[]
    }[]
  ).filter(c => c.slug === slug)
  await open(page, `/tests/${campaign!.articles[0]!.revisions[1]!.tests[0]!.id}/reduce`)
  await page.getByRole('link', { name: 'Look at the record' }).click()
  await expect(page.getByRole('img', { name: /over time/ })).toHaveCount(4)
  await expect(page.getByRole('region', { name: 'Channel list' }).getByRole('checkbox', { checked: true })).toHaveCount(
    4,
  )

  const plot = page.getByRole('application')
  const box = (await plot.boundingBox())!
  await page.mouse.move(box.x + 300, box.y + 60)
  await expect(page.getByText(/cursor at/)).toBeVisible()
  await page.mouse.down()
  await page.mouse.move(box.x + 500, box.y + 60, { steps: 4 })
  await page.mouse.up()
  const rows = page.getByRole('row').filter({ has: page.getByRole('cell') })
  await expect(rows.first()).toContainText('kN')
  const n = Number(await rows.first().getByRole('cell').nth(1).textContent())
  expect(n).toBeGreaterThan(100)
  const csv = await (
    await page.request.get((await page.getByRole('link', { name: 'Selection as CSV' }).getAttribute('href'))!)
  ).text()
  const lines = csv.trim().split('\n')
  expect(lines[0]).toMatch(/^t \[s\],.*\[N\]/)
  expect(lines.length - 1).toBe(n)
  const mean = lines.slice(1).reduce((s, l) => s + Number(l.split(',')[1]), 0) / n
  expect(parseFloat((await rows.first().getByRole('cell').nth(2).textContent())!.replace('−', '-'))).toBeCloseTo(
    mean / 1000,
    3,
  )
  await page.getByRole('button', { name: 'Spectrum' }).click()
  await expect(page.getByRole('img', { name: /density/ }).first()).toBeVisible()
  await page.getByRole('button', { name: 'Clear selection' }).click()
  await expect(rows).toHaveCount(0)

  await page.getByRole('button', { name: 'Derive' }).click()
  await page.getByLabel('Expression').fill('deflection + load')
  await expect(page.getByText(/m and N cannot be added or taken from one another \(at character 12\)/)).toBeVisible()
  await page.getByLabel('Expression').fill('load/deflection')
  await expect(page.getByText('in N/m, drawn below')).toBeVisible()
  await expect(page.getByRole('img', { name: 'The channel being derived, over time' })).toBeVisible()
  await page.getByLabel('Name of the new channel').fill('stiffness as it goes')
  await page.getByRole('button', { name: 'Keep', exact: true }).click()
  await expect(page.getByRole('checkbox', { name: /stiffness as it goes/ })).toBeChecked()
  await page.getByRole('checkbox', { name: /stiffness as it goes/ }).uncheck()
  await page.getByRole('button', { name: 'Derive' }).click()

  await page.getByRole('button', { name: 'Steps' }).click()
  const steps = page.getByRole('table', { name: 'Step means' }).getByRole('row')
  await expect(steps.nth(1)).toContainText('Last')
  // The fifth rung is the design load of 3.2 kN; as read this cell is 21 N low.
  const fifth = async () => parseFloat((await steps.nth(1).getByRole('cell').nth(8).textContent())!)
  expect(await fifth()).toBeCloseTo(3.2, 2)
  await page.getByLabel('Zero taken off').uncheck()
  await expect(page.getByText('As read, nothing zeroed.')).toBeVisible()
  expect(await fifth()).toBeCloseTo(3.179, 2)
  await expect(steps.filter({ hasText: 'DMS mid span' })).toContainText(/\d\d\.\d %/)
  await page.getByRole('button', { name: 'Steps' }).click()

  await page.getByRole('button', { name: 'Stacked' }).click()
  await expect(page.getByRole('img', { name: /, .*over time/ })).toBeVisible()
  await page.getByRole('searchbox', { name: 'Find a channel' }).fill('nothing like it')
  await expect(page.getByText('No channel by these words.')).toBeVisible()
  await page.getByRole('searchbox', { name: 'Find a channel' }).fill('')
  await page.getByRole('button', { name: 'Check data quality' }).click()
  await page.locator('form').getByRole('button', { name: 'Check data quality' }).click()
  await expect(page.locator('form').getByRole('button', { name: 'Check data quality' })).toBeEnabled()
  // One of the demo's channels drops out for a while.
  await page.getByRole('region', { name: 'Channel list' }).getByRole('button', { name: /gap/ }).click()
  await expect(page.getByRole('status')).toContainText('of the samples are missing')
})
