import * as z from 'zod'
import { energyAndStandoff } from '../../calc/stored-energy'
import { issue, plain, quantity, type QuantityInput } from '../../method/settings'
import type { ChannelView, PlanView, PredictedValue, RungView } from '../../method/stages'
import { combine } from '../../uncertainty/coverage'
import { rangeState, sensorBudget, type SensorSpecification } from '../../uncertainty/sensor'
import { predictArm, type ArmPrediction, type StaticArticle } from './article'

export const CHANNEL_KINDS = ['force', 'length', 'strain'] as const

export const staticPlan = z
  .object({
    designLoad: quantity('force', { title: 'Design load', positive: true }),
    loads: z.array(z.object({ x: quantity('length', { title: 'Place', min: 0 }), share: plain({ title: 'Share', positive: true, max: 1 }) })).min(1),
    deflectionAt: quantity('length', { title: 'Deflection read at', positive: true }),
    rungs: z.array(z.object({ target: quantity('force', { title: 'Target', min: 0 }), hold: quantity('time', { title: 'Hold', positive: true }) })).min(2),
    ramp: quantity('time', { title: 'Time between rungs', positive: true }).default(15),
    rate: quantity('frequency', { title: 'Sample rate', positive: true, max: 1000 }).default(10),
    minHold: quantity('time', { title: 'Shortest hold', positive: true }).default(10),
    holdTolerance: quantity('force', { title: 'Hold tolerance', positive: true }),
    predictionBand: plain({ title: 'Band of the calculation', positive: true, max: 1 }).default(0.1),
    channels: z.array(z.object({
      role: z.string().regex(/^[a-zA-Z][a-zA-Z0-9_]*$/, 'A role is a short word of letters and digits.'),
      label: z.string().min(1, 'A channel needs a name.'),
      kind: z.enum(CHANNEL_KINDS),
      x: quantity('length', { title: 'Place', min: 0 }).optional(),
      /** Largest reading expected where the beam calculation has none: a frame's motion, say. */
      expected: z.custom<QuantityInput>().optional(),
      sensorId: z.number().int().nullable().default(null),
    }).transform(expectedToSi)),
  })
  .superRefine((plan, ctx) => {
    const refuse = (path: PropertyKey[], message: string, code = 'setting-range') => ctx.addIssue({ code: 'custom', path, message, params: { code } })
    const shares = plan.loads.reduce((s, l) => s + l.share, 0)
    if (Math.abs(shares - 1) > 1e-6) refuse(['loads'], `The shares of the load add up to ${(shares * 100).toFixed(0)} %, not to 100 %.`)
    if (plan.rungs[0]?.target !== 0) refuse(['rungs', 0, 'target'], 'The ladder begins with a zero rung, so that there is a zero to take off.')
    if (!plan.rungs.some(r => r.target > 0)) refuse(['rungs'], 'The ladder has no loaded rung.')
    for (const role of ['load', 'deflection']) if (!plan.channels.some(c => c.role === role)) refuse(['channels'], `The channel “${role}” is needed.`, 'missing-channel')
    if (new Set(plan.channels.map(c => c.role)).size < plan.channels.length) refuse(['channels'], 'Two channels have the same role.')
  })

/** The expected reading is of the channel's own kind. */
function expectedToSi<C extends { kind: (typeof CHANNEL_KINDS)[number]; expected?: QuantityInput | undefined }>(c: C, ctx: z.core.$RefinementCtx): Omit<C, 'expected'> & { expected?: number } {
  const { expected, ...rest } = c
  if (expected === undefined) return rest
  const parsed = quantity(c.kind, { positive: true }).safeParse(expected)
  if (parsed.success) return { ...rest, expected: parsed.data }
  return issue(ctx, 'unit-dimension', parsed.error.issues[0]!.message, ['expected'])
}

export type StaticPlan = z.output<typeof staticPlan>
export type StaticPlanInput = z.input<typeof staticPlan>

/**
 * What a plan implies: expected deflection at each rung, range checks, stored energy and the predictions to be locked.
 * The prediction's band is taken as its expanded uncertainty (u = band/2).
 */
export function viewPlan(plan: StaticPlan, article: StaticArticle, sensors: Record<number, SensorSpecification>): PlanView {
  const arm = predictArm(article, plan.loads, plan.deflectionAt)
  const maxTarget = plan.rungs.reduce((m, r) => Math.max(m, r.target), 0)
  const { energy, standoff } = energyAndStandoff({ kind: 'line', force: maxTarget, stiffness: 1 / arm.compliance })
  const predicted = (quantity: string, value: number): PredictedValue => ({ quantity, value, u: (plan.predictionBand * value) / 2 })
  return {
    ...schedule(plan, arm.compliance),
    commanded: { role: 'load', kind: 'force' },
    read: { role: 'deflection', kind: 'length' },
    designTarget: plan.designLoad,
    expectedSlope: arm.compliance,
    failure: { place: arm.failurePlace, mode: arm.failureMode },
    shape: Array.from({ length: 25 }, (_, i) => (article.length * i) / 24).map(x => ({ x, deflection: maxTarget * arm.deflectionPerForce(x) })),
    mass: arm.mass,
    maxTarget,
    channels: plan.channels.map(c => channelView(c, arm, maxTarget, sensors)),
    storedEnergy: energy,
    standoff,
    caution: cautionOf(energy, standoff, maxTarget > arm.failureLoad * (1 - plan.predictionBand)),
    curves: { loadDeflection: { x: [0, maxTarget * arm.compliance], y: [0, maxTarget] } },
    predictions: [predicted('stiffness', 1 / arm.compliance), predicted('deflectionAtDesign', plan.designLoad * arm.compliance), predicted('maxLoad', arm.failureLoad)],
  }
}

function schedule({ rungs, ramp }: StaticPlan, compliance: number): { rungs: RungView[]; duration: number } {
  let at = 0
  const views = rungs.map((rung, i): RungView => {
    if (i > 0) at += ramp
    const start = at
    at += rung.hold
    return { ...rung, isZero: rung.target === 0, start, expectedReading: rung.target * compliance }
  })
  return { rungs: views, duration: at }
}

function channelView(c: StaticPlan['channels'][number], arm: ArmPrediction, maxTarget: number, sensors: Record<number, SensorSpecification>): ChannelView {
  const perForce = c.kind === 'force' ? 1 : c.kind === 'strain' ? arm.strainPerForce(c.x ?? 0) : arm.compliance
  const expectedPeak = c.expected ?? maxTarget * perForce
  const base = { role: c.role, label: c.label, kind: c.kind, sensorId: c.sensorId, expectedPeak }
  const sensor = c.sensorId === null ? undefined : sensors[c.sensorId]
  if (!sensor) return { ...base, fullScale: null, utilisation: null, state: 'no-sensor', U: null }
  const { u, k } = combine(sensorBudget(sensor, expectedPeak))
  return { ...base, fullScale: sensor.fullScale, ...rangeState(expectedPeak, sensor.fullScale), U: u > 0 ? k * u : null }
}

const cautionOf = (energy: number, standoff: number, goesToFailure: boolean): string =>
  `${energy.toFixed(0)} J are stored in the bent article at the top rung${goesToFailure ? ', and the ladder goes to where it is expected to break' : ''}. ` +
  `Nobody within ${standoff.toFixed(0)} m until the load is off; tether loose pins and links. Follow your site’s rules, local codes and licensed practice; this is no substitute for them.`
