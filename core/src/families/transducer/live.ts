import { figure, Recent, type LiveFrom, type LiveKind, type LiveReader, type LiveSaid } from '../../rig/liveReader'
import type { TransducerPlan } from './plan'

/** A reading at an angle is the mean of what was held, at most of so many s. */
const OVER = 3
/** It rings where the impedance is least, once it has risen by this much again. */
const PASSED = 1.1

class BeamReader implements LiveReader {
  private readonly recent: Recent
  private readonly at = new Map<number, number>()

  constructor(private readonly o: LiveFrom<TransducerPlan>) {
    this.recent = new Recent(['level', o.view.commanded.role], OVER)
  }

  feed(...[block, now]: Parameters<LiveReader['feed']>): [] {
    if (now.phase === 'ramp') this.recent.clear()
    this.recent.feed(block)
    const level = this.recent.mean('level')
    const target = this.o.view.rungs[now.rung]?.target
    if (now.phase !== 'ramp' && target !== undefined && Number.isFinite(level)) this.at.set(target, level)
    return []
  }

  figures(...[now]: Parameters<LiveReader['figures']>): ReturnType<LiveReader['figures']> {
    const { view } = this.o
    const level = this.recent.mean('level')
    const loudest = Math.max(...this.at.values())
    const down = Number.isFinite(loudest) ? level - loudest : null
    return [
      figure('angle', view.commanded.label, view.commanded.kind, view.rungs[now.rung]?.target),
      figure('level', 'Level', 'level', level),
      figure('down', 'Against the loudest', 'level', down, { note: `${this.at.size} angles read` }),
    ]
  }
}

class SweepReader implements LiveReader {
  private newest: Record<string, number> = {}
  private least: { frequency: number; magnitude: number } | null = null
  private found: { frequency: number; magnitude: number } | null = null

  constructor(private readonly o: LiveFrom<TransducerPlan>) {}

  feed(...[{ t, channels }]: Parameters<LiveReader['feed']>): LiveSaid[] {
    for (let k = 0; k < t.length; k++) {
      for (const [role, y] of Object.entries(channels)) if (Number.isFinite(y[k])) this.newest[role] = y[k]!
      const [frequency, magnitude] = [this.newest[this.o.view.commanded.role] ?? 0, this.newest['magnitude'] ?? NaN]
      if (!(frequency > 0) || !(magnitude > 0)) continue
      if (!this.least || magnitude < this.least.magnitude) this.least = { frequency, magnitude }
      if (this.found || frequency <= this.least.frequency || magnitude < PASSED * this.least.magnitude) continue
      this.found = this.least
      const { show } = this.o
      const size = show(this.found.magnitude, 'resistance')
      const note = `resonance near ${show(this.found.frequency, 'frequency')}, ${size}`
      return [{ kind: 'resonance', t: t[k]!, note, value: frequency, reading: magnitude }]
    }
    return []
  }

  figures(): ReturnType<LiveReader['figures']> {
    const { view } = this.o
    const model = this.o.plan.model
    const rings = model ? 1 / (2 * Math.PI * Math.sqrt(model.L1 * model.C1)) : null
    return [
      figure('frequency', view.commanded.label, view.commanded.kind, this.newest[view.commanded.role]),
      figure('magnitude', 'Impedance', 'resistance', this.newest['magnitude']),
      figure('phase', 'Phase', 'angle', this.newest['phase']),
      figure('resonance', 'Resonance', 'frequency', this.found?.frequency, {
        predicted: rings,
        note: this.found ? '' : 'none found yet',
      }),
    ]
  }
}

export const transducerLive: LiveKind<TransducerPlan> = {
  isAbsolute: true,
  reader: from => (from.plan.kind === 'beam' ? new BeamReader(from) : new SweepReader(from)),
}
