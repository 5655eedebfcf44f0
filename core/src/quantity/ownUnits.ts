import { HypometError } from '../error'
import { sameDimension } from './dimension'
import { unitFor } from './convert'
import { IMPERIAL, METRIC, type UnitPreference } from './format'
import { KINDS, type Kind } from './kinds'
import { findUnit } from './units'

export interface UnitChoice {
  system: 'metric' | 'imperial'
  /** Units chosen beside those of the system: “bar”, “g”, “torque: N·m”. */
  units?: readonly string[] | null
}

/** In what units a campaign reads each kind of quantity. */
export const preferenceOf = ({ system, units }: UnitChoice): UnitPreference => ({
  ...(system === 'imperial' ? IMPERIAL : METRIC),
  ...ownUnits(units ?? []),
})

/** What a kind may be called: “sound level” for `soundLevel`. */
const spoken = (kind: string): string => kind.replaceAll(/[A-Z]/g, c => ` ${c.toLowerCase()}`)

/**
 * Units that are chosen by name, each for every kind of quantity it fits; or for one, where that is said before it.
 *
 * @throws HypometError `unit-unknown`, `unit-dimension` at `units`
 * @example ownUnits(['g', 'torque: N·m']) // { acceleration: 'g', torque: 'N·m' }
 */
export function ownUnits(chosen: readonly string[]): Partial<Record<Kind, string>> {
  const units: Partial<Record<Kind, string>> = {}
  for (const text of chosen.map(c => c.trim()).filter(Boolean)) {
    const [, of = '', unit = ''] = /^(?:([^:]*):)?\s*(.*)$/.exec(text)!
    const found = findUnit(unit, 'gravity')
    if (!found || unit === '')
      throw new HypometError('unit-unknown', `“${unit}” is not a unit Hypomet knows.`, { path: 'units' })
    const named = of.trim().toLowerCase()
    const kinds = (Object.keys(KINDS) as Kind[]).filter(kind =>
      named === ''
        ? sameDimension(found.dimension, KINDS[kind].dimension)
        : named === kind.toLowerCase() || named === spoken(kind),
    )
    if (kinds.length === 0)
      throw new HypometError(
        'unit-dimension',
        named === ''
          ? `Nothing that Hypomet shows is read in ${unit}.`
          : `“${of.trim()}” is no quantity: write it as in “torque: N·m”.`,
        { path: 'units' },
      )
    for (const kind of kinds) units[kind] = named === '' ? unit : checked(unit, kind)
  }
  return units
}

function checked(unit: string, kind: Kind): string {
  try {
    unitFor(unit, kind)
    return unit
  } catch {
    throw new HypometError('unit-dimension', `${unit} is no unit of ${spoken(kind)}.`, { path: 'units' })
  }
}
