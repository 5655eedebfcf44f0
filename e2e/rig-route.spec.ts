import { join } from 'node:path'
import { loadDemo } from '../demo/load'
import { answerLessons, expect, makeReady, open, releasePlan, test } from './person'

test('the demo’s next revision climbs the ladder on the simulated rig', async ({ person: page, baseURL }) => {
  const slug = await loadDemo(baseURL!, join(import.meta.dirname, '../demo/data'))

  await test.step('the campaign says what stands and why', async () => {
    await open(page, `/campaigns/${slug}`)
    await expect(page.getByText('The value lies below the limit, but its uncertainty reaches across it.')).toBeVisible()
    await expect(page.locator('[data-verdict="fail"]')).toHaveCount(1)
    await page.getByRole('link', { name: /choose the next revision/ }).click()
    await page.locator('[data-candidate="caps-webs"]').getByRole('button', { name: 'Accept' }).click()
    await page.getByRole('button', { name: 'Make revision C' }).click()
    await page.getByRole('tab', { name: /^Prediction/ }).click()
    await expect(page.getByRole('columnheader', { name: 'scaled from revision B' })).toBeVisible()
    await releasePlan(page)
  })

  await test.step('ready, with the keys', async () => {
    await page.keyboard.press('2')
    await expect(page).toHaveURL(/\/ready$/)
    await expect(page.getByRole('heading', { name: /still open/ })).toBeVisible()
    await answerLessons(page)
    await makeReady(Number(/tests\/(\d+)/.exec(page.url())![1]))
    await page.reload()
    await page.getByRole('link', { name: 'To the run' }).click()
  })

  await test.step('run: call out, hold, go on, to the end of the ladder', async () => {
    await page.getByLabel('Pace').selectOption('20')
    await page.getByRole('button', { name: 'Start the ladder' }).click()
    await expect(page.getByText('Loading', { exact: true })).toBeVisible()
    await expect(page.getByTestId('load')).toHaveText(/[1-9]/, { timeout: 20_000 })
    await page.keyboard.press('c')
    await expect(page.getByText('call-out')).toBeVisible()
    await page.keyboard.press('h')
    await expect(page.getByRole('status').filter({ hasText: 'HELD' })).toBeVisible()
    // What is held stays held through a reload; going on wants a word, aborting would not.
    await page.reload()
    await expect(page.getByRole('status').filter({ hasText: 'HELD' })).toBeVisible()
    await page.getByRole('button', { name: /^Go on/ }).click()
    await page.getByRole('dialog').getByRole('button', { name: 'Go on' }).click()
    await expect(page.getByRole('status').filter({ hasText: 'HELD' })).toBeHidden()
    await expect(page.getByRole('heading', { name: 'Recorded', exact: true })).toBeVisible({ timeout: 60_000 })
    await expect(page.getByRole('cell', { name: 'ladder done' })).toBeVisible()
    await expect(page.getByText('Ada', { exact: true }).first()).toBeVisible()
  })

  await test.step('reduce, judge against the locked prediction', async () => {
    await page.getByRole('link', { name: 'To the reduction' }).click()
    await page.getByRole('button', { name: 'Keep results' }).click()
    await page.getByRole('link', { name: 'To the judgement' }).click()
    const service = page.locator('[data-limit="Service deflection"]')
    await expect(service.getByText(/scaled from revision B: 7\d\.\d ±\s2\.\d\smm, measured/)).toBeVisible()
    await expect(service.getByText(/beam calculation/)).toBeVisible()
    await page.getByRole('button', { name: 'Record the judgement' }).click()
    await expect(page.getByText(/^Judged by Ada/)).toBeVisible()
    await page.keyboard.press('1')
    await page.getByRole('tab', { name: /^Prediction/ }).click()
    await expect(page.getByRole('heading', { name: 'Prediction · locked' })).toBeVisible()
    await page.getByRole('link', { name: 'Tarn carrier' }).click()
    await expect(page.getByRole('heading', { name: 'Revision C' })).toBeVisible()
  })

  await test.step('abort needs no question', async () => {
    await page.getByRole('link', { name: 'Ladder to ultimate load, new clamp' }).last().click()
    await expect(page.getByRole('link', { name: /^Change/ })).toHaveAttribute('aria-current', 'step')
    await page.keyboard.press('3')
    await page.getByLabel('Pace').selectOption('20')
    await page.getByRole('button', { name: 'Start the ladder' }).click()
    await expect(page.getByText('Loading', { exact: true })).toBeVisible()
    await page.keyboard.press('x')
    await expect(page.getByRole('cell', { name: 'aborted' })).toBeVisible({ timeout: 20_000 })
  })
})
