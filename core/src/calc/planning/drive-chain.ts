import normalCdf from '@stdlib/stats-base-dists-normal-cdf'
import * as z from 'zod'
import { defineCalc } from '../../method/calculation'
import { plain, quantity } from '../../method/settings'
import { gaussLegendre } from '../../statistics/gaussLegendre'
import { exact, tableOf } from '../answer'

const settings = z.object({
  components: z
    .array(
      z.object({
        name: z.string().meta({ title: 'Component' }),
        capacity: quantity('torque', { title: 'Capacity, own shaft', positive: true }),
        ratio: plain({ title: 'Own torque over input', positive: true }),
        cov: plain({ title: 'Coefficient of variation', positive: true, max: 1 }),
        article: z.boolean().default(false).meta({ title: 'Article' }),
      }),
    )
    .min(1)
    .meta({ title: 'Load path' }),
})

interface Strength {
  mean: number
  sd: number
}
/** Standard deviations to either side over which a strength is integrated, and over which another one turns. */
const SPAN = 10
const TURN = 8
const { nodes, weights } = gaussLegendre(16)

/**
 * Chance that a strength is the lowest of all: ∫ f·∏(1 − F of the others), normal strengths. Pieces end where another
 * strength turns, however narrow: within a piece everything is smooth on its own scale.
 */
function probabilityFirst(i: number, strengths: readonly Strength[]): number {
  const { mean, sd } = strengths[i]!
  const [from, to] = [mean - SPAN * sd, mean + SPAN * sd]
  const others = strengths.filter((_, j) => j !== i)
  const ends = [...new Set([from, to, ...strengths.flatMap(turns)])]
    .filter(x => x >= from && x <= to)
    .sort((a, b) => a - b)
  let sum = 0
  for (let p = 1; p < ends.length; p++) {
    const [middle, half] = [(ends[p]! + ends[p - 1]!) / 2, (ends[p]! - ends[p - 1]!) / 2]
    for (let k = 0; k < nodes.length; k++) {
      const x = middle + half * nodes[k]!
      const u = (x - mean) / sd
      const survival = others.reduce((s, o) => s * normalCdf((o.mean - x) / o.sd, 0, 1), 1)
      sum += (weights[k]! * half * survival * Math.exp((-u * u) / 2)) / (sd * Math.sqrt(2 * Math.PI))
    }
  }
  return sum
}
const turns = ({ mean, sd }: Strength): number[] =>
  Array.from({ length: 2 * TURN + 1 }, (_, k) => mean + (k - TURN) * sd)

/**
 * A load path's capacities at its input, which of its parts fails first and how likely, and what must be stronger so
 * that
 * the article is what breaks.
 */
export function planChain({ components }: z.output<typeof settings>) {
  const strengths = components.map(c => ({ mean: c.capacity / c.ratio, sd: (c.cov * c.capacity) / c.ratio }))
  const lowest = (article: boolean) =>
    components.reduce<number | null>(
      (low, c, i) => (c.article === article && (low === null || strengths[i]!.mean < low) ? strengths[i]!.mean : low),
      null,
    )
  const [articleCapacity, rigCapacity] = [lowest(true), lowest(false)]
  const rows = components
    .map((c, i) => ({
      name: c.name,
      article: c.article,
      capacityAtInput: strengths[i]!.mean,
      probabilityFirst: probabilityFirst(i, strengths),
      strengthen: !c.article && articleCapacity !== null && strengths[i]!.mean <= articleCapacity ? 1 : 0,
    }))
    .sort((a, b) => a.capacityAtInput - b.capacityAtInput)
  const weak = rows.filter(r => r.strengthen === 1).map(r => r.name)
  return {
    results: {
      articleCapacity: exact(articleCapacity, 'N·m'),
      rigCapacity: exact(rigCapacity, 'N·m'),
      rigMargin: exact(
        articleCapacity === null || rigCapacity === null ? null : rigCapacity / articleCapacity - 1,
        '1',
      ),
      probabilityArticleFirst: exact(
        rows.filter(r => r.article).reduce((s, r) => s + r.probabilityFirst, 0),
        '1',
      ),
    },
    tables: {
      components: tableOf(
        rows.map(({ article: _, ...r }) => r),
        { name: '1', capacityAtInput: 'N·m', probabilityFirst: '1', strengthen: '1' },
      ),
    },
    warnings:
      weak.length > 0
        ? [{ code: 'rig-weaker', message: `The rig is weaker than the article: ${weak.join(', ')}.` }]
        : [],
  }
}

export const driveChain = defineCalc({
  id: 'drive-chain',
  title: 'Drive chain',
  purpose: 'Which part of a load path fails first, and what must be stronger',
  version: '1.1.0',
  settings,
  example: {
    components: [
      { name: 'half shaft', capacity: 2100, ratio: 3.4, cov: 0.06, article: true },
      { name: 'input pin', capacity: 700, ratio: 1, cov: 0.08 },
      { name: 'rig coupling', capacity: 5200, ratio: 3.4, cov: 0.04 },
    ],
  },
  calculate: planChain,
})
