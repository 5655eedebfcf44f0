import type { ResultTable } from '../../method/reduction'
import type { Drawing, DrawingItem } from '../drawing'
import type { PointLoad } from '../model'

/**
 * Adds a tree of levers below a span's drawing: a bar for each lever, level by level, and the pull of the jack at the
 * last.
 * Bars lie at their places along the span; the heights between levels are drawn, not measured.
 */
export function leverTreeOf(drawing: Drawing, tree: ResultTable, stations: readonly PointLoad[]): Drawing {
  const c = tree.columns
  const levels = Math.max(0, ...(c['level'] as number[]))
  if (levels === 0) return drawing
  const height = (drawing.to[0] - drawing.from[0]) * 0.045
  const bottom = drawing.to[1] + height * 1.6
  const places = new Map<string, { x: number; y: number }>(stations.map((s, i) => [`S${i + 1}`, { x: s.x, y: bottom }]))
  const items: DrawingItem[] = []
  ;(c['level'] as number[]).forEach((level, i) => {
    const [left, right] = [places.get(c['left']![i] as string)!, places.get(c['right']![i] as string)!]
    const at = { x: c['position']![i] as number, y: bottom + level * height }
    items.push(
      {
        is: 'line',
        tone: 'link',
        points: [
          [left.x, left.y],
          [left.x, at.y],
        ],
      },
      {
        is: 'line',
        tone: 'link',
        points: [
          [right.x, right.y],
          [right.x, at.y],
        ],
      },
      {
        is: 'line',
        tone: 'fixture',
        points: [
          [left.x, at.y],
          [right.x, at.y],
        ],
      },
    )
    places.set(`B${i + 1}`, at)
  })
  const last = [...places.values()].at(-1)!
  const total = stations.reduce((s, l) => s + l.force, 0)
  items.push({
    is: 'force',
    at: [last.x, last.y],
    toward: [0, 1],
    value: total,
    kind: 'force',
    share: 0.7,
    tone: 'load',
    name: 'Jack',
  })
  return { ...drawing, to: [drawing.to[0], bottom + (levels + 1) * height], items: [...drawing.items, ...items] }
}
