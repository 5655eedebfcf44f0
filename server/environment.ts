import { delimiter, dirname, join, resolve } from 'node:path'
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
  /** Folders below which a logger's growing file may be read, a colon between (on Windows a semicolon). */
  HYPOMET_STREAM_FOLDERS: z.string().optional(),
  /** Machines whose loggers may be listened to beside this one, commas between. */
  HYPOMET_STREAM_HOSTS: z.string().optional(),
  /** Folder for backups that are made by themselves, how often, and how many of them stay. */
  HYPOMET_BACKUPS: z.string().optional(),
  HYPOMET_BACKUP_HOURS: z.coerce.number({ error: 'HYPOMET_BACKUP_HOURS is a number.' }).min(0.1).default(24),
  HYPOMET_BACKUP_KEEP: z.coerce.number({ error: 'HYPOMET_BACKUP_KEEP is a number.' }).int().min(1).default(14),
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

/** Where streams may come from. */
export interface StreamSources {
  folders: string[]
  hosts: string[]
}

/** As the process was started with: the folder “streams” beside the database, and this machine. */
export function streamSources(variables: NodeJS.ProcessEnv = process.env): StreamSources {
  const { HYPOMET_STREAM_FOLDERS: folders, HYPOMET_STREAM_HOSTS: hosts = '' } = environment.parse(variables)
  const { databaseUrl: url } = readEnvironment(variables)
  const beside = url.startsWith('file:') ? dirname(resolve(url.slice('file:'.length))) : resolve('data')
  return {
    folders:
      folders === undefined
        ? [join(beside, 'streams')]
        : folders
            .split(delimiter)
            .filter(Boolean)
            .map(f => resolve(f)),
    hosts: hosts
      .split(',')
      .map(h => h.trim().toLowerCase())
      .filter(Boolean),
  }
}

/** Backups that are made by themselves; null where no folder for them is named. */
export interface BackupSchedule {
  folder: string
  hours: number
  keep: number
}

export function backupSchedule(variables: NodeJS.ProcessEnv = process.env): BackupSchedule | null {
  const {
    HYPOMET_BACKUPS: folder,
    HYPOMET_BACKUP_HOURS: hours,
    HYPOMET_BACKUP_KEEP: keep,
  } = environment.parse(variables)
  return folder ? { folder: resolve(folder), hours, keep } : null
}
