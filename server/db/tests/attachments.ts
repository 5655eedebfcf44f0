import { randomUUID } from 'node:crypto'
import { HypometError } from '@hypomet/core'
import { and, asc, eq, isNull } from 'drizzle-orm'
import { audit } from '../connection/audit'
import type { Database, Db } from '../connection/client'
import { notFound } from '../connection/notFound'
import { storedOf } from '../registers/service'
import { repositoryOf } from '../registers/index'
import { attachment } from '../schema'

export const MOST_ATTACHED = 25 * 1024 ** 2
const MOST_THUMBNAIL = 200 * 1024

const about = {
  id: attachment.id,
  entity: attachment.entity,
  entityId: attachment.entityId,
  tag: attachment.tag,
  sha256: attachment.sha256,
  name: attachment.name,
  mime: attachment.mime,
  size: attachment.size,
  by: attachment.by,
  createdAt: attachment.createdAt,
  removedAt: attachment.removedAt,
}

/** What a file is by its first bytes; a name or a header may say anything. */
export function mimeOf(head: Uint8Array): string {
  const text = Buffer.from(head.subarray(0, 12)).toString('latin1')
  if (text.startsWith('\xff\xd8\xff')) return 'image/jpeg'
  if (text.startsWith('\x89PNG')) return 'image/png'
  if (text.startsWith('GIF8')) return 'image/gif'
  if (text.startsWith('RIFF') && text.slice(8, 12) === 'WEBP') return 'image/webp'
  return text.startsWith('%PDF') ? 'application/pdf' : 'application/octet-stream'
}

/** Keeps a file, already stored under its hash, with a row of a register. */
export function attach(
  database: Database,
  by: string,
  to: { entity: string; id: number; tag?: string | undefined },
  file: { sha256: string; size: number; name: string; head: Uint8Array },
) {
  return database.write(async db => {
    if (!(await storedOf(db, repositoryOf(to.entity), to.id))) throw notFound(to.entity, to.id)
    if (file.size === 0) throw new HypometError('empty-file', 'The file is empty.')
    const step = randomUUID()
    const [made] = await db
      .insert(attachment)
      .values({
        entity: to.entity,
        entityId: to.id,
        tag: to.tag ?? '',
        sha256: file.sha256,
        name: file.name,
        size: file.size,
        mime: mimeOf(file.head),
        by,
        createdAt: new Date().toISOString(),
      })
      .returning(about)
    await audit(db, { who: by, what: 'attach', entity: 'attachment', entityId: made!.id, after: made, step })
    return { ...made!, step }
  })
}

/** The thumbnail that the browser drew of it. */
export function keepThumbnail(database: Database, id: number, bytes: Uint8Array) {
  if (bytes.length > MOST_THUMBNAIL || !mimeOf(bytes).startsWith('image/'))
    throw new HypometError('setting-range', 'A thumbnail is a picture of at most 200 kB.')
  return database.write(
    async db =>
      void (await db
        .update(attachment)
        .set({ thumbnail: Buffer.from(bytes) })
        .where(eq(attachment.id, id))),
  )
}

export function removeAttachment(database: Database, by: string, id: number) {
  return database.write(async db => {
    const before = await attachmentOf(db, id)
    const step = randomUUID()
    await db.update(attachment).set({ removedAt: new Date().toISOString() }).where(eq(attachment.id, id))
    await audit(db, { who: by, what: 'remove', entity: 'attachment', entityId: id, before, step })
    return { step }
  })
}

export async function attachmentOf(db: Db, id: number) {
  const [found] = await db.select(about).from(attachment).where(eq(attachment.id, id))
  if (!found) throw notFound('file', id)
  return found
}

export async function thumbnailOf(db: Db, id: number): Promise<Uint8Array> {
  const [found] = await db.select({ thumbnail: attachment.thumbnail }).from(attachment).where(eq(attachment.id, id))
  if (!found?.thumbnail) throw notFound('thumbnail', id)
  return found.thumbnail
}

export async function attachmentsOf(db: Db, entity: string, entityId: number) {
  const rows = await db
    .select({ ...about, thumbnail: attachment.thumbnail })
    .from(attachment)
    .where(and(eq(attachment.entity, entity), eq(attachment.entityId, entityId), isNull(attachment.removedAt)))
    .orderBy(asc(attachment.id))
  return rows.map(({ thumbnail, ...r }) => ({ ...r, hasThumbnail: thumbnail !== null }))
}
