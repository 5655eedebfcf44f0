import type { Client, InStatement } from '@libsql/client'

export interface Multiplied {
  articles: number
  testsEach: number
  limitsEach: number
  predictionsEach: number
}

/**
 * Copies a tested article many times within its campaign: articles with a revision, limits and predictions, and tests
 * with
 * plans of their own, their runs, records, results and verdicts. Samples are not copied.
 */
export async function multiply(client: Client, testId: number, o: Multiplied): Promise<number[]> {
  const one = async (sql: string, ...args: (number | string)[]) => (await client.execute({ sql, args })).rows[0]
  const columnsOf = async (table: string) =>
    (await client.execute(`PRAGMA table_info(${table})`)).rows.map(r => String(r['name']))
  const tables = [
    'article',
    'revision',
    'design_limit',
    'prediction',
    'test',
    'dataset',
    'run',
    'reduction',
    'judgement',
  ]
  const columns = new Map<string, string[]>()
  for (const t of tables) columns.set(t, await columnsOf(t))
  const next = async (table: string) => Number((await one(`SELECT coalesce(max(id), 0) + 1 AS n FROM ${table}`))!['n'])
  const ids = new Map<string, number>()
  for (const t of tables) ids.set(t, await next(t))

  const statements: InStatement[] = []
  const copy = (table: string, from: number, change: Record<string, number | string>): number => {
    const id = ids.get(table)!
    ids.set(table, id + 1)
    const all = columns.get(table)!
    const values = all.map(c => (c === 'id' ? String(id) : c in change ? `(${change[c]})` : `"${c}"`))
    const names = all.map(c => `"${c}"`)
    statements.push(`INSERT INTO ${table} (${names.join()}) SELECT ${values.join()} FROM ${table} WHERE id = ${from}`)
    return id
  }
  const idOf = async (sql: string) => Number((await one(sql, testId))!['id'])
  const revisionId = await idOf('SELECT revision_id AS id FROM test WHERE id = ?')
  const articleId = Number((await one('SELECT article_id AS id FROM revision WHERE id = ?', revisionId))!['id'])
  const first = async (table: string, where: string, id: number) =>
    Number((await one(`SELECT id FROM ${table} WHERE ${where} = ? ORDER BY id DESC LIMIT 1`, id))!['id'])
  const limits = (
    await client.execute({ sql: 'SELECT id FROM design_limit WHERE article_id = ? ORDER BY id', args: [articleId] })
  ).rows.map(r => Number(r['id']))
  const [datasetId, runId, reductionId, judgementId, predictionId] = [
    await first('dataset', 'test_id', testId),
    await first('run', 'test_id', testId),
    await first('reduction', 'test_id', testId),
    await first('judgement', 'test_id', testId),
    await first('prediction', 'test_id', testId),
  ]
  const stored = await one('SELECT verdicts FROM judgement WHERE id = ?', judgementId)
  const judged = JSON.parse(String(stored!['verdicts'])) as { limitId: number }[]
  const tests: number[] = []
  for (let a = 0; a < o.articles; a++) {
    const article = copy('article', articleId, { name: `name || ' ${a}'` })
    const revision = copy('revision', revisionId, { article_id: article, parent_id: 'NULL' })
    const of = { article_id: article, from_revision_id: 'NULL' }
    const own = new Map(limits.map(id => [id, copy('design_limit', id, of)]))
    for (let i = limits.length; i < o.limitsEach; i++)
      copy('design_limit', limits[0]!, { ...of, name: `name || ' ${i}'` })
    const verdicts = JSON.stringify(judged.map(v => ({ ...v, limitId: own.get(v.limitId)! })))
    for (let i = 0; i < o.predictionsEach; i++)
      copy('prediction', predictionId, {
        revision_id: revision,
        test_id: 'NULL',
        copy_of_id: 'NULL',
        locked_at: 'NULL',
      })
    for (let i = 0; i < o.testsEach; i++) {
      // Each plan is another, so that each must be worked out.
      const seconds = 15 + tests.length / 100
      const test = copy('test', testId, {
        revision_id: revision,
        title: `title || ' ${i}'`,
        plan: `json_set(plan, '$.ramp', json('{"value":${seconds},"unit":"s"}'))`,
      })
      const dataset = copy('dataset', datasetId, { test_id: test })
      copy('run', runId, { test_id: test, dataset_id: dataset })
      const reduction = copy('reduction', reductionId, { test_id: test, dataset_id: dataset })
      copy('judgement', judgementId, { test_id: test, reduction_id: reduction, verdicts: quoted(verdicts) })
      tests.push(test)
    }
  }
  await client.batch(statements, 'write')
  return tests
}

const quoted = (text: string) => `'${text.replaceAll("'", "''")}'`
