import { findUnit, type Unit } from '../quantity/units'

/**
 * Units that a number of an expression may have, as they are typed, SI first within a kind; of one that has several
 * meanings the first counts: `g` is the gram, `Hz` a frequency like `1/s`.
 */
const NAMES = `
  N kN MN lbf kip kgf | m mm cm µm km in ft | m² mm² cm² in² ft² | m³ L mL cm³ mm³ in³ ft³ | kg g t lb
  s ms µs min h d | Pa kPa MPa GPa bar mbar hPa psi ksi inHg inH2O mmH2O kg/cm² Msi | rad mrad deg °
  rad/s rpm Hz 1/min | m/s mm/s km/h ft/s ft/min kn | m/s² ft/s² | N·m kN·m N·mm in·lbf ft·lbf | J kJ MJ | W kW mW
  V mV kV | A mA | ohm kohm mohm Mohm | F µF nF pF | kHz MHz 1/s | % µε mm/m m/m | m³/s cfm m³/h L/s L/min
  kg/m³ g/cm³ lb/in³ | kg/m g/m lb/ft | N/m kN/m N/mm lbf/in lbf/ft | kN/mm | J/kg kJ/kg J/g | kg·m² g·cm²
  N·m² kN·m² | m²/s³ g²/Hz (m/s²)²/Hz | Pa·s mPa·s | oct/s oct/min | 1/K %/K | dB | B kB MB GB TB | B/s kB/s MB/s GB/s
  K °C °F`
  .split(/[\s|]+/)
  .filter(Boolean)

/** The same units as a keyboard has them. */
const asTyped = (name: string): string[] => {
  const plain = name.replaceAll('²', '2').replaceAll('³', '3')
  const ways = [name, plain, plain.replaceAll('µ', 'u'), name.replaceAll('µ', 'μ'), plain.replaceAll('·', '-')]
  return [...ways, ...(name.startsWith('°') && name.length > 1 ? [`deg${name.slice(1)}`] : [])]
}
const MORE = ['ue', 'Ohm', 'Ω', 'Nm', 'RPM', 'CFM', 'lbf·in', 'lbf·ft', 'lbf-in', 'lbf-ft']

const UNITS: readonly (readonly [text: string, unit: Unit])[] = [...new Set([...NAMES.flatMap(asTyped), ...MORE])]
  .flatMap((text): [string, Unit][] => {
    const unit = findUnit(text)
    return unit ? [[text, unit]] : []
  })
  .sort(([a], [b]) => b.length - a.length)

const CONTINUES = /[\p{L}\p{N}_]/u

/** The longest unit that stands at a place of a text and ends there. */
export const unitAt = (text: string, at: number): { text: string; unit: Unit } | null => {
  const found = UNITS.find(([name]) => text.startsWith(name, at) && !CONTINUES.test(text[at + name.length] ?? ''))
  return found ? { text: found[0], unit: found[1] } : null
}
