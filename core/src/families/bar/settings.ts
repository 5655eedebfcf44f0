import { pieceField } from '../../method/pieces'
import { plain, quantity, timeWindow } from '../../method/settings'
import * as z from 'zod'

export const size = (title: string) => quantity('length', { title, positive: true })

export const area = (title: string) => quantity('area', { title, positive: true })

export const settings = z.object({
  piece: pieceField('Shot of the run'),
  barModulus: quantity('pressure', { title: 'Bar modulus', positive: true }),
  barDensity: quantity('density', { title: 'Bar density', positive: true }),
  barArea: area('Area of the bars'),
  specimenArea: area('Area of the specimen, or of all ligaments'),
  specimenLength: size('Length of the specimen'),
  gaugeToSpecimenIncident: size('Incident gauge to specimen'),
  gaugeToSpecimenTransmitted: size('Specimen to transmitted gauge'),
  incidentWindow: timeWindow('Incident wave'),
  reflectedWindow: timeWindow('Reflected wave'),
  transmittedWindow: timeWindow('Transmitted wave'),
  specimen: z.enum(['compression', 'frame-tension']).default('compression').meta({ title: 'Specimen' }),
  school: z.enum(['one-wave', 'three-wave']).default('one-wave').meta({ title: 'Results by' }),
  dispersion: z.boolean().default(false).meta({ title: 'Correct the waves’ dispersion' }),
  barPoisson: plain({ title: 'Poisson’s ratio of the bars', positive: true, max: 0.49 }).default(0.29),
  zeroStart: timeWindow('Zero at the start').optional(),
})

export type BarSettings = z.output<typeof settings>
