import { HypometError } from '../error'
import { derivative } from '../expression/derivative'
import { evaluator } from '../expression/evaluate'
import { namesIn, parse } from '../expression/parse'
import { fitNonlinear, type LeastSquaresFit } from '../statistics/levenbergMarquardt'
import { akaikeWeights, correctedAkaike } from '../calc/models/akaike'
import { valueAt } from '../signal/valueAt'

/* Explanations of measured data: variants of a model, each fitted, ranked by how well they explain it. */

export interface UnknownParameter {
  name: string
  start: number
  lower?: number
  upper?: number
}

/**
 * One explanation: an expression in x and its unknown parameters; a table of responses that were worked out for some
 * values of
 * one parameter, straight between them; or a curve as it stands.
 */
export type Explanation = { name: string } & (
  | { kind: 'expression'; expression: string; parameters: UnknownParameter[] }
  | { kind: 'responses'; parameter: string; values: number[]; x: number[]; y: number[][] }
  | { kind: 'curve'; x: number[]; y: number[] }
)

export interface Explained {
  name: string
  parameters: { name: string; value: number; u: number | null; atBound: boolean }[]
  /** Between each two parameters. */
  correlation: { a: string; b: string; r: number }[]
  /** What cannot be told from these data, in a sentence; empty where nothing is wrong. */
  doubts: string[]
  rss: number
  residualSd: number
  aicc: number | null
  delta: number | null
  weight: number | null
  /** Over the data's x. */
  prediction: number[]
}

export interface Explanations {
  /** In the order given. */
  models: Explained[]
  /** Indices, best first; those that cannot be weighed are left out. */
  ranking: number[]
  /** How many times more the best explains than the second. */
  evidenceRatio: number | null
  /**
   * Where a further reading would tell the best two apart: they differ most, in multiples of what is scattered around
   * them.
   */
  separator: { x: number; difference: number; scatters: number; isBeyond: boolean } | null
  /** An honest sentence. */
  verdict: string
}

const TOO_CLOSE = 0.995
/** How far beyond the data a further test may go, as a share of their range, and how finely that is looked at. */
const REACH = 0.5
const LOOKS = 200
const CLEAR = 10

/**
 * Fits each explanation and weighs them by corrected Akaike weights.
 *
 * @param progress  told after each, 0 … 1
 * @throws HypometError at `models.<i>…` or `data`
 * @source Burnham & Anderson, Model Selection and Multimodel Inference, ch. 2
 */
export function explain(
  data: { x: readonly number[]; y: readonly number[] },
  explanations: readonly Explanation[],
  progress: (share: number, doing: string) => void = () => undefined,
): Explanations {
  if (data.x.length !== data.y.length || data.x.length < 3)
    throw new HypometError('data-range', 'Three readings or more are needed, each with its x.', { path: 'data' })
  const fitted = explanations.map((e, i) => {
    progress(i / explanations.length, e.name)
    try {
      return fitOne(data, e)
    } catch (error) {
      throw error instanceof HypometError
        ? error.at({ path: `models.${i}.${error.place.path ?? ''}`.replace(/\.$/, '') })
        : error
    }
  })
  progress(1, '')
  const weighed = fitted.flatMap((f, i) => (f.explained.aicc === null ? [] : [i]))
  const weights = akaikeWeights(weighed.map(i => fitted[i]!.explained.aicc!))
  const least = Math.min(...weighed.map(i => fitted[i]!.explained.aicc!))
  const models = fitted.map(({ explained }, i): Explained =>
    (w => ({ ...explained, delta: w < 0 ? null : explained.aicc! - least, weight: w < 0 ? null : weights[w]! }))(
      weighed.indexOf(i),
    ),
  )
  const ranking = weighed.toSorted((a, b) => models[a]!.aicc! - models[b]!.aicc! || a - b)
  const [best, second] = ranking
  const evidenceRatio =
    best === undefined || second === undefined ? null : Math.exp((models[second]!.aicc! - models[best]!.aicc!) / 2)
  const separator =
    best === undefined || second === undefined
      ? null
      : separatorOf(
          data.x,
          fitted[best]!.at,
          fitted[second]!.at,
          Math.min(models[best]!.residualSd, models[second]!.residualSd),
        )
  return { models, ranking, evidenceRatio, separator, verdict: verdictOf(models, ranking, evidenceRatio) }
}

