import { createServer, type AddressInfo, type Socket } from 'node:net'
import { join } from 'node:path'
import { loadDemo } from '../demo/load'
import { enter, expect, makeReady, open, releasePlan, test } from './person'

interface Campaign {
  slug: string
  articles: { name: string; revisions: { id: number; tests: { id: number; title: string }[] }[] }[]
}

/** Something at the rig that answers as a relay does: all that it heard, as hexadecimal. */
async function relay() {
  const sockets = new Set<Socket>()
  let heard = ''
  const server = createServer(s => {
    sockets.add(s)
    s.on('error', () => {})
    s.on('data', piece => {
      heard += piece.toString('hex')
      s.write(piece)
    })
  })
  await new Promise<void>(resolve => server.listen(0, '127.0.0.1', resolve))
  return {
    port: (server.address() as AddressInfo).port,
    heard: () => heard,
    close: () => (sockets.forEach(s => s.destroy()), void server.close()),
  }
}

test('an abort’s relay, from the plan to the run: heard from a field, kept while the line is down', async ({
  person: page,
  context,
  baseURL,
}) => {
  const device = await relay()
  const slug = await loadDemo(baseURL!, join(import.meta.dirname, '../demo/data'), { specimens: false })
  const campaigns = (await (await page.request.get('/api/campaigns')).json()) as Campaign[]
  const revisions = campaigns.find(c => c.slug === slug)!.articles.flatMap(a => a.revisions)
  const revision = revisions.find(r => r.tests.some(t => /Bladder/.test(t.title)))!
  const like = revision.tests.find(t => /Bladder/.test(t.title))!.id
  const { plan } = ((await (await page.request.get(`/api/tests/${like}`)).json()) as { test: { plan: object } }).test
  const made = await page.request.post(`/api/revisions/${revision.id}/tests`, { data: { title: 'By relay', plan } })
  const { id } = (await made.json()) as { id: number }

  await open(page, `/tests/${id}/plan`)
  await page.getByRole('tab', { name: /^Watch rules/ }).click()
  const section = page.getByRole('region', { name: 'On abort' })
  await expect(section).toContainText('an abort is written down and warned of, people unload')
  await section.getByRole('button', { name: 'Relay by Modbus coil' }).click()
  await expect(section).toContainText('A host is a name or an address')
  await enter(page, 'Host', '127.0.0.1')
  await enter(page, 'Port', String(device.port))
  await enter(page, 'Coil', '3')
  await expect(section).not.toContainText('A host is a name or an address')
  await releasePlan(page)

  await open(page, `/tests/${id}/ready`)
  const item = page.locator('[data-item^="abort:"]')
  await item.getByRole('button', { name: /^Try: On abort/ }).click()
  await expect(item).toContainText(/Ada, .*: taken after \d+ ms; set back after 1 s/)
  expect(device.heard()).toBe('00010000000601050003ff00' + '000100000006010500030000')
  await makeReady(id)

  await open(page, `/tests/${id}/run`)
  await page.getByRole('radio', { name: 'Read by hand' }).click()
  await expect(page.getByLabel('Voice and siren in this run')).toBeChecked()
  await page.getByRole('button', { name: 'Start the ladder' }).click()
  await expect(page.getByRole('button', { name: /^Abort: unload now/ })).toBeVisible()
  await page.getByLabel('Mid-span').fill('0.4 mm')
  await page.keyboard.press('Enter')
  await expect(page.getByText('call-out: read by hand')).toBeVisible()
  await page.getByRole('button', { name: /^Call out/ }).click()
  await page.getByRole('dialog').getByRole('textbox').first().fill('x is a letter here')
  await context.setOffline(true)
  await page.keyboard.press('F9')
  await expect(page.getByText('Not heard by Hypomet: unload by hand')).toBeVisible()
  expect(device.heard()).toHaveLength(48)
  await context.setOffline(false)
  await expect(page.getByText('Not heard by Hypomet: unload by hand')).toHaveCount(0)
  await expect(page.getByText(/^abort output: relay at .*coil 3 on: taken after \d+ ms$/)).toBeVisible()
  // Nothing that was typed is lost.
  await expect(page.getByRole('dialog').getByRole('textbox').first()).toHaveValue('x is a letter here')
  expect(device.heard().slice(48)).toBe('00010000000601050003ff00')
  device.close()
})

