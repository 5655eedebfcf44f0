import * as z from 'zod'

const HOST = 'A host is a name or an address, as in 127.0.0.1.'
const PORT = 'A port is a whole number from 1 to 65535; 127.0.0.1:5025 names host and port.'

const whole = (words: string, min: number, max: number) =>
  z.number({ error: words }).int(words).min(min, words).max(max, words)

/** A TCP address on the network of the rig. */
export const tcpAddress = {
  host: z
    .string({ error: HOST })
    .regex(/^[\w.:-]+$/, HOST)
    .max(253, HOST)
    .meta({ title: 'Host' }),
  port: whole(PORT, 1, 65_535).meta({ title: 'Port' }),
}

/** A line of text that something listens for. */
const lineOutput = z.object({
  kind: z.literal('line'),
  ...tcpAddress,
  text: z.string().min(1, 'Which line?').max(200, 'A line has 200 letters at most.').meta({ title: 'Line to send' }),
})

/** A coil of a relay that speaks Modbus over TCP. */
const coilOutput = z.object({
  kind: z.literal('coil'),
  ...tcpAddress,
  unit: whole('A unit is a whole number from 0 to 255.', 0, 255).default(1).meta({ title: 'Unit' }),
  coil: whole('A coil is a whole number from 0 to 65535.', 0, 65_535).default(0).meta({ title: 'Coil' }),
  to: z.enum(['on', 'off']).default('on').meta({ title: 'On abort' }),
})

/** What every console says aloud, after its siren. */
const voiceOutput = z.object({
  kind: z.literal('voice'),
  sentence: z.string().min(1, 'Which sentence?').max(200).default('Abort. Unload now.').meta({ title: 'Says' }),
})

export const abortOutputSchema = z.discriminatedUnion('kind', [lineOutput, coilOutput, voiceOutput])
export const abortOutputsField = z.array(abortOutputSchema).max(8).default([]).meta({ title: 'On abort' })

export type AbortOutput = z.output<typeof abortOutputSchema>
/** One that reaches the rig, not only ears. */
export type WiredOutput = Exclude<AbortOutput, { kind: 'voice' }>

export const isWired = (o: AbortOutput): o is WiredOutput => o.kind !== 'voice'

/**
 * What an output is, in words.
 *
 * @example outputWords({ kind: 'coil', host: '10.0.0.4', port: 502, unit: 1, coil: 3, to: 'on' })
 *   // 'relay at 10.0.0.4:502, unit 1, coil 3 on'
 */
export function outputWords(o: AbortOutput): string {
  if (o.kind === 'voice') return `siren, and “${o.sentence}”`
  const where = `${o.host}:${o.port}`
  return o.kind === 'line'
    ? `line “${o.text}” to ${where}`
    : `relay at ${where}, unit ${o.unit}, coil ${o.coil} ${o.to}`
}
