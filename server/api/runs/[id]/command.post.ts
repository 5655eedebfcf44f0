import * as z from 'zod'

const body = z.object({
  command: z.enum(['hold', 'resume', 'go', 'abort', 'call-out', 'mark', 'reason', 'deviation', 'take', 'pass']), note: z.string().max(300).default(''),
  /** SI */
  value: z.number().nullable().default(null), to: z.string().max(100).default(''),
})

export default defineRoute(async event => {
  useServices().runs.command(idOf(event), personOf(event), await bodyOf(event, body))
  return { ok: true }
})