test('heard on every page, in a dialog, the palette and a field; nobody rehearses over it; a tare asks', async ({
  person: page,
  browser,
  baseURL,
}) => {
  const slug = await loadDemo(baseURL!, join(import.meta.dirname, '../demo/data'), { specimens: false })
  const campaigns = (await (await page.request.get('/api/campaigns')).json()) as Campaign[]
  const tests = campaigns
    .find(c => c.slug === slug)!
    .articles.flatMap(a => a.revisions)
    .flatMap(r => r.tests)
  const { id } = tests.find(t => /Bladder/.test(t.title))!
  await makeReady(id)
  type Going = { runId: number; testId: number; rung: number; phase: string }[]
  const allGoing = async () => (await (await page.request.get('/api/runs/going')).json()) as Going
  const going = async () => (await allGoing()).filter(g => g.testId === id)
  // What the job before left on is taken off first.
  await expect(async () => {
    for (const { runId } of await allGoing())
      for (const command of ['abort', 'reached'])
        await page.request.post(`/api/runs/${runId}/command`, {
          headers: { 'x-hypomet-person': 'Ada' },
          data: { command },
        })
    expect(await allGoing()).toEqual([])
  }).toPass({ timeout: 60_000 })
  const begin = async () => {
    await expect(async () => expect(await going()).toEqual([])).toPass({ timeout: 60_000 })
    const made = await page.request.post(`/api/tests/${id}/runs`, {
      headers: { 'x-hypomet-person': 'Ada' },
      data: { source: 'rig', pace: 5, seed: 1 },
    })
    return ((await made.json()) as { runId: number }).runId
  }
  const heard = () =>
    expect(async () => {
      const [g] = await going()
      expect(g === undefined || g.phase === 'unloading').toBe(true)
    }).toPass({ timeout: 10_000 })

  await test.step('a second pair of eyes sees it on its pages, and cannot rehearse over it', async () => {
    await begin()
    const elsewhere = await browser.newContext()
    await elsewhere.addCookies([{ name: 'hypomet-person', value: 'Bo', url: baseURL! }])
    const other = await elsewhere.newPage()
    await open(other, `/campaigns/${slug}`)
    await expect(other.locator('[data-run-band]')).toContainText('Bladder')
    const refused = await other.request.post(`/api/tests/${id}/rehearsals`, {
      headers: { 'x-hypomet-person': 'Bo' },
      data: { pace: 5, seed: 1, faults: 'drawn' },
    })
    expect(refused.status()).toBe(422)
    expect(await refused.text()).toContain('already-running')
    // With the key of a keyboard whose capitals are locked.
    await other.keyboard.press('X')
    await heard()
    await elsewhere.close()
  })

  const places: [where: string, path: string, go: () => Promise<unknown>, key: string][] = [
    ['the palette', `/campaigns/${slug}`, () => page.keyboard.press('/'), 'F9'],
    ['a dialog', `/campaigns/${slug}`, () => page.getByRole('button', { name: 'Edit' }).first().click(), 'F9'],
    ['a field', `/tests/${id}/plan`, () => page.getByRole('textbox').nth(1).focus(), 'F9'],
    ['the sensors', '/sensors', () => Promise.resolve(), 'x'],
  ]
  for (const [where, path, go, key] of places)
    await test.step(`in ${where}`, async () => {
      await begin()
      await open(page, path)
      await expect(page.locator('[data-run-band], [data-testid="load"]').first()).toBeVisible()
      await go()
      await page.keyboard.press(key)
      await heard()
    })

  await test.step('a zero under load is asked about, and its line goes dead in two seconds', async () => {
    await begin()
    await open(page, `/tests/${id}/run`)
    await expect(page.getByTestId('load')).toHaveText(/^[1-9]/, { timeout: 60_000 })
    await page.getByRole('button', { name: 'Tare' }).click()
    const dialog = page.getByRole('dialog')
    await expect(dialog).toContainText('is on by the zero that holds')
    await dialog.getByRole('button', { name: 'Leave the zero' }).click()
    await expect(page.getByText(/^tare: /)).toHaveCount(1)
    await page.getByRole('button', { name: 'Tare' }).click()
    await dialog.getByRole('button', { name: 'Take it with the load on' }).click()
    await expect(page.getByText(/^tare: .* on, confirmed$/)).toBeVisible()
    await page.keyboard.press('x')
    await heard()
  })
})