interface Fitted {
  explained: Omit<Explained, 'delta' | 'weight'>
  at(x: number): number
}

function fitOne(data: { x: readonly number[]; y: readonly number[] }, e: Explanation): Fitted {
  if (e.kind === 'curve') {
    checkRising(e.x, e.y, 'x')
    return asFitted(data, e.name, x => valueAt(e, x), [], null)
  }
  if (e.kind === 'responses') return fitResponses(data, e)
  return fitExpression(data, e, [])
}

/** With unknowns held that only a combination with others can be told of. */
function fitExpression(
  data: { x: readonly number[]; y: readonly number[] },
  e: Extract<Explanation, { kind: 'expression' }>,
  held: readonly UnknownParameter[],
): Fitted {
  const free = e.parameters.filter(p => !held.includes(p))
  const names = [...free, ...held].map(p => p.name).concat('x')
  if (data.y.length <= free.length)
    throw new HypometError('data-range', `“${e.name}” has ${free.length} unknowns for ${data.y.length} readings.`, {
      path: 'parameters',
    })
  const tree = parse(e.expression)
  const value = evaluator(tree, names)
  const slopes = free.map(p => derivative(tree, names, p.name))
  const cells = new Float64Array(names.length)
  const filled = (p: ArrayLike<number>, x: number): Float64Array => {
    cells.set(p as Float64Array)
    held.forEach((h, i) => {
      cells[free.length + i] = h.start
    })
    cells[names.length - 1] = x
    return cells
  }
  const over = (p: ArrayLike<number>, f: (cells: Float64Array) => number): Float64Array => {
    const out = new Float64Array(data.x.length)
    filled(p, 0)
    for (let i = 0; i < out.length; i++) {
      cells[names.length - 1] = data.x[i]!
      out[i] = f(cells)
    }
    return out
  }
  try {
    // Of many readings a few hundred lead near to the answer, from which all of them have little left to go.
    const near = data.x.length > FEW * 2 ? fitExpression(fewOf(data), e, held).explained.parameters : null
    const from = free.map((p, i) => ({ ...p, start: near?.[i]?.name === p.name ? near[i]!.value : p.start }))
    const fit = fitNonlinear({
      parameters: from,
      residuals: p => over(p, value).map((v, i) => data.y[i]! - v),
      slopes: p => slopes.map(s => over(p, s)),
    })
    const fitted = asFitted(data, e.name, x => value(filled(fit.values, x)), free, fit)
    fitted.explained.doubts.push(
      ...held.map(h => `${h.name} cannot be resolved from these data beside the others: it was held at ${h.start}.`),
    )
    return fitted
  } catch (error) {
    if (!(error instanceof HypometError) || error.code !== 'singular' || free.length < 2) throw error
    return fitExpression(data, e, [...held, free.at(-1)!])
  }
}

const FEW = 400
function fewOf({ x, y }: { x: readonly number[]; y: readonly number[] }): { x: number[]; y: number[] } {
  const every = Math.ceil(x.length / FEW)
  const kept = (v: readonly number[]) => v.filter((_, i) => i % every === 0)
  return { x: kept(x), y: kept(y) }
}

function checkRising(x: readonly number[], y: readonly unknown[], path: string): void {
  if (x.length < 2 || y.length !== x.length || x.some((v, i) => i > 0 && !(v > x[i - 1]!)))
    throw new HypometError('setting-range', 'A curve has rising x, and a y for each.', { path })
}

function fitResponses(
  data: { x: readonly number[]; y: readonly number[] },
  e: Extract<Explanation, { kind: 'responses' }>,
): Fitted {
  checkRising(e.values, e.y, 'values')
  for (const [i, y] of e.y.entries()) checkRising(e.x, y, `y.${i}`)
  const at = (p: number, x: number) =>
    valueAt({ x: e.values, y: e.values.map((_, i) => valueAt({ x: e.x, y: e.y[i]! }, x)) }, p)
  const [low, high] = [e.values[0]!, e.values.at(-1)!]
  const h = (high - low) * 1e-6
  const parameters = [{ name: e.parameter, start: (low + high) / 2, lower: low, upper: high }]
  // Straight between the tables' values a slope is the difference over the interval it stands in.
  const fit = fitNonlinear({
    parameters,
    residuals: p => Float64Array.from(data.x, (x, i) => data.y[i]! - at(p[0]!, x)),
    slopes: p => [
      Float64Array.from(
        data.x,
        x =>
          (at(Math.min(high, p[0]! + h), x) - at(Math.max(low, p[0]! - h), x)) /
          (Math.min(high, p[0]! + h) - Math.max(low, p[0]! - h)),
      ),
    ],
  })
  return asFitted(data, e.name, x => at(fit.values[0]!, x), parameters, fit)
}

