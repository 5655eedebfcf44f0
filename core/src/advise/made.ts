import * as z from 'zod'
import { HypometError, isHypometError } from '../error'
import { plain, readQuantity, type QuantityInput } from '../method/settings'
import type { Kind } from '../quantity/index'
import type { Made } from './model'

/** What can be bought or made of one size, as somebody entered it. */
const entry = z.object({
  step: z.custom<QuantityInput>().optional(),
  /** Stock sizes, one after another. */
  sizes: z.array(z.custom<QuantityInput>()).optional(),
  lowest: z.custom<QuantityInput>().optional(),
  highest: z.custom<QuantityInput>().optional(),
  leadTimeDays: z.number().min(0).optional(),
  cost: z.number().min(0).optional(),
})

/** Rules of sizing: how much room is wanted, what may not get worse, and what can be had. */
export const sizingRules = z.object({
  wantedMargin: plain({ title: 'Wanted margin', min: 0, max: 2 }).default(0.02),
  /** Results that a change may not make worse. */
  keep: z.array(z.string()).default([]),
  made: z.record(z.string(), entry).default({}),
  /** How results of one’s own move: with which other result or size, and with which power of it. */
  own: z
    .record(
      z.string(),
      z.object({
        goesWith: z.string().min(1),
        power: plain({ title: 'Power', min: -6, max: 6 }).default(1),
        doubt: plain({ title: '±', min: 0, max: 3 }).default(0),
      }),
    )
    .default({}),
})

export type SizingRules = z.output<typeof sizingRules>
export type SizingRulesInput = z.input<typeof sizingRules>

export interface MadeOf extends Made {
  lowest?: number
  highest?: number
  leadTimeDays: number
  cost: number | null
}

/**
 * What the rules say of one size, SI.
 *
 * @throws HypometError `setting-type`, `unit-dimension` at `made.<key>.<field>`
 */
export function madeOf(rules: SizingRules, key: string, kind: Kind, usual: Made & { lowest?: number } = {}): MadeOf {
  const said = rules.made[key] ?? {}
  const read = (raw: QuantityInput | undefined, field: string): number | undefined => {
    if (raw === undefined) return undefined
    try {
      const si = readQuantity(raw, kind)
      if (!(si > 0)) throw new HypometError('setting-range', 'This must be above zero.')
      return si
    } catch (e) {
      if (!isHypometError(e)) throw e
      throw new HypometError(e.code, e.message, { path: `made.${key}.${field}` })
    }
  }
  const step = read(said.step, 'step') ?? usual.step
  const sizes = said.sizes?.map((s, i) => read(s, `sizes.${i}`)!).toSorted((a, b) => a - b)
  const lowest = read(said.lowest, 'lowest') ?? usual.lowest
  const highest = read(said.highest, 'highest')
  if (lowest !== undefined && highest !== undefined && lowest > highest)
    throw new HypometError('setting-range', 'The smallest must not be above the largest.', {
      path: `made.${key}.lowest`,
    })
  return {
    ...(sizes && sizes.length > 0 ? { sizes } : step === undefined ? {} : { step }),
    ...(lowest === undefined ? {} : { lowest }),
    ...(highest === undefined ? {} : { highest }),
    leadTimeDays: said.leadTimeDays ?? 0,
    cost: said.cost ?? null,
  }
}

/** Sizes that can be had around an exact one, nearest first on either side: `count` below and as many above. */
export function sizesAround({ step, sizes }: Made, exact: number, count: number): number[] {
  if (sizes) {
    const above = sizes.findIndex(s => s >= exact * (1 - 1e-9))
    const at = above < 0 ? sizes.length : above
    return sizes.slice(Math.max(0, at - count), at + count)
  }
  if (step === undefined) return [exact]
  const n = Math.ceil(exact / step - 1e-9)
  return Array.from({ length: 2 * count }, (_, i) => (n - count + i) * step).filter(s => s > 0)
}
