import * as z from 'zod'
import { sameDimension, siUnit, STANDARD_GRAVITY, type Kind } from '../quantity/index'
import { KINDS } from '../quantity/kinds'
import { anyQuantity, issue, plain, quantity, type AnyQuantity } from '../method/settings'

/** Support under the article: taken out at this rung, or put back. */
export const SUPPORT_MOVES = ['in', 'out'] as const

export const rungSchema = z.object({
  target: anyQuantity({ title: 'Target' }),
  /** Of the further actuators, in their order. */
  also: z.array(anyQuantity()).optional(),
  hold: quantity('time', { title: 'Hold', positive: true }),
  /** How it gets there: a time, or a rate like 0.5 kN/min; else as the ladder says. */
  ramp: anyQuantity({ title: 'Getting there', positive: true }).optional(),
  /** Loaded so many times, back to zero between. */
  cycles: plain({ title: 'Times', whole: true, min: 1, max: 1000 }).default(1),
  /** Look before going on: somebody says go. */
  decision: z.boolean().default(false),
  support: z.enum(SUPPORT_MOVES).optional(),
  note: z.string().default(''),
})

export type WrittenRung = z.input<typeof rungSchema>
type ParsedRung = z.output<typeof rungSchema>

/** A further actuator that the ladder commands beside the main one. */
export const actuatorSchema = z.object({
  name: z.string().min(1, 'An actuator needs a name.').meta({ title: 'Actuator' }),
  kind: z.enum(Object.keys(KINDS) as [Kind, ...Kind[]]).meta({ title: 'Commands' }),
  capacity: anyQuantity({ title: 'Capacity' }).optional(),
})

export interface FurtherActuator {
  name: string
  kind: Kind
  capacity?: number
}

/** A rung as it will be climbed, SI: cycles are written out, and `source` is the rung that was entered. */
export interface LadderRung {
  target: number
  also: number[]
  hold: number
  /** s from the rung before, or from rest. */
  ramp: number
  source: number
  /** Which of how many. */
  cycle: number
  cycles: number
  decision: boolean
  support: 'in' | 'out' | null
  note: string
}

/**
 * What turns a typed target into SI of what is commanded: other quantities may stand for it, as a pressure does for a
 * load.
 */
export type ReadTarget = (q: AnyQuantity) => number | string

/**
 * A quantity of a kind, or a plain number in its SI unit.
 *
 * @returns SI, or what is wrong in words
 */
export function readAs(kind: Kind): ReadTarget {
  return ({ si, dimension }) =>
    dimension === null || sameDimension(dimension, KINDS[kind].dimension)
      ? si
      : `This must be in a unit like ${siUnit(kind)}.`
}

/**
 * A force may be written as so many times a weight: “9 g”.
 *
 * @param oneG  N that 1 g means; undefined where the plan does not say
 */
export function inWeights(read: ReadTarget, oneG: number | undefined): ReadTarget {
  return q => {
    if (q.dimension === null || !sameDimension(q.dimension, KINDS.acceleration.dimension)) return read(q)
    return oneG === undefined
      ? 'A load in g needs the weight that 1 g means: type it under “1 g means”, in Loading.'
      : (q.si / STANDARD_GRAVITY) * oneG
  }
}

/**
 * Entered rungs as they will be climbed. A rung of n cycles is climbed n times with the hold of the first rung at zero
 * between. Times of approach come from the rung, else from the ladder, and are at least a second.
 *
 * @throws through `ctx`: `unit-dimension` at the rung's target, further targets or ramp
 */
export function expandLadder(
  rungs: readonly ParsedRung[],
  ramp: AnyQuantity,
  commanded: Kind,
  read: ReadTarget,
  also: readonly FurtherActuator[],
  ctx: z.core.$RefinementCtx,
): LadderRung[] {
  const refuse = (path: PropertyKey[], message: string) => void issue(ctx, 'unit-dimension', message, path)
  const targets = rungs.map((r, i) => {
    const main = read(r.target)
    if (typeof main === 'string') refuse(['rungs', i, 'target'], main)
    const others = also.map((a, k) => {
      const q = r.also?.[k]
      const value = q === undefined ? 0 : readAs(a.kind)(q)
      if (typeof value === 'string') refuse(['rungs', i, 'also', k], value)
      return typeof value === 'string' ? 0 : value
    })
    return { main: typeof main === 'string' ? 0 : main, others }
  })
  const zeroHold = rungs[0]?.hold ?? 10
  const climbed: LadderRung[] = []
  let at = 0
  const climb = (r: ParsedRung, i: number, target: number, others: number[], more: Partial<LadderRung>) => {
    const step = Math.abs(target - at)
    at = target
    const time = timeOf(r.ramp ?? ramp, step, commanded)
    if (typeof time === 'string') refuse(r.ramp ? ['rungs', i, 'ramp'] : ['ramp'], time)
    climbed.push({
      target,
      also: others,
      hold: r.hold,
      ramp: typeof time === 'string' ? 1 : time,
      source: i,
      cycle: 1,
      cycles: r.cycles,
      decision: r.decision,
      support: r.support ?? null,
      note: r.note,
      ...more,
    })
  }
  rungs.forEach((r, i) => {
    const { main, others } = targets[i]!
    for (let c = 1; c <= r.cycles; c++) {
      climb(r, i, main, others, {
        cycle: c,
        decision: r.decision && c === 1,
        support: c === 1 ? (r.support ?? null) : null,
      })
      if (c < r.cycles)
        climb(
          r,
          i,
          0,
          others.map(() => 0),
          { cycle: c, hold: zeroHold, decision: false, support: null, note: '' },
        )
    }
  })
  return climbed
}

/** Seconds that a step takes at what was typed: a time, or a rate of what is commanded. */
function timeOf({ si, dimension }: AnyQuantity, step: number, commanded: Kind): number | string {
  if (dimension === null || sameDimension(dimension, KINDS.time.dimension)) return si
  const rate = KINDS[commanded].dimension.map((n, i) => n - KINDS.time.dimension[i]!)
  return sameDimension(dimension, rate as never)
    ? Math.max(1, step / si)
    : `This must be a time, or a rate in ${siUnit(commanded)}/s.`
}

/**
 * The next rung that puts load on, beyond zeros and steps down; undefined where nothing more goes on.
 *
 * @param isGoing  the load is on its way to `rung` itself
 * @example nextLoading([{ target: 0 }, { target: 5 }, { target: 0 }, { target: 8 }], 1) // { target: 8 }
 */
export const nextLoading = <R extends { target: number }>(
  rungs: readonly R[],
  rung: number,
  isGoing = false,
): R | undefined => rungs.find((r, i) => i >= (isGoing ? rung : rung + 1) && r.target > (rungs[i - 1]?.target ?? 0))
