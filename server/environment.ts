import * as z from 'zod'

const portField = z.coerce.number({ error: 'A port is a whole number.' }).int().min(0).max(65_535).optional()
const environment = z.object({
  /** Where the database is: a file, or a libSQL server's address. */
  HYPOMET_DB: z
    .string()
    .regex(/^(file|libsql|https?|wss?):/, 'HYPOMET_DB begins with file:, libsql:, http: or ws:.')
    .default('file:./data/hypomet.db'),
  NITRO_HOST: z.string().optional(),
  HOST: z.string().optional(),
  NITRO_PORT: portField,
  PORT: portField,
})

interface Environment {
  databaseUrl: string
  host: string
  port: number
}

const USUAL_PORT = 4500

/** The settings that the process was started with; a wrong one ends it with a sentence. */
export function readEnvironment(variables: NodeJS.ProcessEnv = process.env): Environment {
  const parsed = environment.safeParse(variables)
  if (!parsed.success) throw new Error(parsed.error.issues.map(i => i.message).join(' '))
  const { HYPOMET_DB, NITRO_HOST, HOST, NITRO_PORT, PORT } = parsed.data
  return { databaseUrl: HYPOMET_DB, host: NITRO_HOST || HOST || '127.0.0.1', port: NITRO_PORT ?? PORT ?? USUAL_PORT }
}
