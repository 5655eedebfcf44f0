import * as z from 'zod'
import { STANDARD_GRAVITY } from '../../quantity/index'
import { defineCalc } from '../../method/calculation'
import { HypometError } from '../../error'
import { plain, quantity } from '../../method/settings'
import { exact, tableOf } from '../answer'
import { checkRising, loadBetween, stationFields, valueAt } from './distribution'

export const bagFields = {
  stations: z
    .array(z.object({ ...stationFields, chordCentre: quantity('length', { title: 'Chord’s centre' }).default(0) }))
    .min(2)
    .meta({ title: 'Target load' }),
  bagMass: quantity('mass', { title: 'Mass of a bag', positive: true }),
  rows: plain({ title: 'Rows', min: 1, max: 1000, whole: true }),
  first: z.enum(['tip', 'root']).default('tip').meta({ title: 'Laid from' }),
  axis: quantity('length', { title: 'Axis of twist' }).default(0),
}

const settings = z
  .object({
    ...bagFields,
    supportRungs: z
      .array(plain({ whole: true, min: 1 }))
      .default([])
      .meta({ title: 'Rungs with support' }),
  })
  .superRefine((s, ctx) => checkRising(s.stations, ctx, 'stations'))

export type BagSettings = z.output<typeof settings>

/** Whole bags by largest remainder, so that their number is exact; ties go nearer to the root. */
export function shareOut(targets: readonly number[], total: number): number[] {
  const whole = targets.reduce((s, t) => s + t, 0)
  const quotas = targets.map(t => (total * t) / whole)
  const bags = quotas.map(Math.floor)
  const order = quotas.map((q, i) => ({ i, rest: q - bags[i]! })).sort((a, b) => b.rest - a.rest || a.i - b.i)
  for (const { i } of order.slice(0, total - bags.reduce((s, b) => s + b, 0))) bags[i]!++
  return bags
}

/**
 * Bags on a span: how many in each row, in which order, and what shear, bending and twist they make at the root rung by
 * rung, beside the target. Rows are of equal width; the target runs straight between stations.
 *
 * @throws HypometError `data-range` when the target is not above zero everywhere it must be
 */
export function layBags({ stations, bagMass, rows, first, axis, supportRungs }: BagSettings) {
  const [from, to] = [stations[0]!.y, stations.at(-1)!.y]
  const width = (to - from) / rows
  const whole = loadBetween(stations, from, to)
  const bagWeight = bagMass * STANDARD_GRAVITY
  const edges = Array.from({ length: rows + 1 }, (_, i) => from + i * width)
  const targets = Array.from({ length: rows }, (_, i) => loadBetween(stations, edges[i]!, edges[i + 1]!).force)
  if (!(whole.force > 0) || targets.some(t => t < 0))
    throw new HypometError('data-range', 'The target must press down in every row for bags to make it.', {
      path: 'settings.stations',
    })
  const total = Math.floor(whole.force / bagWeight + 0.5)
  const bags = shareOut(targets, total)
  const centre = (row: number) => from + (row + 0.5) * width
  const order = Array.from({ length: rows }, (_, i) => (first === 'tip' ? rows - 1 - i : i))
  let [shear, bending, torsion] = [0, 0, 0]
  const rungs = order.map((row, i) => {
    const weight = bags[row]! * bagWeight
    shear += weight
    bending += weight * (centre(row) - from)
    torsion += weight * (valueAt(stations, k => stations[k]!.chordCentre, centre(row)) - axis)
    return {
      rung: i + 1,
      row: row + 1,
      bags: bags[row]!,
      shear,
      bending,
      torsion,
      support: supportRungs.includes(i + 1) ? 1 : 0,
    }
  })
  // Bags spread evenly over their row, as a load that runs straight from edge to edge.
  const beyond = (y: number) =>
    bags.reduce(
      (sum, n, i) => {
        const [a, b] = [Math.max(y, edges[i]!), edges[i + 1]!]
        const part = b > a ? (n * bagWeight * (b - a)) / width : 0
        return { shear: sum.shear + part, bending: sum.bending + part * ((a + b) / 2 - y) }
      },
      { shear: 0, bending: 0 },
    )
  const deviation = stations.map(({ y }) => {
    const [laid, wanted] = [beyond(y), loadBetween(stations, y, to)]
    return {
      y,
      shearDeviation: laid.shear - wanted.force,
      bendingDeviation: laid.bending - (wanted.moment - y * wanted.force),
    }
  })
  return {
    results: {
      bags: exact(total, '1'),
      massToFetch: exact(total * bagMass, 'kg'),
      loadError: exact((total * bagWeight) / whole.force - 1, '1'),
      rootShear: exact(shear, 'N'),
      rootBending: exact(bending, 'N·m'),
      rootTorsion: exact(torsion, 'N·m'),
    },
    tables: {
      rows: tableOf(
        targets.map((target, i) => ({ row: i + 1, y: centre(i), target, bags: bags[i]! })),
        { row: '1', y: 'm', target: 'N', bags: '1' },
      ),
      rungs: tableOf(rungs, {
        rung: '1',
        row: '1',
        bags: '1',
        shear: 'N',
        bending: 'N·m',
        torsion: 'N·m',
        support: '1',
      }),
      deviation: tableOf(deviation, { y: 'm', shearDeviation: 'N', bendingDeviation: 'N·m' }),
    },
    warnings: [],
  }
}

export const bagPlan = defineCalc({
  id: 'bag-plan',
  title: 'Bag plan',
  purpose: 'Bags in rows on a span: order, shear, bending and twist at each rung',
  version: '1.0.0',
  settings,
  example: {
    stations: [
      { y: 0, load: 420 },
      { y: 1.6, load: 366 },
      { y: 3.2, load: 83 },
    ],
    bagMass: { value: 2.5, unit: 'kg' },
    rows: 8,
    supportRungs: [8],
  },
  calculate: layBags,
})
