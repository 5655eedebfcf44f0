import { HypometError } from '../error'
import { quantity } from '../method/settings'
import type { Kind } from '../quantity/index'
import { outlineIn, type RegisterContext, type Row } from './field'
import { defineRegister } from './register'

const outlineOfRow = (row: Row, context: RegisterContext) =>
  outlineIn(
    context,
    context.refs['article']?.find(a => a.id === row['articleId']),
  )

/** Kind of the result that a limit is on; null while that is not said. */
export const kindOfLimit = (row: Row, context: RegisterContext): Kind | null =>
  outlineOfRow(row, context)?.results[String(row['quantity'])]?.kind ?? null

export const CONVENTION_CHOICES = [
  { value: 'margin-of-safety', label: 'Margin of safety' },
  { value: 'reserve-factor', label: 'Reserve factor' },
  { value: 'factor-of-safety', label: 'Factor of safety' },
]

export const LIMIT_LEVELS = [
  { value: 'service', label: 'Service' },
  { value: 'limit', label: 'Limit' },
  { value: 'ultimate', label: 'Ultimate' },
  { value: 'required-factor', label: 'Required factor' },
]

/** Design limits: what a result must keep to, at which level, from where, and how that is verified. */
export const limitRegister = defineRegister({
  id: 'limit',
  one: 'Limit',
  many: 'Limits',
  perCampaign: true,
  name: 'name',
  fields: [
    { key: 'articleId', title: 'Article', type: 'ref', to: 'article', required: true, fixed: true },
    {
      key: 'quantity',
      title: 'Result',
      type: 'choice',
      required: true,
      options: (row, context) =>
        Object.entries(outlineOfRow(row, context)?.results ?? {}).map(([value, r]) => ({ value, label: r.label })),
    },
    { key: 'name', title: 'Limit', type: 'text', required: true },
    {
      key: 'comparator',
      title: 'Must be',
      type: 'choice',
      required: true,
      options: [
        { value: 'atLeast', label: 'at least' },
        { value: 'atMost', label: 'at most' },
      ],
    },
    {
      key: 'entered',
      title: 'Value',
      type: 'quantity',
      required: true,
      kind: kindOfLimit,
      kindFrom: 'Result',
      hint: 'With its unit, as you would write it: 14 mm',
    },
    { key: 'level', title: 'Level', type: 'choice', fallback: 'limit', options: LIMIT_LEVELS },
    {
      key: 'factor',
      title: 'Factor',
      type: 'number',
      min: 0.01,
      max: 100,
      fallback: 1,
      hint: 'Asked on top of the value; 1 where the value contains it already',
    },
    {
      key: 'convention',
      title: 'Margin shown as',
      type: 'choice',
      aside: true,
      fallback: '',
      options: [{ value: '', label: 'As the campaign' }, ...CONVENTION_CHOICES],
    },
    { key: 'source', title: 'Source', type: 'text' },
    {
      key: 'verification',
      title: 'Verified by',
      type: 'choice',
      fallback: 'test',
      options: [
        { value: 'test', label: 'Test' },
        { value: 'analysis', label: 'Analysis' },
        { value: 'test-and-analysis', label: 'Test and analysis' },
        { value: 'inspection', label: 'Inspection' },
        { value: 'likeness', label: 'Similarity to a tested one' },
      ],
    },
    {
      key: 'fromRevisionId',
      title: 'From revision',
      type: 'ref',
      aside: true,
      to: 'revision',
      hint: 'It and those that descend from it; empty for all',
    },
    {
      key: 'state',
      title: 'State',
      type: 'choice',
      fallback: 'in-force',
      options: [
        { value: 'in-force', label: 'In force' },
        { value: 'withdrawn', label: 'Withdrawn' },
      ],
    },
  ],
  propose(row, context) {
    const result = outlineOfRow(row, context)?.results[String(row['quantity'])]
    return result ? { name: result.label, comparator: result.limited ?? 'atLeast' } : {}
  },
  check(row, context) {
    const revision = context.refs['revision']?.find(r => r.id === row['fromRevisionId'])
    if (revision && revision.articleId !== row['articleId'])
      throw new HypometError('setting-range', 'This revision is of another article.', { path: 'fromRevisionId' })
    if (limitWall(row, context) <= 0)
      throw new HypometError('setting-range', 'A limit is above zero.', { path: 'entered' })
  },
})

/**
 * Where the wall stands, SI: the value with the factor that is asked on top of it, away from what it must not reach.
 */
export function limitWall(row: Row, context: RegisterContext): number {
  const value = quantity(kindOfLimit(row, context)!).parse(row['entered'])
  const factor = (row['factor'] as number | null) ?? 1
  return row['comparator'] === 'atLeast' ? value * factor : value / factor
}
