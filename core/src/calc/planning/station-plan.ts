import * as z from 'zod'
import { HypometError } from '../../error'
import { defineCalc } from '../../method/calculation'
import { issue, quantity } from '../../method/settings'
import { exact, tableOf } from '../answer'
import { checkRising, loadBetween, stationFields } from './distribution'

export const stationPlanFields = {
  stations: z.array(z.object(stationFields)).min(2).meta({ title: 'Target load' }),
  positions: z.array(quantity('length')).min(1).meta({ title: 'Actuator stations' }),
  cylinderArea: quantity('area', { title: 'Cylinder area', positive: true }).optional(),
}

/** Stations follow one another and lie on the span. */
export function checkStations(s: { stations: { y: number }[]; positions: number[] }, ctx: z.core.$RefinementCtx): void {
  checkRising(s.stations, ctx, 'stations')
  const [from, to] = [s.stations[0]!.y, s.stations.at(-1)!.y]
  s.positions.forEach((p, i) => {
    if (p < from || p > to) issue(ctx, 'setting-range', 'This station lies beyond the loaded span.', ['positions', i])
    else if (i > 0 && !(p > s.positions[i - 1]!))
      issue(ctx, 'setting-range', 'Actuator stations must follow one another.', ['positions', i])
  })
}

const settings = z
  .object({
    ...stationPlanFields,
    linkLength: quantity('length', { title: 'Length of a link', positive: true }).optional(),
    movements: z.array(quantity('length')).optional().meta({ title: 'Movement at each station' }),
  })
  .superRefine((s, ctx) => {
    checkStations(s, ctx)
    if ((s.linkLength === undefined) !== (s.movements === undefined))
      issue(ctx, 'missing-setting', 'The length of the links and the movements go together.', [
        s.linkLength === undefined ? 'linkLength' : 'movements',
      ])
    if (s.movements && s.movements.length !== s.positions.length)
      issue(ctx, 'setting-range', 'There is one movement for each station.', ['movements'])
    s.movements?.forEach((m, i) => {
      if (s.linkLength && Math.abs(m) > s.linkLength)
        issue(ctx, 'setting-range', 'A station cannot move further than its link is long.', ['movements', i])
    })
  })

export type StationSettings = z.output<typeof settings>

interface Node {
  name: string
  force: number
  position: number
}

/** Beams that join neighbours level by level until one is left; an odd last one is passed up. */
function leverTree(
  stations: Node[],
): { level: number; left: string; right: string; force: number; position: number; leverRatio: number }[] {
  const beams = []
  for (let level = 1, nodes = stations; nodes.length > 1; level++) {
    const next: Node[] = []
    for (let i = 0; i < nodes.length; i += 2) {
      const [left, right] = [nodes[i]!, nodes[i + 1]]
      if (!right) {
        next.push(left)
        continue
      }
      const force = left.force + right.force
      const position = (left.force * left.position + right.force * right.position) / force
      beams.push({ level, left: left.name, right: right.name, force, position, leverRatio: right.force / left.force })
      next.push({ name: `B${beams.length}`, force, position })
    }
    nodes = next
  }
  return beams
}

/**
 * A distributed load brought in at a few stations: tributary loads, tilted so that total and moment are those of the
 * target, with a tree of beams to one actuator, cylinder pressures, and what is lost when the article moves.
 */
export function planStations({ stations, positions, cylinderArea, linkLength, movements }: StationSettings) {
  const [from, to] = [stations[0]!.y, stations.at(-1)!.y]
  const whole = loadBetween(stations, from, to)
  const edge = (i: number) => (i === 0 ? from : i === positions.length ? to : (positions[i - 1]! + positions[i]!) / 2)
  const tributary = positions.map((position, i) => ({
    position,
    length: edge(i + 1) - edge(i),
    load: loadBetween(stations, edge(i), edge(i + 1)).force,
  }))
  const sum = (power: number) => tributary.reduce((s, t) => s + t.load * t.position ** power, 0)
  const [s0, s1, s2] = [sum(0), sum(1), sum(2)]
  // Σ T(a + b·y) = W and Σ T(a + b·y)·y = M; one station alone can only carry the total.
  const determinant = s0 * s2 - s1 * s1
  const alone = positions.length === 1
  if (s0 === 0 || (!alone && !(Math.abs(determinant) > 1e-12 * Math.abs(s0 * s2))))
    throw new HypometError('data-range', 'These stations cannot make the target’s total and moment.', {
      path: 'settings.positions',
    })
  const a = alone ? 1 : (whole.force * s2 - whole.moment * s1) / determinant
  const b = alone ? 0 : (s0 * whole.moment - s1 * whole.force) / determinant
  const rows = tributary.map((t, i) => {
    const force = t.load * (a + b * t.position)
    const sine = movements ? movements[i]! / linkLength! : 0
    return {
      position: t.position,
      tributaryLength: t.length,
      tributaryLoad: t.load,
      force,
      ...(cylinderArea ? { pressure: force / cylinderArea } : {}),
      ...(movements ? { angleLoss: 1 - Math.sqrt(1 - sine * sine), sideForce: force * sine } : {}),
    }
  })
  return {
    results: { totalForce: exact(whole.force, 'N'), loadCentre: exact(whole.moment / whole.force, 'm') },
    tables: {
      stations: tableOf(rows, {
        position: 'm',
        tributaryLength: 'm',
        tributaryLoad: 'N',
        force: 'N',
        ...(cylinderArea ? { pressure: 'Pa' } : {}),
        ...(movements ? { angleLoss: '1', sideForce: 'N' } : {}),
      }),
      tree: tableOf(leverTree(rows.map((r, i) => ({ name: `S${i + 1}`, force: r.force, position: r.position }))), {
        level: '1',
        left: '1',
        right: '1',
        force: 'N',
        position: 'm',
        leverRatio: '1',
      }),
    },
    warnings: [],
  }
}

export const stationPlan = defineCalc({
  id: 'station-plan',
  title: 'Station plan',
  purpose: 'A distributed load at a few stations: forces, lever tree, pressures, side force',
  version: '1.0.0',
  settings,
  example: {
    stations: [
      { y: 0, load: 2200 },
      { y: 6, load: 880 },
    ],
    positions: [0.7, 2, 3.4, 5],
    cylinderArea: { value: 12.6, unit: 'cm²' },
    linkLength: 0.8,
    movements: [0.01, 0.05, 0.13, 0.25],
  },
  calculate: planStations,
})
