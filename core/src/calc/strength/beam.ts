import * as z from 'zod'
import { defineCalc } from '../../method/calculation'
import { oneOrList, quantity } from '../../method/settings'
import type { Result, ResultTable } from '../../method/reduction'
import { solveBeam, type Beam, type BeamState } from './beam-solve'

const at = quantity('length', { min: 0 })

const stiffness = oneOrList(
  quantity('bendingStiffness', { positive: true }),
  z.array(z.object({ to: at, value: quantity('bendingStiffness', { positive: true }) })).min(1),
)

const settings = z
  .object({
    support: z.enum(['cantilever', 'simple']),
    length: quantity('length', { title: 'Length', positive: true }),
    bendingStiffness: stiffness
      .transform(s => (Array.isArray(s) ? s : [{ to: Infinity, value: s }]))
      .meta({ title: 'Bending stiffness', kind: 'bendingStiffness' }),
    distributed: z
      .array(z.object({ from: at, to: at, q0: quantity('loadPerLength'), q1: quantity('loadPerLength') }))
      .default([])
      .meta({ title: 'Distributed loads' }),
    points: z
      .array(z.object({ x: at, force: quantity('force') }))
      .default([])
      .meta({ title: 'Point loads' }),
    fibre: quantity('length', { title: 'Fibre distance', positive: true }).optional(),
    at: z.array(at).optional().meta({ title: 'Stations' }),
  })
  .superRefine((s, ctx) => {
    const beyond = (x: number) => x > s.length * (1 + 1e-12)
    const refuse = (path: PropertyKey[], what: string) =>
      ctx.addIssue({ code: 'custom', path, message: what, params: { code: 'setting-range' } })
    s.points.forEach(
      (p, i) => beyond(p.x) && refuse(['points', i, 'x'], 'The point load lies beyond the end of the beam.'),
    )
    s.distributed.forEach((d, i) => {
      if (beyond(d.to)) refuse(['distributed', i, 'to'], 'The load reaches beyond the end of the beam.')
      if (d.to <= d.from) refuse(['distributed', i, 'to'], 'The load must end after it begins.')
    })
    s.at?.forEach((x, i) => beyond(x) && refuse(['at', i], 'The station lies beyond the end of the beam.'))
    s.bendingStiffness.forEach(
      (p, i) =>
        i > 0 &&
        p.to <= s.bendingStiffness[i - 1]!.to &&
        refuse(['bendingStiffness', i, 'to'], 'Pieces must follow one another.'),
    )
    if (s.bendingStiffness.at(-1)!.to < s.length * (1 - 1e-12))
      refuse(['bendingStiffness'], 'The pieces end before the beam does.')
  })

/**
 * Beam by Euler and Bernoulli with piecewise constant bending stiffness, integrated exactly piece by piece.
 * Loads and deflections are positive the same way; a cantilever is fixed at x = 0.
 *
 * @source Timoshenko & Gere, Mechanics of Materials, ch. 4, 5 and 9
 * @example uniform cantilever: tip deflection q·L⁴/(8·EI)
 */
export const beam = defineCalc({
  id: 'beam',
  title: 'Beam',
  purpose: 'Shear, moment, slope, deflection and strain of a cantilever or simple beam',
  version: '1.0.0',
  settings,
  example: {
    support: 'cantilever',
    length: { value: 2.1, unit: 'm' },
    bendingStiffness: { value: 42, unit: 'kN·m²' },
    points: [{ x: { value: 1.9, unit: 'm' }, force: { value: 1.2, unit: 'kN' } }],
    fibre: { value: 60, unit: 'mm' },
    at: [0, 0.15, 0.3, 0.45, 0.6, 0.75, 0.9, 1.05, 1.2, 1.35, 1.5, 1.65, 1.8, 1.95, 2.1],
  },
  calculate(s) {
    const solved = solveBeam(s satisfies Beam)
    const value = (value: number, unit: string): Result => ({ value, unit, bound: 'exact' })
    const results: Record<string, Result> = {
      maxDeflection: value(solved.maxDeflection, 'm'),
      maxMoment: value(solved.maxMoment, 'N·m'),
    }
    if (s.support === 'cantilever') {
      const root = solved.at(0)
      results['tipDeflection'] = value(solved.at(s.length).deflection, 'm')
      results['rootMoment'] = value(root.moment, 'N·m')
      results['rootShear'] = value(solved.start, 'N')
    } else {
      results['reactionStart'] = value(solved.start, 'N')
      results['reactionEnd'] = value(solved.end, 'N')
    }
    if (s.fibre !== undefined) results['maxStrain'] = value(solved.maxCurvature * s.fibre, '1')
    const tables: Record<string, ResultTable> = {}
    if (s.at)
      tables['stations'] = stationTable(
        s.at.map(x => solved.at(x)),
        s.fibre,
      )
    return { results, tables, warnings: [] }
  },
})

function stationTable(states: BeamState[], fibre: number | undefined): ResultTable {
  const table: ResultTable = {
    columns: {
      x: states.map(s => s.x),
      shear: states.map(s => s.shear),
      moment: states.map(s => s.moment),
      slope: states.map(s => s.slope),
      deflection: states.map(s => s.deflection),
    },
    units: { x: 'm', shear: 'N', moment: 'N·m', slope: '1', deflection: 'm' },
  }
  if (fibre !== undefined) {
    table.columns['strain'] = states.map(s => s.curvature * fibre)
    table.units['strain'] = '1'
  }
  return table
}
