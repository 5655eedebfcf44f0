import * as z from 'zod'
import { HypometError } from '../../error'
import { defineCalc } from '../../method/calculation'
import type { Result } from '../../method/reduction'
import type { Warning } from '../../warning'
import { issue, plain } from '../../method/settings'
import { meanSd } from '../../statistics/mean'
import { outliers } from '../../statistics/outliers'
import { toleranceFactor as factor } from '../../statistics/toleranceFactor'

const share = (title: string, fallback: number) => plain({ title, positive: true, max: 1 }).default(fallback)

const settings = z
  .object({
    n: plain({ title: 'Specimens', min: 2, whole: true }).optional(),
    values: z.array(plain()).min(2, 'At least two values are needed.').optional(),
    coverage: share('Share of the population', 0.9),
    confidence: share('Confidence', 0.95),
  })
  .superRefine((s, ctx) => {
    if (s.n === undefined && s.values === undefined)
      issue(ctx, 'missing-setting', 'Either n or the values are needed.', ['n'])
    for (const key of ['coverage', 'confidence'] as const)
      if (s[key] === 1) issue(ctx, 'setting-range', 'Must be below 1.', [key])
  })

/** One-sided normal tolerance bound: B-basis by default. */
export const toleranceFactor = defineCalc({
  id: 'tolerance-factor',
  title: 'Tolerance factor',
  purpose: 'What a small sample says of almost all: mean − k·s',
  version: '1.0.0',
  settings,
  example: { values: [412, 405, 431, 398, 420] },
  calculate({ n, values, coverage, confidence }) {
    const exact = (value: number): Result => ({ value, unit: '1', bound: 'exact' })
    const k = factor({ n: values?.length ?? n!, p: coverage, gamma: confidence })
    if (!Number.isFinite(k))
      throw new HypometError('setting-range', 'There is no factor for this coverage and confidence.', {
        path: 'settings.confidence',
      })
    const results: Record<string, Result> = { k: exact(k) }
    if (!values) return { results, tables: {}, warnings: [] }
    const { mean, sd } = meanSd(values)
    const odd = outliers(values)
    const warnings: Warning[] =
      odd.length > 0
        ? [{ code: 'outlier', message: `Named, not left out: ${odd.map(i => values[i]).join(', ')}.` }]
        : []
    Object.assign(results, {
      mean: exact(mean),
      sd: exact(sd),
      bound: exact(mean - k * sd),
      outliers: exact(odd.length),
    })
    return { results, tables: {}, warnings }
  },
})
