import type { Kind } from '../quantity/index'
import type { Role } from './table'

/** Words by which loggers name a column of a kind, where the role has none of its own; English and German. */
const OF_KIND: Partial<Record<Kind, readonly string[]>> = {
  time: ['time', 'zeit', 'elapsed', 't'],
  pressure: ['press', 'druck'],
  force: ['force', 'load', 'kraft', 'last'],
  acceleration: ['acc', 'beschl'],
  strain: ['strain', 'eps', 'gauge', 'dms', 'sg'],
  temperature: ['temp'],
  power: ['power', 'leistung'],
  torque: ['torq', 'moment'],
  angle: ['angle', 'winkel'],
  frequency: ['freq', 'f'],
  voltage: ['volt', 'spannung', 'u'],
  current: ['curr', 'amp', 'strom', 'i'],
  rotation: ['speed', 'rpm', 'drehzahl', 'n'],
  volumeFlow: ['flow', 'durchfluss'],
  level: ['level', 'pegel', 'spl', 'db'],
}

/** A role as it is looked for among the columns of a file. */
export interface NamedRole extends Pick<Role, 'label' | 'kind' | 'aliases'> {
  role: string
}

/** Names of up to this length are whole words: “t” is not in “tilt”. */
const SHORT = 2

/**
 * How well a column's name speaks for a role: 4 where it is its name, 2 where it holds one of its aliases (its kind's
 * where it has none), 0 otherwise. What stands in brackets – a unit – is not read.
 */
export function likenessOfName({ role, label, kind, aliases }: NamedRole, column: string): 0 | 2 | 4 {
  const name = column
    .replace(/\s*[[(].*$/, '')
    .trim()
    .toLowerCase()
  if (name === role.toLowerCase() || name === label.toLowerCase()) return 4
  const words = name.split(/[^\p{L}|]+/u)
  const speaks = (alias: string) => (alias.length > SHORT ? name.includes(alias) : words.includes(alias))
  return (aliases ?? OF_KIND[kind as Kind] ?? []).some(speaks) ? 2 : 0
}
