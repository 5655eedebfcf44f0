import * as z from 'zod'
import { HypometError } from '../../error'
import { alike, dimensionOf } from '../../expression/dimensions'
import { derivative } from '../../expression/derivative'
import { evaluator } from '../../expression/evaluate'
import { parse } from '../../expression/parse'
import { expressionSetting } from '../../expression/setting'
import { defineCalc, type SampledModel } from '../../method/calculation'
import type { Reduction, Result, ResultTable } from '../../method/reduction'
import { anyQuantity, issue, plain, siLike } from '../../method/settings'
import { DIMENSIONLESS } from '../../quantity/dimension'
import { findUnit, fromSi, KINDS, sameDimension, siUnitOf, type Dimension } from '../../quantity/index'
import { symmetricEigen } from '../../statistics/symmetricEigen'
import { meanSd } from '../../statistics/mean'
import { combine, type Contribution } from '../../uncertainty/coverage'
import { propagate, type Input, type Model } from '../../uncertainty/propagate'
import { checkRange, sensorBudget, type SensorSpecification } from '../../uncertainty/sensor'

/** SI unit of a dimension by the name that the text has for it: kJ is read in J, N·mm in N·m. */
function siNamedIn(text: string, of: Dimension): string {
  const names = Object.values(KINDS)
    .filter(k => sameDimension(k.dimension, of) && text.includes(k.si))
    .map(k => k.si)
  return names.sort((a, b) => b.length - a.length)[0] ?? siUnitOf(of)
}

const unitText = z
  .string()
  .transform((text, ctx) => {
    const unit = findUnit(text, 'gravity')
    return unit ? siNamedIn(text, unit.dimension) : issue(ctx, 'unit-unknown', `“${text}” is not a unit Hypomet knows.`)
  })
  .meta({ title: 'Unit' })

const share = plain({ min: 0 }).optional()

const sensor = z.object({
  kind: z.literal('sensor'),
  unit: unitText.default('1'),
  fullScale: anyQuantity({ title: 'Full scale', positive: true, difference: true }),
  reading: anyQuantity({ title: 'Reading' }),
  certificate: z.object({ U: anyQuantity({ min: 0, difference: true }), k: plain({ positive: true }) }).optional(),
  linearity: share,
  hysteresis: share,
  repeatability: share,
  resolution: anyQuantity({ min: 0, difference: true }).optional(),
  temperatureZero: perKelvin(),
  temperatureSpan: perKelvin(),
  deltaT: anyQuantity({ difference: true }).optional(),
  converter: z
    .object({ range: anyQuantity({ positive: true, difference: true }), bits: plain({ positive: true, whole: true }) })
    .optional(),
  repeats: z.array(anyQuantity()).min(2, 'A repeatability needs at least two readings.').optional(),
})

/** A share per kelvin; a plain number or one with %/K. */
function perKelvin() {
  return anyQuantity().optional()
}

const model = z
  .object({
    kind: z.literal('model'),
    expression: z.string(),
    inputs: z
      .array(
        z.object({
          name: z.string(),
          value: anyQuantity(),
          u: anyQuantity({ min: 0, difference: true }),
          dof: plain({ positive: true, title: 'd.o.f.' }).optional(),
        }),
      )
      .min(1),
    correlations: z.array(z.object({ a: z.string(), b: z.string(), r: plain({ min: -1, max: 1 }) })).default([]),
    unit: unitText.optional(),
  })
  .superRefine((s, ctx) => {
    s.correlations.forEach((c, i) =>
      (['a', 'b'] as const).forEach(key => {
        if (!s.inputs.some(input => input.name === c[key]))
          issue(ctx, 'setting-range', `There is no input “${c[key]}”.`, ['correlations', i, key])
      }),
    )
    const refusal = correlationsRefused(s)
    if (refusal !== null) issue(ctx, 'setting-range', refusal, ['correlations'])
  })

/** A matrix of correlations has no eigenvalue below this. */
const LEAST_EIGENVALUE = -1e-10

