import * as z from 'zod'
import { STANDARD_GRAVITY } from '../../quantity/index'
import { defineCalc } from '../../method/calculation'
import { plain, quantity } from '../../method/settings'
import type { Warning } from '../../warning'

/** J per kg of TNT, as pressure-test practice takes it (ASME PCC-2, article 501). */
const TNT = 4.26692e6
const STANDOFF_BY_SCALE = 20
const GAS_FLOOR = 30
const LARGE_GAS_FLOOR = 60
const LARGE_GAS_ENERGY = 135.5e6
const OTHER_FLOOR = 3

const floor = quantity('length', { title: 'Least stand-off', min: 0 }).optional()

export const storedEnergySettings = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('gas'),
    pressure: quantity('pressure', { positive: true }),
    volume: quantity('volume', { positive: true }),
    gamma: plain({ positive: true }).default(1.4),
    ambientPressure: quantity('pressure', { positive: true }).default(101325),
    floor,
  }),
  z.object({
    kind: z.literal('liquid'),
    pressure: quantity('pressure', { positive: true }),
    volume: quantity('volume', { positive: true }),
    bulkModulus: quantity('pressure', { positive: true }).default(2.2e9),
    floor,
  }),
  z.object({
    kind: z.literal('line'),
    force: quantity('force', { positive: true }),
    stiffness: quantity('stiffness', { positive: true }),
    floor,
  }),
  z.object({
    kind: z.literal('mass'),
    mass: quantity('mass', { positive: true }),
    height: quantity('length', { positive: true }),
    floor,
  }),
  z.object({
    kind: z.literal('rotor'),
    inertia: quantity('inertia', { positive: true }),
    speed: quantity('rotation', { positive: true }),
    floor,
  }),
])

export type StoredEnergySettings = z.output<typeof storedEnergySettings>

/** Energy [J] that is let go at once if the medium, line, mass or rotor gets away. */
function energyOf(s: StoredEnergySettings): number {
  switch (s.kind) {
    case 'gas': {
      const absolute = s.pressure + s.ambientPressure
      return ((absolute * s.volume) / (s.gamma - 1)) * (1 - (s.ambientPressure / absolute) ** ((s.gamma - 1) / s.gamma))
    }
    case 'liquid':
      return (0.5 * s.pressure ** 2 * s.volume) / s.bulkModulus
    case 'line':
      return (0.5 * s.force ** 2) / s.stiffness
    case 'mass':
      return s.mass * STANDARD_GRAVITY * s.height
    case 'rotor':
      return 0.5 * s.inertia * s.speed ** 2
  }
}

/**
 * Stored energy and least stand-off. The stand-off is the larger of the scaled distance 20·(2·TNT)^⅓ and the class's
 * floor (gas 30 m, large gas 60 m, others 3 m); a given floor can only raise it.
 *
 * @source isentropic expansion of a gas; ASME PCC-2, article 501, for the distances
 */
export function energyAndStandoff(s: StoredEnergySettings): {
  energy: number
  tntEquivalent: number
  standoff: number
} {
  const energy = energyOf(s)
  const tntEquivalent = energy / TNT
  const classFloor = s.kind !== 'gas' ? OTHER_FLOOR : energy > LARGE_GAS_ENERGY ? LARGE_GAS_FLOOR : GAS_FLOOR
  return {
    energy,
    tntEquivalent,
    standoff: Math.max(STANDOFF_BY_SCALE * Math.cbrt(2 * tntEquivalent), classFloor, s.floor ?? 0),
  }
}

export const storedEnergy = defineCalc({
  id: 'stored-energy',
  title: 'Stored energy',
  purpose: 'Energy let go if it gets away, and how far people stay off',
  version: '1.0.0',
  settings: storedEnergySettings,
  example: { kind: 'gas', pressure: { value: 6, unit: 'bar' }, volume: { value: 0.12, unit: 'm³' } },
  calculate(s) {
    const { energy, tntEquivalent, standoff } = energyAndStandoff(s)
    const warnings: Warning[] = [
      {
        code: 'local-codes',
        message: 'Follow your site’s rules, local codes and licensed practice; this is no substitute for them.',
      },
    ]
    return {
      results: {
        energy: { value: energy, unit: 'J', bound: 'exact' },
        tntEquivalent: { value: tntEquivalent, unit: 'kg', bound: 'exact' },
        standoff: { value: standoff, unit: 'm', bound: 'exact' },
      },
      tables: {},
      warnings,
    }
  },
})
