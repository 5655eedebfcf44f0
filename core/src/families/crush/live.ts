import { figure, predictedOf, type LiveFrom, type LiveKind, type LiveReader } from '../../rig/liveReader'
import type { CrushPlan } from './plan'

/** The platen stands on it from this share of the largest force on. */
const TOUCHES = 0.02

class CrushReader implements LiveReader {
  private force: number | null = null
  private travel: number | null = null
  private largest = 0
  /** J, and m over which it was gathered. */
  private energy = 0
  private way = 0
  private before: { force: number; travel: number } | null = null

  constructor(private readonly o: LiveFrom<CrushPlan>) {}

  feed(...[{ t, channels }]: Parameters<LiveReader['feed']>): [] {
    for (let k = 0; k < t.length; k++) {
      const [force, travel] = [channels['force']?.[k] ?? NaN, channels['displacement']?.[k] ?? NaN]
      if (Number.isFinite(force)) this.force = force - this.o.zeroOf('force')
      if (Number.isFinite(travel)) this.travel = travel - this.o.zeroOf('displacement')
      if (this.force === null || this.travel === null) continue
      const now = { force: this.force, travel: this.travel }
      this.largest = Math.max(this.largest, now.force)
      const step = this.before ? now.travel - this.before.travel : 0
      // What springs back gives nothing back to the count, nor does a platen in the air.
      if (this.before && step > 0 && now.force > TOUCHES * this.largest) {
        this.energy += ((now.force + this.before.force) / 2) * step
        this.way += step
      }
      if (!this.before || step > 0) this.before = now
    }
    return []
  }

  figures(): ReturnType<LiveReader['figures']> {
    const { view } = this.o
    const by = (quantity: string) => ({ predicted: predictedOf(view, quantity) })
    return [
      figure('force', 'Force', 'force', this.force),
      figure('travel', 'Travel', 'length', this.travel),
      figure('meanForce', 'Mean force so far', 'force', this.way > 0 ? this.energy / this.way : null, by('meanForce')),
      figure('energy', 'Energy so far', 'energy', this.way > 0 ? this.energy : null, by('energy')),
    ]
  }
}

export const crushLive: LiveKind<CrushPlan> = { reader: from => new CrushReader(from) }
