import { FAULT_KINDS, type FaultKind } from '@hypomet/core'
import * as z from 'zod'
import { PACES } from '../../../live/desk'

const fault = z.object({ kind: z.enum(Object.keys(FAULT_KINDS) as [FaultKind, ...FaultKind[]]), role: z.string().min(1), label: z.string().default(''), at: z.number().min(0) })
const body = z.object({
  pace: z.number().refine(p => (PACES as readonly number[]).includes(p), `A pace is one of ${PACES.join(', ')}.`), seed: z.number().int(),
  faults: z.union([z.literal('drawn'), z.array(fault).max(20)]).default('drawn'),
})

export default defineRoute(async event => ({ runId: await useServices().runs.rehearse(personOf(event), idOf(event), await bodyOf(event, body)) }))
