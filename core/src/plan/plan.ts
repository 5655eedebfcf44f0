import { plainIssue } from '../method/plainIssue'
import * as z from 'zod'
import type { Kind } from '../quantity/index'
import { anyQuantity, issue, plain, quantity } from '../method/settings'
import { abortOutputsField } from './abortOutputs'
import { acquisitionField } from './acquisition'
import { camerasField } from './cameras'
import { channelSchema } from './channels'
import { examplesField } from './examples'
import { furtherHazards, hazardAnswers } from './hazards'
import { actuatorSchema, expandLadder, inWeights, readAs, rungSchema, type FurtherActuator } from './ladder'
import { LOADING_KINDS, loadings, type LoadingKind } from './loading/index'
import { openFieldsOf, type Commanded } from './loading/loading'
import type { PointLoad } from './model'
import { movementField } from './movement'
import { restraintField } from './restraint'
import { similitudeField } from './similar'
import { watchField } from './watch'

/** A loading as it is entered, checked by its own kind; `settings` are SI. */
export interface PlannedLoading {
  kind: LoadingKind
  settings: unknown
}

const loadingField = z.unknown().transform((raw, ctx): PlannedLoading => {
  const kind = (raw as { kind?: string } | null | undefined)?.kind as LoadingKind | undefined
  if (!kind || !LOADING_KINDS.includes(kind))
    return issue(ctx, 'missing-setting', 'Say how the load is brought in.', ['kind'])
  const parsed = loadings[kind].settings.safeParse(raw, { error: plainIssue })
  if (parsed.success) return { kind, settings: parsed.data }
  ctx.issues.push(...(parsed.error.issues as never[]))
  return z.NEVER
})

/** What counts as good at the rig. */
export const readyField = z
  .object({
    gaugeResistance: quantity('resistance', { title: 'Gauge resistance', positive: true }).default(350),
    resistanceTolerance: plain({ title: 'Resistance off at most', positive: true, max: 0.2 }).default(0.01),
    insulation: quantity('resistance', { title: 'Insulation at least', positive: true }).default(100e6),
    checkTolerance: plain({ title: 'Shunt or known load off at most', positive: true, max: 0.5 }).default(0.02),
    zeroTolerance: plain({ title: 'Zero off at most, share of the range', positive: true, max: 0.5 }).default(0.02),
    leak: quantity('sweepRate', { title: 'Leak at most, share an hour', positive: true }).default(0.02 / 3600),
  })
  .prefault({})
  .meta({ title: 'What counts as good at the rig' })

export const peopleField = z
  .array(
    z.object({ name: z.string().min(1).meta({ title: 'Name' }), task: z.string().default('').meta({ title: 'Does' }) }),
  )
  .default([])
  .meta({ title: 'People' })
export const permitsField = z
  .array(
    z.object({
      name: z.string().min(1).meta({ title: 'Permit' }),
      number: z.string().default('').meta({ title: 'Number' }),
      until: z
        .string()
        .regex(/^(\d{4}-\d{2}-\d{2})?$/, 'A date like 2026-12-24.')
        .default('')
        .meta({ title: 'Valid until' }),
    }),
  )
  .default([])
  .meta({ title: 'Permits' })
export const SIGN_ROLES = ['test-lead', 'safety', 'engineer', 'technician', 'reviewer'] as const
export const signOffField = z.array(z.enum(SIGN_ROLES)).default(['test-lead', 'safety'])
export const capacitiesField = z
  .object({
    actuator: anyQuantity({ title: 'Actuator', positive: true }).optional(),
    fixture: anyQuantity({ title: 'Fixture', positive: true }).optional(),
  })
  .prefault({})
  .meta({ title: 'Good for' })

/** What every plan holds, whatever is tested. A family adds numbers of its own. */
const common = {
  loading: loadingField,
  rungs: z.array(rungSchema).min(2, 'A ladder has at least two rungs.'),
  also: z.array(actuatorSchema).default([]),
  ramp: anyQuantity({ title: 'Between rungs', positive: true }).default({ si: 15, dimension: null, unit: null }),
  rate: quantity('frequency', { title: 'Sample rate', positive: true, max: 5e6 }).default(10),
  capacities: capacitiesField,
  /** Weight that a load of 1 g means, where loads are typed in g. */
  oneG: quantity('force', { title: '1 g means', positive: true }).optional(),
  channels: z.array(channelSchema),
  acquisition: acquisitionField,
  cameras: camerasField,
  movement: movementField,
  restraint: restraintField,
  similitude: similitudeField,
  watch: watchField,
  /** A guarded channel that gives no number for so long holds the ladder. */
  silence: quantity('time', { title: 'Watched channel silent for at most', positive: true, max: 600 }).default(1),
  onAbort: abortOutputsField,
  hazards: hazardAnswers,
  furtherHazards,
  examples: examplesField,
  people: peopleField,
  permits: permitsField,
  signOff: signOffField,
  ready: readyField,
}

