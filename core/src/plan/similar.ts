import * as z from 'zod'
import { compareStates, similitudeState } from '../calc/planning/similitude'
import { warn, type Finding } from './finding'

/** Where test and service differ: the governing numbers of both. */
export const similitudeField = z
  .object({
    test: similitudeState.meta({ title: 'In the test' }),
    service: similitudeState.meta({ title: 'In service' }),
    answer: z.string().default('').meta({ title: 'What is done about what is not represented' }),
  })
  .optional()
  .meta({ title: 'Test beside service' })

const NAMES: Record<string, string> = {
  dynamicPressure: 'Dynamic pressure',
  massRatio: 'Mass ratio',
  froude: 'Froude number',
  reynolds: 'Reynolds number',
  lineLoad: 'Line load',
}

export interface SimilitudeRow {
  name: string
  test: number
  service: number
  ratio: number
  within: boolean
}

export const similitudeRows = (s: z.output<typeof similitudeField>): SimilitudeRow[] =>
  s ? compareStates(s.test, s.service).map(r => ({ ...r, name: NAMES[r.name] ?? r.name, within: r.within === 1 })) : []

export function similitudeFindings(s: z.output<typeof similitudeField>): Finding[] {
  const missed = similitudeRows(s)
    .filter(r => !r.within)
    .map(r => r.name.toLowerCase())
  return missed.length === 0 || s?.answer.trim()
    ? []
    : [
        warn(
          'not-represented',
          'similitude.answer',
          `The test does not represent service in: ${missed.join(', ')}.`,
          'Say what follows from that for the verdict, or change the test.',
        ),
      ]
}
