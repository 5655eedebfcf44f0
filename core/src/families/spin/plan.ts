import * as z from 'zod'
import type { ProposedFrom } from '../../family/contract'
import { omitUndefined } from '../../method/omitUndefined'
import { quantity } from '../../method/settings'
import type { Kind } from '../../quantity/index'
import { planSchema } from '../../plan/plan'
import { direct, type Planning } from '../../plan/planning'
import { quietStart } from '../../signal/quietStart'

const own = {
  armA: quantity('length', { title: 'Arm of torque cell A', positive: true }).optional(),
  armB: quantity('length', { title: 'Arm of torque cell B', positive: true }).optional(),
  diskArea: quantity('area', { title: 'Disk area', positive: true }).optional(),
  temperatureLimit: quantity('temperature', { title: 'Winding not above', positive: true }).optional(),
  powerLimit: quantity('power', { title: 'Electrical power not above', positive: true }).optional(),
}

export const spinPlan = planSchema(own, ['setpoints', 'direct'])
export type SpinPlan = z.output<typeof spinPlan>

const channel = (role: string, label: string, kind: 'force' | 'voltage' | 'current' | 'rotation') => ({
  role,
  label,
  kind,
})

export const spinPlanning: Planning<SpinPlan> = {
  loadings: ['setpoints', 'direct'],
  needed: [
    channel('thrust', 'Thrust', 'force'),
    channel('forceA', 'Torque cell A', 'force'),
    channel('forceB', 'Torque cell B', 'force'),
    channel('voltage', 'Voltage', 'voltage'),
    channel('current', 'Current', 'current'),
    channel('speed', 'Speed', 'rotation'),
  ],
  read: { role: 'thrust', kind: 'force' },
  readBy: { maxThrust: 'thrust' },
  own: z.object(own),
  begins: { direct: direct('rotation', 'Speed', 'speed', 200, 30) },
  // Each part by itself first: what was never tried alone is not tried first together.
  setUp: [
    {
      key: 'set-up:controller',
      text: 'Controller alone: powered, arms and disarms, stop works',
      why: 'A stop that was never tried is none.',
    },
    {
      key: 'set-up:motor',
      text: 'Motor alone, no rotor: turns the right way, current at idle noted',
      why: 'A motor that turns backward shows without its rotor.',
    },
    {
      key: 'set-up:rotor',
      text: 'Rotor alone: balanced, turned by hand, bolts marked',
      why: 'What is loose shows at the first set-point.',
    },
    {
      key: 'set-up:together',
      text: 'All together, lowest set-point: cells and speed read as they should',
      why: 'Parts that work alone may not work together.',
    },
  ],
}

export type Bench = {
  fullSpeed?: number
  fullThrust?: number
  fullPower?: number
  supplyVoltage?: number
  currentLimit?: number
}
export const benchOf = (plan: SpinPlan | null): Bench =>
  plan?.loading.kind === 'setpoints' ? (plan.loading.settings as Bench) : {}

/** Torque, powers and efficiency of a held set-point, as far as its channels say them. */
export function spinPointOf(
  means: Readonly<Record<string, number>>,
  { armA, armB }: Pick<SpinPlan, 'armA' | 'armB'>,
): { label: string; kind: Kind; value: number }[] {
  const { thrust, forceA, forceB, voltage, current, speed } = means
  const torque =
    armA === undefined || armB === undefined || forceA === undefined || forceB === undefined
      ? null
      : forceA * armA + forceB * armB
  const [electrical, shaft] = [
    voltage === undefined || current === undefined ? null : voltage * current,
    torque === null || speed === undefined ? null : torque * speed,
  ]
  const known = [
    ['Torque', 'torque', torque],
    ['Electrical power', 'power', electrical],
    ['Efficiency', 'ratio', shaft !== null && electrical ? shaft / electrical : null],
    ['Thrust a watt', 'thrustPerPower', thrust !== undefined && electrical ? thrust / electrical : null],
  ] as const
  return known.flatMap(([label, kind, value]) => (value === null ? [] : [{ label, kind, value }]))
}

/** Set-points are held within half a hundredth; a point counts the later part of its hold. */
const HELD = { within: 0.005, ofHold: 0.6, settling: 0.4, mostSettling: 5 }

/**
 * Arms, disk and limits as planned; zero from the rest; the next set-point is the planned one above the highest that
 * was reached.
 */
export function proposeSpin({ plan, table: { t, channels } }: ProposedFrom<SpinPlan>): Record<string, unknown> {
  const targets = (plan?.rungs ?? []).filter(r => r.target > 0)
  const shortest = Math.min(...targets.map(r => r.hold), 30)
  const minHold = Number((HELD.ofHold * shortest).toPrecision(3))
  const setpoint = channels['setpoint']
  const reached = setpoint ? setpoint.reduce((m, v) => Math.max(m, v), 0) : 0
  const next = targets
    .map(r => r.target)
    .filter(v => v > reached + 2 * HELD.within)
    .sort((a, b) => a - b)[0]
  const { currentLimit } = benchOf(plan)
  const limits = omitUndefined({
    current: currentLimit,
    temperature: plan?.temperatureLimit,
    electricalPower: plan?.powerLimit,
  })
  const zeroStart = setpoint ? quietStart(t, setpoint) : null
  const planned = { armA: plan?.armA, armB: plan?.armB, diskArea: plan?.diskArea, nextSetpoint: next }
  return {
    ...omitUndefined(planned),
    minHold,
    settle: Math.min(HELD.mostSettling, HELD.settling * minHold),
    holdTolerance: HELD.within,
    ...(Object.keys(limits).length > 0 ? { limits } : {}),
    ...(zeroStart ? { zeroStart } : {}),
  }
}
