import { plainIssue } from '../method/plainIssue'
import { HypometError } from '../error'
import { checkSettings, type SettingCheck } from '../family/checks'
import type { AnyFamily, CallOut } from '../family/contract'
import { readyRows, rowCount, rowsWith } from '../method/rows'
import type { ReduceContext, Role, Table } from '../method/table'
import type { Figure } from '../method/figure'
import { omitUndefined } from '../method/omitUndefined'
import type { Fact } from '../register/facts'
import { toOutput, type MethodOutput } from '../method/reduction'
import { type Warning } from '../warning'
import { asSetting, type DeclaredOwn } from '../own/declared'
import { channelsAsked, reduceRaw, withOwn, withRoles } from './reduceRaw'
import { pieceAsked, pieceOf } from '../method/pieces'
import { reduceTable } from '../family/reduceTable'
import { withDerived } from '../method/derive'
import { parseSettings } from '../method/settings'
import { withoutExamples } from '../plan/examples'
import type { Plan } from '../plan/plan'
import type { PlanView } from '../plan/planView'
import { families } from './methods'
import { planSchemaOf } from './plans'
import { planWithFacts, settingsFromFacts } from './planFacts'

/* From a stored record to results and figures: the same on the server and in the browser. */

/** A record as it was stored, SI; words are numbers into their labels. */
export interface StoredRecord {
  columns: Record<string, Float64Array>
  units: Record<string, string>
  labels: Record<string, string[]>
  /** Its `t` is a clock, and not the number of a row. */
  hasClock: boolean
  /** What rows go by that say no configuration. */
  name: string
  /** Roles of channels by the symbols of their columns. */
  aliases?: Readonly<Record<string, string>>
  /** Channels beside those that the reduction reads, by the symbols that something calls them by. */
  beside?: Readonly<Record<string, { y: Float64Array; unit: string; isStrain: boolean }>>
  /** Roles whose channels are strains. */
  strains?: readonly string[]
  /** Channels that the record keeps by an expression, each after those that it reads; they are worked out anew. */
  derived?: readonly KeptDerived[]
}

export interface KeptDerived {
  role: string
  expression: string
  /** Whether reductions read it, or only something that calls it by name. */
  used: boolean
}

export interface RecordContext extends ReduceContext {
  /** As entered; null where there is none. */
  plan: unknown
  view: PlanView | null
  outcome: string
  /** Of a run that people read. */
  calls?: readonly CallOut[] | undefined
  peak?: number | null | undefined
}

export interface ReducedRecord {
  settings: Record<string, unknown>
  output: MethodOutput
  figures: Record<string, Figure>
  /** What its windows were looked at for. */
  checks: SettingCheck[]
}

/** A plan as its family reads it, or null where it does not hold together. */
function planOf(family: string, entered: unknown): unknown {
  const parsed = planSchemaOf(family).safeParse(entered ?? {}, { error: plainIssue })
  return parsed.success ? parsed.data : null
}

/** What a record of a test must and may hold, by its plan. */
export function rolesOfPlan(family: string, plan: unknown): Record<string, Role> {
  const f = familyNamed(family)
  return f.rolesOf?.((planOf(family, plan) ?? {}) as never) ?? f.roles
}

/** Settings to begin with, as far as plan and record say them. */
export function proposeFor(
  family: string,
  record: StoredRecord,
  {
    plan,
    asked = null,
    own,
    facts = [],
    ...from
  }: Pick<RecordContext, 'plan' | 'outcome'> & Partial<RecordContext> & Asked,
): Record<string, unknown> {
  const f = familyNamed(family)
  const filled = planWithFacts(family, plan, facts).plan
  const read = planOf(family, filled)
  const roles = rolesOfPlan(family, filled)
  const { raw, piece } = rawOfRecord(f, roles, record, read, [], asked)
  const called = withRoles(withKept({}, record.derived ?? []), record.aliases ?? {})
  const table = tableOf(f, roles, withDerived(raw, roles, called), read, record.name)
  const proposed = f.propose({
    ...from,
    plan: (read && withoutExamples(read as Plan)) as never,
    table: wholeRows(table, roles),
  })
  const known = { ...settingsFromFacts(family, proposed, facts), ...omitUndefined(proposed) }
  const said = piece === null ? known : { ...known, piece }
  const asks = readable(own ?? [], record)
  return asks.length > 0 ? { ...said, own: asks.map(o => asSetting({ ...o })) } : said
}

