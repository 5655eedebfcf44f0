import { createReadStream, statSync } from 'node:fs'
import { readFileSync } from 'node:fs'
import { basename } from 'node:path'
import { Readable } from 'node:stream'
import { parseArgs } from 'node:util'
import { HypometError } from '@hypomet/core'
import { baseOf, caller, jobAtEnd, type Call } from './server'

const OPTIONS = {
  test: { type: 'string' },
  server: { type: 'string' },
  by: { type: 'string' },
  channels: { type: 'string' },
  end: { type: 'string' },
  joins: { type: 'boolean' },
  clock: { type: 'string' },
  rate: { type: 'string' },
  delimiter: { type: 'string' },
  numbers: { type: 'string' },
  'header-row': { type: 'string' },
  sheet: { type: 'string' },
  dates: { type: 'string' },
  repeats: { type: 'string' },
  jumps: { type: 'string' },
  gaps: { type: 'boolean' },
  again: { type: 'boolean' },
  look: { type: 'boolean' },
} as const

export const IMPORT_USAGE = `  hypomet import file --test N                a logger's file into a running Hypomet
      --look              only say what the file is understood as
      --channels map.json {"load": {"column": "F", "unit": "kN", "scale"?, "offset"?, "table"?}}; else as guessed
      --end "ladder done" how the test ended: ladder done, article broke, fixture gave way, aborted
      --joins --clock s   more channels for the test's newest record, its clock moved by so many seconds
      --rate Hz           of a file without a clock
      --delimiter tab|comma|semicolon|bar|blank, --header-row, --sheet   where the guess is wrong
      --numbers point|comma   1,234.5 or 1.234,5, where the file does not tell
      --dates day-first|month-first   04/11/2026, where the file does not tell
      --repeats drop|average|nudge    rows whose stamp is that of the row before
      --jumps first|last|longest      which piece to keep where the clock jumps
      --gaps              more than 1 % of a channel's cells are no numbers: they are gaps
      --again             though the same bytes were imported before
      --server, --by      http://127.0.0.1:4500 or HYPOMET_SERVER; the name that stands in the audit
`

interface Preview {
  about: string
  columns: { name: string; unit: string | null; isNumeric: boolean }[]
  guess: Record<string, { column: string; unit?: string }>
  /** Columns of which any could be a channel: somebody says which. */
  open: Record<string, string[]>
  delimiter?: string
  headerRow?: number
  numbers?: { style?: string }
}

