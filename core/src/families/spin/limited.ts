import type { Kind } from '../../quantity/index'

/** What may be limited at a set-point, and what it is called. */
export const LIMITED = {
  thrust: 'force',
  torque: 'torque',
  speed: 'rotation',
  voltage: 'voltage',
  current: 'current',
  temperature: 'temperature',
  electricalPower: 'power',
  shaftPower: 'power',
} as const satisfies Record<string, Kind>
export type LimitedQuantity = keyof typeof LIMITED

export const NAMES: Record<LimitedQuantity, string> = {
  thrust: 'thrust',
  torque: 'torque',
  speed: 'speed',
  voltage: 'voltage',
  current: 'current',
  temperature: 'temperature',
  electricalPower: 'electrical power',
  shaftPower: 'shaft power',
}

/** Limits that are given, in their order. */
export const limitedOf = (limits: Partial<Record<LimitedQuantity, number | undefined>>): [LimitedQuantity, number][] =>
  Object.entries(limits).filter((e): e is [LimitedQuantity, number] => e[1] !== undefined)
