import * as z from 'zod'

const body = z.object({
  command: z.enum([
    'hold',
    'resume',
    'go',
    'count-down',
    'reached',
    'stop',
    'abort',
    'call-out',
    'mark',
    'photo',
    'reason',
    'deviation',
    'take',
    'pass',
    'read',
  ]),
  note: z.string().max(300).default(''),
  /** SI */
  value: z.number().nullable().default(null),
  to: z.string().max(100).default(''),
  seconds: z.number().min(1).max(600).default(10),
  readings: z.record(z.string().max(100), z.number()).default({}),
})

export default defineRoute(async event => {
  useServices().runs.command(idOf(event), personOf(event), await bodyOf(event, body))
  return { ok: true }
})
