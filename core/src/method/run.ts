import { HypometError } from '../error'
import { readTable } from '../formats/readTable'
import { calcs, families } from '../registry'
import { alignTable, resolveChannels } from './channels'
import type { ReduceContext } from './define'
import { toOutput, type MethodOutput } from './reduction'
import { parseSettings } from './settings'

export interface Setup {
  family?: unknown
  calc?: unknown
  channels?: unknown
  settings?: unknown
}

const NO_CONTEXT: ReduceContext = { sensors: {} }

/**
 * One reduction of a file, checked in the contract's order: family, settings, channels, file, reduction.
 *
 * @throws HypometError of the contract
 */
export function runReduce(setup: Setup, bytes: Uint8Array | null, context: ReduceContext = NO_CONTEXT): MethodOutput {
  const family = typeof setup.family === 'string' ? families[setup.family] : undefined
  if (!family) throw new HypometError('unknown-family', `There is no test family “${String(setup.family)}”.`, { path: 'family' })
  const settings = parseSettings(family.settings, setup.settings)
  const mappings = resolveChannels(family.roles, setup.channels)
  if (!bytes) throw new HypometError('missing-data', 'This reduction needs a data file.', { path: 'data' })
  const raw = readTable(bytes, mappings)
  const table = alignTable(family.roles, mappings, raw)
  if (table.t.length === 0) throw new HypometError('no-data', 'No row holds a number in every needed channel.', { path: 'channels' })
  const reduction = family.reduce(table, settings, context)
  return toOutput({ family: family.id }, family.version, { ...reduction, warnings: [...raw.warnings, ...reduction.warnings] })
}

/** One calculation. @throws HypometError of the contract */
export function runCalc(setup: Setup): MethodOutput {
  const calc = typeof setup.calc === 'string' ? calcs[setup.calc] : undefined
  if (!calc) throw new HypometError('unknown-calc', `There is no calculation “${String(setup.calc)}”.`, { path: 'calc' })
  return toOutput({ calc: calc.id }, calc.version, calc.calculate(parseSettings(calc.settings, setup.settings)))
}
