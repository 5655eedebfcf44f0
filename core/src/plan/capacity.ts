import type { Kind } from '../quantity/index'
import { stop, type Finding } from './finding'
import type { Plan } from './plan'

/** Rungs beyond what actuators and fixture are good for, each said once at the rung that was entered. */
export function capacityFindings(plan: Plan, show: (si: number, kind: Kind) => string): Finding[] {
  const { rungs, commanded, capacities, also } = plan
  const list: Finding[] = []
  const checked = new Set<string>()
  const check = (source: number, path: string, value: number, capacity: number | undefined, kind: Kind, of: string) => {
    if (capacity === undefined || value <= capacity * (1 + 1e-9) || checked.has(path + of)) return
    checked.add(path + of)
    list.push(
      stop(
        'over-capacity',
        path,
        `Rung ${source + 1} asks ${show(value, kind)} of ${of}, which is rated for ${show(capacity, kind)}.`,
        `Lower it to ${show(capacity, kind)}, or take a larger one.`,
      ),
    )
  }
  for (const r of rungs) {
    check(r.source, `rungs.${r.source}.target`, r.target, capacities.actuator, commanded.kind, 'an actuator')
    check(r.source, `rungs.${r.source}.target`, r.target, capacities.fixture, commanded.kind, 'a fixture')
    r.also.forEach((v, k) =>
      check(r.source, `rungs.${r.source}.also.${k}`, v, also[k]?.capacity, also[k]!.kind, also[k]!.name),
    )
  }
  return list
}
