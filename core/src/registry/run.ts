import type { Setup } from '../method/setup'
import { HypometError } from '../error'
import { readTable } from '../formats/readTable'
import { calcs, families } from './methods'
import { alignTable, resolveChannels } from '../method/channels'
import { readyRows, rowCount } from '../method/rows'
import type { ReduceContext, Role, Table } from '../method/table'
import type { AnyFamily } from '../family/contract'
import { reduceRaw, withOwn } from './reduceRaw'
import { reduceTable } from '../family/reduceTable'
import { toOutput, type MethodOutput } from '../method/reduction'
import { type Warning } from '../warning'
import { parseSettings } from '../method/settings'
import {
  compareWithPropagation,
  monteCarlo,
  type Agreement,
  type MonteCarlo,
  type MonteCarloOptions,
} from '../uncertainty/monteCarlo'
import { propagate } from '../uncertainty/propagate'

const NO_CONTEXT: ReduceContext = { sensors: {} }
const NO_TABLE: Table = { t: new Float64Array(0), channels: {}, units: {} }

/**
 * One reduction of a file, checked in the contract's order: family, settings, channels, file, reduction.
 *
 * @throws HypometError of the contract
 */
export function runReduce(setup: Setup, bytes: Uint8Array | null, context: ReduceContext = NO_CONTEXT): MethodOutput {
  const family = typeof setup.family === 'string' ? families[setup.family] : undefined
  if (!family)
    throw new HypometError('unknown-family', `There is no test family “${String(setup.family)}”.`, { path: 'family' })
  const settings = parseSettings(family.settings, setup.settings)
  const roles = family.rolesOf ? family.rolesOf(settings) : family.roles
  const warnings: Warning[] = []
  const { reduction, own } = roles
    ? reduceFile(family, roles, setup, settings, bytes, context, warnings)
    : { reduction: reduceTable(family, NO_TABLE, settings, context), own: {} }
  const whole = { ...withOwn(reduction, own), warnings: [...warnings, ...reduction.warnings] }
  return toOutput({ family: family.id }, family.version, whole, own)
}

function reduceFile(
  family: AnyFamily,
  roles: Record<string, Role>,
  { channels, settings: entered }: Setup,
  settings: Record<string, unknown>,
  bytes: Uint8Array | null,
  context: ReduceContext,
  warnings: Warning[],
) {
  const said = (entered ?? {}) as Record<string, unknown>
  // Results of one's own may read what the kind of test does not.
  const isOpen = said['own'] !== undefined && !('*' in roles)
  const open: Record<string, Role> = isOpen
    ? { ...roles, '*': { label: 'Any other channel', kind: 'any', optional: true } }
    : roles
  const table = readRecord(open, channels, bytes, warnings)
  const beside = new Set(isOpen ? Object.keys(table.channels).filter(r => !Object.hasOwn(roles, r)) : [])
  const raw = { table, roles, beside, strains: new Set<string>(), rungs: [] }
  return reduceRaw(family, raw, settings, said, context, warnings)
}

function readRecord(
  roles: Record<string, Role>,
  channels: unknown,
  bytes: Uint8Array | null,
  warnings: Warning[],
): Table {
  const mappings = resolveChannels(roles, channels)
  if (!bytes) throw new HypometError('missing-data', 'A data file is needed here.', { path: 'data' })
  const raw = readTable(bytes, mappings)
  warnings.push(...raw.warnings)
  const table = alignTable(mappings, raw)
  if (rowCount(table) === 0)
    throw new HypometError('no-data', 'No row holds a number in every needed channel.', { path: 'channels' })
  return table
}

/** One calculation, with a file where it reads a record. @throws HypometError of the contract */
export function runCalc(setup: Setup, bytes: Uint8Array | null = null): MethodOutput {
  const calc = typeof setup.calc === 'string' ? calcs[setup.calc] : undefined
  if (!calc)
    throw new HypometError('unknown-calc', `There is no calculation “${String(setup.calc)}”.`, { path: 'calc' })
  const settings = parseSettings(calc.settings, setup.settings)
  if (!calc.roles) return toOutput({ calc: calc.id }, calc.version, calc.calculate(settings, NO_TABLE))
  const warnings: Warning[] = []
  const read = readRecord(calc.roles, setup.channels, bytes, warnings)
  const table = readyRows(read, calc.roles, calc.timeBase, warnings)
  const calculated = calc.calculate(settings, table)
  return toOutput({ calc: calc.id }, calc.version, { ...calculated, warnings: [...warnings, ...calculated.warnings] })
}

export interface SampledOutput extends MonteCarlo {
  /** SI unit of mean, u and interval. */
  unit: string
  /** Against the propagation of uncertainties. */
  agreement: Agreement
}

/**
 * A calculation's model by Monte Carlo, where it has one.
 *
 * @throws HypometError of the contract; `setting-range` where there is nothing to draw from; `cancelled`
 */
export function runMonteCarlo(setup: Setup, options: Omit<MonteCarloOptions, 'correlations'> = {}): SampledOutput {
  const calc = typeof setup.calc === 'string' ? calcs[setup.calc] : undefined
  if (!calc)
    throw new HypometError('unknown-calc', `There is no calculation “${String(setup.calc)}”.`, { path: 'calc' })
  const model = calc.model?.(parseSettings(calc.settings, setup.settings))
  if (!model)
    throw new HypometError('setting-range', 'These settings hold no model to draw from.', { path: 'settings' })
  const drawn = monteCarlo(model.value, model.inputs, { ...options, correlations: model.correlations })
  return {
    ...drawn,
    unit: model.unit,
    agreement: compareWithPropagation(drawn, propagate(model, model.inputs, model.correlations)),
  }
}
