import * as z from 'zod'
import { plain, quantity } from '../method/settings'
import { warn, type Finding } from './finding'
import type { LadderRung } from './ladder'
import type { PointLoad, SpanModel } from './model'

/** How the line of load follows an article that bends far. */
export const movementField = z
  .object({
    line: z.enum(['anchored', 'hung']).default('anchored').meta({ title: 'The line of load' }),
    linkLength: quantity('length', { title: 'Length of the link', positive: true }).default(1),
    anchorOffset: quantity('length', { title: 'Anchor beyond the plumb line, outward' }).default(0),
    allowed: plain({ title: 'Side force allowed, share of the load', positive: true, max: 1 }).default(0.05),
  })
  .optional()
  .meta({ title: 'Large movement' })

export type Movement = NonNullable<z.output<typeof movementField>>

export interface MovementRow {
  /** Index in the ladder. */
  rung: number
  deflection: number
  /** How far the loaded place comes inward as the span bends, m. */
  inward: number
  /** Of the surface, rad, and of the line of load against the vertical. */
  slope: number
  tilt: number
  /** Along the surface, N, outward positive; and what the surface does not get of the load across it. */
  sideForce: number
  lostNormal: number
}

export interface MovementView {
  /** Place of the load that moves most, m. */
  at: number
  rows: MovementRow[]
  /** Largest side force as a share of its load. */
  worst: number
  /** Anchor at which the largest side force is least, and how large it then is as a share. */
  best: { anchorOffset: number; worst: number } | null
}

const PIECES = 40

/** How far a place comes inward: the bent length is the straight one, ½∫w′² dx. */
function inwardAt(slope: (x: number) => number, x: number): number {
  // Simpson's rule; the slope is smooth.
  const h = x / PIECES
  let sum = slope(0) ** 2 + slope(x) ** 2
  for (let i = 1; i < PIECES; i++) sum += (i % 2 === 1 ? 4 : 2) * slope(i * h) ** 2
  return (sum * h) / 6
}

interface Bent {
  rung: number
  load: number
  deflection: number
  inward: number
  slope: number
}

/** Angle between the line of load and the normal of the bent surface, rad; the surface leans inward as it bends. */
function lineAngle(b: Bent, m: Movement, offset: number): { tilt: number; angle: number } {
  const tilt = m.line === 'hung' ? 0 : Math.atan2(offset + b.inward, m.linkLength - b.deflection)
  return { tilt, angle: tilt + Math.atan(b.slope) }
}

/**
 * Line of load against the deflected shape at the load that moves most, rung by rung, and where the anchor keeps the
 * side
 * force smallest. A link from the loaded place goes straight down to an anchor that stands `anchorOffset` outward of it
 * at
 * rest; hung weights stay plumb.
 *
 * @source statics of a two-force link; inward movement of an inextensible beam, ½∫w′² dx
 */
export function movementView(
  m: Movement,
  span: SpanModel,
  rungs: readonly LadderRung[],
  loads: readonly (readonly PointLoad[])[],
  top: number,
): MovementView | null {
  const places = loads[top] ?? []
  if (places.length === 0) return null
  const atTop = span.bend(places)
  const place = places.reduce((a, b) =>
    Math.abs(atTop.at(b.x).deflection) > Math.abs(atTop.at(a.x).deflection) ? b : a,
  )
  const share = place.force / (places.reduce((s, l) => s + l.force, 0) || 1)
  const bent = rungs.flatMap((r, rung): Bent[] => {
    if (!(r.target > 0) || r.cycle > 1) return []
    const shape = span.bend(loads[rung]!)
    const { deflection, slope } = shape.at(place.x)
    return [{ rung, load: r.target * share, deflection, slope, inward: inwardAt(x => shape.at(x).slope, place.x) }]
  })
  if (bent.length === 0) return null
  const worstAt = (offset: number) =>
    Math.max(...bent.map(b => Math.abs(Math.sin(lineAngle(b, m, offset).angle)) * b.load)) /
    Math.max(...bent.map(b => b.load))
  const rows = bent.map((b): MovementRow => {
    const { tilt, angle } = lineAngle(b, m, m.anchorOffset)
    return {
      rung: b.rung,
      deflection: b.deflection,
      inward: b.inward,
      slope: b.slope,
      tilt,
      sideForce: b.load * Math.sin(angle),
      lostNormal: b.load * (1 - Math.cos(angle)),
    }
  })
  return {
    at: place.x,
    rows,
    worst: worstAt(m.anchorOffset),
    best: m.line === 'hung' ? null : bestAnchor(worstAt, m.linkLength),
  }
}

/** The largest side force falls, then rises as the anchor moves: its least by thirds. */
function bestAnchor(worstAt: (offset: number) => number, link: number): { anchorOffset: number; worst: number } {
  let [low, high] = [-link, link]
  for (let i = 0; i < 100; i++) {
    const [a, b] = [low + (high - low) / 3, high - (high - low) / 3]
    if (worstAt(a) < worstAt(b)) high = b
    else low = a
  }
  const anchorOffset = (low + high) / 2
  return { anchorOffset, worst: worstAt(anchorOffset) }
}

export function movementFindings(
  m: Movement,
  view: MovementView,
  show: (si: number, kind: 'length') => string,
): Finding[] {
  if (view.worst <= m.allowed) return []
  const share = (v: number) => `${(100 * v).toFixed(1)} %`
  const mend =
    view.best && view.best.worst < view.worst
      ? `With the anchor ${show(Math.abs(view.best.anchorOffset), 'length')} ` +
        `${view.best.anchorOffset < 0 ? 'inward' : 'outward'} it stays below ${share(view.best.worst)}; a longer ` +
        `link helps too.`
      : 'Hang the load so that it can follow, or carry the side force in the numbers.'
  return [
    warn(
      'side-force',
      'movement.anchorOffset',
      `The line of load pulls along the surface with ${share(view.worst)} of the load; ${share(m.allowed)} is allowed.`,
      mend,
    ),
  ]
}
