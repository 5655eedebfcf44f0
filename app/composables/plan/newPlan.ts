import { channelKinds, firstChannels, loadings, planningOf, siUnit, type QuantityInput } from '@hypomet/core'
import type { LimitRow } from '~/types/api'
import type { PlanDraft } from './usePlanDraft'

/** Where a ladder may go when no limit says so, SI, by what is commanded. */
const USUAL: Record<string, number> = {
  force: 1000,
  length: 1,
  pressure: 1e5,
  torque: 100,
  acceleration: 10,
  ratio: 1,
  power: 100,
  voltage: 10,
  temperature: 350,
  velocity: 5,
}

/**
 * A first plan to change: the usual way of loading for this kind of test, its needed channels, and a ladder in quarters
 * of what its limit asks, with a zero before going beyond.
 */
export function newPlan(family: string, properties: Record<string, unknown>, limits: LimitRow[]): PlanDraft {
  const planning = planningOf(family)
  const length = properties['length'] as QuantityInput | undefined
  const loading = loadings[planning.loadings[0]!]
  const settings = structuredClone(loading.example) as Record<string, unknown>
  if (loading.kind === 'points' && length !== undefined) settings['loads'] = [{ x: length, share: 1 }]
  const commanded = loading.commanded(loading.settings.parse(settings))
  const { role, kind } = commanded
  const limit = limits.find(l => planning.readBy[l.quantity] === role)
  const full = limit?.value ?? USUAL[kind] ?? 1
  const goal = planning.own ? Math.round(full / 1.5) : full
  const shares = [0, 0.25, 0.5, 0.75, 1, 0, ...(planning.own ? [1.25, 1.5, 0] : [])]
  const q = (value: number) => ({ value: Number(value.toPrecision(4)), unit: siUnit(kind) })
  const lengthM =
    typeof length === 'number'
      ? length
      : length
        ? (loadings.points.settings.parse({ loads: [{ x: length, share: 1 }] }).loads[0].x as number)
        : null
  return {
    loading: { kind: loading.kind, ...settings },
    rungs: shares.map((s, i) => ({
      target: q(s * goal),
      hold: { value: i === shares.length - 1 ? 60 : 20, unit: 's' },
    })),
    ramp: { value: 12, unit: 's' },
    rate: { value: 10, unit: 'Hz' },
    ...(planning.ownExample?.(goal, lengthM) ?? {}),
    channels: firstChannels(planning, commanded).map(n => ({
      ...n,
      type: channelKinds.find(k => k.kind === n.kind)?.id ?? '',
      sensorId: null,
    })),
  }
}
