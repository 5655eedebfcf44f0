import { expanded } from '../../advise/model'
import { settingSi, type OperatingInput, type OperatingTable } from '../../advise/operating'

/** Standard air: density over that at sea level. @source ISO 2533 */
const densityRatio = (height: number): number => (1 - 2.25577e-5 * height) ** 4.2559

/** Descent: the mass that still comes down slowly enough, by altitude. */
export function handover({ results, limits, settings }: OperatingInput): OperatingTable | null {
  const rate = results['seaLevelRate']
  const limit = limits.find(l => l.quantity === 'descentRate' || l.quantity === 'seaLevelRate')
  const mass = settingSi(settings['mass'], 'mass')
  if (rate?.value == null || !limit || mass === null) return null
  const most = (height: number) => mass * (limit.value / (rate.value! + expanded(rate))) ** 2 * densityRatio(height)
  return {
    title: 'Mass against altitude',
    columns: ['Altitude of the landing', 'Mass allowed'],
    sentence:
      'Weight is drag area times dynamic pressure: the mass goes with the rate squared and with the density of ' +
      'standard air.',
    rows: [0, 500, 1000, 1500, 2000, 2500, 3000].map(h => [
      { value: h, kind: 'length' },
      { value: most(h), kind: 'mass' },
    ]),
  }
}
