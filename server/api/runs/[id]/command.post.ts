import * as z from 'zod'

const body = z.object({ command: z.enum(['hold', 'resume', 'abort', 'call-out', 'mark']), note: z.string().max(300).default('') })

export default defineRoute(async event => {
  const { command, note } = await bodyOf(event, body)
  useServices().runs.command(idOf(event), command, personOf(event), note)
  return { ok: true }
})