type Common = z.output<z.ZodObject<typeof common>>

/** A plan in SI with its ladder written out. */
export type Plan = Omit<Common, 'rungs' | 'also' | 'capacities' | 'ramp'> & {
  rungs: ReturnType<typeof expandLadder>
  also: FurtherActuator[]
  commanded: Commanded
  capacities: { actuator?: number; fixture?: number }
  /** How the highest rung's load is shared along the span; empty where there is none. */
  loads: { x: number; share: number }[]
}

/**
 * Schema of a plan: what every plan holds, and a family's own numbers beside it. Its output is SI, with cycles written
 * out and targets read as what the loading commands.
 *
 * @param kinds  ways of loading that the kind of test knows
 * @param isSigned  places and angles lie on both sides of zero
 */
export function planSchema<Own extends z.ZodRawShape>(
  own: Own,
  kinds: readonly LoadingKind[],
  isSigned: (own: z.output<z.ZodObject<Own>>) => boolean = () => false,
) {
  return z.object({ ...common, ...own }).transform((written, ctx): Plan & z.output<z.ZodObject<Own>> => {
    const { rungs, also, ramp, capacities, ...rest } = written as unknown as Common & z.output<z.ZodObject<Own>>
    const { kind, settings } = rest.loading
    if (!kinds.includes(kind))
      return issue(
        ctx,
        'setting-range',
        `This kind of test is not loaded like that; it knows: ` +
          `${kinds.map(k => loadings[k].title.toLowerCase()).join(', ')}.`,
        ['loading', 'kind'],
      )
    const loading = loadings[kind]
    const commanded = loading.commanded(settings)
    const actuators = also.map((a, i): FurtherActuator => ({
      name: a.name,
      kind: a.kind,
      ...(a.capacity ? { capacity: orRefuse(readAs(a.kind)(a.capacity), ctx, ['also', i, 'capacity']) } : {}),
    }))
    const plainly = loading.readTarget?.(settings) ?? readAs(commanded.kind)
    const read = commanded.kind === 'force' ? inWeights(plainly, rest.oneG) : plainly
    const climbed = expandLadder(rungs, ramp, commanded.kind, read, actuators, ctx)
    if (climbed[0]?.target !== 0)
      issue(ctx, 'setting-range', 'The ladder begins with a zero rung, so that there is a zero to take off.', [
        'rungs',
        0,
        'target',
      ])
    if (!climbed.some(r => r.target !== 0 || r.also.some(a => a !== 0)))
      issue(ctx, 'setting-range', 'The ladder has no loaded rung.', ['rungs'])
    if (climbed.some(r => r.target < 0) && !isSigned(rest as unknown as z.output<z.ZodObject<Own>>))
      issue(ctx, 'setting-range', 'A target is not below zero.', [
        'rungs',
        climbed.find(r => r.target < 0)!.source,
        'target',
      ])
    const good = Object.fromEntries(
      Object.entries(capacities).flatMap(([k, v]) => (v ? [[k, orRefuse(read(v), ctx, ['capacities', k])]] : [])),
    ) as Plan['capacities']
    const loads =
      ctx.issues.length > 0 || !loading.place || openFieldsOf(loading, settings).length > 0
        ? []
        : sharesOf(
            loading.place(
              settings,
              climbed.map(r => r.target),
            )[topOf(climbed)]!,
          )
    return {
      ...(rest as Omit<Common, 'rungs' | 'also' | 'capacities' | 'ramp'> & z.output<z.ZodObject<Own>>),
      rungs: climbed,
      also: actuators,
      commanded,
      capacities: good,
      loads,
    }
  })
}

function orRefuse(read: number | string, ctx: z.core.$RefinementCtx, path: PropertyKey[]): number {
  return typeof read === 'string' ? issue(ctx, 'unit-dimension', read, path) : read
}

/** Index of the highest rung. */
export const topOf = (rungs: readonly { target: number }[]): number =>
  rungs.reduce((top, r, i) => (r.target > rungs[top]!.target ? i : top), 0)

function sharesOf(loads: readonly PointLoad[]): { x: number; share: number }[] {
  const total = loads.reduce((s, l) => s + l.force, 0)
  return total === 0 ? [] : loads.map(l => ({ x: l.x, share: l.force / total }))
}

/** A channel that a kind of test cannot do without. */
export interface NeededChannel {
  role: string
  label: string
  kind: Kind
}
