import type { Comparator } from '../judge/decide'
import type { Result } from '../method/reduction'
import { quantity, type QuantityInput } from '../method/settings'
import type { Kind } from '../quantity/index'
import { spreadOf, trendOf, type SpecimenValue } from '../compare/specimens'
import { expanded } from './model'

/* What the tested revision may be asked to do: tables to hand over. They state numbers; site rules and licensed practice decide. */

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
  limits: readonly { name: string; quantity: string; comparator: Comparator; value: number; factor: number }[]
  /** Of the reduction, as entered. */
  settings: Readonly<Record<string, unknown>>
  /** Valid tests of the revision and, for wear, of all revisions. */
  specimens: readonly {
    isOwn: boolean
    measure: number | null
    results: Readonly<Record<string, SpecimenValue | { value: number | null; bound: Result['bound'] }>>
  }[]
  measure: { label: string; kind: Kind } | null
}

/** Every table that the results allow. */
export const operatingTables = (o: OperatingInput): OperatingTable[] =>
  [byFactor(o), loadFactorByWeight(o), powerByAmbient(o), massByAltitude(o), retirement(o)].filter(t => t !== null)

/** The lower edge of what is known: none where a value is only an upper bound. */
const lowerEdge = (r: Result | undefined): number | null =>
  !r || r.value === null || r.bound === 'atMost'
    ? null
    : (typeof r.bound === 'object' ? r.bound.interval[0] : r.value) - expanded(r)
const si = (raw: unknown, kind: Kind): number | null =>
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
          { value: least > 0 ? least / l.factor : null, kind },
          { value: l.value / l.factor, kind },
        ],
      ]
    })
  if (rows.length === 0) return null
  return {
    title: 'In service, by the factor that is asked',
    sentence:
      'What was shown less its uncertainty, or the basis value of all specimens (90 % exceed, 95 % confidence) where that is lower, over ' +
      'the factor of the limit.',
    columns: ['Limit', 'Shown at least', 'Basis of all specimens', 'Factor', 'Allowed in service', 'Asked in service'],
    rows,
  }
}

/** Static: the same load in the structure at other weights. */
function loadFactorByWeight({ results, limits, settings }: OperatingInput): OperatingTable | null {
  const design = si(settings['designLoad'], 'force')
  const shown = lowerEdge(results['maxLoad'])
  const limit = limits.find(l => l.quantity === 'maxLoad')
  if (design === null || shown === null) return null
  const factor = limit?.factor ?? 1
  return {
    title: 'Load factor against weight',
    columns: ['Weight that hangs', 'Load factor allowed'],
    sentence:
      `The largest load shown, less its uncertainty, over the factor ${factor} and the weight: the ` +
      `structure carries the same load whatever hangs.`,
    rows: [0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1].map(share => [
      { value: share * design, kind: 'force' },
      { value: shown / factor / (share * design), kind: 'ratio' },
    ]),
  }
}

/** Thermal: the power at which the steady temperature just keeps its limit, at other ambients. */
function powerByAmbient({ results, limits, settings }: OperatingInput): OperatingTable | null {
  const [steady, power] = [results['steadyTemperature'], results['power']?.value]
  const limit = limits.find(l => l.quantity === 'steadyTemperature')?.value ?? si(settings['limit'], 'temperature')
  const ambient = si(settings['ambient'], 'temperature')
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

/** Standard air: density over that at sea level. @source ISO 2533 */
const densityRatio = (height: number): number => (1 - 2.25577e-5 * height) ** 4.2559

/** Descent: the mass that still comes down slowly enough, by altitude. */
function massByAltitude({ results, limits, settings }: OperatingInput): OperatingTable | null {
  const rate = results['seaLevelRate']
  const limit = limits.find(l => l.quantity === 'descentRate' || l.quantity === 'seaLevelRate')
  const mass = si(settings['mass'], 'mass')
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
