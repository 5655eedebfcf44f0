import * as z from 'zod'
import { endPullOf } from '../calc/planning/end-pull'
import { quantity } from '../method/settings'
import { stop, type Finding } from './finding'

/** Ends that cannot slide pull on what holds them as the span sags. */
export const restraintField = z
  .object({
    axialStiffness: quantity('force', { title: 'Axial stiffness EA', positive: true }),
    length: quantity('length', { title: 'Length between the ends', positive: true }),
    attachmentCapacity: quantity('force', { title: 'An attachment carries', positive: true }),
    sag: quantity('length', { title: 'Sag at the top rung', positive: true }).optional(),
  })
  .optional()
  .meta({ title: 'Restrained ends' })

export type Restraint = NonNullable<z.output<typeof restraintField>>

export interface RestraintView {
  sag: number | null
  pull: number | null
  /** Pull at each rung, N; sag goes with the load. */
  pulls: (number | null)[]
  /** Sag at which the attachment's capacity is reached. */
  sagAllowed: number
}

export function restraintView(r: Restraint, expectedSag: number | null, shares: readonly number[]): RestraintView {
  const sag = r.sag ?? expectedSag
  return {
    sag,
    pull: sag === null ? null : endPullOf(r, sag),
    pulls: shares.map(s => (sag === null ? null : endPullOf(r, sag * s))),
    sagAllowed: (2 * r.length * Math.sqrt(r.attachmentCapacity / r.axialStiffness)) / Math.PI,
  }
}

export function restraintFindings(
  r: Restraint,
  v: RestraintView,
  show: (si: number, kind: 'force' | 'length') => string,
): Finding[] {
  if (v.pull === null || v.pull <= r.attachmentCapacity) return []
  return [
    stop(
      'insert-overload',
      'restraint.attachmentCapacity',
      `At a sag of ${show(v.sag!, 'length')} the ends pull ${show(v.pull, 'force')} on attachments that carry ` +
        `${show(r.attachmentCapacity, 'force')}: the fixture would break the part.`,
      `Let one end slide, or stop at a sag of ${show(v.sagAllowed, 'length')}.`,
    ),
  ]
}
