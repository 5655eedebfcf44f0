import * as z from 'zod'

/** Bodies that more than one route takes. */
export const newRevision = z.object({
  label: z.string().trim().min(1, 'A revision needs a label.').max(12, 'A label is short.'),
  changed: z.string().default(''),
  why: z.string().default(''),
  mass: z.number().positive('A mass is above zero.').nullable().default(null),
  parentId: z.number().int().nullable().default(null),
  properties: z.record(z.string(), z.unknown()),
})

export const quantityInput = z.union([z.number(), z.object({ value: z.number(), unit: z.string() })])