function correlationsRefused({
  inputs,
  correlations,
}: {
  inputs: readonly { name: string }[]
  correlations: readonly { a: string; b: string; r: number }[]
}): string | null {
  const index = (name: string) => inputs.findIndex(i => i.name === name)
  const matrix = inputs.map((_, i) => inputs.map((_, j): number => (i === j ? 1 : 0)))
  const seen = new Set<string>()
  for (const { a, b, r } of correlations) {
    const [i, j] = [index(a), index(b)]
    if (i < 0 || j < 0) continue
    if (i === j) return `“${a}” is correlated with itself.`
    const pair = `${Math.min(i, j)} ${Math.max(i, j)}`
    if (seen.has(pair)) return `The correlation of “${a}” and “${b}” is given twice.`
    seen.add(pair)
    matrix[i]![j] = matrix[j]![i] = r
  }
  return Math.min(...symmetricEigen(matrix).values) < LEAST_EIGENVALUE
    ? 'These correlations cannot all hold at once.'
    : null
}

/** Uncertainty of a sensor's reading, or of a model's result. */
export const uncertainty = defineCalc({
  id: 'uncertainty',
  title: 'Measurement uncertainty',
  purpose: 'Budget of a sensor or of a model: u, coverage factor, expanded uncertainty',
  version: '1.1.0',
  settings: z.discriminatedUnion('kind', [sensor, model]),
  example: {
    kind: 'model',
    expression: 'force/(width*thickness)',
    unit: 'MPa',
    inputs: [
      { name: 'force', value: { value: 18.4, unit: 'kN' }, u: { value: 60, unit: 'N' } },
      { name: 'width', value: { value: 25.1, unit: 'mm' }, u: { value: 0.03, unit: 'mm' } },
      { name: 'thickness', value: { value: 2.05, unit: 'mm' }, u: { value: 0.04, unit: 'mm' }, dof: 4 },
    ],
  },
  labels: {
    u: 'Standard uncertainty u',
    U: 'Expanded uncertainty U',
    dof: 'Effective degrees of freedom',
    k: 'Coverage factor k',
    relative: 'U over the value',
    utilisation: 'Share of full scale',
    share: 'Share of u²',
    sensitivity: 'Sensitivity (SI)',
  },
  model: s => (s.kind === 'model' ? sampledModel(s) : null),
  calculate: s => (s.kind === 'sensor' ? ofSensor(s) : ofModel(s)),
})

function ofSensor(s: z.output<typeof sensor>): Omit<Reduction, 'traces'> {
  const si = <K extends 'fullScale' | 'reading' | 'resolution'>(key: K) =>
    s[key] === undefined ? undefined : siLike(s[key], s.unit, `settings.${key}`)
  const reading = si('reading')!
  const fullScale = si('fullScale')!
  // In the unit of the full scale: 90 °C of 250 °C.
  const { unit } = s.fullScale
  const utilisation = unit
    ? Math.abs(fromSi(reading, unit)) / ((fullScale * unit.divide) / unit.multiply)
    : Math.abs(reading) / fullScale
  const specification: SensorSpecification = {
    fullScale,
    linearity: s.linearity,
    hysteresis: s.hysteresis,
    repeatability: s.repeatability,
    resolution: si('resolution'),
    temperatureZero: s.temperatureZero && siLike(s.temperatureZero, '1/K', 'settings.temperatureZero'),
    temperatureSpan: s.temperatureSpan && siLike(s.temperatureSpan, '1/K', 'settings.temperatureSpan'),
    deltaT: s.deltaT && siLike(s.deltaT, 'K', 'settings.deltaT'),
    certificate: s.certificate && { U: siLike(s.certificate.U, s.unit, 'settings.certificate.U'), k: s.certificate.k },
    converter: s.converter && {
      range: siLike(s.converter.range, s.unit, 'settings.converter.range'),
      bits: s.converter.bits,
    },
  }
  const ofScale = utilisation * fullScale
  const warnings = checkRange('reading', ofScale, fullScale)
  const budget = [...sensorBudget(specification, ofScale), ...repeatsPart(s)]
  const combined = combine(budget)
  return {
    results: {
      utilisation: exact(utilisation, '1'),
      ...summary(combined, reading, s.unit),
    },
    tables: {
      budget: budgetTable(
        budget,
        budget.map(() => 1),
        combined.u,
        s.unit,
      ),
    },
    warnings,
  }
}

function repeatsPart(s: z.output<typeof sensor>): Contribution[] {
  if (!s.repeats) return []
  const { sd, n } = meanSd(s.repeats.map((r, i) => siLike(r, s.unit, `settings.repeats.${i}`)))
  return [{ name: 'repeats', contribution: sd / Math.sqrt(n), dof: n - 1 }]
}

