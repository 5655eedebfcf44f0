import type { Plan, PlanView } from '@hypomet/core'

/** A guarded channel of n Hz may be silent for so many of its samples, where that is longer than the plan's time. */
const SILENT_SAMPLES = 3

/** No good sample of a channel that rules watch for too long: nobody knows what is on. */
export class SilenceGuard {
  /** Channels that a rule watches, with what is commanded: after how many s of silence that is news. */
  private readonly guarded: ReadonlyMap<string, number>
  private readonly silent = new Set<string>()

  /**
   * @param read  channels that somebody reads
   * @param pace  s of the run's clock in one of this one
   */
  constructor(plan: Plan, { channels, commanded }: PlanView, read: ReadonlySet<string>, pace: number) {
    const twins = plan.watch.flatMap(r => (r.kind === 'twin' ? [channels.find(c => c.role === r.role)?.twin] : []))
    const roles = [commanded.role, ...plan.watch.map(r => r.role), ...twins].filter(
      (role): role is string => typeof role === 'string' && read.has(role),
    )
    this.guarded = new Map(
      roles.map(role => {
        const rate = channels.find(c => c.role === role)?.rate ?? plan.rate
        return [role, Math.max(plan.silence, SILENT_SAMPLES / (rate * pace))]
      }),
    )
  }

  /**
   * Channels that have just fallen silent, and those that speak again.
   *
   * @param ageOf  s since a channel's last good sample
   * @param isOff  whether it was to be taken off by now
   */
  look(
    ageOf: (role: string) => number,
    isOff: (role: string) => boolean = () => false,
  ): { lost: { role: string; age: number }[]; back: string[] } {
    const lost: { role: string; age: number }[] = []
    const back: string[] = []
    for (const [role, most] of this.guarded) {
      if (isOff(role)) continue
      const age = ageOf(role)
      if (age > most && !this.silent.has(role)) {
        this.silent.add(role)
        lost.push({ role, age })
      } else if (age <= most && this.silent.delete(role)) back.push(role)
    }
    return { lost, back }
  }
}
