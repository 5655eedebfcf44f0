import { againstModel } from './againstModel'
import { assurance } from './modalAssurance'
import * as z from 'zod'
import { HypometError } from '../../error'
import { defineCalc } from '../../method/calculation'
import type { Result } from '../../method/reduction'
import type { Warning } from '../../warning'
import { issue, plain } from '../../method/settings'
import { exact, tableOf, tablesOf } from '../answer'

const column = z.array(plain()).min(2)
const curve = z.object({ x: column, y: column }).superRefine((c, ctx) => {
  if (c.x.length !== c.y.length) issue(ctx, 'setting-range', 'x and y must be of the same length.', ['y'])
})
const shapes = z.array(z.array(plain()).min(1)).min(1)
const settings = z
  .object({
    model: curve.optional().meta({ title: 'Model' }),
    test: curve.optional().meta({ title: 'Test' }),
    modesTest: shapes.optional().meta({ title: 'Mode shapes measured' }),
    modesModel: shapes.optional().meta({ title: 'Mode shapes of the model' }),
  })
  .superRefine((s, ctx) => {
    if (!s.model && !s.modesModel)
      issue(ctx, 'missing-setting', 'A curve or mode shapes of the model are needed.', ['model'])
    if (s.model && !s.test) issue(ctx, 'missing-setting', 'The curve that was measured is needed.', ['test'])
    if (s.test && !s.model) issue(ctx, 'missing-setting', 'The curve of the model is needed.', ['model'])
    if ((s.modesModel === undefined) !== (s.modesTest === undefined))
      issue(ctx, 'missing-setting', 'Mode shapes of test and model go together.', [
        s.modesTest ? 'modesModel' : 'modesTest',
      ])
    s.model?.x.forEach((x, i) => {
      if (i > 0 && !(x > s.model!.x[i - 1]!)) issue(ctx, 'setting-range', 'The model’s x must rise.', ['model', 'x', i])
    })
    const length = s.modesTest?.[0]?.length
    for (const key of ['modesTest', 'modesModel'] as const)
      s[key]?.forEach((m, i) => {
        if (m.length !== length) issue(ctx, 'setting-range', 'Every shape has the same points.', [key, i])
      })
  })
/**
 * A model's curve against the measured one on the measured grid, and mode shapes by their assurance criterion.
 *
 * @throws HypometError `data-range` when no measured point lies within the model
 * @source modal assurance criterion: Allemang & Brown (1982)
 */
export const correlate = defineCalc({
  id: 'correlate',
  title: 'Correlate',
  purpose: 'Model against test: bias, scatter, scale, where they part; mode shapes',
  version: '1.0.0',
  settings,
  example: {
    model: { x: [0, 1.5, 3, 4.5], y: [0, 4.7, 9.9, 15.5] },
    test: { x: [0, 1, 2, 3, 4], y: [0.1, 3.9, 6.9, 10.3, 13.8] },
  },
  calculate({ model, test, modesTest, modesModel }) {
    const results: Record<string, Result> = {}
    const warnings: Warning[] = []
    if (model && test) {
      const found = againstModel(model, test)
      if (!found)
        throw new HypometError('data-range', 'No measured point lies within the model’s range.', {
          path: 'settings.test',
        })
      const { n: _, outside, ...numbers } = found
      if (outside > 0)
        warnings.push({
          code: 'outside-model',
          message: `${outside} measured points lie beyond the model and are left out.`,
        })
      for (const [key, value] of Object.entries(numbers)) results[key] = exact(value, '1')
    }
    const mac = (modesTest ?? []).flatMap((a, i) =>
      modesModel!.map((b, j) => ({ test: i + 1, model: j + 1, mac: assurance(a, b) })),
    )
    return {
      results,
      tables: tablesOf('mac', mac.length > 0 ? tableOf(mac, { test: '1', model: '1', mac: '1' }) : null),
      warnings,
    }
  },
})
