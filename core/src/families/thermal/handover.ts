import { expanded } from '../../advise/model'
import { settingSi, type OperatingInput, type OperatingTable } from '../../advise/operating'

/** Thermal: the power at which the steady temperature just keeps its limit, at other ambients. */
export function handover({ results, limits, settings }: OperatingInput): OperatingTable | null {
  const [steady, power] = [results['steadyTemperature'], results['power']?.value]
  const limit =
    limits.find(l => l.quantity === 'steadyTemperature')?.value ?? settingSi(settings['limit'], 'temperature')
  const ambient = settingSi(settings['ambient'], 'temperature')
  if (steady?.value == null || power == null || limit === null || ambient === null) return null
  const rise = steady.value + expanded(steady) - ambient
  if (!(rise > 0)) return null
  const from = Math.ceil((Math.min(ambient, limit) - 273.15 - 25) / 5) * 5
  const ambients = Array.from({ length: 40 }, (_, i) => from + 5 * i + 273.15).filter(a => a < limit)
  return {
    title: 'Power against ambient',
    columns: ['Ambient', 'Power allowed', 'Of what was tested'],
    sentence:
      'The rise goes with the power; the steady temperature is taken with its uncertainty. Another flow of air is ' +
      'another curve.',
    rows: ambients.map(a => [
      { value: a, kind: 'temperature' },
      { value: (power * (limit - a)) / rise, kind: 'power' },
      { value: (limit - a) / rise, kind: 'ratio' },
    ]),
  }
}
