import type { LimitRow } from '~/types/api'
import type { PlanDraft } from './usePlanDraft'

/** A first plan to change: a ladder in quarters of the design load, a zero, and three rungs beyond it. */
export function newPlan(properties: Record<string, unknown>, limits: LimitRow[]): PlanDraft {
  const length = properties['length'] as { value: number; unit: string } | number
  const ultimate = limits.find(l => l.quantity === 'maxLoad')?.value ?? 3000
  const design = Math.round(ultimate / 1.5)
  const shares = [0, 0.25, 0.5, 0.75, 1, 0, 1.25, 1.5, 0]
  const newton = (value: number) => ({ value: Math.round(value), unit: 'N' })
  return {
    designLoad: newton(design), loads: [{ x: length, share: 1 }], deflectionAt: length,
    rungs: shares.map((s, i) => ({ target: newton(s * design), hold: { value: i === shares.length - 1 ? 60 : 20, unit: 's' } })),
    ramp: { value: 12, unit: 's' }, rate: { value: 10, unit: 'Hz' }, minHold: { value: 12, unit: 's' }, holdTolerance: newton(Math.max(5, design / 100)), predictionBand: 0.1,
    channels: [{ role: 'load', label: 'Load', kind: 'force', sensorId: null }, { role: 'deflection', label: 'Deflection', kind: 'length', sensorId: null }],
  }
}
