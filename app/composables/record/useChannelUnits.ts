import { formatNumber, inUnit, kindOfSi, preferredUnit, type Kind } from '@hypomet/core'
import type { RecordChannel } from '~/types/api'

type Measured = Pick<RecordChannel, 'unit' | 'isStrain'>

/** How a record's channels are shown: in the campaign's units where their dimension has one. */
export function useChannelUnits(system: () => 'metric' | 'imperial') {
  const { prefer } = useUnits(system)
  const kindOf = (c: Measured): Kind | null => (c.isStrain ? 'strain' : c.unit ? kindOfSi(c.unit) : null)
  const written = (kind: Kind) => preferredUnit(kind, { prefer: prefer.value })
  const unitOf = (c: Measured) => (kindOf(c) ? written(kindOf(c)!).replace(/^1$/, '') : c.unit)
  const inShown = (c: Measured, v: number | null) =>
    v === null ? null : kindOf(c) ? inUnit(v, kindOf(c)!, written(kindOf(c)!)) : v
  /** Many at once: units differ by a factor and a shift. */
  function allShown(c: Measured, values: (number | null)[]): (number | null)[] {
    const shift = inShown(c, 0)!
    const factor = inShown(c, 1)! - shift
    return values.map(v => (v === null ? null : v * factor + shift))
  }
  const withUnit = (c: Measured, text: string) => (unitOf(c) ? `${text}\u202f${unitOf(c)}` : text)
  return {
    prefer,
    kindOf,
    unitOf,
    inShown,
    allShown,
    show: (c: Measured, v: number | null) => (v === null ? '–' : withUnit(c, formatNumber(inShown(c, v)!, 5))),
    /** A difference has no zero point: °C of a spread are K. */
    spread: (c: Measured, v: number | null) =>
      v === null ? '–' : withUnit(c, formatNumber(inShown(c, v)! - inShown(c, 0)!, 3)),
  }
}
