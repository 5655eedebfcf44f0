import { isHypometError } from '../error'
import { thinned, type Axis, type Figure } from '../method/figure'
import type { Table } from '../method/table'
import { kindOfSi } from '../quantity/index'
import { isOverLoad, ownFigure } from './declared'
import type { Own } from './own'
import { guideOf, readingOf, type OwnContext, type OwnResult } from './reduceOwn'

/**
 * Each result of one’s own as the curve that it was read from, with a line where it lies: over the load where it is
 * told by that, else over time. What has no kind that a unit could be chosen for, and slopes, are not drawn.
 *
 * @param table  every channel, SI; not zeroed
 */
export function drawOwn(
  table: Table,
  asked: readonly Own[],
  results: Readonly<Record<string, OwnResult>>,
  context: OwnContext,
  guideLabel: string,
): Record<string, Figure> {
  return Object.fromEntries(
    asked.flatMap(own => {
      const { value, kind } = results[own.name] ?? {}
      if (!kind || (typeof own.at === 'object' && 'slope' in own.at)) return []
      const x = axisOf(table, own, context, guideLabel)
      if (!x) return []
      const { y } = readingOf(table, own, context)
      const figure: Figure = {
        x: x.axis,
        y: { label: own.name, kind },
        series: [{ name: own.reads, style: 'measured', ...thinned(x.values, y) }],
        lines: value == null ? [] : [{ axis: 'y', value, label: own.name }],
        bands: x.bands,
      }
      return [[ownFigure(own.name, own.at), figure]]
    }),
  )
}

function axisOf(
  table: Table,
  { at }: Own,
  context: OwnContext,
  label: string,
): { axis: Axis; values: Float64Array; bands: NonNullable<Figure['bands']> } | null {
  if (isOverLoad(at)) {
    try {
      const { guide, unit } = guideOf(table, context)
      const kind = kindOfSi(unit)
      return kind ? { axis: { label, kind }, values: guide, bands: [] } : null
    } catch (e) {
      // Without a load nothing stands over it, and there is no result either.
      if (isHypometError(e)) return null
      throw e
    }
  }
  if (table.t.length === 0) return null
  const { steps } = context
  const n = typeof at === 'object' ? ('step' in at ? at.step : 'creep' in at ? at.creep : null) : null
  const [from, to] = [steps?.columns['start']?.[(n ?? 0) - 1], steps?.columns['end']?.[(n ?? 0) - 1]]
  const step = typeof from === 'number' && typeof to === 'number' ? [{ from, to, label: `step ${n}` }] : []
  const mean = typeof at === 'object' && 'mean' in at ? [{ from: at.mean[0], to: at.mean[1], label: 'mean' }] : []
  return { axis: { label: 'Time', kind: 'time' }, values: table.t, bands: [...step, ...mean] }
}
