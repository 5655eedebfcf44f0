import * as z from 'zod'
import { akaikeWeights, correctedAkaike } from './akaike'
import { HypometError } from '../../error'
import { defineCalc } from '../../method/calculation'
import { issue, plain } from '../../method/settings'
import { exact, tableOf } from '../answer'

const column = z.array(plain()).min(2)
const settings = z
  .object({
    data: z.object({ x: column.optional(), y: column }).meta({ title: 'Measured' }),
    models: z
      .array(
        z.object({
          name: z.string().meta({ title: 'Hypothesis' }),
          k: plain({ title: 'Parameters', min: 0, whole: true }),
          prediction: column.meta({ title: 'Prediction' }),
        }),
      )
      .min(2)
      .meta({ title: 'Hypotheses' }),
  })
  .superRefine((s, ctx) => {
    s.models.forEach((m, i) => {
      if (m.prediction.length !== s.data.y.length)
        issue(ctx, 'setting-range', 'A prediction has a value for every measured one.', ['models', i, 'prediction'])
    })
    if (s.data.x && s.data.x.length !== s.data.y.length)
      issue(ctx, 'setting-range', 'x and y must be of the same length.', ['data', 'x'])
  })

/**
 * Which of several models explains the data, parameters counted: corrected Akaike weights, and the point where the best
 * two
 * differ most – where another reading would tell them apart.
 *
 * @throws HypometError `data-range` when a model has too many parameters for the data, or leaves nothing over
 * @source Burnham & Anderson, Model Selection and Multimodel Inference, ch. 2
 */
export const hypotheses = defineCalc({
  id: 'hypotheses',
  title: 'Hypotheses',
  purpose: 'Which explanation the data prefer, and what would tell the best two apart',
  version: '1.0.0',
  settings,
  example: {
    data: { y: [0, 1.9, 4.1, 6, 8.2, 9.8] },
    models: [
      { name: 'sound', k: 1, prediction: [0, 2, 4, 6, 8, 10] },
      { name: 'soft clamp', k: 2, prediction: [0.2, 1.8, 3.7, 6.1, 8.4, 9.5] },
    ],
  },
  calculate({ data: { y }, models }) {
    const n = y.length
    const rows = models.map(({ name, k, prediction }, i) => {
      const rss = prediction.reduce((s, p, j) => s + (y[j]! - p) ** 2, 0)
      if (n - k - 2 <= 0)
        throw new HypometError('data-range', `“${name}” has too many parameters for ${n} points.`, {
          path: `settings.models.${i}.k`,
        })
      if (!(rss > 0))
        throw new HypometError('data-range', `“${name}” meets every point exactly: there is nothing to weigh.`, {
          path: `settings.models.${i}.prediction`,
        })
      return { name, rss, aicc: correctedAkaike(n, rss, k)! }
    })
    const least = Math.min(...rows.map(r => r.aicc))
    const weights = akaikeWeights(rows.map(r => r.aicc))
    const ranked = rows.map((r, i) => ({ i, aicc: r.aicc })).sort((a, b) => a.aicc - b.aicc || a.i - b.i)
    const [best, second] = [models[ranked[0]!.i]!.prediction, models[ranked[1]!.i]!.prediction]
    const gaps = best.map((p, j) => Math.abs(p - second[j]!))
    const at = gaps.indexOf(Math.max(...gaps))
    const evidenceRatio = Math.exp((ranked[1]!.aicc - ranked[0]!.aicc) / 2)
    return {
      results: {
        bestWeight: exact(weights[ranked[0]!.i]!, '1'),
        evidenceRatio: exact(evidenceRatio, '1'),
        separatorIndex: exact(at, '1'),
        separation: exact(gaps[at]!, '1'),
      },
      tables: {
        models: tableOf(
          rows.map((r, i) => ({ ...r, delta: r.aicc - least, weight: weights[i]! })),
          { name: '1', rss: '1', aicc: '1', delta: '1', weight: '1' },
        ),
      },
      warnings:
        evidenceRatio < Math.E ? [{ code: 'not-separated', message: 'The data do not tell the best two apart.' }] : [],
    }
  },
})
