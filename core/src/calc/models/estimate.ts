import * as z from 'zod'
import { expressionSetting } from '../../expression/setting'
import { derivative } from '../../expression/derivative'
import { evaluator } from '../../expression/evaluate'
import { parse } from '../../expression/parse'
import type { ErrorCode } from '../../errorCodes'
import { defineCalc } from '../../method/calculation'
import type { Result } from '../../method/reduction'
import type { Warning } from '../../warning'
import { issue, plain } from '../../method/settings'
import { fitNonlinear } from '../../statistics/levenbergMarquardt'

const TOO_CLOSE = 0.995

const settings = z
  .object({
    expression: z.string(),
    parameters: z
      .array(z.object({ name: z.string(), start: plain(), lower: plain().optional(), upper: plain().optional() }))
      .min(1),
    data: z.record(z.string(), z.array(plain()).min(1)),
  })
  .superRefine((s, ctx) => {
    const refuse = (code: ErrorCode, message: string, path: PropertyKey[]) => issue(ctx, code, message, path)
    const y = s.data['y']
    if (!y) return void refuse('missing-setting', 'The measured values y are needed.', ['data', 'y'])
    for (const [name, column] of Object.entries(s.data))
      if (column.length !== y.length)
        refuse('setting-range', `“${name}” has ${column.length} values where y has ${y.length}.`, ['data', name])
    if (y.length < s.parameters.length)
      refuse('setting-range', 'There are fewer values than parameters.', ['data', 'y'])
    s.parameters.forEach((p, i) => {
      if (p.lower !== undefined && p.upper !== undefined && p.lower >= p.upper)
        refuse('setting-range', 'The lower bound must lie below the upper one.', ['parameters', i, 'upper'])
    })
  })

/** Unknown parameters of a supplied model, from measured values. */
export const estimate = defineCalc({
  id: 'estimate',
  title: 'Parameter estimation',
  purpose: 'Unknown parameters of a model from test data, with errors and correlation',
  version: '1.0.0',
  settings,
  example: {
    expression: 'a*(1 - exp(-b*x))',
    parameters: [
      { name: 'a', start: 200 },
      { name: 'b', start: 0.001 },
    ],
    data: { x: [500, 1000, 2000, 3000, 5000, 8000], y: [44.6, 78.3, 126.9, 155, 183.9, 196.1] },
  },
  calculate({ expression, parameters, data }) {
    const y = Float64Array.from(data['y']!)
    const columns = Object.keys(data).filter(name => name !== 'y')
    const names = [...parameters.map(p => p.name), ...columns]
    const model = modelOf(
      expression,
      names,
      parameters.length,
      columns.map(c => data[c]!),
      y.length,
    )
    const fit = fitNonlinear({
      parameters,
      residuals: p => model.value(p).map((v, i) => y[i]! - v),
      slopes: p => model.slopes(p),
    })
    const exact = (value: number): Result => ({ value, unit: '1', bound: 'exact' })
    const results: Record<string, Result> = Object.fromEntries(
      parameters.map((p, i) => [
        p.name,
        { ...exact(fit.values[i]!), ...(Number.isFinite(fit.errors[i]!) ? { u: fit.errors[i]! } : {}) },
      ]),
    )
    const pairs = parameters.flatMap((b, i) =>
      parameters.slice(0, i).map((a, j) => ({ a: a.name, b: b.name, r: fit.correlation[i]![j]! })),
    )
    const warnings: Warning[] = [
      ...parameters.flatMap((p, i) =>
        fit.atBound[i] ? [{ code: 'at-bound', message: `${p.name} stands at its bound; its error is not known.` }] : [],
      ),
      ...(pairs.some(p => Math.abs(p.r) > TOO_CLOSE)
        ? [{ code: 'not-identifiable', message: 'Two parameters can hardly be resolved by these data.' }]
        : []),
    ]
    return {
      results: {
        ...results,
        rss: exact(fit.rss),
        residualSd: { value: Number.isFinite(fit.residualSd) ? fit.residualSd : null, unit: '1', bound: 'exact' },
      },
      tables: {
        correlation: {
          columns: { a: pairs.map(p => p.a), b: pairs.map(p => p.b), r: pairs.map(p => p.r) },
          units: { a: '', b: '', r: '1' },
        },
      },
      warnings,
    }
  },
})

/** The expression over all rows of the data, and its exact slopes by each parameter. */
function modelOf(expression: string, names: string[], parameterCount: number, columns: number[][], rows: number) {
  const { value, slopes } = expressionSetting(() => {
    const tree = parse(expression)
    return {
      value: evaluator(tree, names),
      slopes: names.slice(0, parameterCount).map(name => derivative(tree, names, name)),
    }
  })
  const x = new Float64Array(names.length)
  const over = (p: Float64Array, f: (x: Float64Array) => number) => {
    x.set(p)
    return Float64Array.from({ length: rows }, (_, i) => {
      columns.forEach((c, j) => {
        x[parameterCount + j] = c[i]!
      })
      return f(x)
    })
  }
  return { value: (p: Float64Array) => over(p, value), slopes: (p: Float64Array) => slopes.map(s => over(p, s)) }
}
