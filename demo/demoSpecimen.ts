import type { PlannedChannel } from './scenario'

export type Plan = Record<string, unknown> & { channels: readonly PlannedChannel[]; rungs: readonly object[] }

export interface DemoSpecimen {
  article: string
  revision: string
  family: string
  title: string
  fixture: string
  method: string
  cost: number
  inDays: number
  plan: Plan
  file: string
  seed: number
  /** How it really is, where it is not drawn. */
  truth?: Record<string, number>
  /** How its logger writes. */
  logger:
    | 'pull'
    | 'call-outs'
    | 'burst'
    | 'leak'
    | 'crush'
    | 'drop'
    | 'descent'
    | 'bench'
    | 'map'
    | 'buckling'
    | 'spin'
    | 'thermal'
    | 'torque'
    | 'vibration'
    | 'bar'
    | 'sweep'
    | 'beam'
    | 'coupons'
  end: 'ladder done' | 'article broke' | 'fixture gave way'
  judgement?: { validity: string; cause: string; place: string; mode: string; note: string }
}
