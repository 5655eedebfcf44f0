import { ApproachEstimator } from '../../rig/approach'
import { figure, predictedOf, Recent, type LiveFrom, type LiveKind, type LiveReader } from '../../rig/liveReader'
import { spinPointOf, type SpinPlan } from './plan'

const READ = ['thrust', 'forceA', 'forceB', 'voltage', 'current', 'speed'] as const
/** Means over so many s stand on the console; so many samples are kept for them. */
const OVER = 1
const MOST = 2000

class SpinReader implements LiveReader {
  private readonly recent = new Recent(READ, OVER, MOST)
  private readonly warming = new ApproachEstimator()
  private temperature: number | null = null
  private rung = -1

  constructor(private readonly o: LiveFrom<SpinPlan>) {}

  feed(...[block, now]: Parameters<LiveReader['feed']>): [] {
    this.recent.feed(block)
    if (now.rung !== this.rung || now.phase === 'ramp') this.warming.restart()
    this.rung = now.rung
    block.channels['temperature']?.forEach((v, k) => {
      if (!Number.isFinite(v)) return
      this.temperature = v
      if (now.phase !== 'ramp') this.warming.add(block.t[k]!, v)
    })
    return []
  }

  figures(...[now]: Parameters<LiveReader['figures']>): ReturnType<LiveReader['figures']> {
    const { plan, view, zeroOf, show } = this.o
    const has = READ.filter(r => view.channels.some(c => c.role === r))
    const isForce = (role: string) => role === 'thrust' || role.startsWith('force')
    const means = Object.fromEntries(
      has.map(r => [r, this.recent.mean(r, OVER) - (isForce(r) ? zeroOf(r) : 0)]),
    ) as Record<string, number>
    const points = spinPointOf(means, plan)
    const power = points.find(p => p.kind === 'power')
    const expected = view.rungs[now.rung]?.expectedReading ?? null
    const { estimate } = this.warming
    const heading = estimate ? `heading for ${show(estimate.steady, 'temperature')}` : ''
    return [
      figure('speed', 'Speed', 'rotation', means['speed']),
      figure('maxThrust', 'Thrust', 'force', means['thrust'], {
        predicted: expected ?? predictedOf(view, 'maxThrust'),
      }),
      figure('power', 'Electrical power', 'power', power?.value),
      ...(view.channels.some(c => c.role === 'temperature')
        ? [figure('temperature', 'Winding', 'temperature', this.temperature, { note: heading })]
        : []),
    ]
  }
}

export const spinLive: LiveKind<SpinPlan> = { reader: from => new SpinReader(from), isLively: true, overTime: true }
