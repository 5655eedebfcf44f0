import * as z from 'zod'

/** What a console says to its run. */
export const commandBody = z.object({
  command: z.enum([
    'hold',
    'resume',
    'go',
    'count-down',
    'reached',
    'stop',
    'abort',
    'tare',
    'let-go',
    'broke',
    'call-out',
    'mark',
    'photo',
    'reason',
    'deviation',
    'take',
    'pass',
    'read',
    'strike',
  ]),
  /** Of what is struck out: when it was read, s on the run's clock, and on which channel. */
  at: z.number().nullable().default(null),
  role: z.string().max(100).default(''),
  note: z.string().max(300).default(''),
  /** SI */
  value: z.number().nullable().default(null),
  to: z.string().max(100).default(''),
  mode: z.string().max(200).default(''),
  place: z.string().max(200).default(''),
  seconds: z.number().min(1).max(600).default(10),
  readings: z.record(z.string().max(100), z.number()).default({}),
})
