import { FAULT_KINDS, type FaultKind } from '@hypomet/core'
import * as z from 'zod'
import { PACES } from './desk'
import { streamSetUp } from './streamSetUp'

const pace = z.number().refine(p => (PACES as readonly number[]).includes(p), `A pace is one of ${PACES.join(', ')}.`)
const fault = z.object({ kind: z.enum(Object.keys(FAULT_KINDS) as [FaultKind, ...FaultKind[]]), role: z.string().min(1), label: z.string().default(''), at: z.number().min(0) })
const faults = z.union([z.literal('drawn'), z.array(fault).max(20)])

/** What a run begins with. */
export const startBody = z.discriminatedUnion('source', [
  z.object({ source: z.literal('rig'), pace, seed: z.number().int(), faults: faults.default([]) }),
  z.object({ source: z.literal('stream'), setUp: streamSetUp }),
  z.object({ source: z.literal('crew') }),
])

/** What a rehearsal begins with. */
export const rehearsalBody = z.object({ pace, seed: z.number().int(), faults: faults.default('drawn') })
