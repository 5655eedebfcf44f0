import * as z from 'zod'
import { HypometError } from '../../error'
import { defineCalc } from '../../method/calculation'
import { quantity } from '../../method/settings'
import { exact, given, tableOf, tablesOf } from '../answer'

const length = quantity('length')
const inertia = quantity('inertia')
const item = z.object({
  name: z.string().meta({ title: 'Item' }),
  mass: quantity('mass', { title: 'Mass', positive: true }),
  position: z.tuple([length, length, length]).meta({ title: 'Position x, y, z' }),
  inertia: z
    .tuple([inertia, inertia, inertia, inertia, inertia, inertia])
    .optional()
    .meta({ title: 'Own inertia xx, yy, zz, xy, xz, yz' }),
})
const settings = z.object({
  items: z.array(item).min(1).meta({ title: 'Items' }),
  simulators: z.array(item).optional().meta({ title: 'Mass simulators' }),
})
type Item = z.output<typeof item>

const AXES = ['ixx', 'iyy', 'izz', 'ixy', 'ixz', 'iyz'] as const

/**
 * Mass, centre, and inertia about that centre; products of inertia are +∫xy dm.
 *
 * @source parallel-axis theorem, Goldstein, Classical Mechanics, ch. 5
 */
function total(items: readonly Item[]): { mass: number; centre: number[]; inertia: number[] } {
  const mass = items.reduce((s, i) => s + i.mass, 0)
  const centre = [0, 1, 2].map(k => items.reduce((s, i) => s + i.mass * i.position[k]!, 0) / mass)
  const own = [0, 0, 0, 0, 0, 0]
  for (const i of items) {
    const [x, y, z] = i.position.map((p, k) => p - centre[k]!) as [number, number, number]
    const moved = [y * y + z * z, x * x + z * z, x * x + y * y, x * y, x * z, y * z]
    moved.forEach((m, k) => {
      own[k]! += i.mass * m + (i.inertia?.[k] ?? 0)
    })
  }
  return { mass, centre, inertia: own }
}

export const massProperties = defineCalc({
  id: 'mass-properties',
  title: 'Mass properties',
  purpose: 'Mass, centre and inertia of items, and of the simulators that stand for them',
  version: '1.0.0',
  settings,
  example: {
    items: [
      { name: 'beam', mass: 4.2, position: [0, 0.8, 0.05] },
      { name: 'motor', mass: 1.35, position: [0.12, 1.5, -0.02] },
    ],
    simulators: [
      { name: 'beam', mass: 4.2, position: [0, 0.8, 0.05] },
      { name: 'motor', mass: 1.4, position: [0.1, 1.5, 0] },
    ],
  },
  calculate({ items, simulators }) {
    if (new Set(items.map(i => i.name)).size < items.length)
      throw new HypometError('setting-range', 'Two items have the same name.', { path: 'settings.items' })
    const real = total(items)
    const sim = simulators?.length ? total(simulators) : null
    const rows = !sim
      ? []
      : items.map(i => {
          const s = simulators!.find(x => x.name === i.name)
          return {
            name: i.name,
            massDifference: s ? s.mass - i.mass : null,
            distance: s ? Math.hypot(...s.position.map((p, k) => p - i.position[k]!)) : null,
          }
        })
    const missing = rows.filter(r => r.massDifference === null).map(r => r.name)
    const ratio = (k: number) => (sim ? exact(sim.inertia[k]! / real.inertia[k]!, '1') : null)
    return {
      results: given({
        mass: exact(real.mass, 'kg'),
        centreX: exact(real.centre[0]!, 'm'),
        centreY: exact(real.centre[1]!, 'm'),
        centreZ: exact(real.centre[2]!, 'm'),
        ...Object.fromEntries(AXES.map((a, k) => [a, exact(real.inertia[k]!, 'kg·m²')])),
        simulatorMass: sim ? exact(sim.mass, 'kg') : null,
        massDifference: sim ? exact(sim.mass - real.mass, 'kg') : null,
        centreDistance: sim ? exact(Math.hypot(...sim.centre.map((c, k) => c - real.centre[k]!)), 'm') : null,
        ixxRatio: ratio(0),
        iyyRatio: ratio(1),
        izzRatio: ratio(2),
      }),
      tables: tablesOf('items', sim ? tableOf(rows, { name: '1', massDifference: 'kg', distance: 'm' }) : null),
      warnings:
        missing.length > 0 ? [{ code: 'no-simulator', message: `Nothing stands for: ${missing.join(', ')}.` }] : [],
    }
  },
})
