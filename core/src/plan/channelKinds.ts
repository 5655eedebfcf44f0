import type { Kind } from '../quantity/index'
import type { ReadingCheck } from './readings'

export interface InstallStage {
  key: string
  label: string
  /** What is read at it and how that is judged; without one it is done or not. */
  check?: ReadingCheck
}

const shunt: InstallStage = { key: 'shunt', label: 'Shunt', check: 'check-value' }
const endToEnd: InstallStage = { key: 'check', label: 'End to end', check: 'check-value' }
const zero: InstallStage = { key: 'zero', label: 'Zero', check: 'zero-counts' }
const step = (key: string, label: string, check?: ReadingCheck): InstallStage => ({
  key,
  label,
  ...(check ? { check } : {}),
})

const BONDED = [
  step('surface', 'Surface'),
  step('bond', 'Bond'),
  step('wire', 'Wire'),
  step('resistance', 'Continuity', 'resistance'),
  step('insulation', 'Insulation', 'insulation'),
  shunt,
  zero,
]
const FIBRE = [step('surface', 'Surface'), step('bond', 'Bond'), step('route', 'Route'), step('light', 'Light'), zero]
const MOUNTED = [step('mount', 'Mount'), step('wire', 'Wire'), endToEnd, zero]
const PLUMBED = [step('mount', 'Mount'), step('bleed', 'Bleed'), step('wire', 'Wire'), endToEnd, zero]
const ELECTRIC = [step('wire', 'Wire'), endToEnd, zero]
const SEEN = [step('target', 'Target on'), step('view', 'In view'), step('scale', 'Scale', 'check-value')]

export interface ChannelKind {
  id: string
  title: string
  kind: Kind
  /** How many channels one of it makes; they share a place. */
  makes: number
  stages: readonly InstallStage[]
  /** Has a place along the span. */
  along: boolean
}

const entry = (
  id: string,
  title: string,
  kind: Kind,
  stages: readonly InstallStage[],
  more: Partial<ChannelKind> = {},
): ChannelKind => ({ id, title, kind, makes: 1, stages, along: false, ...more })

/** What can be measured, and how it is put on. */
export const channelKinds: ChannelKind[] = [
  entry('load', 'Load', 'force', MOUNTED),
  entry('strain', 'Strain gauge', 'strain', BONDED, { along: true }),
  entry('rosette', 'Strain rosette', 'strain', BONDED, { along: true, makes: 3 }),
  entry('fibre', 'Strain by fibre', 'strain', FIBRE, { along: true }),
  entry('displacement', 'Displacement', 'length', MOUNTED, { along: true }),
  entry('pair', 'Pair for rotation', 'length', MOUNTED, { along: true, makes: 2 }),
  entry('inclination', 'Inclination', 'angle', MOUNTED, { along: true }),
  entry('pressure', 'Pressure', 'pressure', PLUMBED),
  entry('temperature', 'Temperature', 'temperature', ELECTRIC),
  entry('acceleration', 'Acceleration', 'acceleration', MOUNTED, { along: true }),
  entry('flow', 'Flow', 'volumeFlow', PLUMBED),
  entry('voltage', 'Voltage', 'voltage', ELECTRIC),
  entry('current', 'Current', 'current', ELECTRIC),
  entry('power', 'Power', 'power', ELECTRIC),
  entry('speed', 'Speed of rotation', 'rotation', MOUNTED),
  entry('velocity', 'Velocity', 'velocity', MOUNTED),
  entry('torque', 'Torque', 'torque', MOUNTED),
  entry('setting', 'What the rig is told', 'ratio', ELECTRIC),
  entry('target', 'Camera target', 'length', SEEN, { along: true }),
]

const byId = new Map(channelKinds.map(k => [k.id, k]))

/** Kind of a channel by its id, else by what it measures. */
export const channelKindOf = (type: string | undefined, kind: Kind): ChannelKind =>
  byId.get(type ?? '') ?? channelKinds.find(k => k.kind === kind) ?? entry(kind, kind, kind, ELECTRIC)
