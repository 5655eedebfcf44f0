import * as z from 'zod'
import { adviceFor } from '../../../db/changes'

const body = z.object({ settings: z.record(z.string(), z.unknown()).default({}) })

export default defineRoute(async event => adviceFor(useServices().database.read, idOf(event), (await bodyOf(event, body)).settings))
