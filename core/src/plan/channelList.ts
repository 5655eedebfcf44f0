import Papa from 'papaparse'
import { HypometError, isHypometError } from '../error'
import { namesIn, parse } from '../expression/parse'
import { symbolsOf } from '../expression/symbols'
import { findUnit, siUnit, type Kind } from '../quantity/index'
import { KINDS, kindOf } from '../quantity/kinds'
import { readNumber, type NumberStyle } from '../quantity/number'

/** A channel of a list as somebody pasted it, as it goes into a plan. */
export interface ListedChannel {
  role: string
  label: string
  kind: Kind
  place?: string
  x?: { value: number; unit: string }
  expected?: { value: number; unit: string }
  sensorId: number | null
  /** Hz */
  rate?: number
  twin?: string
  expression?: string
}

export interface ListContext {
  /** Short names that are there. */
  taken: readonly string[]
  sensors: readonly { id: number; name: string }[]
  numbers?: NumberStyle | undefined
}

export interface ChannelList {
  channels: ListedChannel[]
  /** Which column is what, by the names that they had. */
  columns: Partial<Record<ListColumn, string>>
  problems: { row: number; column: string; message: string }[]
  /** Channels of which no row says what they measure: plain numbers. */
  plain: number
}

const COLUMNS = {
  label: /^(channel|name|label|signal|kanal|messstelle|bezeichnung|title)$/i,
  role: /^(short ?name|role|symbol|id|key|kurzname|tag)$/i,
  kind: /^(kind|measures|quantity|type|art|messgröße|groesse)$/i,
  unit: /^(unit|units|einheit|in)$/i,
  place: /^(place|where|location|position|ort|stelle|group)$/i,
  x: /^(x|along|station)\b/i,
  sensor: /^(sensor|gauge|gage|transducer|serial|aufnehmer|asset)$/i,
  rate: /^(rate|sample ?rate|sampling|abtastrate|hz|fs)\b/i,
  expected: /^(expected|peak|range|max|erwartet)\b/i,
  twin: /^(redundant( to)?|twin|pair)$/i,
  expression: /^(expression|derived( from)?|formula|formel)$/i,
} as const
export type ListColumn = keyof typeof COLUMNS
/** Without a heading: in this order. */
const USUAL: readonly ListColumn[] = ['label', 'place', 'sensor', 'rate', 'unit']

/**
 * Channels from a list of rows, as a sheet gives them to the clipboard: name, place, sensor, rate and unit in this
 * order, or by a heading in any. What a row says that is not understood is named by row and column, and left out of it;
 * what a channel measures follows from its unit.
 *
 * @param text  rows of cells set apart by tabs, semicolons or commas
 */
export function readChannelList(text: string, { taken, sensors, numbers }: ListContext): ChannelList {
  const { data } = Papa.parse<string[]>(text.trim(), { delimiter: delimiterOf(text), skipEmptyLines: 'greedy' })
  const rows = data.map(cells => cells.map(c => c.trim()))
  const [first = []] = rows
  const named = first.map(c => (Object.keys(COLUMNS) as ListColumn[]).find(k => COLUMNS[k].test(c)))
  const hasHeading =
    named.filter(Boolean).length >= Math.min(2, first.length) && named.some(k => k === 'label' || k === 'role')
  const columns = hasHeading ? named : USUAL.slice(0, first.length)
  const body = hasHeading ? rows.slice(1) : rows
  const offset = hasHeading ? 2 : 1
  const problems: ChannelList['problems'] = []
  const headOf = (column: ListColumn): string => (hasHeading ? (first[columns.indexOf(column)] ?? column) : column)
  const cell = (row: readonly string[], key: ListColumn) => row[columns.indexOf(key)] ?? ''
  const labels = body.map((row, i) => cell(row, 'label') || cell(row, 'role') || `Channel ${i + 1}`)
  const wanted = body.map((row, i) => cell(row, 'role') || labels[i]!)
  const roles = uniqueRoles(wanted, taken)
  const byName = new Map(sensors.map(s => [s.name.toLowerCase(), s.id]))
  const byWritten = new Map(wanted.flatMap((w, i) => [[w, roles[i]!] as const, [labels[i]!, roles[i]!] as const]))
  const channels = body.map((row, i): ListedChannel => {
    const say = (column: ListColumn, message: string) =>
      problems.push({ row: i + offset, column: headOf(column), message })
    const kind = kindSaid(cell(row, 'kind'), cell(row, 'unit'), say)
    const sensor = cell(row, 'sensor')
    const sensorId = sensor === '' ? null : (byName.get(sensor.toLowerCase()) ?? null)
    if (sensor !== '' && sensorId === null) say('sensor', `“${sensor}” is no sensor of the inventory.`)
    const twin = cell(row, 'twin')
    const other = twin === '' ? undefined : (byWritten.get(twin) ?? (taken.includes(twin) ? twin : undefined))
    if (twin !== '' && other === undefined) say('twin', `There is no channel “${twin}” to agree with.`)
    const expression = cell(row, 'expression').replace(/^=\s*/, '')
    const read = (column: ListColumn, unit: string, of: Kind) =>
      quantitySaid(cell(row, column), { unit, kind: of, numbers }, message => say(column, message))
    const rate = read('rate', 'Hz', 'frequency')
    if (rate && !(rate.value > 0)) say('rate', `A rate is more than nothing, not ${cell(row, 'rate')}.`)
    const x = read('x', 'm', 'length')
    const expected = read('expected', cell(row, 'unit') || siUnit(kind), kind)
    if (expression !== '') checkExpression(expression, message => say('expression', message))
    return {
      role: roles[i]!,
      label: labels[i]!,
      kind,
      sensorId,
      ...(cell(row, 'place') === '' ? {} : { place: cell(row, 'place') }),
      ...(x ? { x } : {}),
      ...(expected ? { expected } : {}),
      ...(rate && rate.value > 0 ? { rate: rate.value * factorOf(rate.unit) } : {}),
      ...(other === undefined ? {} : { twin: other }),
      ...(expression === '' ? {} : { expression }),
    }
  })
  return {
    channels,
    columns: Object.fromEntries(columns.flatMap((k, i) => (k ? [[k, hasHeading ? first[i]! : k]] : []))),
    problems,
    plain: body.filter(row => cell(row, 'kind') === '' && cell(row, 'unit') === '').length,
  }
}

