import { fromWords, HypometError, readRows, writeCsv, writeRows as asTable, type Row } from '@hypomet/core'
import Papa from 'papaparse'
import type { AuditHead } from '../db/connection/auditHead'
import type { Database, Db } from '../db/connection/client'
import { listRows, writeRows, type Done } from '../db/registers/service'
import { repositoryOf } from '../db/registers'
import { contextOf } from '../db/registers/refs'
import { decisionsOfCampaign, judgementsOfCampaign } from '../db/results/ofCampaign'

/** A register as CSV with people's titles, or as JSON with the fields' keys; both are taken back by an import. */
export async function registerFile(
  db: Db,
  registerId: string,
  campaignId: number | null,
  format: 'csv' | 'json',
  auditHead: AuditHead | null,
): Promise<string> {
  const { register } = repositoryOf(registerId)
  const context = await contextOf(db, register.perCampaign ? campaignId : null)
  const { rows } = await listRows(db, registerId, campaignId)
  if (format === 'csv') return '\ufeff' + writeCsv(asTable(register, rows, context), '\r\n')
  const named = rows.map(row => ({
    id: row.id,
    ...Object.fromEntries(
      register.fields.map(f => [
        f.key,
        f.type === 'ref' ? (context.refs[f.to]?.find(o => o.id === row[f.key])?.label ?? null) : (row[f.key] ?? null),
      ]),
    ),
  }))
  return JSON.stringify({ register: registerId, rows: named, auditHead }, null, 2) + '\n'
}

/** Takes such a file back: rows with a number change that row, those without are new. All of it or nothing. */
export async function importRows(
  database: Database,
  by: string,
  registerId: string,
  o: { campaignId: number | null; text: string; format: 'csv' | 'json' },
): Promise<Done> {
  const { register } = repositoryOf(registerId)
  const context = await contextOf(database.read, register.perCampaign ? o.campaignId : null)
  const lines =
    o.format === 'csv'
      ? Papa.parse<string[]>(o.text.replace(/^\ufeff/, ''), { skipEmptyLines: 'greedy' }).data.map(r =>
          r.map(fromWords),
        )
      : []
  const { rows, problems } =
    o.format === 'csv'
      ? readRows(register, lines, context)
      : { rows: jsonRows(o.text, register.fields, context.refs), problems: [] }
  const first = problems[0]
  if (first)
    throw new HypometError(
      first.code,
      `${first.message}${
        problems.length > 1 ? ` (${problems.length - 1} more rows or cells do not ` + `fit either.)` : ''
      } Nothing was saved.`,
      { row: first.row, column: first.column },
    )
  const { rows: current } = await listRows(database.read, registerId, o.campaignId)
  const version = new Map(current.map(r => [r.id, r.version]))
  const missing = rows.find(r => r.id !== null && !version.has(r.id))
  if (missing)
    throw new HypometError(
      'unknown-reference',
      `There is no ${register.one.toLowerCase()} no. ${missing.id} here. Leave the number out for a new one.`,
    )
  return writeRows(database, by, registerId, {
    campaignId: o.campaignId,
    creates: rows.filter(r => r.id === null).map(r => r.values),
    changes: rows.filter(r => r.id !== null).map(r => ({ id: r.id!, version: version.get(r.id!)!, values: r.values })),
    removes: [],
  })
}

function parseJson(text: string): Row[] {
  try {
    const read = JSON.parse(text) as Row[] | { rows: Row[] }
    const rows = Array.isArray(read) ? read : read.rows
    if (Array.isArray(rows) && rows.every(r => r !== null && typeof r === 'object')) return rows
  } catch {
    /* told below */
  }
  throw new HypometError('damaged-file', 'This is not a list of rows in JSON.')
}

function jsonRows(
  text: string,
  fields: readonly { key: string; type: string; to?: string }[],
  refs: Readonly<Record<string, readonly { id: number; label: string }[]>>,
) {
  return parseJson(text).map((row, i) => ({
    id: typeof row['id'] === 'number' ? row['id'] : null,
    values: Object.fromEntries(
      fields
        .filter(f => f.key in row)
        .map(f => {
          if (f.type !== 'ref' || typeof row[f.key] !== 'string') return [f.key, row[f.key]]
          const found = refs[f.to!]?.find(o => o.label === row[f.key])
          if (!found)
            throw new HypometError(
              'unknown-reference',
              `There is no ${f.to} “${String(row[f.key])}”. Nothing was saved.`,
              { row: i + 1, path: f.key },
            )
          return [f.key, found.id]
        }),
    ),
  }))
}

const OF_A_CAMPAIGN = ['article', 'revision', 'limit', 'test', 'prediction', 'constant', 'action', 'task'] as const

/** Everything that hangs on a campaign in its registers, as one JSON file. */
export async function campaignFile(db: Db, campaignId: number, auditHead: AuditHead | null): Promise<string> {
  const { rows } = await listRows(db, 'campaign', null)
  const parts = await Promise.all(
    OF_A_CAMPAIGN.map(
      async r =>
        [r, (JSON.parse(await registerFile(db, r, campaignId, 'json', null)) as { rows: Row[] }).rows] as const,
    ),
  )
  const [judgements, decisions] = [
    await judgementsOfCampaign(db, campaignId),
    await decisionsOfCampaign(db, campaignId),
  ]
  return (
    JSON.stringify(
      { campaign: rows.find(r => r.id === campaignId), ...Object.fromEntries(parts), judgements, decisions, auditHead },
      null,
      2,
    ) + '\n'
  )
}
