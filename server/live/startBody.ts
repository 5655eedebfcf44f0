import { FAULT_KINDS, oneOrList, type FaultKind } from '@hypomet/core'
import * as z from 'zod'
import { PACES } from './runManager'
import { streamSetUp } from './streamSetUp'

const pace = z
  .number({ error: `A pace is one of ${PACES.join(', ')}.` })
  .refine(p => (PACES as readonly number[]).includes(p), `A pace is one of ${PACES.join(', ')}.`)
const LATER = 'A surprise comes so many seconds after the beginning: a number, nothing or more.'
const seed = z.number({ error: 'A seed is a whole number.' }).int({ error: 'A seed is a whole number.' })
const fault = z.object({
  kind: z.enum(Object.keys(FAULT_KINDS) as [FaultKind, ...FaultKind[]]),
  role: z.string().min(1),
  label: z.string().default(''),
  at: z.number({ error: LATER }).min(0, { error: LATER }),
})
/** Drawn, or a list: its own complaints come through with their places. */
const faults = oneOrList(z.literal('drawn'), z.array(fault).max(20))

/** What a run begins with. */
export const startBody = z.discriminatedUnion('source', [
  z.object({ source: z.literal('rig'), pace, seed, faults: faults.default([]) }),
  z.object({ source: z.literal('stream'), setUp: streamSetUp }),
  z.object({ source: z.literal('crew') }),
])

/** What a rehearsal begins with. */
export const rehearsalBody = z.object({ pace, seed, faults: faults.default('drawn') })
