import { endsEarly, type Cause } from '../judge/cause'
import type { Comparator, Validity, Verdict } from '../judge/decide'
import type { Result } from '../method/reduction'
import { quantity, type QuantityInput } from '../method/settings'
import type { Kind } from '../quantity/index'
import { spreadOf, trendOf, type SpecimenValue } from '../compare/specimens'
import { expanded } from './model'

/*
 * What the tested revision may be asked to do: tables to hand over. They state numbers; site rules and licensed
 * practice decide.
 */

export type OperatingCell = string | { value: number | null; kind: Kind }

export interface OperatingTable {
  title: string
  sentence: string
  columns: string[]
  rows: OperatingCell[][]
}

export interface OperatingInput {
  results: Readonly<Record<string, Result>>
  labels: Readonly<Record<string, { label: string; kind: Kind }>>
  limits: readonly {
    name: string
    quantity: string
    comparator: Comparator
    value: number
    factor: number
    verdict?: Verdict | null
  }[]
  /** Of the reduction, as entered. */
  settings: Readonly<Record<string, unknown>>
  /** Valid tests of the revision and, for wear, of all revisions. */
  specimens: readonly {
    isOwn: boolean
    measure: number | null
    results: Readonly<Record<string, SpecimenValue | { value: number | null; bound: Result['bound'] }>>
  }[]
  measure: { label: string; kind: Kind } | null
  /** Weights that may hang, as somebody typed them, N. */
  weights?: readonly number[]
}

/** A table that only one kind of test can hand over; null where its results do not allow it. */
export type Handover = (o: OperatingInput) => OperatingTable | null

/** Every table that the results allow, with that of the kind of test between those of all. */
export const operatingTables = (o: OperatingInput, ofFamily?: Handover): OperatingTable[] =>
  [byFactor(o), ofFamily?.(o) ?? null, retirement(o)].filter(t => t !== null)

/** What a test says against what it hands over. */
export interface StandingRemarks {
  validity: Validity
  cause: Cause
  mode: string
  place: string
  note: string
  failed: readonly string[]
}

/** What stands on a sheet that is handed over, in words, before any number: whatever speaks against it. */
export function handoverRemarks({ validity, cause, mode, place, note, failed }: StandingRemarks): string[] {
  const where = [mode, place].filter(Boolean).join(', ')
  return [
    ...failed.map(name => `This test failed “${name}”: what hangs on it is not handed over.`),
    ...(cause === 'article' ? [`The article failed in this test${where ? `: ${where}` : ''}.`] : []),
    ...(endsEarly(cause) ? [`The test ended by the ${cause}, not by the article${where ? `: ${where}` : ''}.`] : []),
    ...(validity === 'valid-with-remarks' ? [`The test counts with remarks${note ? `: ${note}` : '.'}`] : []),
  ]
}

/** The lower edge of what is known: none where a value is only an upper bound. */
export const lowerEdge = (r: Result | undefined): number | null =>
  !r || r.value === null || r.bound === 'atMost'
    ? null
    : (typeof r.bound === 'object' ? r.bound.interval[0] : r.value) - expanded(r)
/** A setting as entered, SI; null where it is not given. */
export const settingSi = (raw: unknown, kind: Kind): number | null =>
  (p => (p.success ? p.data : null))(quantity(kind).safeParse(raw as QuantityInput))

/** What was shown, by this test and as a basis of all specimens, over the factor that the limit asks. */
function byFactor({ limits, results, labels, specimens }: OperatingInput): OperatingTable | null {
  const rows = limits
    .filter(l => l.comparator === 'atLeast' && l.factor > 1)
    .flatMap((l): OperatingCell[][] => {
      const kind = labels[l.quantity]?.kind ?? 'ratio'
      const shown = lowerEdge(results[l.quantity])
      if (shown === null || !(shown > 0)) return []
      const own = specimens
        .filter(s => s.isOwn)
        .flatMap(s => (r => (r?.value == null ? [] : [{ value: r.value, bound: r.bound }]))(s.results[l.quantity]))
      const claim = own.length > 1 ? (spreadOf(own, { comparator: 'atLeast' })?.claim ?? null) : null
      const least = claim === null ? shown : Math.min(shown, claim)
      return [
        [
          l.name,
          { value: shown, kind },
          claim === null ? (own.length > 1 ? 'not available' : 'one specimen: none') : { value: claim, kind },
          { value: l.factor, kind: 'ratio' },
          l.verdict === 'fail' ? 'none: the limit failed' : { value: least > 0 ? least / l.factor : null, kind },
          { value: l.value / l.factor, kind },
        ],
      ]
    })
  if (rows.length === 0) return null
  return {
    title: 'In service, by the factor that is asked',
    sentence:
      'What was shown less its uncertainty, or the basis value of all specimens (90 % exceed, 95 % confidence) ' +
      'where that is lower, over the factor of the limit.',
    columns: ['Limit', 'Shown at least', 'Basis of all specimens', 'Factor', 'Allowed in service', 'Asked in service'],
    rows,
  }
}

const at = (row: OperatingCell[]): number => (typeof row[0] === 'object' ? (row[0].value ?? 0) : 0)

/** Where a measure – wear – says when an article has done its service. */
function retirement({ specimens, measure, limits, labels }: OperatingInput): OperatingTable | null {
  if (!measure) return null
  for (const l of limits) {
    const worn = specimens.flatMap(s =>
      (r => (s.measure === null || r?.value == null ? [] : [{ x: s.measure, y: r.value }]))(s.results[l.quantity]),
    )
    const trend = trendOf(
      worn.map(w => w.x),
      worn.map(w => w.y),
      { value: l.value, comparator: l.comparator },
    )
    if (!trend) continue
    const kind = labels[l.quantity]?.kind ?? 'ratio'
    const edge = l.comparator === 'atLeast' ? trend.curve.lower : trend.curve.upper
    const every = Math.ceil(trend.curve.x.length / 8)
    return {
      title: `Retirement by ${measure.label.toLowerCase()}`,
      columns: [measure.label, `${labels[l.quantity]?.label ?? l.quantity}, next one with 97.5 %`, `Keeps “${l.name}”`],
      sentence:
        trend.meets === null
          ? `Within twice the range tested no ${measure.label.toLowerCase()} can be named from which on it fails.`
          : `Out of use from a ${measure.label.toLowerCase()} at which the band’s edge meets “${l.name}”.`,
      rows: [
        ...trend.curve.x.flatMap((x, i): OperatingCell[][] =>
          i % every === 0
            ? [
                [
                  { value: x, kind: measure.kind },
                  { value: edge[i]!, kind },
                  (l.comparator === 'atLeast' ? edge[i]! >= l.value : edge[i]! <= l.value) ? 'yes' : 'no',
                ],
              ]
            : [],
        ),
        ...(trend.meets === null
          ? []
          : [
              [
                { value: trend.meets, kind: measure.kind },
                { value: l.value, kind },
                'out of use from here',
              ] satisfies OperatingCell[],
            ]),
      ].toSorted((a, b) => at(a) - at(b)),
    }
  }
  return null
}
