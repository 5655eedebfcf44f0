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
