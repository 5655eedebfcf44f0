import * as z from 'zod'
import { HypometError } from '../../error'
import { derivative } from '../../expression/derivative'
import { evaluator } from '../../expression/evaluate'
import { parse } from '../../expression/parse'
import { expressionSetting } from '../../expression/setting'
import { defineCalc, type SampledModel } from '../../method/calculation'
import type { Reduction, Result, ResultTable } from '../../method/reduction'
import { anyQuantity, issue, plain, siLike } from '../../method/settings'
import { findUnit, siUnitOf } from '../../quantity/index'
import { meanSd } from '../../statistics/mean'
import { combine, type Contribution } from '../../uncertainty/coverage'
import { propagate, type Input, type Model } from '../../uncertainty/propagate'
import { checkRange, sensorBudget, type SensorSpecification } from '../../uncertainty/sensor'

const unitText = z
  .string()
  .default('1')
  .transform((text, ctx) => {
    const unit = findUnit(text, 'gravity')
    return unit ? siUnitOf(unit.dimension) : issue(ctx, 'unit-unknown', `“${text}” is not a unit Hypomet knows.`)
  })
  .meta({ title: 'Unit' })

const share = plain({ min: 0 }).optional()

const sensor = z.object({
  kind: z.literal('sensor'),
  unit: unitText,
  fullScale: anyQuantity({ title: 'Full scale', positive: true }),
  reading: anyQuantity({ title: 'Reading' }),
  certificate: z.object({ U: anyQuantity({ min: 0 }), k: plain({ positive: true }) }).optional(),
  linearity: share,
  hysteresis: share,
  repeatability: share,
  resolution: anyQuantity({ min: 0 }).optional(),
  temperatureZero: perKelvin(),
  temperatureSpan: perKelvin(),
  deltaT: anyQuantity().optional(),
  converter: z
    .object({ range: anyQuantity({ positive: true }), bits: plain({ positive: true, whole: true }) })
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
          u: anyQuantity({ min: 0 }),
          dof: plain({ positive: true, title: 'd.o.f.' }).optional(),
        }),
      )
      .min(1),
    correlations: z.array(z.object({ a: z.string(), b: z.string(), r: plain({ min: -1, max: 1 }) })).default([]),
    unit: unitText,
  })
  .superRefine((s, ctx) => {
    s.correlations.forEach((c, i) =>
      (['a', 'b'] as const).forEach(key => {
        if (!s.inputs.some(input => input.name === c[key]))
          issue(ctx, 'setting-range', `There is no input “${c[key]}”.`, ['correlations', i, key])
      }),
    )
  })

/** Uncertainty of a sensor's reading, or of a model's result. */
export const uncertainty = defineCalc({
  id: 'uncertainty',
  title: 'Measurement uncertainty',
  purpose: 'Budget of a sensor or of a model: u, coverage factor, expanded uncertainty',
  version: '1.0.0',
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
  const specification: SensorSpecification = {
    fullScale: si('fullScale')!,
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
  const warnings = checkRange('reading', reading, specification.fullScale)
  const budget = [...sensorBudget(specification, reading), ...repeatsPart(s)]
  const combined = combine(budget)
  return {
    results: {
      utilisation: exact(Math.abs(reading) / specification.fullScale, '1'),
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
    unit: s.unit,
  }
}

function ofModel(s: z.output<typeof model>): Omit<Reduction, 'traces'> {
  const m = sampledModel(s)
  const p = propagate(m, m.inputs, m.correlations)
  if (!Number.isFinite(p.value) || !Number.isFinite(p.u))
    throw new HypometError('data-range', 'The expression has no value at these inputs.', {
      path: 'settings.expression',
    })
  return {
    results: { value: exact(p.value, s.unit), ...summary(p, p.value, s.unit) },
    tables: { budget: budgetTable(p.contributions, p.sensitivities, p.u, s.unit) },
    warnings: [],
  }
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
    share: budget.map(b => (u > 0 ? b.contribution ** 2 / u ** 2 : 0)),
  },
  units: { name: '', sensitivity: '1', contribution: unit, share: '1' },
})
