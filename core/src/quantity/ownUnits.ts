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
 * Units that are chosen by name, each for every kind of quantity it fits; or for one, where that is said before it,
 * which goes before.
 *
 * @throws HypometError `unit-unknown`, `unit-dimension` at `units`
 * @example ownUnits(['g', 'torque: N·m']) // { acceleration: 'g', torque: 'N·m' }
 */
export function ownUnits(chosen: readonly string[]): Partial<Record<Kind, string>> {
  const all = chosen
    .map(c => c.trim())
    .filter(Boolean)
    .map(meantBy)
  return Object.fromEntries(
    [...all.filter(m => !m.isNamed), ...all.filter(m => m.isNamed)].flatMap(({ unit, kinds }) =>
      kinds.map(kind => [kind, unit] as const),
    ),
  )
}

/**
 * That no quantity is given two units.
 *
 * @throws HypometError `unit-twice` at `units`, and those of `ownUnits`
 */
export function checkOwnUnits(chosen: readonly string[]): void {
  const seen = new Map<string, string>()
  for (const { unit, kinds, isNamed } of chosen
    .map(c => c.trim())
    .filter(Boolean)
    .map(meantBy))
    for (const kind of kinds) {
      const key = `${kind}${isNamed}`
      const other = seen.get(key)
      if (other !== undefined && other !== unit)
        throw new HypometError('unit-twice', `${other} and ${unit} are both units of ${spoken(kind)}: choose one.`, {
          path: 'units',
        })
      seen.set(key, unit)
    }
}

function meantBy(text: string): { unit: string; kinds: Kind[]; isNamed: boolean } {
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
  return { unit, kinds: kinds.map(kind => (named === '' ? kind : checked(unit, kind))), isNamed: named !== '' }
}

function checked(unit: string, kind: Kind): Kind {
  try {
    unitFor(unit, kind)
    return kind
  } catch {
    throw new HypometError('unit-dimension', `${unit} is no unit of ${spoken(kind)}.`, { path: 'units' })
  }
}
