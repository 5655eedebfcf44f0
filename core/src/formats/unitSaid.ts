import { findUnit } from '../quantity/index'
import { lookUp } from '../quantity/index'

/**
 * The unit that a units row, brackets in the name, or the name's last word speak of; null where it is none that is
 * known.
 */
export const unitSaid = (name: string, unitCell: string): string | null =>
  knownUnit(unitCell) ?? knownUnit(bracketed(name)) ?? unitBehind(name)

const [LENGTH, TIME] = [
  /lift|stroke|travel|height|defl|displ|length|position|gap|sag|tip|dist|weg|hub|höhe/i,
  /time|zeit|elapsed|dauer/i,
]
/** Units that are words or letters of their own as well (“Pressure in”, “Channel A”): only behind what they are of. */
const ONLY_BEHIND: Record<string, RegExp> = {
  in: LENGTH,
  m: LENGTH,
  s: TIME,
  h: TIME,
  min: TIME,
  g: /acc|beschl|shock/i,
  N: /force|load|thrust|pull|kraft|last|schub/i,
  V: /volt|spannung|excit/i,
  A: /current|amp|strom/i,
  W: /power|leistung/i,
}

/** A unit as the last word of a name: “Flow cfm”, “Lift in”. */
function unitBehind(name: string): string | null {
  const { before, last } = /^(?<before>.*\S)[\s_]+(?<last>\S+)$/.exec(name)?.groups ?? {}
  if (before === undefined || last === undefined) return null
  const only = lookUp(ONLY_BEHIND, last)
  // One letter alone is more often a label than a unit.
  if (only ? !only.test(before) : last.length < 2) return null
  return knownUnit(last)
}

/** What stands in brackets at the end of a name. */
export const bracketed = (name: string): string => /[[(]([^\])]+)[\])]\s*$/.exec(name)?.[1] ?? ''

/** A unit as it is written, brackets around it or not; null where it is none. */
export function knownUnit(said: string): string | null {
  const bare = said.replace(/^[[({<]\s*|\s*[\])}>]$/g, '')
  return bare !== '' && findUnit(bare) ? bare : null
}
