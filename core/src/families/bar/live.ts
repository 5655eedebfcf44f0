import { isHypometError } from '../../error'
import { parseSettings } from '../../method/settings'
import type { Table } from '../../method/table'
import {
  figure,
  predictedOf,
  Recent,
  type Ahead,
  type LiveFrom,
  type LiveKind,
  type LiveReader,
} from '../../rig/liveReader'
import type { Trigger } from '../../rig/triggerGate'
import { proposeBar, type BarPlan } from './plan'
import { reduceBar } from './reduce'
import { settings, type BarSettings } from './settings'

/** A shot is told by this share of the incident pulse that the striker gives; where that is not planned, by this. */
const TOLD_BY = { share: 0.2, otherwise: 1e-4 }
/** s, where the plan says nothing. */
const KEPT = { before: 1e-3, after: 4e-3 }

/** Strain that a striker of the bars' own kind gives: half its velocity over the wave speed. */
const incidentOf = ({ strikerVelocity, barModulus, barDensity }: BarPlan): number =>
  strikerVelocity && barModulus && barDensity ? strikerVelocity / 2 / Math.sqrt(barModulus / barDensity) : 0

const barTrigger = (plan: BarPlan): Trigger => ({
  role: 'incident',
  level: plan.toldBy ?? (TOLD_BY.share * incidentOf(plan) || TOLD_BY.otherwise),
  before: plan.keptBefore ?? KEPT.before,
  after: plan.keptAfter ?? KEPT.after,
})

const ROLES = ['incident', 'transmitted'] as const
const WINDOWS = {
  incidentWindow: ['incident', 'Incident pulse'],
  reflectedWindow: ['incident', 'Reflected pulse'],
  transmittedWindow: ['transmitted', 'Transmitted pulse'],
} as const

class BarReader implements LiveReader {
  private readonly piece: Recent
  private pulses: Record<string, number> = {}
  private results: Record<string, number | null> = {}
  private shots = 0
  private shown: Ahead | null = null

  constructor(private readonly o: LiveFrom<BarPlan>) {
    const { before, after } = barTrigger(o.plan)
    this.piece = new Recent(ROLES, before + after)
  }

  feed(...[block]: Parameters<LiveReader['feed']>): ReturnType<LiveReader['feed']> {
    this.piece.feed(block)
    return []
  }

  whole(...[piece]: Parameters<NonNullable<LiveReader['whole']>>): ReturnType<LiveReader['feed']> {
    if (!piece.isHeard) return []
    this.shots++
    this.shown = this.piece.about('incident', piece.at, this.o.zeroOf('incident'))
    this.read()
    const largest = this.pulses['incidentWindow'] ?? null
    const { equilibrium } = this.results
    const note =
      `shot ${this.shots}` +
      (typeof equilibrium === 'number' ? `, out of equilibrium ${(100 * equilibrium).toPrecision(2)} %` : '')
    return [{ kind: 'shot', t: piece.at, value: null, reading: largest, note }]
  }

  private read(): void {
    const table: Table = {
      t: Float64Array.from(this.piece.t),
      channels: Object.fromEntries(ROLES.map(r => [r, Float64Array.from(this.piece.channels[r]!)])),
      units: { incident: '1', transmitted: '1' },
    }
    const proposed = proposeBar({ plan: this.o.plan, table, outcome: '' })
    this.pulses = {}
    for (const [key, [role]] of Object.entries(WINDOWS)) {
      const [from = NaN, to = NaN] = (proposed[key] as [number, number] | undefined) ?? []
      const zero = this.o.zeroOf(role)
      const inside = this.piece.channels[role]!.filter((_, k) => this.piece.t[k]! >= from && this.piece.t[k]! <= to)
      if (inside.length > 0)
        this.pulses[key] = inside.reduce((m, v) => (Math.abs(v - zero) > Math.abs(m) ? v - zero : m), 0)
    }
    try {
      const { results } = reduceBar(table, parseSettings(settings, proposed) as BarSettings)
      this.results = Object.fromEntries(Object.entries(results).map(([k, r]) => [k, r.value]))
    } catch (e) {
      // Sizes that the plan does not say yet, or a pulse outside the piece: the pulses stand by themselves.
      if (!isHypometError(e)) throw e
      this.results = {}
    }
  }

  last(): Ahead | null {
    return this.shown
  }

  figures(): ReturnType<LiveReader['figures']> {
    const { view } = this.o
    const expected: Record<string, number | null> = { incidentWindow: -incidentOf(this.o.plan) || null }
    return [
      ...Object.entries(WINDOWS).map(([key, [, label]]) =>
        figure(key, label, 'strain', this.pulses[key], { predicted: expected[key] ?? null }),
      ),
      figure('equilibrium', 'Out of equilibrium', 'ratio', this.results['equilibrium'], {
        predicted: predictedOf(view, 'equilibrium'),
        note: this.shots === 0 ? 'no shot yet' : `of shot ${this.shots}`,
      }),
    ]
  }

  stands(...[{ phase }]: Parameters<NonNullable<LiveReader['stands']>>): string {
    if (phase === 'ended' || phase === 'unloading') return ''
    return this.shots === 0 ? 'Armed' : `Shot ${this.shots} recorded`
  }
}

export const barLive: LiveKind<BarPlan> = {
  reader: from => new BarReader(from),
  isLively: true,
  overTime: true,
  trigger: barTrigger,
}
