import type { QuantityInput } from '@hypomet/core'
import * as z from 'zod'

/** Bodies that more than one route takes. */
export const newRevision = z.object({
  label: z.string(),
  changed: z.string().default(''),
  why: z.string().default(''),
  mass: z
    .unknown()
    .default(null)
    .transform(m => m as QuantityInput | null),
  parentId: z.number().int().nullable().default(null),
  properties: z.record(z.string(), z.unknown()).default({}),
  facts: z.array(z.unknown()).default([]),
  constants: z.record(z.string(), z.number().int()).default({}),
})
