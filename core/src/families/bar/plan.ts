import * as z from 'zod'
import type { ProposedFrom } from '../../family/contract'
import { omitUndefined } from '../../method/omitUndefined'
import { quantity } from '../../method/settings'
import { planSchema } from '../../plan/plan'
import { direct, type Planning } from '../../plan/planning'

const size = (title: string) => quantity('length', { title, positive: true }).optional()

const own = {
  toldBy: quantity('strain', { title: 'A shot is told by', positive: true }).optional(),
  keptBefore: quantity('time', { title: 'Kept before it', positive: true, max: 60 }).optional(),
  keptAfter: quantity('time', { title: 'Kept after it', positive: true, max: 60 }).optional(),
  barModulus: quantity('pressure', { title: 'Bar modulus', positive: true }).optional(),
  barDensity: quantity('density', { title: 'Bar density', positive: true }).optional(),
  barDiameter: size('Diameter of the bars'),
  specimenArea: quantity('area', { title: 'Area of the specimen, or of all ligaments', positive: true }).optional(),
  specimenLength: size('Length of the specimen'),
  gaugeToSpecimenIncident: size('Incident gauge to specimen'),
  gaugeToSpecimenTransmitted: size('Specimen to transmitted gauge'),
  strikerLength: size('Length of the striker'),
  strikerVelocity: quantity('velocity', { title: 'Velocity of the striker', positive: true }).optional(),
  specimen: z.enum(['compression', 'frame-tension']).default('compression').meta({ title: 'Specimen' }),
}

export const barPlan = planSchema(own, ['direct'])
export type BarPlan = z.output<typeof barPlan>

export const barPlanning: Planning<BarPlan> = {
  loadings: ['direct'],
  needed: [
    { role: 'incident', label: 'Incident bar', kind: 'strain' },
    { role: 'transmitted', label: 'Transmitted bar', kind: 'strain' },
  ],
  read: { role: 'incident', kind: 'strain' },
  readBy: {},
  own: z.object(own),
  begins: { direct: direct('pressure', 'Striker pressure', 'strikerPressure', 2e5, 1) },
  setUp: [
    { key: 'set-up:0', text: 'Bars in line, faces greased, striker runs free', why: 'A step between bars reflects.' },
    {
      key: 'set-up:1',
      text: 'Bars alone: incident wave comes through unchanged',
      why: 'What the bars do by themselves is not the specimen.',
    },
  ],
}

/** A wave has begun at this share of its peak; before it lies so much of the pulse as well. */
const BEGUN = 0.1
const BEFORE = 0.06

/**
 * Bars and specimen as planned. The incident wave is found in the record and ends with the striker's pulse; the other
 * two
 * windows follow from how far each has to travel. Zero from what lies before it.
 */
export function proposeBar({ plan, table: { t, channels } }: ProposedFrom<BarPlan>): Record<string, unknown> {
  const {
    barModulus,
    barDensity,
    barDiameter,
    specimenArea,
    specimenLength,
    gaugeToSpecimenIncident: ai,
    gaugeToSpecimenTransmitted: at,
    strikerLength,
    specimen,
  } = plan ?? {}
  const known = omitUndefined({
    barModulus,
    barDensity,
    barArea: barDiameter && (Math.PI * barDiameter ** 2) / 4,
    specimenArea,
    specimenLength,
    gaugeToSpecimenIncident: ai,
    gaugeToSpecimenTransmitted: at,
    specimen,
  })
  const incident = channels['incident']
  if (!incident || t.length < 10 || !barModulus || !barDensity) return known
  const c = Math.sqrt(barModulus / barDensity)
  const largest = incident.reduce((m, v) => (Math.abs(v) > Math.abs(m) ? v : m), 0)
  const begins = incident.findIndex(v => v / largest >= BEGUN)
  const pulse = strikerLength ? (2 * strikerLength) / c : widthOf(t, incident, begins, largest)
  const tidy = (from: number): [number, number] =>
    [from, from + (1 + 3 * BEFORE) * pulse].map(v => Number(v.toPrecision(7))) as [number, number]
  const from = t[begins]! - BEFORE * pulse
  const windows =
    ai === undefined || at === undefined
      ? { incidentWindow: tidy(from) }
      : {
          incidentWindow: tidy(from),
          reflectedWindow: tidy(from + (2 * ai) / c),
          transmittedWindow: tidy(from + (ai + at) / c),
        }
  const rest = t[begins]! - 2 * BEFORE * pulse
  return {
    ...known,
    ...windows,
    ...(rest > t[0]! + 5 * (t[1]! - t[0]!) ? { zeroStart: [t[0]!, Number(rest.toPrecision(7))] } : {}),
  }
}

/** Time until the first wave has fallen to half of its peak. */
function widthOf(t: Float64Array, y: Float64Array, from: number, largest: number): number {
  const top = y.findIndex((v, i) => i >= from && v / largest >= 0.9)
  const end = y.findIndex((v, i) => i > top && v / largest < 0.5)
  return (end < 0 ? t.at(-1)! : t[end]!) - t[from]!
}
