import { ApproachEstimator } from '../../rig/approach'
import { figure, predictedOf, type Ahead, type LiveFrom, type LiveKind, type LiveReader } from '../../rig/liveReader'
import type { ThermalPlan } from './plan'

/** A curve ahead is drawn by so many points over so many time constants. */
const [POINTS, CONSTANTS] = [60, 3]

class ThermalReader implements LiveReader {
  private readonly approach = new ApproachEstimator()
  private now: { t: number; temperature: number } | null = null
  private power: number | null = null
  private rung = -1

  constructor(private readonly o: LiveFrom<ThermalPlan>) {}

  feed(...[{ t, channels }, now]: Parameters<LiveReader['feed']>): [] {
    // Each level of power has an approach of its own, and so has the cooling.
    if (now.rung !== this.rung || now.phase === 'ramp') this.approach.restart()
    this.rung = now.rung
    const [temperatures, powers] = [channels['temperature'], channels['power']]
    for (let k = 0; k < t.length; k++) {
      const power = powers?.[k] ?? NaN
      if (Number.isFinite(power)) this.power = power
      const temperature = temperatures?.[k] ?? NaN
      if (!Number.isFinite(temperature)) continue
      this.now = { t: t[k]!, temperature }
      if (now.phase !== 'ramp') this.approach.add(t[k]!, temperature)
    }
    return []
  }

  figures(): ReturnType<LiveReader['figures']> {
    const { estimate } = this.approach
    const { view } = this.o
    return [
      figure('temperature', 'Temperature', 'temperature', this.now?.temperature),
      figure('power', 'Power', 'power', this.power),
      figure('steadyTemperature', 'Heading for', 'temperature', estimate?.steady, {
        predicted: predictedOf(view, 'steadyTemperature'),
        half: estimate?.half ?? null,
        note: estimate ? '' : 'too early to tell',
      }),
      figure('timeConstant', 'Time constant', 'time', estimate?.timeConstant, {
        predicted: predictedOf(view, 'timeConstant'),
      }),
    ]
  }

  /** From what is read now, not from where it began. */
  ahead(): Ahead | null {
    const { estimate } = this.approach
    const { now } = this
    if (!estimate || !now) return null
    const t = Array.from({ length: POINTS }, (_, i) => now.t + (CONSTANTS * estimate.timeConstant * i) / (POINTS - 1))
    const at = (s: number) =>
      estimate.steady + (now.temperature - estimate.steady) * Math.exp(-(s - now.t) / estimate.timeConstant)
    return { role: 'temperature', t, y: t.map(at) }
  }
}

export const thermalLive: LiveKind<ThermalPlan> = { reader: from => new ThermalReader(from), overTime: true }