/** Of the results that an article has of its own those that a record has the channels for. */
function readable(
  own: readonly DeclaredOwn[],
  { columns, aliases = {}, beside = {}, derived = [] }: StoredRecord,
): DeclaredOwn[] {
  const has = (name: string) =>
    [columns, aliases, beside].some(o => Object.hasOwn(o, name)) || derived.some(d => d.role === name)
  return own.filter(o => has(o.channel ?? '') || channelsAsked({ own: [o] }).every(has))
}

/** What a person has said already of what is to be proposed: which piece of a record it is for. */
interface Asked {
  /** Results that the article has of its own. */
  own?: readonly DeclaredOwn[] | undefined
  /** What is written down of its revision. */
  facts?: readonly Fact[] | undefined
  asked?: Record<string, unknown> | null | undefined
}

/** The piece that is meant, of a record that may hold several. */
function pieceIn(f: AnyFamily, table: Table, plan: unknown, asked: unknown, warnings: Warning[]) {
  const { what, usual } = f.inPieces!
  return pieceOf(table, what, pieceAsked(asked), pieces => usual(pieces, plan as never), warnings)
}

/** Rows that have all that is needed, or the first of it: proposals look for holds and peaks in them. */
function wholeRows(table: Table, roles: Record<string, Role>): Table {
  const needed = Object.keys(roles).filter(r => r !== '*' && !roles[r]!.optional && table.channels[r])
  const whole = rowsWith(table, needed)
  return rowCount(whole) > 0 ? whole : rowsWith(table, needed.slice(0, 1))
}

/**
 * A record reduced with these settings, and its figures: all, or those that are named.
 *
 * @throws HypometError of the contract
 */
export function reduceRecord(
  family: string,
  record: StoredRecord,
  entered: Record<string, unknown>,
  { plan, view, sensors }: Omit<RecordContext, 'outcome'>,
  shown?: readonly string[],
): ReducedRecord {
  const f = familyNamed(family)
  const settings = parseSettings(f.settings, entered) as Record<string, unknown>
  const roles = f.rolesOf ? f.rolesOf(settings as never) : f.roles
  const warnings: Warning[] = []
  const called = withRoles(withKept(entered, record.derived ?? []), record.aliases ?? {})
  const { reduction, table, own, drawOwn } = roles
    ? reduceRead(f, roles, record, settings, called, { plan: planOf(family, plan), view, sensors }, warnings)
    : {
        reduction: reduceTable(f, NO_TABLE, settings, { sensors }),
        table: NO_TABLE,
        own: {},
        drawOwn: (): Record<string, Figure> => ({}),
      }
  const names = Object.keys(f.figures).filter(n => !shown || shown.includes(n))
  const figures: Record<string, Figure> = Object.fromEntries(
    names.flatMap(n => {
      const figure = f.figures[n]!.draw(reduction, settings as never, view)
      return figure ? [[n, figure]] : []
    }),
  )
  const ofOwn = Object.entries(drawOwn()).filter(([n]) => !shown || shown.includes(n))
  return {
    settings: entered,
    output: toOutput(
      { family: f.id },
      f.version,
      { ...withOwn(reduction, own), warnings: [...warnings, ...reduction.warnings] },
      own,
    ),
    figures: { ...figures, ...Object.fromEntries(ofOwn) },
    checks: checkSettings(f, table, settings),
  }
}

/** Settings with the channels that the record keeps by an expression before those that they ask for themselves. */
const withKept = (entered: Record<string, unknown>, kept: readonly KeptDerived[]) =>
  kept.length === 0
    ? entered
    : {
        ...entered,
        derive: [
          ...kept.map(({ role, expression }) => ({ role, expression })),
          ...(Array.isArray(entered['derive']) ? (entered['derive'] as unknown[]) : []),
        ],
      }

const NO_TABLE: Table = { t: new Float64Array(0), channels: {}, units: {} }

