import type { PredictedCurve } from '../method/prediction'
import { HypometError } from '../error'
import { quantity, type QuantityInput } from '../method/settings'
import { unitFor, type Kind, type Quantity } from '../quantity/index'
import { isShare, outlineIn, type RegisterContext, type Row } from './field'
import { defineRegister } from './register'

const outlineOfRow = (row: Row, context: RegisterContext) =>
  outlineIn(
    context,
    context.refs['revision']?.find(r => r.id === row['revisionId']),
  )

export const kindOfPrediction = (row: Row, context: RegisterContext): Kind | null =>
  outlineOfRow(row, context)?.results[String(row['quantity'])]?.kind ?? null

export const PREDICTION_METHODS = [
  { value: 'hand', label: 'Hand calculation' },
  { value: 'sheet', label: 'Sheet' },
  { value: 'simulation', label: 'Simulation' },
  { value: 'supplier', label: 'Supplier' },
  { value: 'scaled', label: 'Scaled from a test' },
]

/** What is expected before the run: a value or a curve, its band, who says so, and where and how it would fail. */
export const predictionRegister = defineRegister({
  id: 'prediction',
  one: 'Prediction',
  many: 'Predictions',
  perCampaign: true,
  name: 'source',
  fields: [
    { key: 'revisionId', title: 'Revision', type: 'ref', to: 'revision', required: true, fixed: true },
    {
      key: 'testId',
      title: 'Only for test',
      type: 'ref',
      to: 'test',
      fixed: true,
      aside: true,
      hint: 'Empty for every test of the revision',
    },
    {
      key: 'quantity',
      title: 'Result',
      /** As it was called in files of earlier builds. */
      aliases: ['Of'],
      type: 'choice',
      required: true,
      options: (row, context) => {
        const outline = outlineOfRow(row, context)
        return [
          ...Object.entries(outline?.results ?? {}).map(([value, r]) => ({ value, label: r.label })),
          ...Object.entries(outline?.curves ?? {}).map(([value, c]) => ({
            value,
            label: `Curve: ${c.title.toLowerCase()}`,
          })),
        ]
      },
    },
    { key: 'entered', title: 'Value', type: 'quantity', kind: kindOfPrediction, kindFrom: 'Result' },
    {
      key: 'band',
      title: 'Band ±',
      type: 'quantity',
      kind: kindOfPrediction,
      kindFrom: 'Result',
      band: true,
      min: 0,
      hint: '± 3000 lbf, or ± 10 %: half width, taken as U with k = 2',
    },
    { key: 'method', title: 'From', type: 'choice', fallback: 'hand', options: PREDICTION_METHODS },
    { key: 'source', title: 'Source', type: 'text', required: true, hint: 'Who or which model says so' },
    { key: 'place', title: 'Fails where', type: 'text', suggest: placesOf },
    { key: 'mode', title: 'Fails how', type: 'text' },
    {
      key: 'config',
      title: 'Of configuration',
      type: 'text',
      aside: true,
      hint: 'Where one test measures several: the one that it speaks of, as the record calls it',
    },
    { key: 'note', title: 'Note', type: 'text', aside: true },
    { key: 'curve', title: 'Curve', type: 'data' },
  ],
  check(row, context) {
    const test = context.refs['test']?.find(t => t.id === row['testId'])
    if (test && test.revisionId !== row['revisionId'])
      throw new HypometError('setting-range', 'This test is of another revision.', { path: 'testId' })
    const outline = outlineOfRow(row, context)
    if (outline && String(row['quantity']) in outline.curves) checkCurve(row['curve'])
    else if (row['entered'] === null)
      throw new HypometError('missing-setting', 'A predicted value is needed.', { path: 'entered' })
  },
})

function checkCurve(curve: unknown): void {
  const { x, y } = (curve ?? {}) as Partial<PredictedCurve>
  const good =
    Array.isArray(x) &&
    Array.isArray(y) &&
    x.length === y.length &&
    [...x, ...y].every(v => typeof v === 'number' && Number.isFinite(v))
  if (!good)
    throw new HypometError('setting-type', 'A curve is two columns of numbers of the same length.', { path: 'curve' })
  if (x.length < 2) throw new HypometError('too-few', 'A curve has at least two points.', { path: 'curve' })
}

function halfWidth(band: QuantityInput | null, value: number, kind: Kind): number {
  if (band === null) return 0
  if (isShare(band)) return Math.abs(value) * quantity('ratio').parse(band)
  const { value: half, unit } = band as Quantity
  // A difference: the zero of a scale does not count.
  const { multiply, divide } = unitFor(unit, kind)
  return (half * multiply) / divide
}

/** Value and standard uncertainty, SI; null for a curve. */
export function predictedValue(row: Row, context: RegisterContext): { value: number; u: number } | null {
  const kind = kindOfPrediction(row, context)
  if (kind === null || row['entered'] === null) return null
  const value = quantity(kind).parse(row['entered'])
  return { value, u: halfWidth(row['band'] as QuantityInput | null, value, kind) / 2 }
}

/** Places that the article has names for. */
function placesOf(row: Row, { refs }: RegisterContext): string[] {
  return [...(refs['revision']?.find(r => r.id === row['revisionId'])?.places ?? [])]
}
