import type { TypedSchema } from 'vee-validate'
import type { z } from 'zod'

/** vee-validate 4 has no adapter for Zod 4: this is one. */
export function typedSchema<S extends z.ZodType>(
  schema: S,
): TypedSchema<z.input<S> & Record<string, unknown>, z.output<S> & Record<string, unknown>> {
  const adapter = {
    __type: 'VVTypedSchema',
    async parse(values: unknown) {
      const parsed = await schema.safeParseAsync(values)
      if (parsed.success) return { value: parsed.data, errors: [] }
      const byPath = new Map<string, string[]>()
      for (const i of parsed.error.issues) {
        const path = i.path.map(String).join('.')
        byPath.set(path, [...(byPath.get(path) ?? []), i.message])
      }
      return { errors: [...byPath].map(([path, errors]) => ({ path, errors })) }
    },
    cast: (values: unknown) => values,
  }
  return adapter as never
}
