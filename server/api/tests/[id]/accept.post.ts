import * as z from 'zod'
import { acceptCandidate } from '../../../db/changes'

const body = z.object({ candidateId: z.string(), label: z.string().trim().min(1, 'A revision needs a label.').max(12, 'A label is short.'), settings: z.record(z.string(), z.unknown()).default({}) })

export default defineRoute(async event => acceptCandidate(useServices().database, personOf(event), idOf(event), await bodyOf(event, body)))
