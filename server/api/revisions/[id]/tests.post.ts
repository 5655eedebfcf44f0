import * as z from 'zod'
import { createTest } from '../../../db/tests'

const body = z.object({ title: z.string().trim().min(1, 'A test needs a title.'), plan: z.record(z.string(), z.unknown()).nullable().default(null) })

export default defineRoute(async event => createTest(useServices().database, personOf(event), idOf(event), await bodyOf(event, body)))
