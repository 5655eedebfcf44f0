import { figure, Recent, type LiveFrom, type LiveKind, type LiveReader } from '../../rig/liveReader'
import type { FlowPlan } from './plan'

/** A reading is steady while it scatters by less than this share, over so many s. */
const STEADY = 0.005
const OVER = 3

class FlowReader implements LiveReader {
  private readonly recent = new Recent(['flow', 'drop'], OVER)
  private rung = -1

  constructor(private readonly o: LiveFrom<FlowPlan>) {}

  feed(...[block, now]: Parameters<LiveReader['feed']>): [] {
    // What was read at another lift is no part of this one's steadiness.
    if (now.rung !== this.rung || now.phase === 'ramp') this.recent.clear()
    this.rung = now.rung
    this.recent.feed(block)
    return []
  }

  /** Scatter as a share of the mean, with what it drifts; null before there is enough of it. */
  private get scatter(): number | null {
    const { span, t, channels } = this.recent
    const mean = this.recent.mean('flow')
    const read = channels['flow']!.filter(Number.isFinite)
    if (span < OVER / 2 || read.length < 3 || !(Math.abs(mean) > 0)) return null
    const sd = Math.sqrt(read.reduce((s, v) => s + (v - mean) ** 2, 0) / (read.length - 1))
    const half = t.length >> 1
    const part = (from: number, to: number) => {
      const of = channels['flow']!.slice(from, to).filter(Number.isFinite)
      return of.reduce((s, v) => s + v, 0) / of.length
    }
    return Math.max(sd, Math.abs(part(half, t.length) - part(0, half))) / Math.abs(mean)
  }

  figures(...[now]: Parameters<LiveReader['figures']>): ReturnType<LiveReader['figures']> {
    const { plan, view } = this.o
    const reference =
      plan.loading.kind === 'flow' ? (plan.loading.settings as { testPressure: number }).testPressure : null
    const [flow, drop] = [this.recent.mean('flow'), this.recent.mean('drop')]
    const corrected = reference && drop > 0 ? flow * Math.sqrt(reference / drop) : flow
    const { scatter } = this
    const next = plan.rungs[now.rung + 1]
    const steadiness =
      scatter === null ? 'not read long enough' : scatter <= STEADY ? 'steady: take it' : 'not steady yet'
    return [
      figure('flow', reference ? `Flow at ${this.o.show(reference, 'pressure')}` : 'Flow', 'volumeFlow', corrected, {
        predicted: view.rungs[now.rung]?.expectedReading ?? null,
      }),
      figure('drop', 'Pressure difference', 'pressure', drop, { predicted: reference }),
      figure('scatter', 'Scatter', 'ratio', scatter, { note: steadiness }),
      figure('next', `Next ${view.commanded.label.toLowerCase()}`, view.commanded.kind, next?.target),
    ]
  }

  stands(...[now]: Parameters<NonNullable<LiveReader['stands']>>): string {
    if (now.phase !== 'hold' && now.phase !== 'waiting') return ''
    return this.scatter !== null && this.scatter <= STEADY ? 'Steady' : 'Settling'
  }
}

/** A probe that goes from place to place. */
class MapReader implements LiveReader {
  private readonly recent = new Recent(['q'], OVER)
  private readonly places = new Map<number, number>()

  constructor(private readonly o: LiveFrom<FlowPlan>) {}

  feed(...[block, now]: Parameters<LiveReader['feed']>): [] {
    if (now.phase === 'ramp') this.recent.clear()
    this.recent.feed(block)
    const q = this.recent.mean('q')
    if (now.phase !== 'ramp' && Number.isFinite(q)) this.places.set(now.rung, q)
    return []
  }

  figures(...[now]: Parameters<LiveReader['figures']>): ReturnType<LiveReader['figures']> {
    const { plan, show } = this.o
    const y = plan.also.findIndex(a => a.name === 'y')
    const place = (rung: number) => {
      const r = plan.rungs[rung]
      return r ? `x ${show(r.target, 'length')}${y < 0 ? '' : `, y ${show(r.also[y]!, 'length')}`}` : 'none'
    }
    const largest = Math.max(...this.places.values())
    return [
      figure('q', 'Dynamic pressure', 'pressure', this.recent.mean('q'), { note: `at ${place(now.rung)}` }),
      figure('largest', 'Largest so far', 'pressure', largest),
      figure('places', 'Places read', 'ratio', this.places.size, { note: `of ${plan.rungs.length}` }),
      figure('next', 'Next x', 'length', plan.rungs[now.rung + 1]?.target, { note: place(now.rung + 1) }),
    ]
  }
}

export const flowLive: LiveKind<FlowPlan> = {
  reader: from => (from.plan.kind === 'map' ? new MapReader(from) : new FlowReader(from)),
  overTime: true,
}
