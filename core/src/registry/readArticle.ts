import type { HypometError } from '../error'
import { plainIssue } from '../method/plainIssue'
import { settingsErrors } from '../method/settings'
import { families } from './methods'

/** What a kind of test's calculation reads of an article, as far as somebody wrote it down. */
export interface ArticleRead {
  /** Null while something is missing, or where nothing is calculated. */
  article: unknown
  missing: HypometError[]
}

/**
 * An article's properties: each may wait until something needs it, and what is there holds together.
 *
 * @throws HypometError of what is wrong, at `properties.…`
 */
export function readArticle(family: string, properties: unknown): ArticleRead {
  const schema = families[family]?.stages.article
  const written = Object.fromEntries(
    Object.entries((properties ?? {}) as Record<string, unknown>).filter(([, v]) => v !== null && v !== undefined),
  )
  if (!schema || Object.keys(written).length === 0) return { article: null, missing: [] }
  const parsed = schema.safeParse(written, { error: plainIssue })
  if (parsed.success) return { article: parsed.data, missing: [] }
  const all = settingsErrors(parsed.error.issues, written, 'properties')
  const wrong = all.find(e => e.code !== 'missing-setting')
  if (wrong) throw wrong
  return { article: null, missing: all }
}
