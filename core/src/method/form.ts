import * as z from 'zod'
import type { Kind } from '../quantity/index'

/** What a setting looks like in a form; derived from the schema that checks it. */
export type FormField = {
  key: string
  title: string
  required: boolean
  /** May be left out for a while, and something hangs on it: not a matter of taste. */
  open?: true
  fallback?: unknown
} & (
  | { type: 'quantity'; kind: Kind | 'any' }
  /** Several quantities; with `orOne` a single one is written without a list. */
  | { type: 'quantities'; kind: Kind | 'any'; orOne: boolean }
  /** Lists of quantities, a line each: points of a field, shapes. */
  | { type: 'lists'; kind: Kind | 'any' }
  /** Several words. */
  | { type: 'words' }
  | { type: 'window'; kind: Kind }
  | { type: 'choice'; options: string[] }
  | { type: 'text' }
  | { type: 'flag' }
  | { type: 'group'; fields: FormField[] }
  | { type: 'rows'; columns: FormField[] }
  /** One of several groups, told apart by the constant under `by`. */
  | { type: 'variant'; by: string; options: { name: string; fields: FormField[] }[] }
  /** Named columns of numbers. */
  | { type: 'columns' }
  /** Anything else is written as JSON. */
  | { type: 'free' }
)

interface Node {
  type?: string
  title?: string
  kind?: Kind | 'any'
  open?: true
  const?: unknown
  enum?: string[]
  default?: unknown
  anyOf?: Node[]
  oneOf?: Node[]
  items?: Node
  prefixItems?: Node[]
  properties?: Record<string, Node>
  required?: string[]
  additionalProperties?: Node | boolean
}

/** The settings of a method as one field: a group, or a variant where the schema is a union. */
export function formOf(schema: z.ZodType): FormField {
  return fieldOf(
    'settings',
    z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any', override: keepDefault }) as Node,
    true,
  )
}

/** The default of a quantity is of its output, SI, which an input's schema leaves out; a form shows it all the same. */
function keepDefault({
  zodSchema,
  jsonSchema,
}: {
  zodSchema: z.core.$ZodTypes
  jsonSchema: z.core.JSONSchema.BaseSchema
}): void {
  const { def } = zodSchema._zod
  if (def.type === 'default') jsonSchema.default = def.defaultValue as never
}

function fieldOf(key: string, node: Node, required: boolean): FormField {
  const head = {
    key,
    title: node.title ?? wordsOf(key),
    required: required && node.default === undefined,
    ...(node.open ? { open: true as const } : {}),
    ...(node.default === undefined ? {} : { fallback: node.default }),
  }
  if (node.kind && node.kind !== 'any' && node.type === 'array') return { ...head, type: 'window', kind: node.kind }
  if (node.kind)
    return node.anyOf
      ? { ...head, type: 'quantity', kind: node.kind }
      : { ...head, type: 'quantities', kind: node.kind, orOne: true }
  if (node.enum) return { ...head, type: 'choice', options: node.enum }
  const options = (node.oneOf ?? node.anyOf)?.filter(o => o.type === 'object')
  const by = options?.length ? discriminator(options) : null
  if (options && by)
    return {
      ...head,
      type: 'variant',
      by,
      options: options.map(o => ({ name: String(o.properties![by]!.const), fields: fieldsOf(o, by) })),
    }
  if (node.type === 'string') return { ...head, type: 'text' }
  if (node.type === 'boolean') return { ...head, type: 'flag' }
  const ends = node.prefixItems?.[0]?.kind
  if (node.type === 'array' && ends) return { ...head, type: 'quantities', kind: ends, orOne: false }
  if (node.type === 'array' && node.items?.kind && node.items.type === 'array')
    return { ...head, type: 'lists', kind: node.items.kind }
  if (node.type === 'array' && node.items?.kind)
    return { ...head, type: 'quantities', kind: node.items.kind, orOne: false }
  const inner = node.items?.items?.kind ?? node.items?.prefixItems?.[0]?.kind
  if (node.type === 'array' && node.items?.type === 'array' && inner) return { ...head, type: 'lists', kind: inner }
  if (node.type === 'array' && node.items?.type === 'string') return { ...head, type: 'words' }
  if (node.type === 'array' && node.items?.type === 'object' && node.items.properties)
    return { ...head, type: 'rows', columns: fieldsOf(node.items) }
  if (node.type === 'object' && node.properties) return { ...head, type: 'group', fields: fieldsOf(node) }
  if (node.type === 'object' && typeof node.additionalProperties === 'object' && node.additionalProperties.items?.kind)
    return { ...head, type: 'columns' }
  return { ...head, type: 'free' }
}

const fieldsOf = (node: Node, but?: string): FormField[] =>
  Object.entries(node.properties!).flatMap(([key, n]) =>
    key === but ? [] : [fieldOf(key, n, node.required?.includes(key) ?? false)],
  )

const discriminator = (options: Node[]): string | null =>
  Object.keys(options[0]!.properties ?? {}).find(key => options.every(o => o.properties?.[key]?.const !== undefined)) ??
  null

/** “fullScale” → “Full scale”; what a method’s keys read as where nothing else is said. */
export function wordsOf(key: string): string {
  const words = key
    .replace(/[_-]/g, ' ')
    .replace(/([a-z])([A-Z])(?=[a-z])/g, (_, a: string, b: string) => `${a} ${b.toLowerCase()}`)
  return words.length > 1 ? words[0]!.toUpperCase() + words.slice(1) : words
}