function asFitted(
  data: { x: readonly number[]; y: readonly number[] },
  name: string,
  at: (x: number) => number,
  parameters: readonly UnknownParameter[],
  fit: LeastSquaresFit | null,
): Fitted {
  const prediction = data.x.map(at)
  if (prediction.some(v => !Number.isFinite(v)))
    throw new HypometError('data-range', `“${name}” has no value for some of the readings.`, { path: 'expression' })
  const n = data.x.length
  const rss = prediction.reduce((s, v, i) => s + (data.y[i]! - v) ** 2, 0)
  const correlation = parameters.flatMap((b, i) =>
    parameters.slice(0, i).map((a, j) => ({ a: a.name, b: b.name, r: fit!.correlation[i]![j]! })),
  )
  const said = parameters.map((p, i) => ({
    name: p.name,
    value: fit!.values[i]!,
    u: Number.isFinite(fit!.errors[i]!) ? fit!.errors[i]! : null,
    atBound: fit!.atBound[i] ?? false,
  }))
  const aicc = correctedAkaike(n, rss, parameters.length)
  return {
    at,
    explained: {
      name,
      parameters: said,
      correlation,
      rss,
      residualSd: Math.sqrt(rss / Math.max(1, n - parameters.length)),
      aicc,
      prediction,
      doubts: [
        ...said.flatMap(p =>
          p.atBound
            ? [`${p.name} stands at its bound: the data want it beyond, or do not fix it.`]
            : p.u === null
              ? [`${p.name} cannot be told from these data.`]
              : Math.abs(p.u) > Math.abs(p.value)
                ? [`${p.name} is not significantly different from zero in these data.`]
                : [],
        ),
        ...correlation.flatMap(c =>
          Math.abs(c.r) > TOO_CLOSE
            ? [
                `${c.a} and ${c.b} cannot be resolved from these data: only a combination of them is ` +
                  `(correlation ${c.r.toFixed(3)}).`,
              ]
            : [],
        ),
        ...(aicc === null
          ? [
              rss > 0
                ? 'It has too many unknowns for these data to be weighed.'
                : 'It meets every reading exactly: there is nothing to weigh.',
            ]
          : []),
      ],
    },
  }
}

function separatorOf(
  x: readonly number[],
  a: (x: number) => number,
  b: (x: number) => number,
  scatter: number,
): Explanations['separator'] {
  const [low, high] = [Math.min(...x), Math.max(...x)]
  const reach = (high - low) * REACH
  let found: Explanations['separator'] = null
  for (let i = 0; i <= LOOKS; i++) {
    const at = low + ((high + reach - low) * i) / LOOKS
    const difference = Math.abs(a(at) - b(at))
    if (Number.isFinite(difference) && (!found || difference > found.difference))
      found = { x: at, difference, scatters: scatter > 0 ? difference / scatter : 0, isBeyond: at > high }
  }
  return found
}

function verdictOf(models: readonly Explained[], [best, second]: readonly number[], ratio: number | null): string {
  if (best === undefined) return 'None of them can be weighed by these data.'
  const name = models[best]!.name
  if (second === undefined || ratio === null) return `Only “${name}” can be weighed by these data.`
  if (ratio < Math.E) return `The data do not tell “${name}” and “${models[second]!.name}” apart.`
  return ratio < CLEAR
    ? `“${name}” explains the data better, ${ratio.toFixed(1)} times as likely as “${models[second]!.name}”: a ` +
        `hint, not a proof.`
    : `“${name}” explains the data clearly better than “${models[second]!.name}”. That does not make it true: the ` +
        `right explanation may not be among them.`
}

/** The unknown parameters of an expression in x, in the order they come. @throws HypometError `expression` */
export const unknownsOf = (expression: string): string[] =>
  [...new Set(namesIn(parse(expression)))].filter(n => n !== 'x' && n !== 'pi')
