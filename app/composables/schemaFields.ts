import type { Kind } from '@hypomet/core'
import * as z from 'zod'

export interface SchemaField {
  key: string
  title: string
  kind: Kind | null
  optional: boolean
}

/** Fields of a form from the schema that checks it: one per key that carries a title and a kind of quantity. */
export function schemaFields(schema: z.ZodType): SchemaField[] {
  const { properties = {}, required = [] } = z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' }) as { properties?: Record<string, { title?: string; kind?: Kind; default?: unknown }>; required?: string[] }
  return Object.entries(properties).flatMap(([key, p]) => (p.title ? [{ key, title: p.title, kind: p.kind ?? null, optional: p.default !== undefined && !required.includes(key) }] : []))
}