/** The model by its values and exact slopes, with its inputs in SI. */
function sampledModel(s: z.output<typeof model>): SampledModel & Required<Model> {
  const names = s.inputs.map(i => i.name)
  const expression = expressionSetting(() => {
    const tree = parse(s.expression)
    const slopes = names.map(name => derivative(tree, names, name))
    return { value: evaluator(tree, names), slope: (x: ArrayLike<number>, i: number) => slopes[i]!(x) }
  })
  return {
    ...expression,
    inputs: s.inputs.map((i): Input => ({ name: i.name, value: i.value.si, u: i.u.si, dof: i.dof ?? Infinity })),
    correlations: s.correlations,
    unit: unitOf(s),
  }
}

/**
 * SI unit of the result: what follows from the inputs' units where any has one, else what is said.
 *
 * @throws HypometError `unit-dimension` for a u unlike its value, terms that do not go together, another unit than said
 */
function unitOf({ inputs, expression, unit }: z.output<typeof model>): string {
  inputs.forEach((i, k) => {
    if (i.u.dimension && i.value.dimension && !sameDimension(i.u.dimension, i.value.dimension))
      throw new HypometError('unit-dimension', `The u of “${i.name}” is of another dimension than its value.`, {
        path: `settings.inputs.${k}.u`,
      })
  })
  if (inputs.every(i => i.value.dimension === null)) return unit ?? '1'
  const known = Object.fromEntries(inputs.map(i => [i.name, i.value.dimension ?? DIMENSIONLESS]))
  const found = expressionSetting(() => dimensionOf(parse(expression), known))
  if (unit === undefined) return siUnitOf(found)
  const wanted = findUnit(unit, 'gravity')!.dimension
  if (!alike(found, wanted))
    throw new HypometError('unit-dimension', `The expression is in ${siUnitOf(found)}, not in a unit like ${unit}.`, {
      path: 'settings.unit',
    })
  return unit
}

function ofModel(s: z.output<typeof model>): Omit<Reduction, 'traces'> {
  const m = sampledModel(s)
  const p = propagate(m, m.inputs, m.correlations)
  if (!Number.isFinite(p.value) || !Number.isFinite(p.u))
    throw new HypometError('data-range', 'The expression has no value at these inputs.', {
      path: 'settings.expression',
    })
  return {
    results: { value: exact(p.value, m.unit), ...summary(p, p.value, m.unit) },
    tables: { budget: budgetTable(p.contributions, p.sensitivities, p.u, m.unit) },
    warnings: isNonLinear(m, p)
      ? [
          {
            code: 'non-linear',
            message:
              'The expression bends within the uncertainty of its inputs: propagate the distributions by drawing.',
          },
        ]
      : [],
  }
}

/** Share of u by which the middle of both ends may be off the value. */
const BENT = 0.1

/** Where first order does not do: u is none though an input has one, or the model bends over ±u of an input. */
function isNonLinear(m: SampledModel & Required<Model>, { u, value }: { u: number; value: number }): boolean {
  if (u === 0) return m.inputs.some(i => i.u > 0)
  const x = m.inputs.map(i => i.value)
  const at = (i: number, by: number) => m.value(x.map((v, j) => (j === i ? v + by : v)))
  return m.inputs.some((input, i) => Math.abs((at(i, input.u) + at(i, -input.u)) / 2 - value) > BENT * u)
}

const exact = (value: number | null, unit: string): Result => ({ value, unit, bound: 'exact' })

const summary = (
  { u, dof, k }: { u: number; dof: number; k: number },
  value: number,
  unit: string,
): Record<string, Result> => ({
  u: exact(u, unit),
  U: exact(k * u, unit),
  dof: exact(Number.isFinite(dof) ? dof : null, '1'),
  k: exact(k, '1'),
  relative: exact(value === 0 ? null : (k * u) / Math.abs(value), '1'),
})

const budgetTable = (budget: Contribution[], sensitivities: number[], u: number, unit: string): ResultTable => ({
  columns: {
    name: budget.map(b => b.name),
    sensitivity: sensitivities,
    contribution: budget.map(b => b.contribution),
    share: budget.map(b => (u > 0 ? b.contribution ** 2 / u ** 2 : null)),
  },
  units: { name: '', sensitivity: '1', contribution: unit, share: '1' },
})