/** Short names out of names, none of them twice, none that is there; in one pass. */
function uniqueRoles(names: readonly string[], taken: readonly string[]): string[] {
  const known = new Set(taken)
  const next = new Map<string, number>()
  return names.map(name => {
    const [stem] = symbolsOf([name])
    const base = /^[a-zA-Z]/.test(stem!) ? stem! : `c${stem}`
    let role = base
    for (let n = next.get(base) ?? 2; known.has(role); n++) {
      role = `${base}_${n}`
      next.set(base, n + 1)
    }
    known.add(role)
    return role
  })
}

function delimiterOf(text: string): string {
  const line = text.trim().split(/\r?\n/, 1)[0]!
  return line.includes('\t') ? '\t' : line.includes(';') ? ';' : ','
}

function kindSaid(kind: string, unit: string, say: (column: ListColumn, message: string) => void): Kind {
  const asKind = kind.toLowerCase()
  const known = (Object.keys(KINDS) as Kind[]).find(k => k.toLowerCase() === asKind)
  if (/^(strain|dehnung)$/i.test(kind) || /^[µμu](ε|strain|m\/m|e)$/i.test(unit)) return 'strain'
  const found = unit === '' ? null : findUnit(unit, 'gravity')
  if (unit !== '' && !found) say('unit', `“${unit}” is no unit that is known.`)
  if (known && found && !found.dimension.every((d, i) => d === KINDS[known].dimension[i]))
    say('unit', `${known} is not in ${unit}; it is taken as ${known}.`)
  if (known) return known
  if (kind !== '') say('kind', `“${kind}” is nothing that is known to be measured.`)
  const ofUnit = found && kindOf(found.dimension)
  if (found && !ofUnit) say('unit', `What is in ${unit} has no name here: taken as a plain number.`)
  return ofUnit ?? 'ratio'
}

const factorOf = (unit: string): number => (u => (u ? u.multiply / u.divide : NaN))(findUnit(unit))

/** A number with its unit, or in the one of its column; undefined where nothing is said, or it was not understood. */
function quantitySaid(
  text: string,
  { unit, kind, numbers }: { unit: string; kind: Kind; numbers: NumberStyle | undefined },
  say: (message: string) => void,
): { value: number; unit: string } | undefined {
  if (text === '') return undefined
  try {
    const read = readNumber(text, numbers)
    const own = read?.rest.trim() || unit
    const found = findUnit(own, 'gravity')
    const wanted = KINDS[kind].dimension
    if (read && found?.dimension.every((d, i) => d === wanted[i])) return { value: read.value, unit: own }
    say(`“${text}” is no ${kind}, as in 20 ${unit}.`)
  } catch (e) {
    if (!isHypometError(e)) throw e
    say(e.message)
  }
  return undefined
}

function checkExpression(text: string, say: (message: string) => void): void {
  try {
    if (namesIn(parse(text)).length === 0) throw new HypometError('expression', 'An expression reads a channel.')
  } catch (e) {
    if (!isHypometError(e)) throw e
    say(e.message)
  }
}
