import type { FollowUp, Measured } from '../../family/contract'
import type { MethodOutput } from '../../method/reduction'

/** Another coverage or confidence for the same set. */
export function followUpCoupon({ tables }: Pick<MethodOutput, 'tables'>): FollowUp[] {
  const values = (tables['specimens']?.columns['strength'] ?? []).filter(v => typeof v === 'number')
  return values.length < 2
    ? []
    : [{ calc: 'tolerance-factor', title: 'Another coverage or confidence', settings: { values } }]
}

/** A basis of fewer is none to put in a constant's place. */
const FEWEST_OF_BASIS = 3

/** Modulus and strength of the set. */
export function couponConstants({ results }: Pick<MethodOutput, 'results'>): Measured[] {
  const value = (key: string) => results[key]?.value ?? null
  const n = value('n') ?? 0
  return (
    [
      ['Mean modulus', 'modulusMean', 'modulusSd'],
      ['Mean strength', 'strengthMean', 'strengthSd'],
      ['B-basis strength', 'basisB', 'strengthSd'],
    ] as const
  ).flatMap(([label, mean, sd]) =>
    value(mean) === null || (mean === 'basisB' && n < FEWEST_OF_BASIS)
      ? []
      : [{ label, kind: 'pressure' as const, mean: value(mean)!, sd: value(sd), n }],
  )
}
