import { enter, expect, open, test } from './person'

test('the quick answer: a worksheet by typing, refusals at their fields, drawing with stop, a logger’s file', async ({
  person: page,
}) => {
  await test.step('stored energy, with units as typed', async () => {
    await open(page, '/worksheets')
    await page.getByRole('searchbox', { name: 'Find a calculation' }).fill('stored')
    await page.getByRole('link', { name: /Stored energy/ }).click()
    await expect(page.getByRole('heading', { name: 'Stored energy' })).toBeVisible()
    await page.getByLabel('Kind').selectOption({ label: 'Mass' })
    await enter(page, 'Mass', '20 kN')
    await expect(page.getByText('“kN” is not a unit of mass')).toBeVisible()
    await enter(page, 'Mass', '220 lb')
    await enter(page, 'Height', '3 ft')
    // m·g·h by hand: 99.790 kg × 9.80665 m/s² × 0.9144 m
    await expect(page.getByText(/^894\.8\sJ$/)).toBeVisible()
    await page.reload()
    await expect(page.getByText(/^894\.8\sJ$/)).toBeVisible()
  })

  await test.step('uncertainty: rows of inputs, and the same by drawing', async () => {
    await open(page, '/worksheets/uncertainty')
    await enter(page, 'Expression', 'force/(width*thicknes)')
    await expect(page.getByText(/“thicknes” is not known here/)).toBeVisible()
    await enter(page, 'Expression', 'force/(width*thickness)')
    await expect(page.getByText(/^357\.6\sMPa$/)).toBeVisible()
    await page.getByRole('button', { name: 'Draw', exact: true }).click()
    await expect(page.getByText('Shortest interval that holds 95 %')).toBeVisible()
    await page.getByLabel('How many').selectOption({ label: '10 000 000' })
    await page.getByRole('button', { name: 'Draw', exact: true }).click()
    await expect(page.getByRole('progressbar', { name: 'Draws done' })).toBeVisible()
    await page.getByRole('button', { name: 'Stop' }).click()
    await expect(page.getByText('The calculation was stopped.')).toBeVisible()
    await enter(page, 'u 3', '0.02 mm')
    await expect(page.getByText('The calculation was stopped.')).toBeHidden()
  })

  await test.step('a spectrum of a file', async () => {
    await open(page, '/worksheets/signal-welch')
    const rows = Array.from(
      { length: 4096 },
      (_, i) => `${i / 512},${(3 * Math.sin(2 * Math.PI * 40 * (i / 512))).toFixed(6)}`,
    )
    await page.getByLabel(/Choose or drop/).setInputFiles({
      name: 'shake.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from(['t,x', 's,m/s2', ...rows].join('\n')),
    })
    await enter(page, 'Samples a segment', '512')
    // A sine of amplitude 3 has an rms of 3/√2.
    await expect(page.getByText(/^2\.121\sm\/s²$/).first()).toBeVisible()
    await expect(page.getByText(/^40\.00\sHz$/)).toBeVisible()
  })
})
