import { and, eq, isNull, like, or, sql, type SQL } from 'drizzle-orm'
import type { SQLiteColumn } from 'drizzle-orm/sqlite-core'
import type { Db } from '../connection/client'
import {
  action,
  article,
  attachment,
  campaign,
  channel,
  constant,
  dataset,
  lesson,
  limit,
  person,
  prediction,
  revision,
  sensor,
  test,
} from '../schema'

export interface Hit {
  key: string
  name: string
  where: string
  to: string
}

const MOST = 6

/** Every word must be somewhere in the columns. */
function holding(words: string[], columns: SQLiteColumn[]): SQL | undefined {
  return and(...words.map(w => or(...columns.map(c => like(sql`lower(${c})`, `%${w.replace(/[%_\\]/g, '')}%`)))))
}

/** Everything that is kept, by any of its words. */
export async function search(db: Db, text: string): Promise<Hit[]> {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean).slice(0, 6)
  if (words.length === 0) return []
  const ofArticle = eq(article.campaignId, campaign.id)
  const [limits, sensors, lessons, constants, actions, people, revisions, predictions, channels, files] =
    await Promise.all([
      db
        .select({ id: limit.id, name: limit.name, source: limit.source, article: article.name, slug: campaign.slug })
        .from(limit)
        .innerJoin(article, eq(article.id, limit.articleId))
        .innerJoin(campaign, ofArticle)
        .where(holding(words, [limit.name, limit.source, article.name]))
        .limit(MOST),
      db
        .select()
        .from(sensor)
        .where(holding(words, [sensor.name, sensor.serial, sensor.note, sensor.place]))
        .limit(MOST),
      db
        .select()
        .from(lesson)
        .where(holding(words, [lesson.title, lesson.happened, lesson.instead, lesson.words, lesson.features]))
        .limit(MOST),
      db
        .select({ constant, slug: campaign.slug })
        .from(constant)
        .innerJoin(campaign, eq(campaign.id, constant.campaignId))
        .where(
          and(holding(words, [constant.subject, constant.property, constant.source]), isNull(constant.replacedById)),
        )
        .limit(MOST),
      db
        .select({ action, slug: campaign.slug })
        .from(action)
        .innerJoin(campaign, eq(campaign.id, action.campaignId))
        .where(holding(words, [action.question, action.answer]))
        .limit(MOST),
      db
        .select()
        .from(person)
        .where(holding(words, [person.name, person.role, person.note]))
        .limit(MOST),
      db
        .select({
          id: revision.id,
          label: revision.label,
          changed: revision.changed,
          articleId: article.id,
          article: article.name,
        })
        .from(revision)
        .innerJoin(article, eq(article.id, revision.articleId))
        .where(holding(words, [revision.label, revision.changed, revision.why, revision.facts, article.name]))
        .limit(MOST),
      db
        .select({
          id: prediction.id,
          source: prediction.source,
          label: revision.label,
          article: article.name,
          slug: campaign.slug,
        })
        .from(prediction)
        .innerJoin(revision, eq(revision.id, prediction.revisionId))
        .innerJoin(article, eq(article.id, revision.articleId))
        .innerJoin(campaign, ofArticle)
        .where(
          and(
            isNull(prediction.copyOfId),
            holding(words, [prediction.source, prediction.place, prediction.mode, prediction.note, article.name]),
          ),
        )
        .limit(MOST),
      db
        .select({ id: channel.id, name: channel.name, role: channel.role, datasetId: dataset.id, test: test.title })
        .from(channel)
        .innerJoin(dataset, eq(dataset.id, channel.datasetId))
        .innerJoin(test, eq(test.id, dataset.testId))
        .where(and(eq(dataset.status, 'ready'), holding(words, [channel.name, channel.role])))
        .limit(MOST),
      db
        .select({ id: attachment.id, name: attachment.name, entity: attachment.entity, entityId: attachment.entityId })
        .from(attachment)
        .where(and(isNull(attachment.removedAt), holding(words, [attachment.name])))
        .limit(MOST),
    ])
  return [
    ...limits.map(l => ({
      key: `l${l.id}`,
      name: l.name,
      where: `limit of ${l.article}`,
      to: `/campaigns/${l.slug}/limit`,
    })),
    ...revisions.map(r => ({
      key: `r${r.id}`,
      name: `${r.article} ${r.label}`,
      where: `revision${r.changed ? ` · ${r.changed}` : ''}`,
      to: `/articles/${r.articleId}`,
    })),
    ...sensors.map(s => ({ key: `s${s.id}`, name: s.name, where: 'sensor', to: `/sensors/${s.id}` })),
    ...lessons.map(l => ({ key: `n${l.id}`, name: l.title, where: 'lesson', to: `/lessons/${l.id}` })),
    ...constants.map(c => ({
      key: `k${c.constant.id}`,
      name: `${c.constant.subject}: ${c.constant.property}`,
      where: 'constant',
      to: `/campaigns/${c.slug}/constant`,
    })),
    ...predictions.map(p => ({
      key: `p${p.id}`,
      name: `${p.article} ${p.label}: ${p.source}`,
      where: 'prediction',
      to: `/campaigns/${p.slug}/prediction`,
    })),
    ...actions.map(a => ({
      key: `a${a.action.id}`,
      name: a.action.question,
      where: 'action',
      to: `/campaigns/${a.slug}/action`,
    })),
    ...people.map(p => ({ key: `h${p.id}`, name: p.name, where: p.role, to: '/people' })),
    ...channels.map(c => ({
      key: `y${c.id}`,
      name: c.name || c.role,
      where: `channel of ${c.test}`,
      to: `/records/${c.datasetId}`,
    })),
    ...files.map(f => ({ key: `f${f.id}`, name: f.name, where: 'attached file', to: `/api/attachments/${f.id}/file` })),
  ]
}
