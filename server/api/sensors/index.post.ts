import * as z from 'zod'
import { createSensor, isKind } from '../../db/sensors'

const body = z.object({
  name: z.string().trim().min(1, 'A sensor needs a name.'),
  kind: z.string().refine(isKind, 'Unknown kind of quantity.'),
  specification: z.record(z.string(), z.unknown()),
  calibrationDue: z.iso.date().nullable().default(null),
})

export default defineRoute(async event => createSensor(useServices().database, personOf(event), await bodyOf(event, body)))
