import { exact, tableOf } from '../../calc/answer'
import { HypometError } from '../../error'
import type { Table } from '../../method/table'
import type { Reduction, ResultTable } from '../../method/reduction'
import type { Warning } from '../../warning'
import { meanSd } from '../../statistics/mean'
import { outliers } from '../../statistics/outliers'
import { toleranceFactor } from '../../statistics/toleranceFactor'
import type { CouponSettings } from './settings'
import { specimensOf, type CouponSpecimen } from './specimens'

const BASIS = { B: { p: 0.9, gamma: 0.95 }, A: { p: 0.99, gamma: 0.95 } } as const
/** Sizes of a set for which it is said what a basis would be. */
const WORTH = [3, 5, 6, 8, 10, 15, 18, 30]

/**
 * A set of coupons: strength and modulus of each, mean, spread and basis values. Outliers are named and stay in.
 *
 * @throws HypometError `missing-channel`, `data-range`
 * @source methods.md, “coupon”; CMH-17-1G ch. 8 for the basis of a normal set
 */
export function reduceCoupons(table: Table, s: CouponSettings): Reduction {
  const all = specimensOf(table, s)
  const specimens = all.filter((p): p is Known => p.strength !== null)
  if (specimens.length === 0)
    throw new HypometError('no-data', 'There is no specimen with a force in these rows.', { path: 'channels.specimen' })
  const strengths = specimens.map(p => p.strength)
  const moduli = specimens.map(p => p.modulus).filter((m): m is number => m !== null)
  const [strength, modulus] = [spread(strengths), spread(moduli)]
  const odd = outliers(strengths)
  const basis = (which: keyof typeof BASIS) =>
    strength.sd === null
      ? null
      : strength.mean! - toleranceFactor({ n: strengths.length, ...BASIS[which] }) * strength.sd
  return {
    results: {
      n: exact(specimens.length, '1'),
      strengthMean: exact(strength.mean, 'Pa'),
      strengthSd: exact(strength.sd, 'Pa'),
      strengthCv: exact(strength.cv, '1'),
      basisB: exact(basis('B'), 'Pa'),
      basisA: exact(basis('A'), 'Pa'),
      outliers: exact(odd.length, '1'),
      modulusMean: exact(modulus.mean, 'Pa'),
      modulusSd: exact(modulus.sd, 'Pa'),
      modulusCv: exact(modulus.cv, '1'),
    },
    tables: {
      specimens: tableOf(
        all.map(p => ({
          specimen: p.specimen,
          strength: p.strength,
          modulus: p.modulus,
          outlier: odd.some(i => specimens[i] === p) ? 1 : 0,
          ...(s.kind === 'bearing' ? { ultimate: p.ultimate } : {}),
          ...(p.failure === null ? {} : { failure: p.failure }),
        })),
        { specimen: '', strength: 'Pa', modulus: 'Pa', outlier: '1', ultimate: 'Pa', failure: '' },
      ),
      ...(strength.sd === null ? {} : { worth: worthOf(strengths.length, strength.mean!, strength.sd) }),
      ...failuresOf(specimens),
    },
    warnings: [...gapsOf(all, table), ...warningsOf(specimens, odd, strength.sd === null)],
    traces: Object.fromEntries(
      specimens.flatMap(p =>
        p.strain.length === 0
          ? []
          : [
              [`strain:${p.specimen}`, p.strain],
              [`stress:${p.specimen}`, p.stress],
            ],
      ),
    ),
  }
}

/** A specimen whose strength is known. */
type Known = CouponSpecimen & { strength: number }

function gapsOf(all: readonly CouponSpecimen[], { channels }: Table): Warning[] {
  const names = (list: readonly CouponSpecimen[]) => list.map(p => p.specimen).join(', ')
  const [unread, open] = [all.filter(p => p.strength === null), all.filter(p => p.modulus === null)]
  const isAsked = ['strain', 'displacement', 'forceLow'].some(role => channels[role])
  return [
    ...(unread.length > 0
      ? [{ code: 'gap', message: `No force was read of ${names(unread)}: the others are what the set is of.` }]
      : []),
    ...(isAsked && open.length > 0
      ? [{ code: 'no-modulus', message: `The chord was not read of ${names(open)}: no modulus of it.` }]
      : []),
  ]
}

function spread(values: number[]): { mean: number | null; sd: number | null; cv: number | null } {
  if (values.length === 0) return { mean: null, sd: null, cv: null }
  const { mean, sd } = meanSd(values)
  return values.length < 2 ? { mean, sd: null, cv: null } : { mean, sd, cv: sd / mean }
}

/** What the basis would be with more specimens of the same mean and spread. */
function worthOf(n: number, mean: number, sd: number): ResultTable {
  const sizes = [n, ...WORTH.filter(w => w > n)].slice(0, 6)
  return tableOf(
    sizes.map(size => {
      const factor = toleranceFactor({ n: size, ...BASIS.B })
      return {
        specimens: size,
        factorB: factor,
        basisB: mean - factor * sd,
        basisA: mean - toleranceFactor({ n: size, ...BASIS.A }) * sd,
      }
    }),
    { specimens: '1', factorB: '1', basisB: 'Pa', basisA: 'Pa' },
  )
}

/** How they failed, most frequent first. */
function failuresOf(specimens: readonly Known[]): Record<string, ResultTable> {
  const counts = new Map<string, number[]>()
  for (const p of specimens) if (p.failure) counts.set(p.failure, [...(counts.get(p.failure) ?? []), p.strength])
  if (counts.size === 0) return {}
  const rows = [...counts]
    .map(([failure, values]) => ({ failure, specimens: values.length, meanStrength: meanSd(values).mean }))
    .sort((a, b) => b.specimens - a.specimens)
  return { failures: tableOf(rows, { failure: '', specimens: '1', meanStrength: 'Pa' }) }
}

function warningsOf(specimens: readonly Known[], odd: number[], alone: boolean): Warning[] {
  const unyielded = specimens.filter(p => !p.hasYield)
  return [
    ...(odd.length > 0
      ? [
          {
            code: 'outlier',
            message:
              `Far from the others: ${odd.map(i => specimens[i]!.specimen).join(', ')}. It stays in the ` +
              `statistics until somebody finds out why.`,
          },
        ]
      : []),
    ...(unyielded.length > 0
      ? [
          {
            code: 'no-yield',
            message:
              `The curve does not fall below the offset line: ` +
              `${unyielded.map(p => p.specimen).join(', ')}. Its largest stress counts.`,
          },
        ]
      : []),
    ...(alone
      ? [
          {
            code: 'one-specimen',
            message: 'One specimen has no spread, and no basis value: it takes at least two, and five to be of use.',
          },
        ]
      : []),
  ]
}