function reduceRead(
  f: AnyFamily,
  roles: Record<string, Role>,
  record: StoredRecord,
  settings: Record<string, unknown>,
  entered: Record<string, unknown>,
  { plan, view, sensors }: { plan: unknown; view: PlanView | null } & ReduceContext,
  warnings: Warning[],
) {
  const { raw } = rawOfRecord(f, roles, record, plan, warnings, entered)
  const kept = (record.derived ?? []).filter(d => !d.used).map(d => d.role)
  const beside = new Set([...Object.keys(record.beside ?? {}), ...kept])
  return reduceRaw(
    f,
    {
      table: raw,
      roles,
      beside,
      strains: new Set([
        ...(record.strains ?? []),
        ...Object.entries(record.beside ?? {}).flatMap(([name, c]) => (c.isStrain ? [name] : [])),
      ]),
      fromRun: f.fromRun ? t => f.fromRun!(t, plan as never, record.name) : undefined,
      rungs: view?.rungs.map(r => r.target) ?? [],
      assert: table => assertWhole(roles, table),
    },
    settings,
    entered,
    { sensors },
    warnings,
  )
}

function familyNamed(id: string): AnyFamily {
  const family = families[id]
  if (!family) throw new HypometError('unknown-family', `There is no test family “${id}”.`, { path: 'family' })
  return family
}

/** @throws HypometError `missing-channel`, `no-data` */
function assertWhole(roles: Record<string, Role>, table: Table): void {
  const { t, channels, text = {} } = table
  for (const [role, { optional, label }] of Object.entries(roles)) {
    if (role === '*' || optional || role in channels || role in text || (role === 't' && t.length > 0)) continue
    throw new HypometError(
      'missing-channel',
      `No record of this test holds the channel “${role}” (${label.toLowerCase()}); import the file that has it.`,
      { path: `channels.${role}` },
    )
  }
  if (rowCount(table) === 0)
    throw new HypometError('no-data', 'No row holds a number in every needed channel.', { path: 'channels' })
}

/** What a kind of test is given of the rows that can be reduced. */
function tableOf(family: AnyFamily, roles: Record<string, Role>, raw: Table, plan: unknown, name: string): Table {
  const whole = readyRows(raw, roles, family.timeBase, [])
  return family.fromRun ? family.fromRun(whole, plan as never, name) : whole
}

/** The rows that can be reduced: as when reading a file, those without a time are left out. */
function rawOfRecord(
  family: AnyFamily,
  roles: Record<string, Role>,
  { columns, units, labels, hasClock, beside = {} }: StoredRecord,
  plan: unknown,
  warnings: Warning[],
  entered: unknown = null,
): { raw: Table; piece: number | null } {
  const words = Object.keys(columns).filter(r => labels[r])
  const numbers = [...Object.keys(columns).filter(r => r !== 't' && !labels[r]), ...Object.keys(beside)]
  const column = (r: string) => columns[r] ?? beside[r]!.y
  const clock = columns['t'] ?? new Float64Array(0)
  const codes = Object.fromEntries(words.map(r => [`${WORDS}${r}`, columns[r]!]))
  const read = rowsWith(
    { t: clock, channels: { ...Object.fromEntries(numbers.map(r => [r, column(r)])), ...codes }, units },
    hasClock && 't' in roles ? ['t'] : [],
  )
  // Rows that were typed one after the other, where the kind of test wants a clock: the row's number stands for it.
  const isCounted = !hasClock && 't' in roles && !roles['t']!.optional
  if (isCounted)
    warnings.push({
      code: 'no-clock',
      message: 'The rows have no clock: each counts as one second, so windows are in rows and rates mean nothing.',
    })
  const table: Table = {
    t: hasClock || isCounted ? read.t : new Float64Array(0),
    channels: Object.fromEntries(numbers.map(r => [r, read.channels[r]!])),
    units: { ...units, ...Object.fromEntries(Object.entries(beside).map(([r, c]) => [r, c.unit])) },
    ...(words.length > 0
      ? {
          text: Object.fromEntries(
            words.map(r => [r, Array.from(read.channels[`${WORDS}${r}`]!, code => labels[r]![code] ?? '')]),
          ),
        }
      : {}),
  }
  const piece = family.inPieces && table.t.length > 0 ? pieceIn(family, table, plan, entered, warnings) : null
  return { raw: piece?.table ?? table, piece: piece && piece.of > 1 ? piece.number : null }
}

/** Before the name of a role of words, while rows are left out. */
const WORDS = 'words of '