/** Sends a file to a running server and follows its import to the end. @throws HypometError as the server says it */
export async function importFile(rest: string[], say: (progress: string) => void = () => {}): Promise<string> {
  const { values: o, positionals } = parsed(rest)
  const path = positionals[0]
  if (path === undefined || o.test === undefined)
    throw new HypometError('usage', `A file and --test are needed.\n${IMPORT_USAGE}`, { path: 'args' })
  const call = caller(baseOf(o.server), o.by)
  const fileName = basename(path)
  if (!statSync(path, { throwIfNoEntry: false })?.isFile())
    throw new HypometError('file-missing', `“${path}” cannot be read.`, { path: 'args', file: path })
  const said = {
    ...(o.delimiter === undefined ? {} : { delimiter: delimiterSaid(o.delimiter) }),
    ...(o.numbers === undefined ? {} : { numbers: o.numbers }),
    ...(o['header-row'] === undefined ? {} : { headerRow: number(o['header-row'], 'header-row') }),
    ...(o.sheet === undefined ? {} : { sheet: o.sheet }),
    ...(o.dates === undefined ? {} : { dates: o.dates }),
  }
  const sent = await call<{ sha256: string; preview: Preview; known: { title: string }[] }>(
    'POST',
    `/api/tests/${o.test}/files`,
    Readable.toWeb(createReadStream(path)),
    { 'content-type': 'application/octet-stream', 'x-file-name': encodeURIComponent(fileName) },
  )
  const preview =
    Object.keys(said).length === 0
      ? sent.preview
      : (await call<{ preview: Preview }>('POST', `/api/tests/${o.test}/look`, { sha256: sent.sha256, ...said }))
          .preview
  if (o.look)
    return print({
      file: fileName,
      sha256: sent.sha256,
      about: preview.about,
      columns: preview.columns.map(({ name, unit, isNumeric }) => ({ name, unit, isNumeric })),
      channels: preview.guess,
      ...(Object.keys(preview.open).length > 0 ? { open: preview.open } : {}),
    })
  if (sent.known.length > 0 && !o.again)
    throw new HypometError(
      'known-bytes',
      `The same bytes were imported before: ${sent.known.map(k => k.title).join(', ')}. With --again they are ` +
        `imported again.`,
      { file: fileName },
    )
  const channels = o.channels === undefined ? guessed(preview, fileName) : readChannels(o.channels)
  const reading = {
    ...(preview.delimiter === undefined ? {} : { delimiter: preview.delimiter }),
    ...(preview.headerRow === undefined ? {} : { headerRow: preview.headerRow }),
    ...(preview.numbers?.style === undefined ? {} : { numbers: preview.numbers.style }),
    ...said,
    ...(o.repeats === undefined ? {} : { repeats: o.repeats }),
    ...(o.jumps === undefined ? {} : { jumps: o.jumps }),
    ...(o.gaps ? { lost: 'gaps' } : {}),
    ...(o.rate === undefined ? {} : { rate: number(o.rate, 'rate') }),
  }
  const joins = o.joins ? await mainRecord(call, o.test) : null
  const { jobId } = await call<{ jobId: number }>('POST', `/api/tests/${o.test}/imports`, {
    sha256: sent.sha256,
    fileName,
    channels,
    reading,
    end: o.end ?? 'ladder done',
    joins,
    clockOffset: o.clock === undefined ? 0 : number(o.clock, 'clock'),
  })
  const { datasetId } = await jobAtEnd<{ datasetId: number }>(call, jobId, say)
  const { records } = await call<{ records: { id: number; warnings: { message: string }[] }[] }>(
    'GET',
    `/api/datasets/${datasetId}`,
  )
  const warnings = records.find(r => r.id === datasetId)?.warnings.map(w => w.message) ?? []
  return print({ test: Number(o.test), record: datasetId, channels, ...(warnings.length > 0 ? { warnings } : {}) })
}

const DELIMITERS: Record<string, string> = { tab: '\t', comma: ',', semicolon: ';', bar: '|', blank: ' ', '\\t': '\t' }
const delimiterSaid = (said: string): string => DELIMITERS[said] ?? said

/** As the file tells; what it leaves open is asked. */
function guessed({ guess, open }: Preview, file: string): Preview['guess'] {
  const [role, columns] = Object.entries(open)[0] ?? []
  if (role === undefined) return guess
  throw new HypometError(
    'column-open',
    `Several columns could be “${role}”: ${columns!.join(', ')}. Say which with --channels; --look shows the rest.`,
    { file, path: `channels.${role}` },
  )
}

function readChannels(path: string): Preview['guess'] {
  try {
    const said = JSON.parse(readFileSync(path, 'utf8')) as unknown
    const isMap =
      typeof said === 'object' &&
      said !== null &&
      Object.values(said).every(c => typeof (c as { column?: unknown } | null)?.column === 'string')
    if (isMap) return said as Preview['guess']
    throw new Error('each channel is {"column", "unit"?, …}')
  } catch (e) {
    throw new HypometError('usage', `The file of --channels cannot be read: ${(e as Error).message}`, { file: path })
  }
}

const print = (value: unknown): string => JSON.stringify(value, null, 1) + '\n'

function parsed(rest: string[]) {
  try {
    return parseArgs({ args: rest, options: OPTIONS, allowPositionals: true })
  } catch (e) {
    throw new HypometError('usage', `${(e as Error).message}\n${IMPORT_USAGE}`, { path: 'args' })
  }
}

function number(text: string, option: string): number {
  const value = Number(text)
  if (!Number.isFinite(value)) throw new HypometError('usage', `--${option} is a number.`, { path: 'args' })
  return value
}

async function mainRecord(call: Call, test: string): Promise<number> {
  const { datasets } = await call<{ datasets: { id: number; joinsId: number | null }[] }>('GET', `/api/tests/${test}`)
  const main = datasets.find(d => d.joinsId === null)
  if (!main) throw new HypometError('no-data', 'This test has no record yet that a file could join.', { path: 'args' })
  return main.id
}
