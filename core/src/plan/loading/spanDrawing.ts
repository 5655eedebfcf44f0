import { box, shareOf, type Drawing, type DrawingItem, type DrawnPoint } from '../drawing'
import type { PointLoad, SpanModel } from '../model'
import type { LoadingContext } from './loading'

const PIECES = 32

/** Outline of a span along its bent shape; `sag` 0 is at rest. */
function outline(span: SpanModel, deflection: (x: number) => number): DrawnPoint[] {
  const xs = Array.from({ length: PIECES + 1 }, (_, i) => (span.length * i) / PIECES)
  return [
    ...xs.map((x): DrawnPoint => [x, deflection(x) - span.halfDepth(x)]),
    ...xs.toReversed().map((x): DrawnPoint => [x, deflection(x) + span.halfDepth(x)]),
  ]
}

/** What holds the span, and what that must bear. */
function supports({ length, support, halfDepth }: SpanModel, loads: readonly PointLoad[]): DrawingItem[] {
  const force = loads.reduce((s, l) => s + l.force, 0)
  const moment = loads.reduce((s, l) => s + l.force * l.x, 0)
  const depth = halfDepth(0)
  if (support === 'cantilever')
    return [
      { is: 'support', at: [0, 0], as: 'clamp', depth },
      { is: 'force', at: [0, -depth], toward: [0, -1], value: force, kind: 'force', share: 0.6, tone: 'reaction' },
      { is: 'turn', at: [0, depth], value: moment, kind: 'torque', tone: 'reaction' },
    ]
  const end = moment / length
  const largest = Math.max(end, force - end)
  const reaction = (x: number, value: number): DrawingItem => ({
    is: 'force',
    at: [x, halfDepth(x)],
    toward: [0, -1],
    value,
    kind: 'force',
    share: 0.6 * shareOf(value, largest),
    tone: 'reaction',
    into: true,
  })
  return [
    { is: 'support', at: [0, depth], as: 'pin', depth },
    { is: 'support', at: [length, halfDepth(length)], as: 'roller', depth },
    reaction(0, force - end),
    reaction(length, end),
  ]
}

/**
 * A span to scale, at rest and bent by the loads of the highest rung, with what holds it.
 *
 * @param on  what brings the loads in, drawn along the bent shape
 * @param above  room above the span for it, m
 */
export function spanDrawing(
  title: string,
  { span, loads, top, readAt, failure, rungs }: LoadingContext,
  on: (deflection: (x: number) => number, now: readonly PointLoad[]) => DrawingItem[],
  above = 0,
): Drawing {
  if (!span) return { title, from: [0, 0], to: [1, 0.3], toScale: false, items: [] }
  const now = loads[top] ?? []
  const bent = span.bend(now)
  const deflection = (x: number) => bent.at(x).deflection
  const deepest = Math.max(0, ...Array.from({ length: PIECES + 1 }, (_, i) => deflection((span.length * i) / PIECES)))
  const half = Math.max(span.halfDepth(0), span.halfDepth(span.length))
  const items: DrawingItem[] = [
    { is: 'area', points: outline(span, () => 0), tone: 'rest' },
    { is: 'area', points: outline(span, deflection), tone: 'article' },
    ...supports(span, now),
    ...on(deflection, now),
  ]
  if (readAt !== null && rungs[top])
    items.push({
      is: 'measure',
      from: [readAt, 0],
      to: [readAt, deflection(readAt)],
      value: deflection(readAt),
      kind: 'length',
      tone: 'predicted',
      side: span.support === 'simple' ? 'left' : 'right',
    })
  if (failure)
    items.push({
      is: 'mark',
      at: above > 0 ? [failure.place, deflection(failure.place) + half] : [failure.place, -half],
      text: `predicted failure location (${failure.mode})`,
      side: above > 0 ? 'below' : 'above',
    })
  items.push({
    is: 'measure',
    from: [0, deepest + half],
    to: [span.length, deepest + half],
    value: span.length,
    kind: 'length',
    tone: 'plain',
    side: 'below',
  })
  return { title, from: [0, -half - above], to: [span.length, deepest + half], toScale: true, items }
}

/** Arrows that pull down at places along the span, from below. */
export const pulls =
  (span: SpanModel, names?: (i: number) => string) =>
  (deflection: (x: number) => number, now: readonly PointLoad[]): DrawingItem[] => {
    const largest = Math.max(...now.map(l => Math.abs(l.force)))
    return now.map((l, i): DrawingItem => ({
      is: 'force',
      at: [l.x, deflection(l.x) + Math.sign(l.force || 1) * span.halfDepth(l.x)],
      toward: [0, Math.sign(l.force || 1)],
      value: Math.abs(l.force),
      kind: 'force',
      share: shareOf(l.force, largest),
      tone: 'load',
      ...(names ? { name: names(i) } : {}),
    }))
  }

/** A row of something lying on the span: a block that is as high as it is heavy. */
export function blocks(
  deflection: (x: number) => number,
  span: SpanModel,
  rows: readonly { from: number; to: number; load: number; label: string }[],
  highest: number,
  tone: 'bag' | 'water' | 'gas',
): DrawingItem[] {
  const most = Math.max(...rows.map(r => r.load), 0)
  return rows.flatMap((r): DrawingItem[] => {
    if (!(r.load > 0)) return []
    const x = (r.from + r.to) / 2
    const base = deflection(x) - span.halfDepth(x)
    const inset = (r.to - r.from) * 0.04
    return [
      {
        is: 'area',
        points: box(r.from + inset, base - (highest * r.load) / most, r.to - inset, base),
        tone,
        label: r.label,
      },
    ]
  })
}
