import { planningOf } from './plans'
import { loadings, type LoadingKind } from '../plan/loading/index'
import { firstChannels } from '../plan/planning'
import { writeLadder } from '../plan/rules'
import { siUnit } from '../quantity/index'

/** A plan to begin with, as it would be entered. Numbers are typical, to be replaced. */
export interface PlanTemplate {
  title: string
  about: string
  plan: Record<string, unknown>
}

/** A goal for the template of each way of loading, SI. */
const GOALS: Record<LoadingKind, number> = {
  points: 1000,
  bags: 1500,
  stations: 2000,
  bladder: 800,
  vessel: 1e6,
  drop: 1,
  pull: 8000,
  torque: 1200,
  shaker: 30,
  flow: 0.008,
  setpoints: 1,
  direct: 100,
}

/** One template for each way in which this kind of test is loaded, with the channels it needs. */
export function templatesFor(family: string): PlanTemplate[] {
  const planning = planningOf(family)
  return planning.loadings.map(kind => {
    const loading = loadings[kind]
    const commanded = loading.commanded(loading.settings.parse(loading.example))
    const goal = GOALS[kind]
    const look = kind === 'vessel' || kind === 'torque' || kind === 'pull' ? 0.8 : 2
    const rungs =
      kind === 'setpoints'
        ? [0, 0.2, 0.35, 0.5, 0.65, 0.8, 0.9, 0].map(target => ({ target, hold: { value: 30, unit: 's' } }))
        : writeLadder(
            { rule: 'percent', goal, percents: [20, 40, 60, 80, 100] },
            { unit: siUnit(commanded.kind), hold: 20, zeroEvery: 0, lastHold: 60, lookFrom: look },
          )
    return {
      title: loading.title,
      about: loading.purpose,
      plan: {
        loading: { kind, ...(loading.example as object) },
        rungs,
        ramp: { value: 15, unit: 's' },
        rate: { value: kind === 'drop' ? 10_000 : kind === 'shaker' ? 5000 : 10, unit: 'Hz' },
        ...(planning.ownExample?.(goal, null) ?? {}),
        channels: firstChannels(planning, commanded).map(n => ({
          role: n.role,
          label: n.label,
          kind: n.kind,
          sensorId: null,
        })),
      },
    }
  })
}
