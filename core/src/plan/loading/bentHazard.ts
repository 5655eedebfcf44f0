import { energyAndStandoff } from '../../calc/planning/stored-energy'
import type { LoadingContext, LoadingHazard } from './loading'

/** What a bent article and its load line let go at once when something parts. */
export function bentHazard({ articleEnergy, rungs, top, failure, show }: LoadingContext): LoadingHazard {
  const force = rungs[top]?.target ?? 0
  const energy = articleEnergy ?? 0
  // Energy ½F²/k of a line: the stiffness that goes with it.
  const standoff =
    force > 0 && energy > 0
      ? energyAndStandoff({ kind: 'line', force, stiffness: force ** 2 / (2 * energy) }).standoff
      : 3
  const breaks = failure !== null && failure.at > 0 && force > 0.9 * failure.at
  return {
    id: 'spring',
    energy,
    standoff,
    why:
      `${show(energy, 'energy')} are stored in the bent article at the top ` +
      `rung${breaks ? ', and the ladder goes to where it is expected to break' : ''}.`,
  }
}
