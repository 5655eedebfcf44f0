import * as z from 'zod'
import { PACES } from '../../../live/desk'

const body = z.object({ pace: z.number().refine(p => (PACES as readonly number[]).includes(p), `A pace is one of ${PACES.join(', ')}.`), seed: z.number().int() })

export default defineRoute(async event => ({ runId: await useServices().runs.start(personOf(event), idOf(event), await bodyOf(event, body)) }))
