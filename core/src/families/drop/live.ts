import { isHypometError } from '../../error'
import type { Table } from '../../method/table'
import { parseSettings } from '../../method/settings'
import { nextLoading } from '../../plan/ladder'
import { topOf } from '../../plan/plan'
import { STANDARD_GRAVITY } from '../../quantity/units'
import {
  figure,
  predictedOf,
  Recent,
  type Ahead,
  type LiveFrom,
  type LiveKind,
  type LiveReader,
  type LiveSaid,
} from '../../rig/liveReader'
import type { Trigger } from '../../rig/triggerGate'
import { fallOf, proposeDrop, type DropPlan } from './plan'
import { reduceDrop } from './reduce'
import { settings, type DropSettings } from './settings'

/** A drop is told by this share of the planned deceleration, though never by the fall; without one by this, m/s². */
const TOLD_BY = { share: 0.25, least: 1.2 * STANDARD_GRAVITY, otherwise: 30 }
/** s that are kept before it and after it, where the plan says nothing: fall, pulse, and rest. */
const KEPT = { before: 2, after: 1 }

const levelOf = ({ deceleration }: ReturnType<typeof fallOf>): number =>
  deceleration === undefined ? TOLD_BY.otherwise : Math.max(TOLD_BY.least, TOLD_BY.share * deceleration)

const dropTrigger = (plan: DropPlan): Trigger => ({
  role: 'acceleration',
  level: plan.toldBy ?? levelOf(fallOf(plan)),
  before: plan.keptBefore ?? KEPT.before,
  after: plan.keptAfter ?? KEPT.after,
})

/** s about its trigger that the console draws. */
const SHOWN = { before: 0.05, after: 0.25 }

/** The newest drop, reduced as its record will be. */
interface Drop {
  height: number
  peak: number
  plateau: number
  deltaV: number
}

class DropReader implements LiveReader {
  private readonly piece: Recent
  private newest: Drop | null = null
  private shown: Ahead | null = null
  private doneOn = -1
  private heard = 0

  constructor(private readonly o: LiveFrom<DropPlan>) {
    const { before, after } = dropTrigger(o.plan)
    this.piece = new Recent(['acceleration'], before + after + 1)
  }

  feed(...[block]: Parameters<LiveReader['feed']>): LiveSaid[] {
    this.piece.feed(block)
    return []
  }

  whole(...[piece, now]: Parameters<NonNullable<LiveReader['whole']>>): LiveSaid[] {
    const height = this.o.plan.rungs[now.rung]?.target ?? 0
    if (!piece.isHeard) return []
    this.doneOn = now.rung
    this.heard++
    this.shown = this.piece.about('acceleration', piece.at, this.o.zeroOf('acceleration'), SHOWN)
    const read = this.reduced(height, piece.from)
    if (!read) return [{ kind: 'drop', t: piece.at, value: height, reading: null, note: 'no pulse could be read' }]
    this.newest = { height, ...read }
    const { show } = this.o
    const words =
      `drop ${this.heard} from ${show(height, 'length')}: peak ${show(read.peak, 'acceleration')}, plateau ` +
      `${show(read.plateau, 'acceleration')}, velocity change ${show(read.deltaV, 'velocity')}`
    return [{ kind: 'drop', t: piece.at, value: height, reading: read.peak, note: words }]
  }

  private reduced(height: number, from: number): Pick<Drop, 'peak' | 'plateau' | 'deltaV'> | null {
    const first = this.piece.t.findIndex(t => t >= from)
    const t = Float64Array.from(this.piece.t.slice(Math.max(0, first)))
    const acceleration = Float64Array.from(this.piece.channels['acceleration']!.slice(Math.max(0, first)))
    const table: Table = { t, channels: { acceleration }, units: { acceleration: 'm/s²' } }
    const plan = { ...this.o.plan, recordedHeight: height }
    try {
      const asked = parseSettings(settings, proposeDrop({ plan, table, outcome: '' })) as DropSettings
      const { results } = reduceDrop(table, asked)
      return { peak: results['peak']!.value!, plateau: results['plateau']!.value!, deltaV: results['deltaV']!.value! }
    } catch (e) {
      if (isHypometError(e)) return null
      throw e
    }
  }

  last(): Ahead | null {
    return this.shown
  }

  figures(...[now]: Parameters<LiveReader['figures']>): ReturnType<LiveReader['figures']> {
    const { plan, view } = this.o
    const last = this.newest
    const isTop = last !== null && last.height === plan.rungs[topOf(plan.rungs)]!.target
    const by = (quantity: string) => (isTop ? predictedOf(view, quantity) : null)
    const fromWhere = last ? `from ${this.o.show(last.height, 'length')}` : 'no drop yet'
    return [
      figure('height', 'Height to set', 'length', this.heightToSet(now)),
      figure('peak', 'Peak of the last', 'acceleration', last?.peak, { predicted: by('peak'), note: fromWhere }),
      figure('plateau', 'Plateau', 'acceleration', last?.plateau, { predicted: by('plateau') }),
      figure('deltaV', 'Velocity change', 'velocity', last?.deltaV, {
        predicted: last ? velocityChange(plan, last.height) : null,
      }),
    ]
  }

  /** That of this rung until it has been dropped from, then of the next. */
  private heightToSet({ rung, phase }: Pick<Parameters<LiveReader['figures']>[0], 'rung' | 'phase'>): number | null {
    const { rungs } = this.o.plan
    const here = rungs[rung]?.target ?? 0
    if (here > 0 && this.doneOn !== rung && phase !== 'unloading' && phase !== 'ended') return here
    return nextLoading(rungs, rung)?.target ?? null
  }

  stands(...[{ rung, phase }]: Parameters<NonNullable<LiveReader['stands']>>): string {
    const here = this.o.plan.rungs[rung]?.target ?? 0
    if (here === 0 || phase === 'unloading' || phase === 'ended') return ''
    if (phase === 'ramp') return 'Hoisting'
    return this.doneOn === rung ? `Drop ${this.heard} recorded` : 'Armed'
  }
}

/** Impact velocity and rebound together, by fall, guide and restitution as planned; null where they are not. */
function velocityChange(plan: DropPlan, height: number): number | null {
  const { guideLoss = 0, restitution } = fallOf(plan)
  return restitution === undefined
    ? null
    : Math.sqrt(2 * STANDARD_GRAVITY * height * (1 - guideLoss)) * (1 + restitution)
}

export const dropLive: LiveKind<DropPlan> = {
  reader: from => new DropReader(from),
  isLively: true,
  overTime: true,
  trigger: dropTrigger,
}
