import { checkDeclared, HypometError } from '@hypomet/core'
import { eq } from 'drizzle-orm'
import { audit } from '../connection/audit'
import type { Database } from '../connection/client'
import { notFound } from '../connection/notFound'
import { article, limit } from '../schema'

/**
 * Says which results an article has of its own: all of its tests are read for them. @throws HypometError `not-found`,
 * `rests-on-it` where a limit is on one that is left out, and as settings are refused
 */
export function declareOwn(database: Database, by: string, articleId: number, entered: unknown) {
  return database.write(async db => {
    const [found] = await db.select().from(article).where(eq(article.id, articleId))
    if (!found) throw notFound('article', articleId)
    const own = checkDeclared(entered, found.family)
    const limits = await db.select().from(limit).where(eq(limit.articleId, articleId))
    const gone = found.own.filter(o => !own.some(x => x.name === o.name))
    const held = limits.find(l => l.state === 'in-force' && gone.some(o => o.name === l.quantity))
    if (held)
      throw new HypometError('rests-on-it', `The limit “${held.name}” is on “${held.quantity}”: withdraw that first.`, {
        path: 'own',
      })
    await db.update(article).set({ own }).where(eq(article.id, articleId))
    await audit(db, {
      who: by,
      what: 'own results',
      entity: 'article',
      entityId: articleId,
      before: { own: found.own },
      after: { own },
    })
    return { own }
  })
}
