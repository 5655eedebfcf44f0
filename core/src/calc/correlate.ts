import { assurance } from '../compare/modalAssurance'
import * as z from 'zod'
import { HypometError } from '../error'
import { defineCalc } from '../method/define'
import type { Result, Warning } from '../method/reduction'
import { issue, plain } from '../method/settings'
import { exact, tableOf, tablesOf } from './answer'

const column = z.array(plain()).min(2)
const curve = z.object({ x: column, y: column }).superRefine((c, ctx) => {
  if (c.x.length !== c.y.length) issue(ctx as never, 'setting-range', 'x and y must be of the same length.', ['y'])
})
const shapes = z.array(z.array(plain()).min(1)).min(1)
const settings = z
  .object({ model: curve.optional().meta({ title: 'Model' }), test: curve.optional().meta({ title: 'Test' }), modesTest: shapes.optional().meta({ title: 'Mode shapes measured' }), modesModel: shapes.optional().meta({ title: 'Mode shapes of the model' }) })
  .superRefine((s, ctx) => {
    if (!s.model && !s.modesModel) issue(ctx as never, 'missing-setting', 'A curve or mode shapes of the model are needed.', ['model'])
    if (s.model && !s.test) issue(ctx as never, 'missing-setting', 'The curve that was measured is needed.', ['test'])
    if (s.test && !s.model) issue(ctx as never, 'missing-setting', 'The curve of the model is needed.', ['model'])
    if ((s.modesModel === undefined) !== (s.modesTest === undefined)) issue(ctx as never, 'missing-setting', 'Mode shapes of test and model go together.', [s.modesTest ? 'modesModel' : 'modesTest'])
    s.model?.x.forEach((x, i) => { if (i > 0 && !(x > s.model!.x[i - 1]!)) issue(ctx as never, 'setting-range', 'The model’s x must rise.', ['model', 'x', i]) })
    const length = s.modesTest?.[0]?.length
    for (const key of ['modesTest', 'modesModel'] as const) s[key]?.forEach((m, i) => { if (m.length !== length) issue(ctx as never, 'setting-range', 'Every shape has the same points.', [key, i]) })
  })
type Curve = z.output<typeof curve>

/** The model at x, straight between its points. */
function interpolate({ x, y }: Curve, at: number): number {
  let high = x.findIndex(v => v >= at)
  if (high <= 0) high = 1
  const low = high - 1
  return y[low]! + ((y[high]! - y[low]!) * (at - x[low]!)) / (x[high]! - x[low]!)
}

const dot = (a: readonly number[], b: readonly number[]): number => a.reduce((s, v, i) => s + v * b[i]!, 0)

/**
 * A model's curve against the measured one on the measured grid, and mode shapes by their assurance criterion.
 *
 * @throws HypometError `data-range` when no measured point lies within the model
 * @source modal assurance criterion: Allemang & Brown (1982)
 */
export const correlate = defineCalc({
  id: 'correlate', title: 'Correlate', purpose: 'Model against test: bias, scatter, scale, where they part; mode shapes', version: '1.0.0', settings,
  example: { model: { x: [0, 1.5, 3, 4.5], y: [0, 4.7, 9.9, 15.5] }, test: { x: [0, 1, 2, 3, 4], y: [0.1, 3.9, 6.9, 10.3, 13.8] } },
  calculate({ model, test, modesTest, modesModel }) {
    const results: Record<string, Result> = {}
    const warnings: Warning[] = []
    if (model && test) {
      const points = test.x.map((x, i) => ({ x, y: test.y[i]! })).filter(p => p.x >= model.x[0]! && p.x <= model.x.at(-1)!)
      if (points.length === 0) throw new HypometError('data-range', 'No measured point lies within the model’s range.', { path: 'settings.test' })
      if (points.length < test.x.length) warnings.push({ code: 'outside-model', message: `${test.x.length - points.length} measured points lie beyond the model and are left out.` })
      const [measured, modelled] = [points.map(p => p.y), points.map(p => interpolate(model, p.x))]
      const difference = modelled.map((m, i) => m - measured[i]!)
      const n = points.length
      const mean = measured.reduce((s, v) => s + v, 0) / n
      const rss = dot(difference, difference)
      const rmse = Math.sqrt(rss / n)
      const worst = difference.reduce((w, d, i) => (Math.abs(d) > Math.abs(difference[w]!) ? i : w), 0)
      const one = (value: number) => exact(value, '1')
      Object.assign(results, {
        bias: one(difference.reduce((s, d) => s + d, 0) / n), rmse: one(rmse), nrmse: one(rmse / (Math.max(...measured) - Math.min(...measured))),
        r2: one(1 - rss / measured.reduce((s, v) => s + (v - mean) ** 2, 0)), scale: one(dot(measured, modelled) / dot(modelled, modelled)), maxDeviation: one(difference[worst]!), maxDeviationAt: one(points[worst]!.x),
      })
    }
    const mac = (modesTest ?? []).flatMap((a, i) => modesModel!.map((b, j) => ({ test: i + 1, model: j + 1, mac: assurance(a, b) })))
    return { results, tables: tablesOf('mac', mac.length > 0 ? tableOf(mac, { test: '1', model: '1', mac: '1' }) : null), warnings }
  },
})
